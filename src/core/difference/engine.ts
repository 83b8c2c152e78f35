/**
 * Planes of floats and what is done to whole planes: windowed means, variances, halving. The inner loops are
 * WebAssembly
 * (assembly/kernels.ts), the same in Node, in workers and in browsers. At a plane's edge the outermost sample
 * repeats.
 */
import { Spare } from "../units";
import { KERNELS_WASM } from "./kernels-wasm";

/** In the engine's memory, row by row; the width is a multiple of four. */
export interface Plane {
  /** Byte offset. */
  at: number;
  width: number;
  height: number;
}

interface Kernels {
  light8(
    source: number,
    step: number,
    green: number,
    blue: number,
    tables: number,
    r: number,
    g: number,
    v: number,
    count: number,
  ): void;
  oklab(r: number, g: number, v: number, m: number, l: number, a: number, b: number, count: number): void;
  squares(a: number, b: number, out: number, count: number): void;
  product(a: number, b: number, out: number, count: number): void;
  spread(mean: number, square: number, out: number, count: number): void;
  roots(at: number, count: number): void;
  down(rows: number, weights: number, taps: number, out: number, count: number): void;
  across(row: number, weights: number, taps: number, out: number, count: number): void;
  pairs(row: number, out: number, count: number): void;
  cells(
    full: number,
    half: number,
    quarter: number,
    halfA: number,
    halfB: number,
    quarterA: number,
    quarterB: number,
    busyFull: number,
    busyHalf: number,
    busyQuarter: number,
    weights: number,
    out: number,
    count: number,
  ): void;
}

/**
 * Three boxes of three samples one after the other: nearly a Gaussian with a standard deviation of 1.41
 * samples.
 */
export const WINDOW: readonly number[] = [1, 3, 6, 7, 6, 3, 1].map((v) => v / 27);
/** The same followed by the mean of two neighbours. */
const HALVING: readonly number[] = [1, 4, 9, 13, 13, 9, 4, 1].map((v) => v / 54);
const PAIR: readonly number[] = [0.5, 0.5];

const PAGE = 65_536;
/** Floats beside a row that a window may reach. */
const BESIDE = 16;
/** Floats set apart for weights and row pointers. */
const FIXED = 256;

let compiled: WebAssembly.Module | null = null;

export class Engine {
  readonly kernels: Kernels;
  private readonly memory = new WebAssembly.Memory({ initial: 64 });
  private readonly windows = new Map<readonly number[], number>();
  private readonly pointers: number;
  private next = 0;
  /** Behind what holds for all pictures. */
  private readonly start: number;

  constructor() {
    compiled ??= new WebAssembly.Module(Uint8Array.from(atob(KERNELS_WASM), (c) => c.charCodeAt(0)));
    this.kernels = new WebAssembly.Instance(compiled, { env: { memory: this.memory } })
      .exports as unknown as Kernels;
    this.pointers = this.take(FIXED);
    for (const window of [WINDOW, HALVING, PAIR]) this.weights(window);
    this.start = this.next;
  }

  get size(): number {
    return this.memory.buffer.byteLength;
  }

  clear(): void {
    this.next = this.start;
    for (const [window, at] of this.windows) if (at >= this.start) this.windows.delete(window);
  }

  /** Bytes of a number of floats, aligned; the memory grows as needed. */
  take(floats: number): number {
    const at = this.next;
    this.next += (floats * 4 + 15) & ~15;
    const missing = this.next + 256 - this.memory.buffer.byteLength;
    // In long steps, since each takes milliseconds; what is not written to takes no room.
    const now = this.memory.buffer.byteLength / PAGE;
    if (missing > 0) this.memory.grow(Math.ceil(Math.max(missing / PAGE + 64, now / 2)));
    return at;
  }

  plane(width: number, height: number): Plane {
    return { at: this.take(width * height), width, height };
  }

  /** Valid until more is taken. */
  floats(at: number, count: number): Float32Array {
    return new Float32Array(this.memory.buffer, at, count);
  }

  doubles(at: number, count: number): Float64Array {
    return new Float64Array(this.memory.buffer, at, count);
  }

  bytes(at: number, count: number): Uint8Array {
    return new Uint8Array(this.memory.buffer, at, count);
  }

  view({ at, width, height }: Plane): Float32Array {
    return this.floats(at, width * height);
  }

