/**
 * The plan of one photo in numbered plain sentences, each with its reason, in the order in which it is
 * carried out:
 * colours, frame, pixels, sharpening, bits, encoding, resolution.
 */

import { type Brief, CAN, clauseWords, formatName, type OutputFormat, type ResolvedBrief } from "../brief";
import { type Setting, TIGHT_SECONDS, TIGHTEST } from "../coding";
import { type Geometry, keepsPixels, targetFor } from "../geometry";
import {
  aimedSize,
  CENTRED,
  type Frame,
  type KernelName,
  lightSettingsOf,
  rawTakingOf,
  swapsSides,
  turnedSize,
} from "../photo";
import type { ConversionReport } from "../pixels/colour";
import { DEFAULT_REDUCING, kernelNames } from "../pixels/resample";
import { type Facts, isMoving, spaceName } from "../proof";
import { formatBytes, formatPpi, formatSize, trimNumber } from "../units";
import { keepsFrames } from "./pass";
import { CUT_TO_CHECK } from "./verdict";

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
  /** Why pixels were given up that the brief leaves free; absent where none were. */
  gaveUp?: string | null;
}

export interface PlanInput {
  brief: Brief;
  resolved: ResolvedBrief;
  facts: Facts;
  geometry: Geometry;
  frame?: Frame;
  encoding: Encoding;
  /** ppi to be written; null where none is. */
  writePpi: number | null;
  dropped: string[];
  /** What was really done, where the picture was made. */
  kernel?: KernelName | null;
  conversion?: ConversionReport | null;
  /** The share of the photo that was found to be ink; absent where none was looked for. */
  ink?: { lines: number } | null;
  /** Nobody has moved the frame. */
  proposed?: boolean;
}

/** Steps for a photo that is encoded anew. */
export function planSteps(input: PlanInput): Step[] {
  const { facts } = input;
  const steps: Step[] = [];
  steps.push(...takingSteps(input));
  if (facts.orientation !== 1) {
    steps.push({
      do: swapsSides(facts.orientation) ? "Turn it upright" : "Set it straight",
      why: "its EXIF orientation says so",
    });
  }
  if (input.ink) steps.push(...inkSteps(input.brief, input.ink));
  steps.push(
    ...colourSteps(input),
    ...lightSteps(input),
    ...frameSteps(input),
    ...sharpenSteps(input),
    ...bitSteps(input),
  );
  const format = input.encoding.format as OutputFormat;
  if (facts.alpha && CAN[format] && !CAN[format].transparency) {
    steps.push({
      do: `Lay it on ${input.resolved.background}`,
      why: `${formatName(format)} holds no transparency`,
    });
  }
  steps.push(...encodingSteps(input.encoding, input.resolved));
  if (input.writePpi !== null && CAN[format]?.resolution !== false)
    steps.push({
      do: `Write ${formatPpi(input.writePpi)}`,
      why: `${densityReason(input)}; it changes no pixels`,
    });
  if (input.dropped.length)
    steps.push({ do: `Leave out ${input.dropped.join(", ")}`, why: metadataReason(input) });
  return steps;
}

export const KEPT_MOVING = "the brief asks for it";

/** How the photo is taken from a file that holds more than one plain picture. */
function takingSteps({ facts, resolved, frame = CENTRED }: PlanInput): Step[] {
  const steps: Step[] = [];
  const { format, pages, preview } = facts;
  if (format === "raw") {
    const { way, brighten, recover } = rawTakingOf(frame);
    if (way === "camera")
      steps.push({
        do:
          "Take the camera's own " +
          `picture${preview ? `, ${formatSize(preview.width, preview.height)} px` : ""}`,
        why: "you chose it; it lies in the file beside the sensor's values",
      });
    else {
      const light = [
        brighten ? "brightened to white" : "as dark as it was taken",
        recover ? "too bright lights recovered" : "too bright lights white",
      ].join(", ");
      steps.push({ do: "Develop the sensor's values, white balance as shot", why: light });
    }
  } else if (keepsFrames(resolved, facts))
    steps.push({ do: `Keep ${pages} frames moving`, why: KEPT_MOVING });
  else if (isMoving(facts)) steps.push({ do: "Use the first frame", why: `the file holds ${pages} frames` });
  else if (pages > 1) {
    const page = format === "tiff" ? (frame.page ?? 1) : 1;
    steps.push({
      do: format === "heif" ? "Use the main picture" : page > 1 ? `Use page ${page}` : "Use the first page",
      why: `the file holds ${pages} pictures${page > 1 ? "; you chose this one" : ""}`,
    });
  }
  if (format === "ora") {
    const chosen = frame.layers && frame.layers.hidden.length + frame.layers.shown.length > 0;
    steps.push({
      do: "Flatten its layers",
      why: chosen
        ? "the file keeps them apart; those that you chose are laid on each other"
        : "the file keeps them apart; those that are visible are laid on each other",
    });
  }
  return steps;
}

