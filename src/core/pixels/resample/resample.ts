/**
 * Separable resampling on floats, four a pixel: red, green, blue (grey: only the first) and alpha.
 * Rows come in one at a time and are never all held: each is filtered across first, and kept only as long as
 * an
 * output row needs it. The inner loops are WebAssembly (assembly/rows.ts), the same in Node, in workers and in
 * browsers.
 */
import { ROWS_WASM } from "./rows-wasm";
import type { Axis } from "./weights";

/** Floats of one pixel. */
export const LANES = 4;

/** `LANES` floats a pixel, row after row. */
export interface FloatImage {
  data: Float32Array;
  width: number;
  height: number;
}

/** Fills `row` (width × LANES floats) with the input row `y`. */
export type RowReader = (y: number, row: Float32Array) => void;

/** RGB of 8 bits, read through one table of 256 floats a channel: the usual case, and the fastest. */
export interface ByteRows {
  data: Uint8Array;
  tables: readonly Float32Array[];
}

interface Rows {
  linear8(source: number, out: number, tables: number, count: number): void;
  across(input: number, out: number, starts: number, weights: number, taps: number, count: number): void;
  down(rows: number, weights: number, taps: number, out: number, count: number): void;
}

let compiled: WebAssembly.Module | null = null;
const PAGE = 65_536;

/** Memory of one resampling, handed out piece by piece. */
class Bench {
  readonly memory: WebAssembly.Memory;
  readonly rows: Rows;
  private next = 0;

  constructor(bytes: number) {
    compiled ??= new WebAssembly.Module(Uint8Array.from(atob(ROWS_WASM), (c) => c.charCodeAt(0)));
    this.memory = new WebAssembly.Memory({ initial: Math.ceil(bytes / PAGE) + 1 });
    const { exports } = new WebAssembly.Instance(compiled, { env: { memory: this.memory } });
    this.rows = exports as unknown as Rows;
  }

  take(bytes: number): number {
    const at = this.next;
    this.next += (bytes + 15) & ~15;
    return at;
  }

  floats(at: number, length: number): Float32Array {
    return new Float32Array(this.memory.buffer, at, length);
  }

  put(values: Float32Array | Int32Array): number {
    const at = this.take(values.byteLength);
    new Uint8Array(this.memory.buffer, at, values.byteLength).set(
      new Uint8Array(values.buffer, values.byteOffset, values.byteLength),
    );
    return at;
  }
}

export interface ResampleOptions {
  /** Enlarging: results stay between the two samples around them, so nothing rings. */
  clamp?: boolean;
}

/** A picture of x.starts.length × y.starts.length pixels from one of `width` pixels a row. */
export function resample(
  source: RowReader | ByteRows,
  width: number,
  x: Axis,
  y: Axis,
  { clamp = false }: ResampleOptions = {},
): FloatImage {
  const [outWidth, outHeight] = [x.starts.length, y.starts.length];
  const stride = outWidth * LANES;
  const data = new Float32Array(stride * outHeight);
  const rowBytes = stride * 4;
  const bench = new Bench(
    width * 20 + rowBytes * (y.taps + 1) + x.weights.byteLength + x.starts.byteLength + y.taps * 8 + 4096,
  );
  const { rows } = bench;
  const bytes = typeof source === "function" ? 0 : bench.take(width * 3);
  const tables = typeof source === "function" ? 0 : source.tables.map((table) => bench.put(table))[0];
  const input = bench.take(width * LANES * 4);
  const held = Array.from({ length: y.taps }, () => bench.take(rowBytes));
  const out = bench.take(rowBytes);
  const [starts, weights, down, list] = [
    bench.put(x.starts),
    bench.put(x.weights),
    bench.take(y.taps * 4),
    bench.take(y.taps * 4),
  ];
  const inputRow = bench.floats(input, width * LANES);
  const outRow = bench.floats(out, stride);
  const heldRows = held.map((at) => bench.floats(at, stride));
  const downRow = bench.floats(down, y.taps);
  const listed = new Int32Array(bench.memory.buffer, list, y.taps);
  const byteRow = new Uint8Array(bench.memory.buffer, bytes, width * 3);
  let next = y.from;
  for (let o = 0; o < outHeight; o += 1) {
    const first = y.starts[o];
    next = Math.max(next, first);
    for (; next < first + y.taps; next += 1) {
      if (typeof source === "function") source(next, inputRow);
      else {
        byteRow.set(source.data.subarray(next * width * 3, (next + 1) * width * 3));
        rows.linear8(bytes, input, tables, width);
      }
      rows.across(input, held[next % y.taps], starts, weights, x.taps, outWidth);
      if (clamp && x.enlarges) clampAcross(inputRow, heldRows[next % y.taps], x);
    }
    for (let t = 0; t < y.taps; t += 1) listed[t] = held[(first + t) % y.taps];
    downRow.set(y.weights.subarray(o * y.taps, (o + 1) * y.taps));
    rows.down(list, down, y.taps, out, outWidth);
    if (clamp && y.enlarges) clampDown(outRow, heldRows, y, o);
    data.set(outRow, o * stride);
  }
  return { data, width: outWidth, height: outHeight };
}

function clampAcross(input: Float32Array, out: Float32Array, x: Axis): void {
  for (let o = 0; o < x.starts.length; o += 1) {
    const a = x.near[o] * LANES;
    const b = Math.min(x.near[o] + 1, x.size - 1) * LANES;
    for (let c = 0; c < LANES; c += 1)
      out[o * LANES + c] = held(out[o * LANES + c], input[a + c], input[b + c]);
  }
}

function clampDown(target: Float32Array, rows: Float32Array[], y: Axis, o: number): void {
  const above = rows[y.near[o] % y.taps];
  const below = rows[Math.min(y.near[o] + 1, y.size - 1) % y.taps];
  for (let i = 0; i < target.length; i += 1) target[i] = held(target[i], above[i], below[i]);
}

function held(value: number, a: number, b: number): number {
  const [low, high] = a < b ? [a, b] : [b, a];
  return value < low ? low : Math.min(value, high);
}
