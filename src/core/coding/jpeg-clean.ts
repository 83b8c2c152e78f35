/** The smallest JPEG without visible loss. */
import { asTried, type CleanArm, solveClean } from "./clean";
import { differenceLog } from "./prior";
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

/** Null where even the highest quality stays beyond the limit. `made`: every trial of the whole. */
export async function cleanJpeg(
  task: CleanJpegTask,
): Promise<{ found: Weighed<JpegSetting> | null; made: Weighed<JpegSetting>[] }> {
  const { picture, limit } = task;
  const tried = (await picture.sample()) ?? picture;
  const [first, other]: Chroma[] = picture.flat ? ["4:4:4", "4:2:0"] : ["4:2:0", "4:4:4"];
  const along = async (chroma: Chroma) => {
    const arm = armOf(task, chroma);
    const sampled = tried === picture ? { limit } : { limit: limit / OF_SAMPLE, near: NEAR_ON_SAMPLE };
    return { arm, ...(await solveClean({ picture: tried, arm, budget: SAMPLE_BUDGET, ...sampled })) };
  };
  let best = await along(first);
  const trials = [...best.made];
  if (picture.flat || !best.found || best.found.setting.quality >= PERHAPS_WHOLE) {
    const second = await along(other);
    trials.push(...second.made);
    if (second.found && (!best.found || second.found.bytes < best.found.bytes)) best = second;
  }
  if (tried === picture) return { found: best.found, made: trials };
  // What the sample says holds nearly for the whole; a few trials of the whole settle it.
  const arm = asTried(best.arm, best.made);
  return solveClean({ picture, arm, limit, budget: WHOLE_BUDGET });
}

const armOf = ({ lowest, highest, step, table }: CleanJpegTask, chroma: Chroma): CleanArm<JpegSetting> => ({
  setting: (quality) => ({ format: "jpeg", quality, chroma, table, effort: "careful" }),
  lowest,
  highest,
  step,
  expect: (quality) => differenceLog(chroma, quality),
});
