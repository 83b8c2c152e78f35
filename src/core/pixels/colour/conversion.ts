/** What a conversion of colours did: how much fell outside the destination, and how far it moved. */
import { deltaE2000, labFromXyz } from "./delta-e";
import { apply, invert, type Matrix, multiply } from "./matrix";
import { type RgbSpace, SPACES } from "./spaces";

export interface ConversionReport {
  /** Share of pixels outside the destination, 0 to 1. */
  outside: number;
  /** CIEDE2000 between what the source said and what the destination holds, before bits are reduced. */
  meanDelta: number;
  maxDelta: number;
}

/** A channel this far outside 0 to 1 (in linear light) is outside: half of an 8-bit step at white. */
const SLACK = 0.0045;

/**
 * The report over samples: linear RGB of the source space, interleaved, three values a pixel.
 * Grey as destination keeps the luminance and nothing else.
 */
export function reportConversion(
  samples: Float32Array,
  from: RgbSpace,
  to: RgbSpace | "gray",
): ConversionReport {
  const count = Math.floor(samples.length / 3);
  const inverse: Matrix | null = to === "gray" ? null : invert(to.toXyz);
  const matrix = inverse ? multiply(inverse, from.toXyz) : null;
  let [outside, sum, max] = [0, 0, 0];
  for (let i = 0; i < count; i += 1) {
    const rgb = [samples[i * 3], samples[i * 3 + 1], samples[i * 3 + 2]] as const;
    const xyz = apply(from.toXyz, rgb);
    let held: [number, number, number];
    if (!matrix || to === "gray") held = apply(SPACES.srgb.toXyz, [xyz[1], xyz[1], xyz[1]]);
    else {
      const out = apply(matrix, rgb);
      // What lies inside is held exactly: it differs by nothing.
      if (out[0] >= 0 && out[1] >= 0 && out[2] >= 0 && out[0] <= 1 && out[1] <= 1 && out[2] <= 1) continue;
      if (out.some((v) => v < -SLACK || v > 1 + SLACK)) outside += 1;
      held = apply(to.toXyz, [clip(out[0]), clip(out[1]), clip(out[2])]);
    }
    const delta = deltaE2000(labFromXyz(xyz), labFromXyz(held));
    sum += delta;
    if (delta > max) max = delta;
  }
  return count
    ? { outside: outside / count, meanDelta: sum / count, maxDelta: max }
    : { outside: 0, meanDelta: 0, maxDelta: 0 };
}

const clip = (v: number) => (v < 0 ? 0 : v > 1 ? 1 : v);
