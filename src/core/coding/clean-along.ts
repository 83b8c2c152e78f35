/** From which size on nothing would be seen, in the format of a setting. */
import { CLEAN } from "../difference";
import { asTried, type CleanArm, solveClean } from "./clean";
import { cleanJpeg } from "./jpeg-clean";
import { stepOf } from "./jpeg-search";
import { differenceLog } from "./prior";
import { OF_SAMPLE } from "./sampled";
import type { AvifSetting, Picture, Setting, WebpSetting, Weighed } from "./types";

const SAMPLE_BUDGET = 5;
const BUDGET = 4;

/** The trials of the whole picture that were made; none where the format has no quality. */
export async function cleanAlong(picture: Picture, setting: Setting): Promise<Weighed[]> {
  if (setting.format === "jpeg") {
    const { table } = setting;
    const step = stepOf(table, picture.pixels);
    const bounds = { lowest: 1, highest: 100, step, table };
    return (await cleanJpeg({ picture, limit: CLEAN, ...bounds })).made;
  }
  if (setting.format !== "webp" && setting.format !== "avif") return [];
  return solveWhole(picture, {
    setting: (quality) => ({ ...setting, quality }),
    lowest: 1,
    highest: 100,
    expect: (quality) => differenceLog(setting.format, quality),
  });
}

/** Settled on the sample of a large picture first, whose whole takes seconds. */
export async function solveWhole<S extends WebpSetting | AvifSetting>(
  picture: Picture,
  arm: CleanArm<S>,
): Promise<Weighed<S>[]> {
  const sample = await picture.sample();
  const guess = sample
    ? await solveClean({ picture: sample, arm, limit: CLEAN / OF_SAMPLE, budget: SAMPLE_BUDGET })
    : null;
  return (
    await solveClean({
      picture,
      arm: guess ? asTried(arm, guess.made) : arm,
      limit: CLEAN,
      budget: sample ? BUDGET : SAMPLE_BUDGET + 1,
    })
  ).made;
}
