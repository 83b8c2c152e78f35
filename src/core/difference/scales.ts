/**
 * What the measure compares: lightness at three scales, both colour axes at two, and how busy the reference
 * is at each place.
 */
import type { Engine, Plane } from "./engine";

/** Planes of one picture, or of a band of it: at full, half and quarter size. */
export interface Scales {
  full: Plane;
  half: [Plane, Plane, Plane];
  quarter: [Plane, Plane, Plane];
}

/** Widths are multiples of 16, heights of four. */
export function scalesOf(engine: Engine, l: Plane, a: Plane, b: Plane): Scales {
  const half: Scales["half"] = [engine.halved(l), engine.halved(a), engine.halved(b)];
  return { full: l, half, quarter: [engine.halved(half[0]), engine.halved(half[1]), engine.halved(half[2])] };
}

/** One plane a scale of lightness, all at quarter size. */
export interface Activity {
  full: Plane;
  half: Plane;
  quarter: Plane;
}

/**
 * Fourth roots of local variances, averaged over the neighbourhood: texture, which is everywhere, counts in
 * full, while a
 * lone hard edge hides next to nothing of what lies beside it.
 */
export function activityOf(engine: Engine, { full, half, quarter }: Scales): Activity {
  const spread = (variance: Plane): Plane => {
    engine.kernels.roots(variance.at, variance.width * variance.height);
    return engine.average(engine.average(variance));
  };
  return {
    full: spread(engine.halved(engine.varianceHalved(full))),
    half: spread(engine.varianceHalved(half[0])),
    quarter: spread(engine.variance(quarter[0])),
  };
}

/** Windowed mean squares of differences, all at quarter size. */
export interface Errors {
  full: Plane;
  half: [Plane, Plane, Plane];
  quarter: [Plane, Plane, Plane];
}

export function errorsOf(engine: Engine, reference: Scales, trial: Scales): Errors {
  const half = (c: number) => engine.averageHalved(engine.squares(reference.half[c], trial.half[c]));
  const quarter = (c: number) => engine.average(engine.squares(reference.quarter[c], trial.quarter[c]));
  return {
    full: engine.halved(engine.averageHalved(engine.squares(reference.full, trial.full))),
    half: [half(0), half(1), half(2)],
    quarter: [quarter(0), quarter(1), quarter(2)],
  };
}
