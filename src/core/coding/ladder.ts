/**
 * The trials that a chart of size against difference is drawn from, and the way from a wanted size to a
 * setting.
 */
import type { OutputFormat } from "../brief";
import { settingOf } from "./choice";
import type { Choice } from "./choice-schema";
import { expectedSeconds } from "./effort";
import { avifPriorLog, priorLog, webpPriorLog } from "./prior";
import { type Chroma, OWN_TABLES } from "./types";

const RUNGS = { jpeg: [82, 92, 70, 97, 50], webp: [85, 94, 70, 50], avif: [72, 85, 55] } as const;
export type Lossy = keyof typeof RUNGS;
export const LOSSY: readonly Lossy[] = ["jpeg", "webp", "avif"];

/** One point of a format's line: whole-number qualities, each on its encoder's own scale. */
export function lineChoice(format: Lossy, quality: number, chroma: Chroma, bits: 8 | 10 = 8): Choice {
  if (format === "jpeg") return { format, quality, chroma, table: OWN_TABLES, effort: "careful" };
  return format === "webp" ? { format, quality } : { format, quality, bits };
}

/**
 * Every trial, the cheapest first. `formats` are those that the brief allows; the usual ones are weighed
 * beside them. `bits`: of AVIF.
 */
export function ladder(
  formats: readonly OutputFormat[],
  pixels: number,
  chroma: Chroma,
  bits: 8 | 10 = 8,
): Choice[] {
  const wanted = new Set<OutputFormat>([...formats, "jpeg", "webp", "avif", "png"]);
  const choices: Choice[] = [];
  for (const format of wanted) {
    if (format === "jpeg" || format === "webp" || format === "avif")
      choices.push(...RUNGS[format].map((quality) => lineChoice(format, quality, chroma, bits)));
    else if (format === "png") choices.push({ format, colours: null, level: 9 });
    else if (format === "tiff") choices.push({ format, compression: "deflate" });
    else if (format === "gif") choices.push({ format, colours: 256 });
    else if (format === "bmp") choices.push({ format });
  }
  const cost = (choice: Choice) => expectedSeconds(settingOf(choice, pixels)!, pixels);
  return choices
    .map((choice, i) => ({ choice, i, cost: cost(choice) }))
    .sort((a, b) => a.cost - b.cost || a.i - b.i)
    .map(({ choice }) => choice);
}

/** Measured: quality and whole bytes of one format's line. */
export interface LinePoint {
  quality: number;
  bytes: number;
}

/** The quality whose file is expected nearest to a number of bytes, from what is measured of the line. */
export function qualityFor(
  format: Lossy,
  points: readonly LinePoint[],
  bytes: number,
  pixels: number,
): number {
  const prior = { jpeg: priorLog, webp: webpPriorLog, avif: avifPriorLog }[format];
  const expect = (quality: number) => prior(quality) + Math.log(pixels);
  const sorted = [...points].sort((a, b) => a.quality - b.quality);
  const at = (quality: number): number => {
    const below = sorted.filter((p) => p.quality <= quality).pop();
    const above = sorted.find((p) => p.quality > quality);
    if (below && above) {
      const share =
        (expect(quality) - expect(below.quality)) / (expect(above.quality) - expect(below.quality));
      return Math.log(below.bytes) + share * Math.log(above.bytes / below.bytes);
    }
    const near = below ?? above;
    return near ? Math.log(near.bytes) + expect(quality) - expect(near.quality) : expect(quality);
  };
  let best = 1;
  for (let quality = 2; quality <= 100; quality += 1)
    if (Math.abs(at(quality) - Math.log(bytes)) < Math.abs(at(best) - Math.log(bytes))) best = quality;
  return best;
}