/** What happens to light above white. */
function lightSteps({ resolved, facts, frame, encoding }: PlanInput): Step[] {
  const own =
    facts.gainMap !== undefined
      ? facts.gainMap > 1
      : facts.light
        ? facts.light.reach > 1
        : facts.format === "raw" &&
          rawTakingOf(frame ?? CENTRED).way === "developed" &&
          rawTakingOf(frame ?? CENTRED).recover;
  const can = CAN[encoding.format as OutputFormat];
  const wants = resolved.light === "hdr" && (can?.hdr || can?.lightMap);
  if (wants && own)
    return [
      {
        do: "Keep the light above white",
        why:
          facts.format === "raw"
            ? "the sensor has seen it"
            : facts.gainMap !== undefined
              ? "the file's gain map has it"
              : "the file has it",
      },
    ];
  if (wants) {
    const { strength, start, peak } = lightSettingsOf(frame ?? CENTRED);
    return [
      {
        do: `Take lights above white, up to ${trimNumber(peak, 1)} times`,
        why: `from ${start} % of the scale on, strength ${strength}; what is darker stays as it is`,
      },
    ];
  }
  return facts.light && facts.light.reach > 1
    ? [
        {
          do: "Bring lights under white",
          why:
            `they reach ${trimNumber(facts.light.reach, 1)} times white, and an ordinary picture ends ` +
            "there",
        },
      ]
    : [];
}

function inkSteps(brief: Brief, { lines }: { lines: number }): Step[] {
  const left = lines
    ? `light, tint${lines > 1 ? `, ${lines} lines of the paper` : ", a line of the paper"} and specks ` +
      "are left out"
    : "light, tint, creases and specks of the paper are left out";
  return [
    {
      do:
        brief.ink === "black"
          ? "Make the ink black on white, its edges soft"
          : "Keep the ink's colour, the paper white",
      why: left,
    },
    { do: "Cut it to the ink, with an even margin", why: "what lies around it is only paper" },
  ];
}

function colourSteps({ brief, resolved, facts, frame, conversion }: PlanInput): Step[] {
  const steps: Step[] = [];
  const { takenAs } = frame ?? {};
  const relabelled = takenAs !== undefined && !facts.profile && facts.colourSpace === "srgb";
  if (facts.profileFault)
    steps.push({ do: "Take its colours as sRGB", why: `the profile in the file ${facts.profileFault}` });
  if (relabelled)
    steps.push({
      do: `Take its colours as ${spaceName(takenAs)}: relabelled, not converted`,
      why: "the file says nothing, you do",
    });
  const from = relabelled ? takenAs : facts.colourSpace;
  if (resolved.space === "keep") {
    if (brief.colour)
      steps.push({ do: `Keep the colours in ${spaceName(from)}`, why: "the brief asks for it" });
  } else if (from !== resolved.space) {
    const file =
      facts.format === "raw" ? "the sensor sees colours of its own" : `the file is in ${spaceName(from)}`;
    const moved = conversion && conversionWords(conversion, resolved.space);
    steps.push({
      do: `Turn colours into ${spaceName(resolved.space)}`,
      why: [file, moved].filter(Boolean).join("; "),
    });
  }
  return steps;
}

/** "0.4 % of the pixels fell outside; ΔE 0.1 on average, 3.2 at most". */
export function conversionWords({ outside, meanDelta, maxDelta }: ConversionReport, space: string): string {
  const moved = `ΔE ${trimNumber(meanDelta, 1)} on average, ${trimNumber(maxDelta, 1)} at most`;
  if (space === "gray") return `only the lightness stays, ${moved}`;
  if (outside === 0) return "nothing falls outside";
  return `${outside < 0.0005 ? "under 0.1" : trimNumber(outside * 100, 1)} % fell outside, ${moved}`;
}

