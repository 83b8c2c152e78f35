/** What is said of pixels that were given up, and of loss that a ceiling forces. */
import type { View } from "../brief";
import { CLEAN } from "../difference";
import { exceedsView, type Geometry, pixelsOf, SEEN_PPI } from "../geometry";
import { formatBytes, formatSize, trimNumber } from "../units";
import { type AsSeen, holdsNoMore } from "./as-seen";
import type { FitTask, Fitted } from "./types";

/** "whole on a screen of 1920 × 1080 px": goes on from "seen". */
export function viewWords(view: View): string {
  if (view.kind === "pixels") return "pixel by pixel, at 100 %";
  if (view.kind === "paper") return `at its paper size, ${SEEN_PPI} ppi`;
  return `whole on a screen of ${formatSize(view.width, view.height)} px`;
}

export function toldAsSeen(task: FitTask, seen: AsSeen): Extract<Fitted, { ok: true }> {
  const { brief, geometry: full } = task;
  const { found, geometry, difference, encodes, cleanFrom, padTo } = seen;
  const gaveUp = pixelsOf(geometry) < pixelsOf(full) ? pixelsTold(task, geometry) : null;
  const told = [...seen.told];
  if (difference !== null && difference > CLEAN && !holdsNoMore(found.setting))
    told.push(
      `visible loss (difference ${trimNumber(difference, 2)}, seen ${viewWords(brief.view)}), because the ` +
        `ceiling of ${formatBytes(brief.fileSize.max!)} forces it` +
        (cleanFrom === null ? "" : `; from about ${formatBytes(cleanFrom)} on all pixels stay clean`),
    );
  if (padTo !== null)
    told.push(
      `filled up with a comment of ${formatBytes(padTo - found.bytes)}, because the range is narrower than a ` +
        "step of quality",
    );
  return { ok: true, ...found, geometry, padTo, encodes, told, difference, cleanFrom, gaveUp };
}

function pixelsTold(task: FitTask, geometry: Geometry): string {
  const { brief, view } = task;
  const seen = `seen ${viewWords(brief.view)}`;
  const ceiling = `under the ceiling of ${formatBytes(brief.fileSize.max!)}`;
  const [pixels, looked] = [pixelsOf(geometry), pixelsOf(view)];
  if (pixels > looked) return `more of them would not stay clean ${ceiling}`;
  if (pixels === looked && exceedsView(task, view))
    return `as few as the brief allows, and still more than are ${seen}`;
  if (pixels === looked) return `${seen}, where more would show nothing more and cost quality ${ceiling}`;
  return `${seen}, fewer that are coded finely look closer to the photo ${ceiling} than more coded coarsely`;
}
