/** File sizes that the pixels or the quality can hardly reach. All figures are estimates and say "about". */
import type { Brief, ClauseKey, ResolvedBrief } from "../../brief";
import { aboutJpeg, aboutPng } from "../../coding";
import { pixelsOf, planGeometry, resized } from "../../geometry";
import { GeometryError, type Size } from "../../photo";
import { formatBytes, formatSize, toBytes } from "../../units";
import { exactSize } from "./shape";
import type { Choice, Disagreement } from "./types";

/** 4:4:4 and much detail, against the measured photograph. */
const RICH = 1.6;
/** A photo with little detail, against the same. */
const PLAIN = 0.5;
/**
 * Below this quality nobody would call it a photograph any more; from there to the second, damage is plain.
 */
const [HOPELESS, PLAIN_DAMAGE] = [5, 30];

/** Sides of this share are as few pixels as anybody asks of free ones. */
const LEAST = 0.02;

interface Pixels {
  /** The least and the most pixels that the brief allows; null where it leaves them open. */
  least: number | null;
  most: number | null;
  clauses: ClauseKey[];
  words: string;
}

function pixelsAsked(resolved: ResolvedBrief, photo: Size | null): Pixels {
  const size = exactSize(resolved) ?? (resolved.sizes?.length === 1 ? resolved.sizes[0] : null);
  if (size) {
    const clauses: ClauseKey[] = exactSize(resolved) ? ["width", "height"] : ["sizes"];
    return {
      least: size.width * size.height,
      most: size.width * size.height,
      clauses,
      words: `${formatSize(size.width, size.height)} px`,
    };
  }
  const { width, height, longSide, shortSide } = resolved.pixels;
  const clauses = (["width", "height", "longSide", "shortSide", "box"] as const).filter((key) =>
    key === "box" ? resolved.box : resolved.pixels[key],
  );
  if (photo) return plannedPixels(resolved, photo, clauses);
  const most = (a: number | null | undefined, b: number | null | undefined) => a ?? b ?? null;
  const [w, h] = [
    most(width?.exact ?? width?.max, longSide?.exact ?? longSide?.max),
    most(height?.exact ?? height?.max, longSide?.exact ?? longSide?.max),
  ];
  const box = resolved.box ? resolved.box.width * resolved.box.height : null;
  const [lw, lh] = [
    most(width?.exact ?? width?.min, shortSide?.exact ?? shortSide?.min),
    most(height?.exact ?? height?.min, shortSide?.exact ?? shortSide?.min),
  ];
  const top = box ?? (w !== null && h !== null ? w * h : null);
  return {
    least: lw !== null && lh !== null ? lw * lh : null,
    most: top,
    clauses: [...clauses],
    words: top !== null ? `at most ${w ?? resolved.box!.width} × ${h ?? resolved.box!.height} px` : "",
  };
}

/** What is planned of a photo: as many pixels as the brief allows of it, and as few. */
function plannedPixels(brief: ResolvedBrief, photo: Size, clauses: readonly ClauseKey[]): Pixels {
  try {
    const full = planGeometry(brief, photo);
    const least = resized({ brief, photo }, full, LEAST);
    return {
      least: pixelsOf(least),
      most: brief.enlarge === "allow" && least !== full ? null : pixelsOf(full),
      clauses: [...clauses],
      words: `${formatSize(full.width, full.height)} px`,
    };
  } catch (error) {
    if (!(error instanceof GeometryError)) throw error;
    // A photo that cannot be planned is told of elsewhere.
    return { least: null, most: null, clauses: [...clauses], words: "" };
  }
}

/** With a photo its own pixels fill in what the brief leaves open. */
export function weightDisagreements(
  brief: Brief,
  resolved: ResolvedBrief,
  photo: Size | null = null,
): Disagreement[] {
  const out: Disagreement[] = [];
  const { min, max } = resolved.fileSize;
  const pixels = pixelsAsked(resolved, photo);
  const formats = resolved.formats ?? ["jpeg"];
  const lossy = formats.some(
    (format) =>
      format !== "png" &&
      format !== "gif" &&
      format !== "bmp" &&
      (format !== "tiff" || resolved.quality !== null),
  );
  const cap = resolved.quality?.max ?? 100;
  // Wished pixels grow by themselves.
  const yields = pixels.clauses.length > 0 && pixels.clauses.every((clause) => resolved.wishes.has(clause));
  if (min !== null && pixels.most !== null && !yields) {
    const most = Math.max(
      lossy ? aboutJpeg(pixels.most, Math.min(cap, 100)) * RICH : 0,
      lossy && formats.every((f) => f === "jpeg" || f === "webp" || f === "avif" || f === "pdf")
        ? 0
        : aboutPng(pixels.most) * RICH,
    );
    if (min > most)
      out.push(
        cap < 100 && min <= aboutJpeg(pixels.most, 100) * RICH
          ? capBelowFloor(brief, pixels, min, most)
          : floorTooHigh({ brief, resolved, pixels, min, most }),
      );
  }
  // What ink on white takes nobody foretells from photographs.
  if (max !== null && pixels.least !== null && !resolved.ink) {
    const low = resolved.quality?.min ?? null;
    if (low !== null && lossy && aboutJpeg(pixels.least, low) * PLAIN > max)
      out.push(qualityAboveCeiling(brief, pixels, max, low));
    else if (
      lossy
        ? aboutJpeg(pixels.least, PLAIN_DAMAGE) * PLAIN > max
        : aboutPng(pixels.least) * PLAIN * PLAIN > max
    )
      out.push(ceilingTooLow(brief, pixels, max, lossy));
  }
  if (brief.total && resolved.fileSize.min !== null) {
    const total = toBytes(brief.total.max, "max");
    if (resolved.fileSize.min > total) {
      out.push({
        clauses: ["fileSize", "total"],
        why:
          `One file weighs at least ${formatBytes(resolved.fileSize.min)}, all together may weigh ` +
          `${formatBytes(total)}.`,
        wins: "The file size wins unless you choose otherwise.",
        choices: [
          {
            label: "Drop the floor",
            effect: "files may be lighter",
            change: { fileSize: withoutFloor(brief) },
          },
          { label: "Drop the total", effect: "each file on its own", change: { total: null } },
        ],
      });
    }
  }
  return out;
}

