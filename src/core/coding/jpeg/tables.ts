/** Quantisation tables: our own, and those of ITU-T T.81 annex K. All in zigzag order. */
import type { Chroma } from "../types";

/** Natural place (row × 8 + column) of each coefficient in zigzag order. Source: ITU-T T.81, figure 5. */
export const ZIGZAG: readonly number[] = zigzag();

function zigzag(): number[] {
  const out: number[] = [];
  for (let sum = 0; sum < 15; sum += 1)
    for (let i = 0; i <= sum; i += 1) {
      const [row, column] = sum % 2 ? [i, sum - i] : [sum - i, i];
      if (row < 8 && column < 8) out.push(row * 8 + column);
    }
  return out;
}

export interface Steps {
  /** Whole numbers from 1 to 255, as the file has them. */
  steps: number[];
  /** Before rounding: what errors are measured in. */
  meant: number[];
}

/** Of Y, Cb and Cr. */
export type StepTables = [Steps, Steps, Steps];

/**
 * By how much the steps of quality 50 are multiplied: 50/q below it, 2 − q/50 above. Common practice; qualities are
 * counted alike on all tables.
 */
export const scaleOf = (quality: number): number => (quality < 50 ? 50 / quality : 2 - quality / 50);

/** Found by trials on photographs: see docs/decisions/0008-clean-and-best.md. */
const SEEN = [
  { first: 12, slope: 2, power: 1.1, dc: 1 },
  { first: 27, slope: 3.6, power: 1.5, dc: 0.9 },
  { first: 11.9, slope: 2.5, power: 1.5, dc: 1 },
] as const;

const seenSteps = SEEN.map(({ first, slope, power, dc }) =>
  ZIGZAG.map((place) => {
    const r = Math.hypot(place >> 3, place & 7);
    return first * (1 + slope * (r / 7) ** power) * (place ? 1 : dc);
  }),
);

/** Near the threshold of seeing, colours show before lightness does: so much finer from one quality to the other. */
const NEAR = { from: 80, to: 95, finer: 0.2 };

const whole = (steps: readonly number[], scale: number): Steps => {
  const meant = steps.map((step) => step * scale);
  return { steps: meant.map((step) => Math.min(255, Math.max(1, Math.round(step)))), meant };
};

/** Our own, at a quality from 1 to 100 that need not be whole. */
export function seenTables(quality: number): StepTables {
  const scale = scaleOf(quality);
  const near = Math.min(1, Math.max(0, (quality - NEAR.from) / (NEAR.to - NEAR.from)));
  return seenSteps.map((steps, c) => whole(steps, c ? scale * (1 - NEAR.finer * near) : scale)) as StepTables;
}

/** Tables K.1 and K.2 of ITU-T T.81, row by row. */
const LUMINANCE = [
  16, 11, 10, 16, 24, 40, 51, 61, 12, 12, 14, 19, 26, 58, 60, 55, 14, 13, 16, 24, 40, 57, 69, 56, 14, 17, 22,
  29, 51, 87, 80, 62, 18, 22, 37, 56, 68, 109, 103, 77, 24, 35, 55, 64, 81, 104, 113, 92, 49, 64, 78, 87, 103,
  121, 120, 101, 72, 92, 95, 98, 112, 100, 103, 99,
];
const CHROMINANCE = [
  17, 18, 24, 47, 99, 99, 99, 99, 18, 21, 26, 66, 99, 99, 99, 99, 24, 26, 56, 99, 99, 99, 99, 99, 47, 66, 99,
  99, 99, 99, 99, 99,
];

/** Those of annex K at a whole quality, as usual encoders scale them. */
export function annexKTables(quality: number): StepTables {
  const percent = quality < 50 ? Math.floor(5000 / quality) : 200 - 2 * quality;
  const scaled = (table: readonly number[]): Steps => {
    const steps = ZIGZAG.map((place) =>
      Math.min(255, Math.max(1, Math.floor(((table[place] ?? 99) * percent + 50) / 100))),
    );
    return { steps, meant: steps };
  };
  const chrominance = scaled(CHROMINANCE);
  return [scaled(LUMINANCE), chrominance, chrominance];
}

/** Samples of chroma across and down for one of theirs. */
export const SAMPLING: Record<Chroma, { h: number; v: number }> = {
  "4:2:0": { h: 2, v: 2 },
  "4:2:2": { h: 2, v: 1 },
  "4:4:4": { h: 1, v: 1 },
};
