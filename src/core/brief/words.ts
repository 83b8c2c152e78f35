/** Clauses in plain words, as chips and checks show them. */
import { formatBytes } from "../units";
import type { Brief, ClauseKey } from "./schema";
import type { PixelRange } from "./resolve";

const FORMAT_NAMES: Record<string, string> = {
  jpeg: "JPEG", png: "PNG", webp: "WebP", avif: "AVIF", tiff: "TIFF", gif: "GIF", bmp: "BMP", pdf: "PDF", svg: "SVG", heif: "HEIF",
};

export function formatName(format: string): string {
  return FORMAT_NAMES[format] ?? format;
}

/** "24 to 60 KB", "at most 1.5 MB": the brief's own spelling, a shared unit said once. */
export function byteRangeWords(clause: { min?: string | number; max?: string | number }): string {
  const [min, max] = [clause.min, clause.max].map((v) => (v === undefined ? null : typeof v === "number" ? formatBytes(v) : spaced(v)));
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
  if (width?.exact !== undefined && height?.exact !== undefined) parts.push(`${width.exact} × ${height.exact}`);
  else {
    if (width) parts.push(`width ${rangeWords(width, "px")}`);
    if (height) parts.push(`height ${rangeWords(height, "px")}`);
  }
  if (longSide) parts.push(`long side ${rangeWords(longSide, "px")}`);
  if (shortSide) parts.push(`short side ${rangeWords(shortSide, "px")}`);
  return parts.length ? parts.join(", ") : null;
}

/** One clause in words; null where the brief does not state it. */
export function clauseWords(brief: Brief, key: ClauseKey): string | null {
  const value = brief[key];
  if (value === undefined) return null;
  switch (key) {
    case "format":
      return brief.format!.map(formatName).join(" or ");
    case "width":
    case "height":
    case "longSide":
    case "shortSide":
      return rangeWords(brief[key]!, "px");
    case "resolution":
      return rangeWords(brief.resolution!, "ppi");
    case "fileSize":
      return byteRangeWords(brief.fileSize!);
    case "quality":
      return rangeWords(brief.quality!, "");
    case "colour":
      return [brief.colour!.space === "srgb" ? "sRGB" : brief.colour!.space, brief.colour!.bits && `${brief.colour!.bits} bit`,
        brief.colour!.profile === "omit" ? "no profile" : brief.colour!.profile && "with profile"].filter(Boolean).join(", ");
    default:
      return typeof value === "string" ? value : JSON.stringify(value);
  }
}

/** Does `value` lie in the range, to within `slack`? */
export function within(range: PixelRange, value: number, slack = 0): boolean {
  if (range.exact !== null) return Math.abs(value - range.exact) <= slack;
  return (range.min === null || value >= range.min - slack) && (range.max === null || value <= range.max + slack);
}
