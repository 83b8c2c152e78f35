/**
 * Finds, along one arm of settings whose size grows with a whole-number quality,
 * the two neighbours around a wanted size. Works on the logarithm of size, where
 * the curve of one picture is nearly that of any other, moved and slightly tilted.
 */
export interface Point {
  quality: number;
  bytes: number;
}

export interface ArmTask {
  /** Wanted size in bytes; the answer stays at or under it. */
  goal: number;
  /** Good enough: a point at or above this and not above the goal ends the search. */
  enough: number;
  lowest: number;
  highest: number;
  /** Bytes that do not depend on the quality. */
  overhead: number;
  /** ln(bytes without overhead) that is expected at a quality. */
  expect: (quality: number) => number;
  encode: (quality: number) => Promise<number>;
  /** Encodes that may be made. */
  budget: number;
  /** Points that are known already. */
  known?: readonly Point[];
}

export interface ArmResult {
  /** The largest measured at or under the goal, and the smallest above it. */
  under: Point | null;
  over: Point | null;
  points: Point[];
  /** ln(bytes without overhead) that the measured points predict at a quality. */
  predict: (quality: number) => number;
}

export async function solveArm(task: ArmTask): Promise<ArmResult> {
  const points: Point[] = [...(task.known ?? [])];
  const payload = (bytes: number) => Math.log(Math.max(1, bytes - task.overhead));
  const predict = (quality: number) => predictLog(points, task.expect, payload, quality);
  const bracket = () => {
    const under = points.filter((p) => p.bytes <= task.goal).sort((a, b) => b.quality - a.quality)[0] ?? null;
    const over = points.filter((p) => p.bytes > task.goal).sort((a, b) => a.quality - b.quality)[0] ?? null;
    return { under, over };
  };
  // A little below the goal, because a miss above it is of no use.
  const wanted = payload(task.goal * 0.988);
  for (let made = 0; made < task.budget; made += 1) {
    const { under, over } = bracket();
    if (under && under.bytes >= task.enough) break;
    const from = under ? under.quality + 1 : task.lowest;
    const to = over ? over.quality - 1 : task.highest;
    if (from > to) break;
    let quality = from;
    while (quality < to && predict(quality + 1) <= wanted) quality += 1;
    // The far end is tried only when the model points there twice or nothing else is left.
    points.push({ quality, bytes: await task.encode(quality) });
  }
  return { ...bracket(), points, predict };
}

/** The expected curve moved through the nearest point, or tilted through the two nearest on both sides. */
function predictLog(
  points: readonly Point[],
  expect: (q: number) => number,
  payload: (b: number) => number,
  quality: number,
): number {
  if (!points.length) return expect(quality);
  const sorted = [...points].sort((a, b) => a.quality - b.quality);
  const below = sorted.filter((p) => p.quality <= quality).pop();
  const above = sorted.find((p) => p.quality > quality);
  if (below && above) {
    const span = expect(above.quality) - expect(below.quality);
    const share = span > 0 ? (expect(quality) - expect(below.quality)) / span : 0.5;
    return payload(below.bytes) + share * (payload(above.bytes) - payload(below.bytes));
  }
  const near = (below ?? above)!;
  return payload(near.bytes) + expect(quality) - expect(near.quality);
}
