/**
 * Finds, along one arm of settings whose visible difference falls with quality, the lowest quality that stays within a
 * limit. Works on the logarithm of the difference, whose curve is alike for all pictures.
 */
import { type At, highest, lowest, predictLog } from "./along";
import { highestWithin } from "./arm";
import { OF_SAMPLE } from "./sampled";
import type { Picture, Setting, Weighed } from "./types";

export interface CleanArm<S extends Setting> {
  setting(quality: number): S;
  lowest: number;
  highest: number;
  /** Between qualities; whole numbers where absent. */
  step?: number;
  /** ln(difference) that is expected at a quality. */
  expect(quality: number): number;
}

export interface CleanTask<S extends Setting> {
  picture: Picture;
  arm: CleanArm<S>;
  /** The difference that must not be passed. */
  limit: number;
  /** Trials that may be made. */
  budget: number;
  /** Trials of this arm that were made before. */
  known?: readonly Weighed<S>[];
  /** A difference of at least this share of the limit is near enough. */
  near?: number;
  /** As near beyond the limit will do as well: only the curve is asked for. */
  either?: boolean;
}

export interface CleanResult<S extends Setting> {
  /** The lowest quality found within the limit; null where even the highest is beyond. */
  found: Weighed<S> | null;
  made: Weighed<S>[];
}

const NEAR_LIMIT = 0.97;

/** Aimed at so much below the limit, in ln(difference): a miss above it is of no use. */
const MARGIN = 0.012;

export async function solveClean<S extends Setting & { quality: number | null }>({
  picture,
  arm,
  limit,
  budget,
  known = [],
  near = NEAR_LIMIT,
  either = false,
}: CleanTask<S>): Promise<CleanResult<S>> {
  const made: Weighed<S>[] = [];
  const points: At[] = [];
  let found: Weighed<S> | null = null;
  const take = (trial: Weighed<S>, quality: number) => {
    // A difference of nothing has no logarithm; far below any limit will do.
    points.push({ quality, log: Math.log(Math.max(1e-4, trial.difference)) });
    if (trial.difference <= limit && (!found || trial.bytes < found.bytes)) found = trial;
  };
  for (const trial of known) take(trial, trial.setting.quality ?? arm.highest);
  for (let n = 0; n < budget; n += 1) {
    const within = lowest(points.filter((p) => p.log <= Math.log(limit)));
    const beyond = highest(points.filter((p) => p.log > Math.log(limit)));
    if (nearEnough(found, limit * near)) break;
    if (either && beyond && beyond.log <= Math.log(limit / near)) break;
    const { step = 1 } = arm;
    const from = beyond ? beyond.quality + step : arm.lowest;
    const to = within ? within.quality - step : arm.highest;
    if (from > to + step / 4) break;
    const guess = at({ arm, points, limit, from, to });
    const quality = Math.min(to, Math.max(from, guess));
    const trial = await weigh(picture, arm.setting(quality));
    made.push(trial);
    take(trial, quality);
  }
  return { found: found as Weighed<S> | null, made };
}

const nearEnough = (found: Weighed | null, least: number) => found !== null && found.difference >= least;

/** The same arm, whose expectation follows what was measured on a sample of the picture, of which the whole is foretold. */
export function asTried<S extends Setting & { quality: number | null }>(
  arm: CleanArm<S>,
  tried: readonly Weighed<S>[],
): CleanArm<S> {
  const points = tried.map((trial) => ({
    quality: trial.setting.quality ?? arm.highest,
    log: Math.log(Math.max(1e-4, trial.difference * OF_SAMPLE)),
  }));
  return { ...arm, expect: (quality) => predictLog(arm.expect, points, quality) };
}

export async function weigh<S extends Setting>(picture: Picture, setting: S): Promise<Weighed<S>> {
  return { setting, bytes: await picture.encode(setting), difference: await picture.difference(setting) };
}

/** The lowest quality that an arm foretells within a limit. */
export const foretold = <S extends Setting>(arm: CleanArm<S>, limit: number): number =>
  at({ arm, points: [], limit, from: arm.lowest, to: arm.highest });

function at<S extends Setting>({
  arm,
  points,
  limit,
  from,
  to,
}: {
  arm: CleanArm<S>;
  points: readonly At[];
  limit: number;
  from: number;
  to: number;
}): number {
  const { step = 1 } = arm;
  const wanted = Math.log(limit) - MARGIN;
  const beyond = (quality: number) => predictLog(arm.expect, points, quality) > wanted;
  if (!beyond(from)) return from;
  return Math.min(to, Math.round((highestWithin({ from, to, step }, beyond) + step) * 100) / 100);
}
