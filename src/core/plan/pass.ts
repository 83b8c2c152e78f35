/** Whether a file's picture data can stay as they are, and if not, why. */
import { WRITABLE, within, type Brief, type OutputFormat, type ResolvedBrief } from "../brief";
import { keepsPixels, type Geometry } from "../frame";
import type { Facts } from "../proof";

/** The formats to try, in order: those of the brief, else the source's own kind, else JPEG. */
export function allowedFormats(brief: ResolvedBrief, facts: Facts): OutputFormat[] {
  if (brief.formats) return brief.formats;
  const own = facts.format as OutputFormat;
  return [WRITABLE.includes(own) ? own : "jpeg"];
}

/**
 * Reasons to encode anew, in words; empty where every clause but file size is
 * satisfied by the picture data (file size is judged on the rewritten bytes).
 */
export function reasonsToEncode(brief: Brief, resolved: ResolvedBrief, facts: Facts, geometry: Geometry): string[] {
  const reasons: string[] = [];
  if (resolved.formats && !(resolved.formats as string[]).includes(facts.format)) reasons.push("another format is asked");
  if (!keepsPixels(geometry, facts)) reasons.push("other pixels are asked");
  const q = resolved.quality;
  if (q && facts.quality !== null && !within({ exact: null, ...q }, facts.quality)) reasons.push("another quality is asked");
  if (brief.colour?.space === "srgb" && facts.colourSpace !== "srgb") reasons.push("other colours are asked");
  if (brief.colour?.bits !== undefined && brief.colour.bits !== facts.bits) reasons.push("other bits are asked");
  if (brief.colour?.profile === "embed" && !facts.profile) reasons.push("a colour profile is asked");
  if (brief.colour?.profile === "omit" && facts.profile && facts.colourSpace !== "srgb") reasons.push("the profile is to go, so the colours must become sRGB");
  if (resolved.metadata === "none" && facts.orientation !== 1) reasons.push("the turning mark goes with the metadata");
  const rewrites = brief.resolution !== undefined || brief.paper !== undefined || (resolved.metadata === "none" ? facts.metadata : facts.privateData.length > 0);
  if (rewrites && facts.format !== "jpeg" && facts.format !== "png") reasons.push("its headers have to change");
  return reasons;
}