  put(values: ArrayLike<number>): number {
    const at = this.take(values.length);
    this.floats(at, values.length).set(values);
    return at;
  }

  /** What is taken after a mark is given back by {@link release}. */
  mark(): number {
    return this.next;
  }

  release(mark: number): void {
    this.next = mark;
  }

  squares(a: Plane, b: Plane): Plane {
    const out = this.plane(a.width, a.height);
    this.kernels.squares(a.at, b.at, out.at, a.width * a.height);
    return out;
  }

  product(a: Plane, b: Plane): Plane {
    const out = this.plane(a.width, a.height);
    this.kernels.product(a.at, b.at, out.at, a.width * a.height);
    return out;
  }

  /** Windowed means at the same size; an odd number of weights that sum to 1. */
  average(plane: Plane, window: readonly number[] = WINDOW): Plane {
    const { width, height } = plane;
    const out = this.plane(width, height);
    const weights = this.weights(window);
    const reach = window.length >> 1;
    const line = this.line(width);
    for (let y = 0; y < height; y += 1) {
      this.down(plane, y - reach, window, line);
      this.frame(line, width, reach);
      this.kernels.across(line - reach * 4, weights, window.length, out.at + y * width * 4, width);
    }
    return out;
  }

  /** Windowed means at half the size; sides are even and the new width a multiple of four. */
  averageHalved(plane: Plane): Plane {
    const { width, height } = plane;
    const out = this.plane(width >> 1, height >> 1);
    const weights = this.weights(WINDOW);
    const reach = WINDOW.length >> 1;
    const [line, smooth] = [this.line(width), this.line(width)];
    for (let y = 0; y < out.height; y += 1) {
      this.down(plane, 2 * y - reach, HALVING, line);
      this.frame(line, width, reach);
      this.kernels.across(line - reach * 4, weights, WINDOW.length, smooth, width);
      this.kernels.pairs(smooth, out.at + y * out.width * 4, out.width);
    }
    return out;
  }

  /** Means of two by two samples. */
  halved(plane: Plane): Plane {
    const out = this.plane(plane.width >> 1, plane.height >> 1);
    const line = this.line(plane.width);
    for (let y = 0; y < out.height; y += 1) {
      this.down(plane, 2 * y, PAIR, line);
      this.kernels.pairs(line, out.at + y * out.width * 4, out.width);
    }
    return out;
  }

  /** Local variance at the plane's own size: E[x²] − E[x]². */
  variance(plane: Plane, window: readonly number[] = WINDOW): Plane {
    return this.spread(this.average(plane, window), this.average(this.product(plane, plane), window));
  }

  /** Local variance at half the plane's size. */
  varianceHalved(plane: Plane): Plane {
    return this.spread(this.averageHalved(plane), this.averageHalved(this.product(plane, plane)));
  }

  private spread(mean: Plane, square: Plane): Plane {
    this.kernels.spread(mean.at, square.at, mean.at, mean.width * mean.height);
    return mean;
  }

  private weights(window: readonly number[]): number {
    let at = this.windows.get(window);
    if (at === undefined) this.windows.set(window, (at = this.put(window)));
    return at;
  }

  /** Where a row of `width` begins that has room beside it. */
  private line(width: number): number {
    return this.take(width + 2 * BESIDE) + BESIDE * 4;
  }

  /** Rows from `top` on, weighted, into a line. */
  private down({ at, width, height }: Plane, top: number, window: readonly number[], line: number): void {
    const pointers = new Int32Array(this.memory.buffer, this.pointers, window.length);
    for (let k = 0; k < window.length; k += 1)
      pointers[k] = at + Math.min(height - 1, Math.max(0, top + k)) * width * 4;
    this.kernels.down(this.pointers, this.weights(window), window.length, line, width);
  }

  /** Repeats the outermost samples beside a line. */
  private frame(line: number, width: number, reach: number): void {
    const floats = this.floats(line - reach * 4, width + 2 * reach);
    floats.fill(floats[reach], 0, reach);
    floats.fill(floats[reach + width - 1], reach + width);
  }
}

/** A picture of two megapixels takes 150 MB, one of four 180; what twelve have taken (400) is let go. */
const LARGEST_SPARE = 200_000_000;

/** Those that references are done with. */
export const engines = new Spare(() => new Engine(), LARGEST_SPARE);
