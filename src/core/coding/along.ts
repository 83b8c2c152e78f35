/** Follows a curve whose shape is known from elsewhere through the few points of it that were measured. */

/** Something on a logarithmic scale, measured at a quality. */
export interface At {
  quality: number;
  log: number;
}

/** Below this distance in what is expected, two points say nothing about how steep the curve is. */
const TOO_NEAR = 0.06;

export const lowest = (list: At[]) => list.sort((a, b) => a.quality - b.quality)[0] ?? null;
export const highest = (list: At[]) => list.sort((a, b) => b.quality - a.quality)[0] ?? null;

/** How much steeper or flatter than expected a curve may turn out. */
const USUAL_TILT = [0.3, 3] as const;
/** The same where what is expected was measured on a part of the picture. */
export const SURE_TILT = [0.85, 1.2] as const;

/**
 * The expected curve moved through the nearest point; tilted through the two nearest, on both sides where
 * there are such.
 */
export function predictLog(
  expect: (quality: number) => number,
  points: readonly At[],
  quality: number,
  [flattest, steepest]: readonly [number, number] = USUAL_TILT,
): number {
  const below = highest(points.filter((p) => p.quality <= quality));
  const above = lowest(points.filter((p) => p.quality > quality));
  if (below && above) {
    const span = expect(above.quality) - expect(below.quality);
    const share =
      Math.abs(span) > 1e-9
        ? (expect(quality) - expect(below.quality)) / span
        : (quality - below.quality) / (above.quality - below.quality);
    return below.log + share * (above.log - below.log);
  }
  const near = below ?? above;
  if (!near) return expect(quality);
  const others = points.filter((p) => p !== near);
  const next = below ? highest(others) : lowest(others);
  const span = next ? expect(near.quality) - expect(next.quality) : 0;
  const tilt = next && Math.abs(span) > TOO_NEAR ? (near.log - next.log) / span : 1;
  return near.log + Math.min(steepest, Math.max(flattest, tilt)) * (expect(quality) - expect(near.quality));
}