const filledUp = (brief: Brief) =>
  brief.padding === "never" ? "No file can meet both." : "The file is filled up to the floor with a comment.";

function withoutFloor(brief: Brief): Brief["fileSize"] | null {
  const { min: _, ...rest } = brief.fileSize!;
  return Object.keys(rest).length ? rest : null;
}

function floorTooHigh({
  brief,
  resolved,
  pixels,
  min,
  most,
}: {
  brief: Brief;
  resolved: ResolvedBrief;
  pixels: Pixels;
  min: number;
  most: number;
}): Disagreement {
  const per = (min / pixels.most!).toFixed(1);
  const choices: Choice[] = [];
  const wishes = pixels.clauses.filter((clause) => !resolved.wishes.has(clause));
  if (wishes.length)
    choices.push({
      label: "Let the pixels grow",
      effect: "as many as the floor needs",
      change: { wishes: [...(brief.wishes ?? []), ...wishes] },
    });
  if (brief.padding === "never")
    choices.push({
      label: "Allow filling up",
      effect: "with a comment inside the file",
      change: { padding: "allow" },
    });
  choices.push({
    label: "Drop the floor",
    effect: "the file may be lighter",
    change: { fileSize: withoutFloor(brief) },
  });
  return {
    clauses: [...pixels.clauses, "fileSize"],
    why:
      `At least ${formatBytes(min)} from ${pixels.words} are ${per} bytes for each pixel; a photo of ` +
      `that size has about ${formatBytes(most)} at most.`,
    wins: filledUp(brief),
    choices,
  };
}

function capBelowFloor(brief: Brief, pixels: Pixels, min: number, most: number): Disagreement {
  let needed = brief.quality!.max!;
  while (needed < 100 && aboutJpeg(pixels.most!, needed) * RICH < min) needed += 1;
  return {
    clauses: ["quality", "fileSize"],
    why:
      `At quality ${brief.quality!.max} a photo of ${pixels.words} has about ${formatBytes(most)} at ` +
      `most, the floor is ${formatBytes(min)}.`,
    wins: filledUp(brief),
    choices: [
      {
        label: `Allow quality ${needed}`,
        effect: "the floor can be met",
        change: { quality: { ...brief.quality, max: needed } },
      },
      {
        label: "Drop the floor",
        effect: "the file may be lighter",
        change: { fileSize: withoutFloor(brief) },
      },
    ],
  };
}

function qualityAboveCeiling(brief: Brief, pixels: Pixels, max: number, low: number): Disagreement {
  return {
    clauses: ["quality", "fileSize"],
    why:
      `At quality ${low} ${pixels.words} have about ${formatBytes(aboutJpeg(pixels.least!, low))}, the ` +
      `ceiling is ${formatBytes(max)}.`,
    wins: "The file size wins unless you choose otherwise.",
    choices: [
      { label: "Drop the quality", effect: "as good as the ceiling allows", change: { quality: null } },
      {
        label: "Drop the ceiling",
        effect: "the quality is kept",
        change: { fileSize: ceiling(brief, null) },
      },
    ],
  };
}

function ceilingTooLow(brief: Brief, pixels: Pixels, max: number, lossy: boolean): Disagreement {
  const clean = lossy ? aboutJpeg(pixels.least!, 75) : aboutPng(pixels.least!);
  const raised = `${Math.ceil(clean / 1000)}KB`;
  const choices: Choice[] = [
    {
      label: `Raise the ceiling to ${Math.ceil(clean / 1000)} KB`,
      effect: "about what it needs",
      change: { fileSize: ceiling(brief, raised) },
    },
  ];
  const hopeless = lossy && aboutJpeg(pixels.least!, HOPELESS) * PLAIN > max;
  if (!lossy)
    choices.push({
      label: "Allow JPEG",
      effect: "far lighter, not lossless",
      change: { format: [...(brief.format ?? []), "jpeg"] },
    });
  const size =
    brief.width?.exact !== undefined && brief.height?.exact !== undefined
      ? { width: brief.width.exact, height: brief.height.exact }
      : null;
  if (size && lossy) {
    const factor = Math.sqrt(max / clean);
    const [w, h] = [
      Math.max(1, Math.round(size.width * factor)),
      Math.max(1, Math.round(size.height * factor)),
    ];
    choices.push({
      label: "Fewer pixels",
      effect: `${formatSize(w, h)} px`,
      change: { width: { exact: w }, height: { exact: h } },
    });
  }
  return {
    clauses: [...pixels.clauses, "fileSize"],
    why:
      `${pixels.words || "The photo"} in at most ${formatBytes(max)}: a photo of that size has about ` +
      `${formatBytes(clean)}${lossy ? " at a good quality" : " without loss"}.`,
    wins: hopeless || !lossy ? "Few photos can meet both." : "The ceiling is met, and the damage will show.",
    choices,
  };
}

function ceiling(brief: Brief, max: string | null): Brief["fileSize"] | null {
  const { max: _, ...rest } = brief.fileSize!;
  const next = max === null ? rest : { ...rest, max };
  return Object.keys(next).length ? next : null;
}
