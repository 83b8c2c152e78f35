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

const ALL = [
  WEIGHTS.full,
  WEIGHTS.half[0],
  WEIGHTS.quarter[0],
  WEIGHTS.half[1],
  WEIGHTS.half[2],
  WEIGHTS.quarter[1],
  WEIGHTS.quarter[2],
  FLOORS.full,
  FLOORS.half,
  FLOORS.quarter,
  FLOORS.colour,
];

/**
 * Squared differences of so many cells, valid until more is taken. What a neighbourhood hides comes from the mean of
 * its variances' fourth roots: a power of 3.5 of it, a little less than the variance itself, since the busiest places
 * do not hide without end.
 */
export function cells(engine: Engine, e: Errors, v: Activity, count: number): Float64Array {
  const errors = [e.full, e.half[0], e.quarter[0], e.half[1], e.half[2], e.quarter[1], e.quarter[2]];
  const planes = [...errors, v.full, v.half, v.quarter].map(({ at }) => at);
  const weights = engine.take(2 * ALL.length);
  const out = engine.take(2 * count);
  engine.doubles(weights, ALL.length).set(ALL);
  engine.kernels.cells(...(planes as Planes), weights, out, count);
  return engine.doubles(out, count);
}

type Planes = [number, number, number, number, number, number, number, number, number, number];

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
