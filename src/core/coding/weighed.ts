/** What is told of a file that lies in its range where its pixels are given: what is seen, and from which size on nothing would be. */

import type { OutputFormat } from "../brief";
import { CLEAN } from "../difference";
import { type Geometry, pixelsOf } from "../geometry";
import { formatBytes, trimNumber } from "../units";
import { cleanAlong } from "./clean-along";
import { asPages } from "./one-format";
import { SURELY_CLEAN, SURELY_SEEN, sampledDifference } from "./sampled";
import {
  type FitTask,
  type Fitted,
  type Goal,
  LARGE_PIXELS,
  type Picture,
  type SearchResult,
  type Setting,
  type Weighed,
} from "./types";

interface Met {
  format: OutputFormat;
  geometry: Geometry;
  result: SearchResult;
  picture: Picture;
  encodes: number;
  told: string[];
}

const LOSSY: ReadonlySet<OutputFormat> = new Set(["jpeg", "webp", "avif", "pdf"]);

export async function weighed(task: FitTask, goal: Goal, met: Met): Promise<Fitted> {
  const { found } = met.result;
  const seen = await seenOf(task, goal, met);
  if (seen === null || seen.difference <= CLEAN)
    return {
      ok: true,
      ...found,
      geometry: met.geometry,
      padTo: null,
      encodes: met.encodes,
      told: met.told,
      difference: seen?.difference ?? null,
      cleanFrom: null,
      gaveUp: noRoom(task, met.geometry),
    };
  let best = { ...found, geometry: met.geometry, told: met.told, difference: seen.difference };
  let { encodes } = met;
  const forced = mayForce(task, goal, met);
  const clean = forced && best.difference > CLEAN ? await smallestClean(task, best) : null;
  encodes += clean?.encodes ?? 0;
  // The search for a clean file knows more tables than the one for a size: what it found may fit after all.
  if (clean?.found && clean.found.bytes <= goal.max! && clean.found.bytes >= (goal.min ?? 0))
    best = { ...best, ...clean.found };
  if (forced && best.difference > CLEAN) {
    const bytes = clean?.from && `${about(clean)}${formatBytes(clean.from)}`;
    const from = bytes ? `; from ${bytes} on nothing would be seen` : "";
    best.told = [
      ...best.told,
      `visible loss (difference ${about(seen)}${trimNumber(best.difference, 2)}), because the ` +
        `ceiling of ${formatBytes(goal.max!)} forces it${from}`,
    ];
  }
  return {
    ok: true,
    setting: best.setting,
    bytes: best.bytes,
    geometry: best.geometry,
    padTo: null,
    encodes,
    told: best.told,
    difference: seen.about ? null : best.difference,
    cleanFrom: best.difference > CLEAN ? (clean?.from ?? null) : null,
    gaveUp: noRoom(task, met.geometry),
  };
}

const about = (told: { about: boolean }): string => (told.about ? "about " : "");

/** Pixels were given up to get under a ceiling at all. */
const noRoom = (task: FitTask, geometry: Geometry): string | null =>
  pixelsOf(geometry) < pixelsOf(task.geometry) ? "the ceiling leaves no room for more" : null;

/** Whether the ceiling, and nothing else, decides how coarsely the picture is coded. */
const mayForce = (task: FitTask, goal: Goal, { format }: Met): boolean =>
  goal.max !== null && task.brief.fileSize.max !== null && goal.aim === "best" && LOSSY.has(format);

interface Seen {
  difference: number;
  /** Told by the sample of a large picture, which leaves no doubt: the whole takes seconds to look at. */
  about: boolean;
}

/** The difference, where something is decided by it; null where the choice does not need it. */
async function seenOf(task: FitTask, goal: Goal, met: Met): Promise<Seen | null> {
  const { picture, result } = met;
  // Fewer pixels are held against more of them, which no later station does.
  const fewer = pixelsOf(met.geometry) < pixelsOf(task.view);
  const large = picture.pixels > LARGE_PIXELS;
  if (!fewer && (!mayForce(task, goal, met) || (large && task.untold))) return null;
  const { setting } = result.found;
  const sampled = fewer ? null : await sampledDifference(picture, setting);
  if (sampled !== null && sampled <= SURELY_CLEAN) return null;
  if (sampled !== null && large && sampled > SURELY_SEEN) return { difference: sampled, about: true };
  return { difference: await picture.difference(setting), about: false };
}

interface Best {
  setting: Setting;
  bytes: number;
  geometry: Geometry;
  difference: number;
}

interface CleanFile {
  /** A file that was really made. */
  found: Weighed | null;
  /** Its bytes, or about those of the file that a sample foretells; null where none is clean. */
  from: number | null;
  about: boolean;
  encodes: number;
}

/** The smallest file of this geometry without visible loss. */
async function smallestClean(task: FitTask, { geometry, setting, bytes }: Best): Promise<CleanFile> {
  const whole = await task.picture(geometry, setting.format);
  const page = setting.format === "pdf";
  const picture = page ? asPages(whole) : whole;
  const own: Setting = setting.format === "pdf" ? { ...setting, format: "jpeg" } : setting;
  const sample = picture.pixels > LARGE_PIXELS ? await picture.sample() : null;
  const made = await cleanAlong(sample ?? picture, own);
  const [least] = made.filter((trial) => trial.difference <= CLEAN).sort((a, b) => a.bytes - b.bytes);
  if (!least) return { found: null, from: null, about: false, encodes: sample ? 0 : made.length };
  // Of so many pixels each file takes a second and more: what a sample foretells is enough to be told.
  if (sample) {
    const from = Math.round((least.bytes * bytes) / (await sample.encode(own)));
    return { found: null, from, about: true, encodes: 0 };
  }
  const found = page ? { ...least, setting: { ...least.setting, format: "pdf" } as Setting } : least;
  return { found, from: least.bytes, about: false, encodes: made.length };
}
