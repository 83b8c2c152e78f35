/** The smallest JPEG without visible loss. */
import { asTried, type CleanArm, foretold, solveClean } from "./clean";
import { differenceLog, priorLog } from "./prior";
import { OF_SAMPLE } from "./sampled";
import type { Chroma, JpegSetting, Picture, Weighed } from "./types";

export interface CleanJpegTask {
  picture: Picture;
  lowest: number;
  highest: number;
  /** Between qualities. */
  step: number;
  table: number;
  /** The visible difference that must not be passed. */
  limit: number;
}

/** From this quality on whole chroma may take fewer bytes at the same difference. */
const PERHAPS_WHOLE = 92;
/** Trials on the sample for each chroma, and of the whole. */
const SAMPLE_BUDGET = 5;
const WHOLE_BUDGET = 4;
/** A trial of the sample this near the limit tells enough: between trials the curve is followed. */
const NEAR_ON_SAMPLE = 0.92;
/** ln of what the whole differs more for its weighed bits than its sample does, in the mean of 43 photographs. */
const OF_ROUNDED = 0.007;

/** Null where even the highest quality stays beyond the limit. `made`: every trial of the whole. */
export async function cleanJpeg(task: CleanJpegTask): Promise<Cleaned> {
  const { picture, limit } = task;
  const sample = await picture.sample();
  if (!sample) return cleanSmall(task);
  const [first, other] = likelier(picture);
  let best = await foreseen(task, sample, first);
  if (picture.flat || best.quality >= PERHAPS_WHOLE) {
    const second = await foreseen(task, sample, other);
    if (second.bytes < best.bytes) best = second;
  }
  // What the sample says holds nearly for the whole; a few trials of the whole settle it.
  const arm = await moved(best, task, sample);
  return solveClean({ picture, arm, limit, budget: WHOLE_BUDGET });
}

interface Cleaned {
  found: Weighed<JpegSetting> | null;
  made: Weighed<JpegSetting>[];
}

const likelier = ({ flat }: Picture): [Chroma, Chroma] => (flat ? ["4:4:4", "4:2:0"] : ["4:2:0", "4:4:4"]);

async function cleanSmall(task: CleanJpegTask): Promise<Cleaned> {
  const { picture, limit } = task;
  const along = (chroma: Chroma) =>
    solveClean({ picture, arm: armOf(task, chroma), limit, budget: SAMPLE_BUDGET });
  const [first, other] = likelier(picture);
  const one = await along(first);
  if (!picture.flat && one.found && one.found.setting.quality < PERHAPS_WHOLE) return one;
  const two = await along(other);
  const better = two.found && (!one.found || two.found.bytes < one.found.bytes);
  return { found: better ? two.found : one.found, made: [...one.made, ...two.made] };
}

/** What the sample foretells of the whole along one chroma. */
interface Foreseen {
  arm: CleanArm<JpegSetting>;
  /** Where the limit is reached, and about the sample's bytes there; for ever many where it is not. */
  quality: number;
  bytes: number;
}

async function foreseen(task: CleanJpegTask, sample: Picture, chroma: Chroma): Promise<Foreseen> {
  const { limit } = task;
  const own = armOf(task, chroma);
  const { made } = await solveClean({
    picture: sample,
    arm: own,
    limit: limit / OF_SAMPLE,
    near: NEAR_ON_SAMPLE,
    either: true,
    budget: SAMPLE_BUDGET,
  });
  const arm = asTried(own, made);
  const quality = foretold(arm, limit);
  if (arm.expect(quality) > Math.log(limit)) return { arm, quality, bytes: Infinity };
  const off = (trial: Weighed<JpegSetting>) => Math.abs(trial.setting.quality - quality);
  const near = made.reduce((a, b) => (off(b) < off(a) ? b : a));
  return { arm, quality, bytes: near.bytes * Math.exp(priorLog(quality) - priorLog(near.setting.quality)) };
}

/**
 * Moved by what the whole shows more than its sample where levels are only rounded: that takes half of a trial, and
 * foretells the whole within 1 % (one standard deviation), its sample alone within 3 % (43 photographs).
 */
async function moved({ arm, quality }: Foreseen, { picture }: CleanJpegTask, sample: Picture) {
  const setting = arm.setting(quality);
  const whole = await picture.rounded?.(setting);
  const part = whole ? await sample.rounded?.(setting) : null;
  if (!whole || !part) return arm;
  const by = Math.log(whole / part / OF_SAMPLE) + OF_ROUNDED;
  return { ...arm, expect: (at: number) => arm.expect(at) + by };
}

const armOf = ({ lowest, highest, step, table }: CleanJpegTask, chroma: Chroma): CleanArm<JpegSetting> => ({
  setting: (quality) => ({ format: "jpeg", quality, chroma, table, effort: "careful" }),
  lowest,
  highest,
  step,
  expect: (quality) => differenceLog(chroma, quality),
});
