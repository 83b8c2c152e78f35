/**
 * What errors count, block by block: less where the neighbourhood is busy. As in the visible difference
 * (difference/scales.ts) it is the mean of fourth roots, so that flat places and lone edges are protected.
 */
import type { Plane, Prepared } from "./prepare";

/** What is added to the activity, in roots of code values, and the power by which its surroundings hide an error. */
export const MASK = { floor: 0.7, power: 1 };

export function weigh({ heap, planes }: Prepared): void {
  const [y, ...chroma] = planes;
  const count = y.stride * y.rows;
  heap.loops.energy(y.coefficients, count, y.weights);
  heap.loops.activity(y.weights, count);
  const weights = heap.floats(y.weights, count);
  const busy = averaged(weights, y);
  for (let row = 0; row < y.rows; row += 1) hidden(busy, weights, row * y.stride, y.stride);
  for (const plane of chroma) {
    const out = heap.floats(plane.weights, plane.stride * plane.rows);
    for (let row = 0; row < plane.rows; row += 1) shared(weights, y, out, row, plane.stride);
  }
}

// Rows have functions of their own: code that is entered once a picture would be compiled anew for each.
function hidden(busy: Float32Array, weights: Float32Array, from: number, count: number): void {
  for (let i = from; i < from + count; i += 1) weights[i] = (MASK.floor + busy[i]) ** -MASK.power;
}

/** A row of chroma's blocks: the means of those of lightness that lie over them. */
function shared(weights: Float32Array, y: Plane, out: Float32Array, row: number, count: number): void {
  for (let bx = 0; bx < count; bx += 1) {
    let sum = 0;
    for (let v = 0; v < y.v; v += 1)
      for (let h = 0; h < y.h; h += 1) sum += weights[(row * y.v + v) * y.stride + bx * y.h + h];
    out[row * count + bx] = sum / (y.h * y.v);
  }
}

/** Means of three by three blocks. */
function averaged(values: Float32Array, { stride, rows }: Plane): Float32Array {
  const across = new Float32Array(values.length);
  for (let y = 0; y < rows; y += 1) meansAcross(values, across, y * stride, stride);
  const out = new Float32Array(values.length);
  for (let y = 0; y < rows; y += 1)
    meansOf(across, out, y * stride, stride, y ? -stride : 0, y < rows - 1 ? stride : 0);
  return out;
}

function meansAcross(values: Float32Array, out: Float32Array, from: number, count: number): void {
  for (let x = 0, i = from; x < count; x += 1, i += 1)
    out[i] = (values[x ? i - 1 : i] + values[i] + values[x < count - 1 ? i + 1 : i]) / 3;
}

/** `above` and `below`: how far the rows lie. */
function meansOf(
  values: Float32Array,
  out: Float32Array,
  from: number,
  count: number,
  above: number,
  below: number,
): void {
  for (let i = from; i < from + count; i += 1)
    out[i] = (values[i + above] + values[i] + values[i + below]) / 3;
}