function sharpenSteps({ resolved, writePpi }: PlanInput): Step[] {
  const { sharpen } = resolved;
  if (!sharpen || sharpen.amount === 0) return [];
  const at = sharpen.for === "print" ? ` at ${formatPpi(writePpi ?? 300)}` : "";
  return [
    {
      do: `Sharpen for ${sharpen.for}${at}, ${sharpen.amount} of 100`,
      why: "after resizing, which softens edges; on lightness only",
    },
  ];
}

function bitSteps({ resolved, facts, encoding }: PlanInput): Step[] {
  const format = encoding.format as OutputFormat;
  const bits = CAN[format]?.bits.includes(resolved.bits) === false ? 8 : resolved.bits;
  if ((facts.bits ?? 8) > bits)
    return [
      {
        do: `Bring it to ${bits} bits`,
        why:
          `the file has ${facts.bits} bits a channel; last, so that nothing is rounded twice, and with ` +
          "noise where bands would show",
      },
    ];
  if ((facts.bits ?? 8) < bits)
    return [
      { do: `Write ${bits} bits`, why: "the brief asks for it; the photo has no more steps than before" },
    ];
  return [];
}

function densityReason({ brief, resolved, facts, frame }: PlanInput): string {
  const gaveWay = targetFor(resolved, aimedSize(facts, frame ?? CENTRED)).lost.some(
    ({ clause }) => clause === "paper",
  );
  if (brief.paper)
    return gaveWay
      ? `so that nothing sticks out of ${clauseWords(brief, "paper")}`
      : `so that it prints ${clauseWords(brief, "paper")}`;
  return brief.resolution ? "the brief asks for it" : "as the photo says";
}

/** Steps for a photo whose picture data stay as they are. */
export function passSteps(input: PlanInput, identical: boolean): Step[] {
  const steps: Step[] = [{ do: "Leave the picture data as they are", why: "they obey the brief already" }];
  if (identical) return [{ do: "Hand it over as it is", why: "it obeys the brief already" }];
  if (input.dropped.length)
    steps.push({ do: `Leave out ${input.dropped.join(", ")}`, why: metadataReason(input) });
  if (input.writePpi !== null)
    steps.push({ do: `Write ${formatPpi(input.writePpi)}`, why: densityReason(input) });
  return steps;
}

const metadataReason = (input: PlanInput) =>
  input.brief.metadata
    ? "the brief asks for it"
    : "private data stay with you unless the brief asks for them";

