/** Whether a file's picture data can stay as they are, and if not, why. */
import {
  type Brief,
  CAN,
  holdsColours,
  holdsFrames,
  type OutputFormat,
  type ResolvedBrief,
  WRITABLE,
  within,
} from "../brief";
import type { MovingFormat } from "../coding";
import { type Geometry, keepsPixels } from "../geometry";
import { type Facts, isMoving } from "../proof";
import type { WrittenKind } from "./names";

/** The formats to try, in order: those of the brief, else the source's own kind, else JPEG. */
export function allowedFormats(brief: ResolvedBrief, facts: Facts): OutputFormat[] {
  if (brief.formats) {
    const able = brief.formats.filter((format) => holdsColours(brief, format));
    return able.length ? able : brief.formats;
  }
  const own = facts.format as OutputFormat;
  // A map beside an ordinary picture is written where a format for one is asked.
  const holds = (format: OutputFormat) =>
    holdsColours(brief, format) && (brief.light !== "hdr" || CAN[format].hdr);
  if (WRITABLE.includes(own) && holds(own)) return [own];
  return [(["jpeg", "tiff", "png", "avif"] as const).find(holds) ?? "jpeg"];
}

/** Whether a file of layers or pages stays one: asked, there, and not ruled out by the formats. */
export function keepsLayers(brief: ResolvedBrief, facts: Facts): boolean {
  if (brief.layers !== "keep") return false;
  // OpenRaster is no format that a brief can ask for; a brief that names others rules it out.
  return facts.format === "ora"
    ? brief.formats === null
    : facts.format === "tiff" &&
        facts.pages > 1 &&
        (brief.formats === null || brief.formats.includes("tiff"));
}

/** Formats in which an animation can stay one, in the order in which they are tried. */
export const movingFormats = (brief: ResolvedBrief, facts: Facts): MovingFormat[] =>
  allowedFormats(brief, facts).filter((format): format is MovingFormat => holdsFrames(brief, format));

/** Whether an animation stays one: asked, there, and not ruled out by the formats. */
export const keepsFrames = (brief: ResolvedBrief, facts: Facts): boolean =>
  brief.frames === "keep" && isMoving(facts) && movingFormats(brief, facts).length > 0;

/** The kind of file that will be written, as far as that is known before it is made. */
export const writtenKind = (brief: ResolvedBrief, facts: Facts): WrittenKind =>
  keepsLayers(brief, facts) ? (facts.format as WrittenKind) : allowedFormats(brief, facts)[0];

export interface PassTask {
  brief: Brief;
  resolved: ResolvedBrief;
  facts: Facts;
  geometry: Geometry;
  /** What a person says of the colours of a photo that says nothing itself. */
  takenAs?: string;
}

/**
 * Reasons to encode anew, in words; empty where every clause but file size is
 * satisfied by the picture data (file size is judged on the rewritten bytes).
 */
export function reasonsToEncode({ brief, resolved, facts, geometry, takenAs }: PassTask): string[] {
  const reasons: string[] = [];
  if (resolved.formats && !(resolved.formats as string[]).includes(facts.format))
    reasons.push("another format is asked");
  else if (!resolved.formats && !(WRITABLE as readonly string[]).includes(facts.format))
    reasons.push("its own kind of file is not written");
  if (facts.onePage || (brief.layers === "flatten" && facts.format === "tiff" && facts.pages > 1))
    reasons.push("one page of several is asked");
  if (brief.frames === "first" && isMoving(facts)) reasons.push("one frame of several is asked");
  if (!keepsPixels(geometry, facts)) reasons.push("other pixels are asked");
  const q = resolved.quality;
  if (q && facts.quality !== null && !within({ exact: null, ...q }, facts.quality))
    reasons.push("another quality is asked");
  const space = brief.colour?.space;
  if (space !== undefined && space !== "keep" && facts.colourSpace !== space)
    reasons.push("other colours are asked");
  if (takenAs && !facts.profile && facts.colourSpace === "srgb")
    reasons.push("its colours are taken as other ones than it says");
  if (brief.colour?.light !== undefined && (brief.colour.light === "hdr") !== (facts.light !== undefined))
    reasons.push(brief.colour.light === "hdr" ? "light above white is asked" : "nothing may lie above white");
  if (brief.colour?.bits !== undefined && brief.colour.bits !== facts.bits)
    reasons.push("other bits are asked");
  if (brief.colour?.profile === "embed" && !facts.profile) reasons.push("a colour profile is asked");
  if (
    brief.colour?.profile === "omit" &&
    facts.profile &&
    facts.colourSpace !== "srgb" &&
    space === undefined
  )
    reasons.push("the profile is to go, so the colours must become sRGB");
  if (resolved.metadata === "none" && facts.orientation !== 1)
    reasons.push("the turning mark goes with the metadata");
  if (brief.sharpen && brief.sharpen.amount > 0) reasons.push("it is to be sharpened");
  const cleans =
    resolved.metadata === "none"
      ? facts.metadata
      : resolved.metadata === "private" && facts.privateData.length > 0;
  if (brief.ink) reasons.push("its ink is to be cleaned");
  if (brief.border) reasons.push("a border is asked");
  const rewrites = brief.resolution !== undefined || brief.paper !== undefined || cleans;
  if (rewrites && facts.fixedHeaders) reasons.push("its headers have to change");
  // These cannot leave a profile out of a file that stays, where the brief wants none.
  const unprofiles = brief.colour?.profile === "omit" && facts.profile;
  if (unprofiles && facts.fixedHeaders) reasons.push("its profile has to go");
  return reasons;
}
