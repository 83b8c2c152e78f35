/** The plan of one photo in numbered plain sentences, each with its reason. */
import { clauseWords, formatName, type Brief, type ResolvedBrief } from "../brief";
import { keepsPixels, swapsSides, targetFor, type Geometry } from "../frame";
import { spaceName, type Facts } from "../proof";
import type { Setting } from "../search";
import { formatBytes, formatPpi, formatSize, trimNumber } from "../units";

export interface Step {
  do: string;
  why: string;
}

/** How the file will be, or was, encoded. `bytes` is measured; `about` an estimate before that. */
export interface Encoding {
  setting: Setting | null;
  format: string;
  bytes: number | null;
  about: number | null;
  told: string[];
}

export interface PlanInput {
  brief: Brief;
  resolved: ResolvedBrief;
  facts: Facts;
  geometry: Geometry;
  encoding: Encoding;
  /** ppi to be written; null where none is. */
  writePpi: number | null;
  dropped: string[];
}

/** Steps for a photo that is encoded anew, in the order in which they are carried out. */
export function planSteps(input: PlanInput): Step[] {
  const { facts } = input;
  const steps: Step[] = [];
  if (facts.pages > 1) steps.push({ do: "Use the first page", why: `the file holds ${facts.pages} pictures` });
  if (facts.orientation !== 1) {
    steps.push({ do: swapsSides(facts.orientation) ? "Turn it upright" : "Set it straight", why: "its EXIF orientation says so" });
  }
  if (facts.colourSpace !== "srgb") steps.push({ do: "Turn colours into sRGB", why: `the file is in ${spaceName(facts.colourSpace)}` });
  steps.push(...frameSteps(input));
  if ((facts.bits ?? 8) > 8) steps.push({ do: "Bring it to 8 bits", why: `the file has ${facts.bits} bits a channel` });
  if (facts.alpha && input.encoding.format === "jpeg") {
    steps.push({ do: `Lay it on ${input.resolved.background}`, why: "JPEG holds no transparency" });
  }
  steps.push(...encodingSteps(input.encoding, input.resolved));
  if (input.writePpi !== null) steps.push({ do: `Write ${formatPpi(input.writePpi)}`, why: densityReason(input) });
  if (input.dropped.length) steps.push({ do: `Leave out ${input.dropped.join(", ")}`, why: metadataReason(input) });
  return steps;
}

function densityReason({ brief, resolved, facts }: PlanInput): string {
  const gaveWay = targetFor(resolved, facts).lost.some(({ clause }) => clause === "paper");
  if (brief.paper) return gaveWay ? `so that nothing sticks out of ${clauseWords(brief, "paper")}` : `so that it prints ${clauseWords(brief, "paper")}`;
  return brief.resolution ? "the brief asks for it" : "as the photo says";
}

/** Steps for a photo whose picture data stay as they are. */
export function passSteps(input: PlanInput, identical: boolean): Step[] {
  const steps: Step[] = [{ do: "Leave the picture data as they are", why: "they obey the brief already" }];
  if (identical) return [{ do: "Hand it over as it is", why: "it obeys the brief already" }];
  if (input.dropped.length) steps.push({ do: `Leave out ${input.dropped.join(", ")}`, why: metadataReason(input) });
  if (input.writePpi !== null) steps.push({ do: `Write ${formatPpi(input.writePpi)}`, why: densityReason(input) });
  return steps;
}

const metadataReason = (input: PlanInput) => (input.brief.metadata ? "the brief asks for it" : "private data stay with you unless the brief asks for them");

function frameSteps({ facts, geometry, resolved }: PlanInput): Step[] {
  const steps: Step[] = [];
  const size = formatSize(geometry.width, geometry.height);
  if (keepsPixels(geometry, facts)) return [];
  const asked = `the brief asks for ${size} px`;
  if (geometry.mode === "fill" && geometry.cut > 0) {
    steps.push({ do: `Cut ${percent(geometry.cut)} away, ${where(geometry, facts)}`, why: `${size} has another shape than ${formatSize(facts.width, facts.height)}` });
  }
  if (geometry.mode === "stretch") steps.push({ do: "Stretch it, so it is distorted", why: "the brief asks for it" });
  if (Math.abs(geometry.scale - 1) < 1e-9) {
    if (!steps.length && geometry.mode !== "pad") steps.push({ do: `Keep ${size} px`, why: "nothing has to be resized" });
  } else if (geometry.scale < 1) {
    steps.push({ do: `Reduce ${trimNumber(1 / geometry.scale, 1)} × to ${formatSize(geometry.place.width, geometry.place.height)} px`, why: `${asked}; Lanczos 3` });
  } else {
    steps.push({ do: `Enlarge ${trimNumber(geometry.scale, 1)} × to ${formatSize(geometry.place.width, geometry.place.height)} px`, why: `${asked}; the pixels between are made up` });
  }
  if (geometry.mode === "pad") steps.push({ do: `Add ${resolved.background} around it to ${size} px`, why: "nothing of the photo is cut" });
  return steps;
}

function where(geometry: Geometry, facts: Facts): string {
  const sideways = geometry.crop.width < facts.width - 0.5;
  const rest = sideways ? facts.width - geometry.crop.width : facts.height - geometry.crop.height;
  const at = (sideways ? geometry.crop.x : geometry.crop.y) / Math.max(1e-9, rest);
  if (at < 0.34) return sideways ? "keeping the left" : "keeping the top";
  if (at > 0.66) return sideways ? "keeping the right" : "keeping the bottom";
  return "keeping the middle";
}

function encodingSteps(encoding: Encoding, brief: ResolvedBrief): Step[] {
  const size = encoding.bytes !== null ? `${formatBytes(encoding.bytes)} measured` : `about ${formatBytes(encoding.about ?? 0)}, not measured yet`;
  const limit = brief.fileSize.max !== null ? `, ceiling ${formatBytes(brief.fileSize.max)}` : ", no ceiling asked";
  const steps: Step[] = [{ do: settingWords(encoding.setting, encoding.format), why: size + limit }];
  for (const told of encoding.told) {
    const [what, why] = told.split(/, because (.*)/s);
    steps.push({ do: what[0].toUpperCase() + what.slice(1), why: why ?? "" });
  }
  return steps;
}

/** "JPEG 4:4:4, quality 94", "PNG, every colour kept". */
export function settingWords(setting: Setting | null, format: string): string {
  if (!setting) return `Save as ${formatName(format)}`;
  if (setting.format === "png") return `PNG, ${setting.colours ? `${setting.colours} colours` : "every colour kept"}`;
  return `JPEG ${setting.chroma}, quality ${setting.quality}`;
}

export function percent(share: number): string {
  const value = share * 100;
  return value < 1 ? "under 1 %" : `${Math.round(value)} %`;
}
