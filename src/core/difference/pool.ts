/** From errors and activity to one number a place, and from those to one number a picture. */
import type { Engine } from "./engine";
import type { Activity, Errors } from "./scales";

/**
 * Weights of squared errors and what is added to the masking below them, calibrated on photographs
 * (`bench/difference.mjs`; figures in docs/decisions/0007-visible-difference.md). The smaller the addition,
 * the more texture hides.
 */
const WEIGHTS = {
  full: 17.88,
  half: [50.7, 30.49, 0.3619],
  quarter: [308.3, 174.9, 0.9965],
} as const;
const FLOORS = { full: 0.0002166, half: 0.9179, quarter: 0.001322, colour: 0.002002 } as const;

/** Squared differences, cell by cell, into `out`. */
export function cells(engine: Engine, e: Errors, v: Activity, out: Float64Array): void {
  const errors = [e.full, ...e.half, ...e.quarter].map((plane) => engine.view(plane));
  const busy = [v.full, v.half, v.quarter].map((plane) => engine.view(plane));
  for (let from = 0; from < out.length; from += AT_ONCE)
    someCells(errors, busy, out, from, Math.min(out.length, from + AT_ONCE));
}

/** Cells are worked out so many at a time: code that is entered once a picture would be compiled anew for each. */
const AT_ONCE = 512;

function someCells(
  [full, half, halfA, halfB, quarter, quarterA, quarterB]: Float32Array[],
  [busyFull, busyHalf, busyQuarter]: Float32Array[],
  out: Float64Array,
  from: number,
  to: number,
): void {
  for (let i = from; i < to; i += 1) {
    const middle = masking(busyHalf[i]);
    const colour =
      WEIGHTS.half[1] * halfA[i] +
      WEIGHTS.half[2] * halfB[i] +
      WEIGHTS.quarter[1] * quarterA[i] +
      WEIGHTS.quarter[2] * quarterB[i];
    out[i] =
      (WEIGHTS.full * full[i]) / (FLOORS.full + masking(busyFull[i])) +
      (WEIGHTS.half[0] * half[i]) / (FLOORS.half + middle) +
      (WEIGHTS.quarter[0] * quarter[i]) / (FLOORS.quarter + masking(busyQuarter[i])) +
      colour / (FLOORS.colour + middle);
  }
}

/**
 * What a neighbourhood hides, from the mean of its variances' fourth roots: a power of 3.5 of it, a little less
 * than the variance itself, since the busiest places do not hide without end.
 */
const masking = (root: number): number => root * root * root * Math.sqrt(root);

/** Means of third, sixth and twelfth powers, so that one bad region is not averaged away. */
export class Pool {
  private third = 0;
  private sixth = 0;
  private twelfth = 0;
  private count = 0;

  add(difference: number): void {
    const cube = difference * difference * difference;
    this.third += cube;
    this.sixth += cube * cube;
    this.twelfth += cube * cube * cube * cube;
    this.count += 1;
  }

  get value(): number {
    if (!this.count) return 0;
    return (
      ((this.third / this.count) ** (1 / 3) +
        (this.sixth / this.count) ** (1 / 6) +
        (this.twelfth / this.count) ** (1 / 12)) /
      3
    );
  }
}
