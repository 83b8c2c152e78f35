/** Which input samples make up each output sample of one axis, and by how much. */

import type { KernelName } from "../../photo";
import { kernels } from "./kernels";

export interface Axis {
  /** First input sample of each output sample. */
  starts: Int32Array;
  /** Taps of every output sample; unused ones weigh 0. */
  taps: number;
  /** `taps` weights an output sample; they add up to 1. */
  weights: Float32Array;
  /** The input samples that are read at all, [first, behind the last]. */
  from: number;
  to: number;
  /** The input sample at or before the centre of each output sample. */
  near: Int32Array;
  /** Input samples of the whole row or column. */
  size: number;
  /** Whether pixels are made up: fewer input samples than output samples. */
  enlarges: boolean;
}

/**
 * `size` samples, of which the span [start, start + length) (not rounded) becomes `out` samples.
 * Reducing, the kernel is widened by the ratio, which is the filter before sampling. Beyond the edge of the
 * picture
 * its last sample is repeated: weights that fall outside are given to it.
 */
export function axis(size: number, start: number, length: number, out: number, name: KernelName): Axis {
  // Photos of a batch mostly have the same few sizes.
  const key = [size, start, length, out, name].join(" ");
  const known = axes.get(key) ?? newAxis(size, start, length, out, name);
  if (axes.size >= MOST_AXES) axes.clear();
  axes.set(key, known);
  return known;
}

const axes = new Map<string, Axis>();
const MOST_AXES = 16;

function newAxis(size: number, start: number, length: number, out: number, name: KernelName): Axis {
  const kernel = kernels[name];
  const ratio = length / out;
  const wide = name === "nearest" ? 1 : Math.max(1, ratio);
  const reach = kernel.support * wide;
  const taps = Math.min(size, Math.ceil(reach * 2) + 1);
  const starts = new Int32Array(out);
  const weights = new Float32Array(out * taps);
  const near = new Int32Array(out);
  const row = new Float64Array(taps);
  let [from, to] = [size, 0];
  for (let o = 0; o < out; o += 1) {
    const centre = start + (o + 0.5) * ratio - 0.5;
    const first = Math.min(size - taps, Math.max(0, Math.ceil(centre - reach)));
    row.fill(0);
    let sum = 0;
    if (name === "nearest") {
      row[Math.min(size - 1, Math.max(0, Math.floor(centre + 0.5))) - first] = 1;
      sum = 1;
    } else {
      for (let i = Math.ceil(centre - reach); i <= Math.floor(centre + reach); i += 1) {
        const weight = kernel.weight((i - centre) / wide);
        row[Math.min(size - 1, Math.max(0, i)) - first] += weight;
        sum += weight;
      }
    }
    for (let t = 0; t < taps; t += 1) weights[o * taps + t] = row[t] / sum;
    starts[o] = first;
    near[o] = Math.min(size - 1, Math.max(0, Math.floor(centre)));
    from = Math.min(from, first);
    to = Math.max(to, first + taps);
  }
  return { starts, taps, weights, from, to, near, size, enlarges: ratio < 1 };
}

/** Whether every output sample is the input sample at its own place. */
export const handsOn = ({ size, starts, taps, weights }: Axis): boolean =>
  starts.length === size && starts.every((first, o) => weights[o * taps + o - first] === 1);

/** What a weight of 1 is in 16-bit integers: a kernel's largest may lie a little above it. */
export const SHORT_ONE = 16_384;

/**
 * The weights of an axis in 16-bit integers, which add up to {@link SHORT_ONE}; taps filled up with zeros to a
 * multiple of `step`.
 */
export function shortWeights(axis: Axis, step: number): ShortWeights {
  const known = short.get(axis)?.get(step) ?? newShortWeights(axis, step);
  short.set(axis, (short.get(axis) ?? new Map<number, ShortWeights>()).set(step, known));
  return known;
}

export interface ShortWeights {
  taps: number;
  weights: Int16Array;
}
const short = new WeakMap<Axis, Map<number, ShortWeights>>();

function newShortWeights({ weights, taps, starts }: Axis, step: number): ShortWeights {
  const filled = Math.ceil(taps / step) * step;
  const out = new Int16Array(starts.length * filled);
  for (let o = 0; o < starts.length; o += 1) {
    let [sum, largest] = [0, 0];
    for (let t = 0; t < taps; t += 1) {
      const weight = Math.round(weights[o * taps + t] * SHORT_ONE);
      out[o * filled + t] = weight;
      sum += weight;
      if (weight > out[o * filled + largest]) largest = t;
    }
    // What rounding leaves over goes where it weighs least, so that even fields stay even.
    out[o * filled + largest] += SHORT_ONE - sum;
  }
  return { taps: filled, weights: out };
}
