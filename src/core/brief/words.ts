/** Clauses in plain words, as chips and checks show them. */
import { formatBytes } from "../units";
import type { ClauseKey } from "./keys";
import type { PixelRange } from "./resolve";
import type { Brief } from "./schema";

const FORMAT_NAMES: Record<string, string> = {
  jpeg: "JPEG",
  png: "PNG",
  webp: "WebP",
  avif: "AVIF",
  tiff: "TIFF",
  gif: "GIF",
  bmp: "BMP",
  pdf: "PDF",
  svg: "SVG",
  heif: "HEIC",
  ora: "OpenRaster",
  raw: "raw file",
};

export function formatName(format: string): string {
  return FORMAT_NAMES[format] ?? format;
}

/** "24 to 60 KB", "at most 1.5 MB": the brief's own spelling, a shared unit said once. */
export function byteRangeWords(clause: { min?: string | number; max?: string | number }): string {
  const [min, max] = [clause.min, clause.max].map((v) =>
    v === undefined ? null : typeof v === "number" ? formatBytes(v) : spaced(v),
  );
  if (min === null) return max === null ? "free" : `at most ${max}`;
  if (max === null) return `at least ${min}`;
  const [minValue, minUnit] = min.split(" ");
  return minUnit === max.split(" ")[1] ? `${minValue} to ${max}` : `${min} to ${max}`;
}

function spaced(text: string): string {
  return text.trim().replace(/([0-9])\s*([a-z])/i, "$1 $2");
}

/** "exactly 240 px", "at most 1100 px", "300 to 400 ppi". */
export function rangeWords(range: { exact?: unknown; min?: unknown; max?: unknown }, unit: string): string {
  const value = (v: unknown) => (typeof v === "string" ? spaced(v) : `${String(v)} ${unit}`.trim());
  if (range.exact != null) return value(range.exact);
  if (range.min != null && range.max != null) return `${value(range.min)} to ${value(range.max)}`;
  return range.min != null ? `at least ${value(range.min)}` : `at most ${value(range.max)}`;
}

/** The pixel clauses in one phrase: "240 × 300", "long side at most 1100 px". Null where pixels are free. */
export function pixelWords(brief: Brief): string | null {
  const { width, height, longSide, shortSide } = brief;
  const parts: string[] = [];
  if (width?.exact !== undefined && height?.exact !== undefined)
    parts.push(`${width.exact} × ${height.exact}`);
  else {
    if (width) parts.push(`width ${rangeWords(width, "px")}`);
    if (height) parts.push(`height ${rangeWords(height, "px")}`);
  }
  if (longSide) parts.push(`long side ${rangeWords(longSide, "px")}`);
  if (shortSide) parts.push(`short side ${rangeWords(shortSide, "px")}`);
  return parts.length ? parts.join(", ") : null;
}

const SPACE_NAMES: Record<NonNullable<NonNullable<Brief["colour"]>["space"]>, string> = {
  srgb: "sRGB",
  "display-p3": "Display P3",
  bt2020: "BT.2020",
  gray: "grey",
  cmyk: "CMYK",
  keep: "as it is",
};

const colourWord = (code: string) => ({ "#ffffff": "white", "#000000": "black" })[code.toLowerCase()] ?? code;

