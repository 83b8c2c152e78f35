/** The ways in which a lossy format can code one picture; along each, only the quality changes. */
import type { ResolvedBrief } from "../brief";
import { avifEffort, webpEffort } from "./effort";
import { decides, FULL, stepOf } from "./jpeg-search";
import { avifPriorLog, differenceLog, FULL_CHROMA, priorLog, webpPriorLog } from "./prior";
import {
  ANNEX_K,
  type AvifSetting,
  type Chroma,
  type GifSetting,
  type JpegSetting,
  NEAR,
  OWN_TABLES,
  type PngSetting,
  type WebpSetting,
} from "./types";

export type LossySetting = JpegSetting | WebpSetting | AvifSetting | GifSetting | PngSetting;
export type LossyFormat = LossySetting["format"];

export interface Family {
  setting(quality: number): LossySetting;
  lowest: number;
  highest: number;
  /** Between qualities. */
  step: number;
  /** A file at or above this share of the ceiling is near enough. */
  near: number;
  /** Whether at this quality no other family can look better at the same bytes. */
  decides(quality: number): boolean;
  /** ln(bytes a pixel) that is usual at a quality. */
  expectBytes(quality: number): number;
  /** ln(visible difference) that is usual at a quality. */
  expectDifference(quality: number): number;
}

/** Below these the damage is such that a file is not offered. */
const LOWEST: Record<LossyFormat, number> = { jpeg: 10, webp: 5, avif: 12, gif: 29, png: 29 };

/**
 * AVIF with halved colour: fewer bytes and more difference at one quality, both as logarithms. At equal difference
 * it takes 1 to 3 % more bytes from this quality on; below it 24 % more to 8 % fewer (13 photographs of 700 px).
 */
const HALVED_AVIF = { bytes: 0.07, difference: 0.05 };
const SURELY_WHOLE_AVIF = 74;

/** The likeliest first. `pixels`: of the whole picture, which decides how much effort can be spent. */
export function familiesOf(
  format: LossyFormat,
  { quality, bits }: Pick<ResolvedBrief, "quality" | "bits">,
  pixels: number,
  flat: boolean,
): Family[] {
  const highest = quality?.max ?? 100;
  const lowest = Math.min(highest, Math.max(LOWEST[format], quality?.min ?? 1));
  const limits = { lowest, highest, step: 1, near: NEAR, decides: () => true };
  if (format === "webp") {
    const effort = webpEffort(pixels);
    return [
      {
        ...limits,
        setting: (q) => ({ format, quality: q, effort }),
        expectBytes: webpPriorLog,
        expectDifference: (q) => differenceLog("webp", q),
      },
    ];
  }
  if (format === "avif") {
    const all = { format, bits: bits === 10 ? 10 : 8, effort: avifEffort(pixels) } as const;
    const whole: Family = {
      ...limits,
      setting: (quality) => ({ ...all, quality }),
      decides: (quality) => flat || quality >= SURELY_WHOLE_AVIF,
      expectBytes: avifPriorLog,
      expectDifference: (q) => differenceLog("avif", q),
    };
    const halved: Family = {
      ...whole,
      setting: (quality) => ({ ...all, quality, chroma: "4:2:0" }),
      expectBytes: (q) => avifPriorLog(q) - HALVED_AVIF.bytes,
      expectDifference: (q) => differenceLog("avif", q) + HALVED_AVIF.difference,
    };
    return flat ? [whole] : [whole, halved];
  }
  if (format === "gif" || format === "png") return [coloursFamily(format, { ...limits, highest: 100 }, flat)];
  const table = quality ? ANNEX_K : OWN_TABLES;
  const chromas: Chroma[] = flat ? ["4:4:4", "4:2:0"] : ["4:2:0", "4:4:4"];
  const step = stepOf(table, pixels);
  return chromas.map((chroma) => jpegFamily(chroma, table, { ...limits, step }));
}

/** Bits of a table of colours, 1 to 8, in a hundred steps: each number of colours from one on that matters. */
export const coloursAt = (quality: number): number => Math.round(2 ** (1 + (7 * (quality - 1)) / 99));

/** Bytes a pixel and difference of 256 colours, and what a bit less makes of both, as logarithms: six photographs. */
const [WHOLE_TABLE, BYTES_A_BIT] = [Math.log(0.6), 0.23];
const [TABLE_DIFFERS, DIFFERENCE_A_BIT] = [Math.log(1.3), 0.45];

/** Quality is how many colours there are. A drawing may have few. */
function coloursFamily(
  format: "gif" | "png",
  limits: Pick<Family, "lowest" | "highest" | "step" | "near" | "decides">,
  flat: boolean,
): Family {
  const bitsLess = (quality: number) => 8 - Math.log2(coloursAt(quality));
  return {
    ...limits,
    lowest: flat ? 1 : LOWEST[format],
    setting: (quality) =>
      format === "gif"
        ? { format, colours: coloursAt(quality) }
        : { format, colours: coloursAt(quality), level: 9 },
    expectBytes: (quality) => WHOLE_TABLE - BYTES_A_BIT * bitsLess(quality),
    expectDifference: (quality) => TABLE_DIFFERS + DIFFERENCE_A_BIT * bitsLess(quality),
  };
}

function jpegFamily(
  chroma: Chroma,
  table: number,
  limits: Pick<Family, "lowest" | "highest" | "step">,
): Family {
  const full = chroma === "4:4:4" ? FULL_CHROMA : 0;
  return {
    ...limits,
    near: limits.step === 1 ? NEAR : FULL,
    setting: (quality) => ({ format: "jpeg", quality, chroma, table, effort: "careful" }),
    expectBytes: (quality) => priorLog(quality) + full,
    expectDifference: (quality) => differenceLog(chroma, quality),
    decides: (quality) => decides(chroma, quality),
  };
}
