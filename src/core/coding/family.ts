/** The ways in which a lossy format can code one picture; along each, only the quality changes. */
import type { ResolvedBrief } from "../brief";
import { avifEffort, webpEffort } from "./effort";
import { avifPriorLog, differenceLog, FULL_CHROMA, priorLog, webpPriorLog } from "./prior";
import { type AvifSetting, CAREFUL_PIXELS, type Chroma, type JpegSetting, type WebpSetting } from "./types";

export type LossySetting = JpegSetting | WebpSetting | AvifSetting;
export type LossyFormat = LossySetting["format"];

export interface Family {
  setting(quality: number): LossySetting;
  /**
   * What stands for it on a sample: JPEG without trellis, which takes a fifth of the time and, at an equal
   * difference, within a few per cent the same bytes (eleven photographs: 0.93 to 1.08, mean 1.00).
   */
  tried(quality: number): LossySetting;
  lowest: number;
  highest: number;
  /** ln(bytes a pixel) that is usual at a quality. */
  expectBytes(quality: number): number;
  /** ln(visible difference) that is usual at a quality. */
  expectDifference(quality: number): number;
}

/** Below these the damage is such that a file is not offered. */
const LOWEST: Record<LossyFormat, number> = { jpeg: 10, webp: 5, avif: 12 };

/**
 * JPEG's tables, and by how much a quality on them must be raised to look like the same on Annex K's (0); with
 * trellis, and without. The order is that of how often they look best at the same bytes.
 */
const TABLES = {
  careful: [
    { table: 2, shift: 0 },
    { table: 7, shift: 9 },
  ],
  fast: [{ table: 2, shift: 0 }],
} as const;
const ANNEX_K = { table: 0, shift: 0 } as const;

/** The likeliest first. `pixels`: of the whole picture, which decides how much effort can be spent. */
export function familiesOf(
  format: LossyFormat,
  { quality, bits }: Pick<ResolvedBrief, "quality" | "bits">,
  pixels: number,
  flat: boolean,
): Family[] {
  const highest = quality?.max ?? 100;
  const lowest = Math.min(highest, Math.max(LOWEST[format], quality?.min ?? 1));
  const limits = { lowest, highest };
  if (format === "webp") {
    const effort = webpEffort(pixels);
    return [
      {
        ...limits,
        setting: (q) => ({ format, quality: q, effort }),
        tried: (q) => ({ format, quality: q, effort }),
        expectBytes: webpPriorLog,
        expectDifference: (q) => differenceLog("webp", q),
      },
    ];
  }
  if (format === "avif") {
    const effort = avifEffort(pixels);
    return [
      {
        ...limits,
        setting: (q) => ({ format, quality: q, bits: bits === 10 ? 10 : 8, effort }),
        tried: (q) => ({ format, quality: q, bits: bits === 10 ? 10 : 8, effort }),
        expectBytes: avifPriorLog,
        expectDifference: (q) => differenceLog("avif", q),
      },
    ];
  }
  const effort = pixels <= CAREFUL_PIXELS ? "careful" : "fast";
  const tables = quality ? [ANNEX_K] : TABLES[effort];
  const chromas: Chroma[] = flat ? ["4:4:4", "4:2:0"] : ["4:2:0", "4:4:4"];
  return chromas.flatMap((chroma) =>
    tables.map(({ table, shift }) => jpegFamily({ chroma, table, effort }, shift, limits)),
  );
}

function jpegFamily(
  how: Pick<JpegSetting, "chroma" | "table" | "effort">,
  shift: number,
  limits: Pick<Family, "lowest" | "highest">,
): Family {
  const annexK = (quality: number) => Math.min(100, quality + shift);
  const chroma = how.chroma === "4:4:4" ? FULL_CHROMA : 0;
  return {
    ...limits,
    setting: (quality) => ({ format: "jpeg", quality, ...how }),
    tried: (quality) => ({ format: "jpeg", quality, ...how, effort: "fast" }),
    expectBytes: (quality) => priorLog(annexK(quality)) + chroma,
    expectDifference: (quality) => differenceLog(how.chroma, annexK(quality)),
  };
}
