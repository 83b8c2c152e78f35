/** The memory of one prepared picture, and the loops that work on it (assembly/jpeg.ts). */
import { Spare } from "../../units";
import { JPEG_WASM } from "./jpeg-wasm";

export interface Loops {
  ycc8(s: number, step: number, g: number, v: number, y: number, cb: number, cr: number, count: number): void;
  halve(a: number, b: number, out: number, count: number): void;
  between(near: number, far: number, out: number, count: number): void;
  compensate(
    y: number,
    cb: number,
    cr: number,
    u: number,
    v: number,
    matrix: number,
    table: number,
    most: number,
    count: number,
  ): void;
  forward(
    rows: number,
    stride: number,
    blocks: number,
    factors: number,
    places: number,
    bench: number,
    out: number,
  ): void;
  energy(coefficients: number, blocks: number, out: number): void;
  activity(at: number, count: number): void;
  meanActive(levels: number, blocks: number, logs: number): number;
  plain(coefficients: number, levels: number, blocks: number, by: number): void;
  thrifty(
    coefficients: number,
    levels: number,
    blocks: number,
    weights: number,
    steps: number,
    inverse: number,
    rates: number,
    first: number,
    last: number,
    bench: number,
  ): void;
  count(): void;
  besides(): number;
  ended(): number;
  codeBand(
    levels: number,
    columns: number,
    rows: number,
    stride: number,
    first: number,
    last: number,
    low: number,
    runs: boolean,
    table: number,
  ): void;
  refineBand(
    levels: number,
    columns: number,
    rows: number,
    stride: number,
    first: number,
    last: number,
    low: number,
    table: number,
    bench: number,
  ): void;
  codeMcus(parts: number, number: number, across: number, down: number, whole: boolean): void;
  inverse(
    levels: number,
    blocks: number,
    steps: number,
    places: number,
    out: number,
    pitch: number,
    bench: number,
  ): void;
  blend(near: number, far: number, out: number, count: number): void;
  drawOut(sums: number, out: number, count: number): void;
  rgb8(y: number, cb: number, cr: number, out: number, count: number): void;
  writeTo(address: number): void;
  finish(): number;
}

const PAGE = 65_536;
let compiled: WebAssembly.Module | null = null;
const START = 64;

export class Heap {
  readonly loops: Loops;
  private readonly memory = new WebAssembly.Memory({ initial: 4 });
  private next = START;

  constructor() {
    compiled ??= new WebAssembly.Module(Uint8Array.from(atob(JPEG_WASM), (c) => c.charCodeAt(0)));
    this.loops = new WebAssembly.Instance(compiled, { env: { memory: this.memory } })
      .exports as unknown as Loops;
  }

  clear(): void {
    this.next = START;
  }

  /** So many bytes, aligned; the memory grows as needed. */
  take(bytes: number): number {
    const at = this.next;
    this.next += (bytes + 15) & ~15;
    this.reach(this.next + 64);
    return at;
  }

  /** Makes sure that the memory goes as far as an address. */
  private reach(end: number): void {
    const missing = end - this.memory.buffer.byteLength;
    if (missing > 0) this.memory.grow(Math.ceil(missing / PAGE));
  }

  /** What is taken after a mark is given back by {@link release}. */
  mark(): number {
    return this.next;
  }

  release(mark: number): void {
    this.next = mark;
  }

  put(values: readonly number[] | Float32Array | Int32Array): number {
    const at = this.take(values.length * 4);
    if (values instanceof Int32Array) this.words(at, values.length).set(values);
    else this.floats(at, values.length).set(values);
    return at;
  }

  /** Views are valid until more is taken. */
  floats(at: number, count: number): Float32Array {
    return new Float32Array(this.memory.buffer, at, count);
  }

  bytes(at: number, count: number): Uint8Array {
    return new Uint8Array(this.memory.buffer, at, count);
  }

  words(at: number, count: number): Uint32Array {
    return new Uint32Array(this.memory.buffer, at, count);
  }

  shorts(at: number, count: number): Int16Array {
    return new Int16Array(this.memory.buffer, at, count);
  }

  get size(): number {
    return this.memory.buffer.byteLength;
  }
}

/** Of a picture of seven megapixels. */
const LARGEST_SPARE = 64_000_000;
/** Those that prepared pictures are done with. */
export const heaps = new Spare(() => new Heap(), LARGEST_SPARE);