function frameSteps(input: PlanInput): Step[] {
  const { facts, geometry, resolved, frame, kernel, proposed } = input;
  const steps: Step[] = [];
  const size = formatSize(geometry.width, geometry.height);
  if (keepsPixels(geometry, facts) && !facts.drawing) return [];
  const seen = turnedSize(facts, { ...CENTRED, turn: geometry.turn });
  const asked = input.encoding.gaveUp ?? `the brief asks for ${size} px`;
  if (geometry.turn)
    steps.push({
      do: `Turn it ${geometry.turn === 270 ? "90° to the left" : `${geometry.turn}°${geometry.turn === 90 ? " to the right" : ""}`}`,
      why: "you turned it",
    });
  if (geometry.angle)
    steps.push({
      do: `Straighten it by ${trimNumber(Math.abs(geometry.angle), 2)}°`,
      why: `you set it ${geometry.angle > 0 ? "clockwise" : "the other way"}`,
    });
  if (geometry.mode === "fill" && geometry.cut > 0) {
    const shape = `${size} has another shape than ${formatSize(seen.width, seen.height)}`;
    const why =
      (frame?.zoom ?? 1) > 1 ? "your frame is closer" : geometry.angle ? "the corners lie outside" : shape;
    steps.push({
      do: `Cut ${percent(geometry.cut)} away, ${where(geometry, seen)}`,
      why: proposed && geometry.cut >= CUT_TO_CHECK ? `${why}; most detail is there, check the frame` : why,
    });
  }
  if (geometry.mode === "stretch")
    steps.push({ do: "Stretch it, so it is distorted", why: "the brief asks for it" });
  const made = formatSize(geometry.place.width, geometry.place.height);
  if (facts.drawing) {
    const why = keepsPixels(geometry, facts) ? "" : `${asked}; `;
    steps.push({ do: `Draw it at ${made} px`, why: `${why}a drawing has no pixels of its own` });
  } else if (Math.abs(geometry.scale - 1) < 1e-9) {
    if (!steps.length && geometry.mode !== "pad")
      steps.push({ do: `Keep ${size} px`, why: "nothing has to be resized" });
  } else if (geometry.scale < 1) {
    steps.push({
      do: `Reduce ${trimNumber(1 / geometry.scale, 1)} × to ${made} px`,
      why: `${asked}; in linear light, ${kernelNames[kernel ?? frame?.kernel ?? DEFAULT_REDUCING]}`,
    });
  } else {
    const how =
      kernel === "nearest" && !frame?.kernel
        ? "few colours and hard edges, so pixels are repeated and edges stay hard"
        : `the pixels between are made up${kernel ? ` by ${kernelNames[kernel]}` : ""}`;
    steps.push({ do: `Enlarge ${trimNumber(geometry.scale, 1)} × to ${made} px`, why: `${asked}; ${how}` });
  }
  if (geometry.border)
    steps.push({
      do: `Draw a border of ${geometry.border} px, ${resolved.border?.colour}`,
      why: `inside the ${size} px that are asked`,
    });
  if (geometry.mode === "pad")
    steps.push({
      do: `Add ${resolved.background} around it to ${size} px`,
      why: "nothing of the photo is cut",
    });
  return steps;
}

const DOWN = ["top", "", "bottom"];
const ACROSS = ["left", "", "right"];
/** "keeping the left", "keeping the top right", "keeping the middle". */
function where({ crop }: Geometry, seen: { width: number; height: number }): string {
  const third = (at: number, length: number, all: number) =>
    all - length < 0.5 ? 1 : at / (all - length) < 0.34 ? 0 : at / (all - length) > 0.66 ? 2 : 1;
  const words = [DOWN[third(crop.y, crop.height, seen.height)], ACROSS[third(crop.x, crop.width, seen.width)]]
    .filter(Boolean)
    .join(" ");
  return `keeping the ${words || "middle"}`;
}

function encodingSteps(encoding: Encoding, brief: ResolvedBrief): Step[] {
  const size =
    encoding.bytes !== null
      ? `${formatBytes(encoding.bytes)} measured`
      : `about ${formatBytes(encoding.about ?? 0)}, not measured yet`;
  const limit =
    brief.fileSize.max !== null
      ? `, ceiling ${formatBytes(brief.fileSize.max)}`
      : brief.total
        ? ""
        : ", no ceiling asked";
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
  switch (setting.format) {
    case "pdf":
      return `PDF page with a JPEG ${setting.chroma}, quality ${Math.round(setting.quality)}`;
    case "jpeg":
      return `JPEG ${setting.chroma}, quality ${Math.round(setting.quality)}`;
    case "png":
      return (
        `PNG, ${setting.colours ? `${setting.colours} colours` : "every colour kept"}` +
        (setting.level === TIGHTEST ? `, packed as tightly as ${TIGHT_SECONDS} s allow` : "")
      );
    case "webp":
      return setting.quality === null ? "WebP, lossless" : `WebP, setting ${setting.quality} of its encoder`;
    case "avif":
      return (
        `AVIF${setting.chroma ? ` ${setting.chroma}` : ""} of ${setting.bits} bits, setting ${setting.quality} of its encoder, effort ` +
        `${setting.effort}`
      );
    case "tiff":
      if (setting.compression === "jpeg")
        return `TIFF with a JPEG ${setting.chroma} inside, quality ${Math.round(setting.quality)}`;
      return setting.compression === "none"
        ? "TIFF, not packed"
        : `TIFF, packed by ${setting.compression === "lzw" ? "LZW" : "Deflate"}, lossless`;
    case "gif":
      return `GIF with ${setting.colours} colours`;
    default:
      return "BMP, 24 bits a pixel";
  }
}

export function percent(share: number): string {
  const value = share * 100;
  return value < 1 ? "under 1 %" : `${Math.round(value)} %`;
}
