/**
 * From a brief and a photo to one format, size and setting: the order in which
 * things give way. The pictures themselves are made by a workshop that is passed in.
 */

import { formatName, type OutputFormat, type ResolvedBrief } from "../brief";
import { type Geometry, rescale } from "../geometry";
import { formatBytes, formatSize } from "../units";
import { choosesPixels, fitAsSeen } from "./as-seen";
import { toldAsSeen } from "./as-seen-words";
import { search } from "./one-format";
import type { FitTask, Fitted, Goal, SearchResult } from "./types";
import { weighed } from "./weighed";

type Met = Extract<Fitted, { ok: true }>;

/** Formats that cannot be coded more coarsely: before pixels are given up, the next format is tried. */
const LOSSLESS: ReadonlySet<OutputFormat> = new Set(["png", "tiff", "gif", "bmp"]);
/** How often pixels may be changed in the hope of a better size. */
const RESIZES = 4;

export async function fitFormats(task: FitTask): Promise<Fitted> {
  let encodes = 0;
  const failures: string[] = [];
  const met: Met[] = [];
  for (const [i, format] of task.formats.entries()) {
    const last = i === task.formats.length - 1 && !met.length;
    const fitted = await fitFormat(task, format, last);
    encodes += fitted.encodes;
    if (!fitted.ok) failures.push(fitted.why);
    else if (task.brief.pick === "smallest") met.push(fitted);
    else {
      const passed = task.formats.slice(0, i).map(formatName).join(" and ");
      const told = passed
        ? [`${formatName(format)}, because ${passed} cannot meet the range`, ...fitted.told]
        : fitted.told;
      return { ...fitted, encodes, told };
    }
  }
  if (!met.length) return { ok: false, why: failures.join(" "), encodes };
  const [smallest, ...others] = met.sort((a, b) => a.bytes - b.bytes);
  const rest = others
    .map((other) => `${formatName(other.setting.format)} takes ${formatBytes(other.bytes)}`)
    .join(", ");
  const told = rest
    ? [`${formatName(smallest.setting.format)}, because ${rest}`, ...smallest.told]
    : smallest.told;
  return { ...smallest, encodes, told };
}

async function fitFormat(task: FitTask, format: OutputFormat, last: boolean): Promise<Fitted> {
  const { brief } = task;
  const goal: Goal = { min: brief.fileSize.min, max: brief.fileSize.max, aim: brief.fileSize.aim };
  if (goal.max === null && task.softCeiling !== null && (goal.min ?? 0) < task.softCeiling)
    goal.max = task.softCeiling;
  // Colours of PNG are given up only where no other format is left.
  const may = format !== "png" || last;
  const seen = may && choosesPixels(task, format) ? await fitAsSeen(task, format, goal) : null;
  if (seen?.found) return toldAsSeen(task, seen);
  let geometry = seen?.geometry ?? task.geometry;
  let encodes = seen?.encodes ?? 0;
  const told: string[] = [];
  let result: SearchResult | null = null;
  for (let round = 0; round <= RESIZES; round += 1) {
    const free = rescale({ brief, photo: task.photo, from: geometry, area: 0.9, frame: task.frame }) !== null;
    const picture = await task.picture(geometry, format);
    result = await search({ picture, format, goal, brief, free, last });
    encodes += result.encodes;
    if (result.outcome === "met")
      return weighed(task, goal, {
        format,
        geometry,
        result,
        picture,
        encodes,
        told: [...result.told, ...told],
      });
    const next =
      round < RESIZES && (!LOSSLESS.has(format) || last) ? resized(task, geometry, result, goal) : null;
    if (!next) break;
    const direction =
      result.outcome === "over"
        ? "fewer pixels, because the ceiling leaves no room for more"
        : "more pixels, because the floor is not reached without them";
    const yielded = wishesThatYield(brief, next);
    // Of several changes of size only the last is told.
    told.splice(0, 1, `${direction} (${formatSize(next.width, next.height)})${yielded}`);
    geometry = next;
  }
  if (result!.outcome === "over") {
    const why =
      `Cannot: the smallest ${formatSize(geometry.width, geometry.height)} ${formatName(format)} of ` +
      `this photo is ${formatBytes(result!.found.bytes)}, the ceiling is ${formatBytes(goal.max!)}. ` +
      `Raise the ceiling${format === "tiff" && brief.quality === null ? ", ask a quality too (for JPEG inside)," : ""} ` +
      "or allow fewer pixels.";
    return { ok: false, why, encodes };
  }
  const { found } = result!;
  const largest =
    `the largest ${formatSize(geometry.width, geometry.height)} ${formatName(format)} of this photo is ` +
    `${formatBytes(found.bytes)}, the floor is ${formatBytes(goal.min!)}`;
  if (brief.padding === "never")
    return { ok: false, why: `Cannot: ${largest}. Allow padding or more pixels.`, encodes };
  told.unshift(...result!.told);
  told.push(`filled up with a comment of ${formatBytes(goal.min! - found.bytes)}, because ${largest}`);
  return { ok: true, ...found, geometry, padTo: goal.min, encodes, told, ...UNSEEN };
}

const UNSEEN = { difference: null, cleanFrom: null, gaveUp: null } as const;

/** The next geometry to try. Size grows a little slower than the number of pixels. */
function resized(task: FitTask, geometry: Geometry, result: SearchResult, goal: Goal): Geometry | null {
  const wanted =
    result.outcome === "over" ? goal.max! * 0.9 : Math.min(goal.min! * 1.1, goal.max ?? Infinity);
  const area = (wanted / Math.max(1, result.found.bytes)) ** (1 / 0.85);
  return rescale({
    brief: task.brief,
    photo: task.photo,
    from: geometry,
    area: result.outcome === "over" ? Math.min(0.95, area) : Math.max(1.05, area),
    frame: task.frame,
  });
}

function wishesThatYield(brief: ResolvedBrief, geometry: Geometry): string {
  const sides = {
    width: geometry.width,
    height: geometry.height,
    longSide: Math.max(geometry.width, geometry.height),
    shortSide: Math.min(geometry.width, geometry.height),
  };
  const lost = (Object.keys(sides) as (keyof typeof sides)[]).filter(
    (key) =>
      brief.wishes.has(key) && brief.pixels[key]?.exact != null && brief.pixels[key]?.exact !== sides[key],
  );
  return lost.length ? "; the wished size gave way" : "";
}
