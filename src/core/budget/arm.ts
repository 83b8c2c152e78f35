/**
 * The settings along which a photo can be coded more coarsely: one encoder, one table, one chroma; only the
 * quality changes.
 */
import type { OutputFormat, ResolvedBrief } from "../brief";
import {
  ANNEX_K,
  type AvifSetting,
  avifEffort,
  avifPriorLog,
  type Chroma,
  differenceLog,
  FULL_CHROMA,
  type JpegSetting,
  OWN_TABLES,
  type PdfSetting,
  priorLog,
  type WebpSetting,
  webpEffort,
  webpPriorLog,
} from "../coding";

export type ArmSetting = PdfSetting | JpegSetting | WebpSetting | AvifSetting;

/** What an arm is, as it can be stored. */
export interface ArmSpec {
  /** The setting at any quality. */
  like: ArmSetting;
  /** Of the output. */
  pixels: number;
  lowest: number;
  highest: number;
}

export interface Arm extends ArmSpec {
  setting(quality: number): ArmSetting;
  /** ln(visible difference) that is usual at a quality. */
  expectDifference(quality: number): number;
  /** ln(bytes) that are usual at a quality. */
  expectBytes(quality: number): number;
}

/** Below these the damage is such that a file is not offered. */
const LOWEST: Record<ArmSetting["format"], number> = { jpeg: 20, pdf: 20, webp: 5, avif: 12 };
/** Null for formats without loss, which have nothing to give. `flat`: lettering, logos, drawings. */
export function armFor(
  format: OutputFormat,
  brief: ResolvedBrief,
  pixels: number,
  flat: boolean,
): ArmSpec | null {
  if (format !== "jpeg" && format !== "pdf" && format !== "webp" && format !== "avif") return null;
  const limits = {
    pixels,
    lowest: Math.max(LOWEST[format], brief.quality?.min ?? 1),
    highest: brief.quality?.max ?? 100,
  };
  if (format === "webp") return { ...limits, like: { format, quality: 80, effort: webpEffort(pixels) } };
  if (format === "avif")
    return {
      ...limits,
      like: { format, quality: 70, bits: brief.bits === 10 ? 10 : 8, effort: avifEffort(pixels) },
    };
  const chroma: Chroma = flat ? "4:4:4" : "4:2:0";
  // A quality that is asked is counted on the tables of annex K.
  const table = brief.quality ? ANNEX_K : OWN_TABLES;
  return { ...limits, like: { format, quality: 80, chroma, table, effort: "careful" } };
}

export function armOf(spec: ArmSpec): Arm {
  const { like, pixels } = spec;
  const size = Math.log(pixels);
  const setting = (quality: number): ArmSetting => ({ ...like, quality });
  if (like.format === "jpeg" || like.format === "pdf") {
    const chroma = like.chroma === "4:4:4" ? FULL_CHROMA : 0;
    return {
      ...spec,
      setting,
      expectDifference: (q) => differenceLog(like.chroma, q),
      expectBytes: (q) => priorLog(q) + chroma + size,
    };
  }
  const bytes = like.format === "webp" ? webpPriorLog : avifPriorLog;
  return {
    ...spec,
    setting,
    expectDifference: (q) => differenceLog(like.format, q),
    expectBytes: (q) => bytes(q) + size,
  };
}
