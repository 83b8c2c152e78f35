/**
 * Separable resampling on floats, four a pixel: red, green, blue (grey: only the first) and alpha.
 * Rows come in one at a time and are never all held: each is filtered across first, and kept only as long as
 * an output row needs it. The inner loops are WebAssembly (assembly/rows.ts), the same in Node, in workers and in
 * browsers. RGB of 8 bits, the usual case, has a way of its own (from-bytes.ts).
 */
import { type ByteRows, resampleToFloats } from "./from-bytes";
import { Bench, LANES } from "./rows";
import type { Axis } from "./weights";

/** `LANES` floats a pixel, row after row. */
export interface FloatImage {
  data: Float32Array;
  width: number;
  height: number;
}

/** Fills `row` (width × LANES floats) with the input row `y`. */
export type RowReader = (y: number, row: Float32Array) => void;

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
  const size = { width: x.starts.length, height: y.starts.length };
  const data =
    typeof source === "function"
      ? resampleFloats(source, width, x, y, clamp)
      : resampleToFloats(source, { width, x, y });
  return { data, ...size };
}

function resampleFloats(read: RowReader, width: number, x: Axis, y: Axis, clamp: boolean): Float32Array {
  const [outWidth, outHeight] = [x.starts.length, y.starts.length];
  const stride = outWidth * LANES;
  const data = new Float32Array(stride * outHeight);
  const rowBytes = stride * 4;
  const bench = new Bench(
    width * 16 + rowBytes * (y.taps + 1) + x.weights.byteLength + x.starts.byteLength + y.taps * 8 + 4096,
  );
  const { rows } = bench;
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
  let next = y.from;
  for (let o = 0; o < outHeight; o += 1) {
    const first = y.starts[o];
    next = Math.max(next, first);
    for (; next < first + y.taps; next += 1) {
      read(next, inputRow);
      rows.across(input, held[next % y.taps], starts, weights, x.taps, outWidth);
      if (clamp && x.enlarges) clampAcross(inputRow, heldRows[next % y.taps], x);
    }
    for (let t = 0; t < y.taps; t += 1) listed[t] = held[(first + t) % y.taps];
    downRow.set(y.weights.subarray(o * y.taps, (o + 1) * y.taps));
    rows.down(list, down, y.taps, out, outWidth);
    if (clamp && y.enlarges) clampDown(outRow, heldRows, y, o);
    data.set(outRow, o * stride);
  }
  return data;
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
