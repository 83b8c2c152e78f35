/** From errors and activity to one number a place, and from those to one number a picture. */
import type { Engine } from "./engine";
import type { Activity, Errors } from "./scales";

/**
 * Weights of squared errors and what is added to the local variance below them, calibrated on photographs
 * (`bench/difference.mjs`;
 * figures in docs/decisions/0007-visible-difference.md). The smaller the addition, the more texture hides.
 */
const WEIGHTS = { full: 14.64, half: [234.4, 4.175, 0.1417], quarter: [12.59, 7.974, 0.3795] } as const;
const FLOORS = { full: 0.000723, half: 0.0395, quarter: 7.04e-5, colour: 1.47e-5 } as const;

/** Squared differences, cell by cell, into `out`. */
export function cells(engine: Engine, e: Errors, v: Activity, out: Float64Array): void {
  const [full, half, halfA, halfB, quarter, quarterA, quarterB] = [e.full, ...e.half, ...e.quarter].map(
    (plane) => engine.view(plane),
  );
  const [busyFull, busyHalf, busyQuarter] = [v.full, v.half, v.quarter].map((plane) => engine.view(plane));
  const fourth = (root: number) => (root * root) ** 2;
  for (let i = 0; i < out.length; i += 1) {
    const middle = fourth(busyHalf[i]);
    const colour =
      WEIGHTS.half[1] * halfA[i] +
      WEIGHTS.half[2] * halfB[i] +
      WEIGHTS.quarter[1] * quarterA[i] +
      WEIGHTS.quarter[2] * quarterB[i];
    out[i] =
      (WEIGHTS.full * full[i]) / (FLOORS.full + fourth(busyFull[i])) +
      (WEIGHTS.half[0] * half[i]) / (FLOORS.half + middle) +
      (WEIGHTS.quarter[0] * quarter[i]) / (FLOORS.quarter + fourth(busyQuarter[i])) +
      colour / (FLOORS.colour + middle);
  }
}

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
