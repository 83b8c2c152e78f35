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
  for (let i = 0; i < count; i += 1) weights[i] = (MASK.floor + busy[i]) ** -MASK.power;
  for (const plane of chroma) {
    const out = heap.floats(plane.weights, plane.stride * plane.rows);
    for (let by = 0, i = 0; by < plane.rows; by += 1)
      for (let bx = 0; bx < plane.stride; bx += 1, i += 1) {
        let sum = 0;
        for (let v = 0; v < y.v; v += 1)
          for (let h = 0; h < y.h; h += 1) sum += weights[(by * y.v + v) * y.stride + bx * y.h + h];
        out[i] = sum / (y.h * y.v);
      }
  }
}

/** Means of three by three blocks. */
function averaged(values: Float32Array, { stride, rows }: Plane): Float32Array {
  const across = new Float32Array(values.length);
  for (let y = 0, i = 0; y < rows; y += 1)
    for (let x = 0; x < stride; x += 1, i += 1)
      across[i] = (values[x ? i - 1 : i] + values[i] + values[x < stride - 1 ? i + 1 : i]) / 3;
  const out = new Float32Array(values.length);
  for (let y = 0, i = 0; y < rows; y += 1)
    for (let x = 0; x < stride; x += 1, i += 1)
      out[i] = (across[y ? i - stride : i] + across[i] + across[y < rows - 1 ? i + stride : i]) / 3;
  return out;
}