/** How each clause that is more than one word is told. */
const WORDS: { [K in ClauseKey]?: (value: NonNullable<Brief[K]>) => string } = {
  format: (formats) => formats.map(formatName).join(" or "),
  width: (range) => rangeWords(range, "px"),
  height: (range) => rangeWords(range, "px"),
  longSide: (range) => rangeWords(range, "px"),
  shortSide: (range) => rangeWords(range, "px"),
  resolution: (range) => rangeWords(range, "ppi"),
  fileSize: fileSizeWords,
  quality: (range) =>
    range.min !== undefined && range.min === range.max ? String(range.min) : rangeWords(range, ""),
  colour: ({ space, bits, profile, light }) =>
    [
      space && SPACE_NAMES[space],
      bits && `${bits} bit`,
      profile === "omit" ? "no profile" : profile && "with profile",
      light === "hdr" && "high dynamic range",
    ]
      .filter(Boolean)
      .join(", "),
  box: ({ width, height }) => `inside ${width} × ${height} px, either way up`,
  sizes: (sizes) => `${sizes.map(({ width, height }) => `${width} × ${height}`).join(" or ")} px`,
  scale: (scale) => `${spaced(scale).replace(/\s*%/, " %")} of the photo's pixels`,
  set: ({ widths, formats }) => {
    const sorted = [...widths].sort((a, b) => a - b);
    const last = sorted.pop();
    const sizes = sorted.length ? `${sorted.join(", ")} and ${last} px wide` : `${last} px wide`;
    return formats ? `${sizes}, each as ${formats.map(formatName).join(" and ")}` : sizes;
  },
  paper: paperWords,
  frame: (frame) =>
    ({ whole: "nothing cut", fill: "cut to shape", pad: "background added", stretch: "distorted to fit" })[
      frame
    ],
  enlarge: (rule) => (rule === "never" ? "never" : "allowed"),
  view: (view) =>
    typeof view === "object"
      ? `whole on a screen of ${view.screen.width} × ${view.screen.height} px`
      : { pixels: "every pixel, at 100 %", paper: "at its paper size", screen: "whole on a screen" }[view],
  head: ({ height, eyes }) =>
    [
      height && `${measureWords(height)} from crown to chin`,
      eyes && `eyes ${measureWords(eyes)} above the lower edge`,
    ]
      .filter(Boolean)
      .join(", "),
  pick: (pick) => (pick === "smallest" ? "whichever is smallest" : "the first that fits"),
  metadata: (rule) => ({ keep: "kept", private: "nothing private", none: "none" })[rule],
  border: ({ px, colour }) => `${px} px, ${colourWord(colour)}`,
  background: colourWord,
  ink: (ink) => (ink === "black" ? "black on white" : "in its own colour on white"),
  layers: (layers) => (layers === "keep" ? "kept" : "flattened"),
  frames: (frames) => (frames === "keep" ? "kept moving" : "the first alone"),
  padding: (rule) => (rule === "allow" ? "allowed" : "never"),
  sharpen: ({ amount, for: what }) => `${amount} for ${what}`,
  total: ({ max, counted }) =>
    `at most ${typeof max === "number" ? formatBytes(max) : spaced(max)} ` +
    `${counted === "mail" ? "as one message" : "in all"}`,
};

/** "32 to 36 mm", "at least 70 %": a shared unit said once. */
function measureWords({ min, max }: { min?: string; max?: string }): string {
  const [low, high] = [min, max].map((text) => text && spaced(text).replace(/\s*%/, " %"));
  if (!low || !high) return low ? `at least ${low}` : `at most ${high}`;
  if (low === high) return low;
  const [value, unit] = low.split(" ");
  return unit === high.split(" ")[1] ? `${value} to ${high}` : `${low} to ${high}`;
}

/** One clause in words; null where the brief does not state it. */
export function clauseWords(brief: Brief, key: ClauseKey): string | null {
  const value = brief[key];
  if (value === undefined) return null;
  const words = WORDS[key] as ((value: unknown) => string) | undefined;
  if (words) return words(value);
  return typeof value === "string" ? value : JSON.stringify(value);
}

/** "28 × 35 mm", "140 mm wide", "4 in × 12 cm". */
export function paperWords({ width, height }: NonNullable<Brief["paper"]>): string {
  if (width === undefined) return `${spaced(height!)} high`;
  if (height === undefined) return `${spaced(width)} wide`;
  const [w, h] = [spaced(width), spaced(height)];
  return w.split(" ")[1] === h.split(" ")[1] ? `${w.split(" ")[0]} × ${h}` : `${w} × ${h}`;
}

const AIMS = { best: "as good as fits", clean: "as small as stays clean", middle: "the middle of it" };

function fileSizeWords(clause: NonNullable<Brief["fileSize"]>): string {
  const range = clause.min === undefined && clause.max === undefined ? null : byteRangeWords(clause);
  return [range, clause.aim && AIMS[clause.aim]].filter(Boolean).join(", ");
}

/** Does `value` lie in the range, to within `slack`? */
export function within(range: PixelRange, value: number, slack = 0): boolean {
  if (range.exact !== null) return Math.abs(value - range.exact) <= slack;
  return (
    (range.min === null || value >= range.min - slack) && (range.max === null || value <= range.max + slack)
  );
}
