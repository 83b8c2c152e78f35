/**
 * Inverse tone mapping: the lights of an ordinary picture taken above white, as they may have stood in the
 * scene. How light a place
 * is, is asked of a smoothed picture that keeps edges (a guided filter: He, Sun, Tang, "Guided image
 * filtering", 2010), so that
 * grain is lifted with its surroundings and not spread; what is not a light stays exactly as it is.
 */

import type { LightSettings } from "../../photo";
import { SRGB_CURVE, toLinear } from "../colour";
import { type FloatImage, LANES } from "../resample";
import { aboveWhite } from "./shoulder";

export interface Expansion {
  /** 0 to 1. */
  strength: number;
  /** Linear light (white is 1) from which on a place is a light. */
  start: number;
  /** Multiples of white. */
  peak: number;
}

export const expansionOf = ({ strength, start, peak }: LightSettings): Expansion => ({
  strength: strength / 100,
  start: toLinear(SRGB_CURVE, start / 100),
  peak,
});

/** Pixels around a place that its surroundings reach; bands of rows overlap by more than twice as many. */
export const RADIUS = 6;
/**
 * Variances (of the square root of light) below which a neighbourhood is one light, grain and all, and below
 * which it is even but for the steps of 8 bits.
 */
const [GRAIN, EVEN] = [(6 / 255) ** 2, (1.5 / 255) ** 2];

/**
 * In place; `weights`: shares of the channels in the luminance, 1 in all; `white`: the linear value of
 * reference white in the image.
 */
export function expandLights(
  image: FloatImage,
  weights: readonly number[],
  white: number,
  { strength, start, peak }: Expansion,
): void {
  const { data, width, height } = image;
  const [wr, wg, wb] = weights.map((weight) => weight / white);
  // Even steps to the eye, about, so that "even" means the same in dark and light.
  const light = new Float32Array(width * height);
  let any = false;
  for (let i = 0, p = 0; i < light.length; i += 1, p += LANES) {
    const y = wr * data[p] + wg * data[p + 1] + wb * data[p + 2];
    light[i] = y > 0 ? Math.sqrt(y) : 0;
    any ||= y > start;
  }
  if (!any || strength <= 0) return;
  const [smooth, even] = guided(light, width, height, [GRAIN, EVEN]);
  for (let i = 0, p = 0; i < light.length; i += 1, p += LANES) {
    const around = Math.min(1, smooth[i] * smooth[i]);
    if (around <= start) continue;
    const own = light[i] * light[i];
    // Steps of an even light are taken out as far as the place is a light: lifted, they would show as bands.
    const share = (around - start) / (1 - start);
    const calm = own > 0 ? ((even[i] * even[i]) / own) ** share : 1;
    const factor =
      (aboveWhite({ start, peak }, around) / around) ** strength * Math.min(2, Math.max(0.5, calm));
    data[p] *= factor;
    data[p + 1] *= factor;
    data[p + 2] *= factor;
  }
}

/** The picture under itself as guide, once for each variance that counts as even. */
function guided(
  light: Float32Array,
  width: number,
  height: number,
  levels: readonly number[],
): Float32Array[] {
  const mean = boxMean(light, width, height);
  const square = boxMean(
    light.map((v) => v * v),
    width,
    height,
  );
  return levels.map((level) => {
    const a = new Float32Array(light.length);
    const b = new Float32Array(light.length);
    for (let i = 0; i < light.length; i += 1) {
      const variance = Math.max(0, square[i] - mean[i] * mean[i]);
      a[i] = variance / (variance + level);
      b[i] = (1 - a[i]) * mean[i];
    }
    const [ma, mb] = [boxMean(a, width, height), boxMean(b, width, height)];
    return light.map((v, i) => ma[i] * v + mb[i]);
  });
}

/** Means of squares of 2 × RADIUS + 1 pixels; at the edges of what lies inside. */
function boxMean(from: Float32Array, width: number, height: number): Float32Array {
  const rows = new Float32Array(from.length);
  for (let y = 0; y < height; y += 1) {
    const base = y * width;
    let sum = 0;
    for (let x = 0; x < Math.min(width, RADIUS); x += 1) sum += from[base + x];
    for (let x = 0; x < width; x += 1) {
      if (x + RADIUS < width) sum += from[base + x + RADIUS];
      if (x - RADIUS - 1 >= 0) sum -= from[base + x - RADIUS - 1];
      rows[base + x] = sum / (Math.min(width - 1, x + RADIUS) - Math.max(0, x - RADIUS) + 1);
    }
  }
  const out = new Float32Array(from.length);
  const sums = new Float64Array(width);
  for (let y = 0; y < Math.min(height, RADIUS); y += 1)
    for (let x = 0; x < width; x += 1) sums[x] += rows[y * width + x];
  for (let y = 0; y < height; y += 1) {
    const count = Math.min(height - 1, y + RADIUS) - Math.max(0, y - RADIUS) + 1;
    const [enters, leaves] = [
      y + RADIUS < height ? (y + RADIUS) * width : -1,
      y - RADIUS - 1 >= 0 ? (y - RADIUS - 1) * width : -1,
    ];
    for (let x = 0; x < width; x += 1) {
      if (enters >= 0) sums[x] += rows[enters + x];
      if (leaves >= 0) sums[x] -= rows[leaves + x];
      out[y * width + x] = sums[x] / count;
    }
  }
  return out;
}
