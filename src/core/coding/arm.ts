import { predictLog, SURE_TILT } from "./along";

/**
 * Finds, along one arm of settings whose size grows with quality, the two neighbours around a wanted size. Works on the
 * logarithm of size, where the curve of one picture is nearly that of any other, moved and slightly tilted.
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
  /** Between qualities; whole numbers where absent. */
  step?: number;
  /** The share of the goal that is aimed at: a miss above it is of no use. */
  aimed?: number;
  /** Bytes that do not depend on the quality. */
  overhead: number;
  /** ln(bytes without overhead) that is expected at a quality. */
  expect: (quality: number) => number;
  /** Makes what is expected at a quality surer, before it is tried. */
  sharpen?: (quality: number) => Promise<void>;
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

/** From the third trial on, so much lower is aimed in ln(bytes) where all were above. */
const FURTHER = 0.02;

/** The share of the goal that is aimed at where a sample foretells all but a factor, and that is known. */
const SURELY_AIMED = 0.998;

/** Guesses that are made surer before one is tried. */
const GUESSES = 8;

export async function solveArm(task: ArmTask): Promise<ArmResult> {
  const { step = 1, aimed = 0.988 } = task;
  const points: Point[] = [...(task.known ?? [])];
  const payload = (bytes: number) => Math.log(Math.max(1, bytes - task.overhead));
  const predict = (quality: number) =>
    predictLog(
      task.expect,
      points.map((point) => ({ quality: point.quality, log: payload(point.bytes) })),
      quality,
      task.sharpen && SURE_TILT,
    );
  const bracket = () => {
    const under = points.filter((p) => p.bytes <= task.goal).sort((a, b) => b.quality - a.quality)[0] ?? null;
    const over = points.filter((p) => p.bytes > task.goal).sort((a, b) => a.quality - b.quality)[0] ?? null;
    return { under, over };
  };
  for (let made = 0; made < task.budget; made += 1) {
    const { under, over } = bracket();
    if (under && under.bytes >= task.enough) break;
    const from = under ? under.quality + step : task.lowest;
    const to = over ? over.quality - step : task.highest;
    if (from > to + step / 4) break;
    const wanted = payload(task.goal * (task.sharpen && points.length ? SURELY_AIMED : aimed));
    // Where the curve is flatter than it is expected to be, misses above come nearer in ever smaller steps.
    const further = under ? 0 : FURTHER * Math.max(0, made - 1);
    const guess = () => highestWithin({ from, to, step }, (q) => predict(q) <= wanted - further);
    const quality = task.sharpen ? await sharpened(guess, task.sharpen) : guess();
    // Where it is sure that even the next step is too much, nothing is gained by trying it.
    if (task.sharpen && under && predict(quality) > payload(task.goal)) break;
    points.push({ quality, bytes: await task.encode(quality) });
  }
  return { ...bracket(), points, predict };
}

/** Guesses until what is expected there was made sure; mostly the second stands. */
async function sharpened(guess: () => number, sharpen: (quality: number) => Promise<void>): Promise<number> {
  let quality = guess();
  for (let n = 0; n < GUESSES; n += 1) {
    await sharpen(quality);
    const next = guess();
    if (next === quality) break;
    quality = next;
  }
  return quality;
}

/** The highest quality of those from `from` to `to` that still `fits`; `from` where none does. */
export function highestWithin(
  { from, to, step }: { from: number; to: number; step: number },
  fits: (quality: number) => boolean,
): number {
  // Hundredths, so that a quality is the same number however it was reached.
  const at = (n: number) => Math.min(to, Math.round((from + n * step) * 100) / 100);
  let [low, high] = [0, Math.round((to - from) / step)];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (fits(at(middle))) low = middle;
    else high = middle - 1;
  }
  return at(low);
}
