/**
 * Sharpening after resizing, on lightness only: the difference from a blurred copy is added, held inside
 * what the
 * neighbours show plus a little, so that no edge gets a bright or dark seam and nothing is clipped.
 */
import type { FloatImage } from "./resample";
import { LANES } from "./rows";

export interface Sharpening {
  for: "screen" | "print";
  /** 0 to 100. */
  amount: number;
}

/** Pixels of the blur at screen output: half a pixel of softness on each side of an edge. */
const SCREEN_RADIUS = 0.6;
/** Common practice: in print the radius is the resolution over 200, 1.5 px at 300 ppi. */
const PRINT_SHARE = 200;
/** Where no resolution is known, print is taken to be at this one. */
const USUAL_PPI = 300;

/** Standard deviation of the blur in pixels. */
export function sharpenRadius(kind: Sharpening["for"], ppi: number | null): number {
  return kind === "screen" ? SCREEN_RADIUS : Math.min(4, Math.max(0.6, (ppi ?? USUAL_PPI) / PRINT_SHARE));
}

/** Of the full scale of lightness, how far an edge may go beyond its neighbours at amount 100. */
const OVERSHOOT = 0.03;
/** How much of the difference is added at amount 100. */
const STRENGTH = 1.6;

/**
 * In place, on linear light; `luminance` are the weights of the first three channels (or [1] for grey).
 * Alpha is left alone.
 */
export function sharpen(
  image: FloatImage,
  luminance: readonly number[],
  { for: kind, amount }: Sharpening,
  ppi: number | null,
): void {
  if (amount <= 0) return;
  const { data, width, height } = image;
  const colours = luminance.length;
  const light = new Float32Array(width * height);
  for (let i = 0, p = 0; i < light.length; i += 1, p += LANES) {
    let y = 0;
    for (let c = 0; c < colours; c += 1) y += luminance[c] * data[p + c];
    light[i] = Math.cbrt(Math.max(0, y));
  }
  const blurred = blur(light, width, height, sharpenRadius(kind, ppi));
  const strength = (STRENGTH * amount) / 100;
  const slack = (OVERSHOOT * amount) / 100;
  for (let row = 0, i = 0, p = 0; row < height; row += 1) {
    for (let column = 0; column < width; column += 1, i += 1, p += LANES) {
      const [low, high] = range(light, width, height, column, row);
      const wanted = light[i] + strength * (light[i] - blurred[i]);
      const held = Math.min(high + slack, Math.max(low - slack, Math.max(0, wanted)));
      if (light[i] < 1e-4) continue;
      let ratio = (held / light[i]) ** 3;
      if (ratio > 1) {
        let top = 0;
        for (let c = 0; c < colours; c += 1) top = Math.max(top, data[p + c]);
        if (top * ratio > 1) ratio = Math.max(1, 1 / top);
      }
      for (let c = 0; c < colours; c += 1) data[p + c] *= ratio;
    }
  }
}

function range(light: Float32Array, width: number, height: number, x: number, y: number): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (let j = Math.max(0, y - 1); j <= Math.min(height - 1, y + 1); j += 1) {
    for (let i = Math.max(0, x - 1); i <= Math.min(width - 1, x + 1); i += 1) {
      const v = light[j * width + i];
      if (v < low) low = v;
      if (v > high) high = v;
    }
  }
  return [low, high];
}

function blur(light: Float32Array, width: number, height: number, sigma: number): Float32Array {
  const reach = Math.ceil(sigma * 3);
  const kernel = Float32Array.from({ length: reach * 2 + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)),
  );
  const sum = kernel.reduce((a, b) => a + b, 0);
  const across = new Float32Array(light.length);
  const out = new Float32Array(light.length);
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      let v = 0;
      for (let k = -reach; k <= reach; k += 1)
        v += kernel[k + reach] * light[y * width + Math.min(width - 1, Math.max(0, x + k))];
      across[y * width + x] = v / sum;
    }
  }
  for (let k = -reach; k <= reach; k += 1) {
    const weight = kernel[k + reach] / sum;
    for (let y = 0; y < height; y += 1) {
      const from = Math.min(height - 1, Math.max(0, y + k)) * width;
      const to = y * width;
      for (let x = 0; x < width; x += 1) out[to + x] += weight * across[from + x];
    }
  }
  return out;
}
