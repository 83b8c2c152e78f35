/** The search for WebP and AVIF: lossless where that fits, else the highest quality of the encoder's own scale that does. */
import { solveArm } from "./arm";
import { aboutLosslessWebp, avifPriorLog, webpPriorLog } from "./prior";
import { MAX_ENCODES, NEAR, type AvifSetting, type Found, type Goal, type Picture, type SearchResult, type WebpSetting } from "./types";

type QualitySetting = WebpSetting | AvifSetting;

export interface QualityLimits {
  quality: { min: number; max: number } | null;
  /** AVIF only. */
  bits: 8 | 10;
}

/** Used where no size is asked: room to spare. */
const FREE: Record<QualitySetting["format"], number> = { webp: 92, avif: 82 };
/** Below this the damage is such that a file is not offered. */
const LOWEST: Record<QualitySetting["format"], number> = { webp: 5, avif: 12 };
/** Lossless is tried where its usual size is not far above the ceiling. */
const HOPE = 1.6;

/** Effort by the number of pixels, so that one encode stays under about 10 s (AVIF, 24 megapixels: effort 1 takes 2.6 s, effort 2 7.6 s). */
export const avifEffort = (pixels: number): number => (pixels <= 600_000 ? 4 : pixels <= 6_000_000 ? 2 : pixels <= 40_000_000 ? 1 : 0);
export const webpEffort = (pixels: number): number => (pixels <= 8_000_000 ? 4 : pixels <= 40_000_000 ? 2 : 0);

export async function searchQuality(format: QualitySetting["format"], picture: Picture, goal: Goal, limits: QualityLimits): Promise<SearchResult<QualitySetting>> {
  const made: Found<QualitySetting>[] = [];
  const setting = (quality: number | null): QualitySetting =>
    format === "webp" ? { format, quality, effort: webpEffort(picture.pixels) } : { format, quality: quality ?? 100, bits: limits.bits, effort: avifEffort(picture.pixels) };
  const encode = async (quality: number | null) => {
    const found = { setting: setting(quality), bytes: await picture.encode(setting(quality)) };
    made.push(found);
    return found;
  };
  const answer = (outcome: SearchResult["outcome"], found: Found<QualitySetting>, told: string[] = []): SearchResult<QualitySetting> => ({ outcome, found, encodes: made.length, told });
  const [lowest, highest] = [Math.max(LOWEST[format], limits.quality?.min ?? 1), limits.quality?.max ?? 100];
  const { min, max, aim } = goal;
  const lossless = format === "webp" && limits.quality === null;

  if (max === null) {
    const first = await encode(Math.min(highest, Math.max(lowest, FREE[format])));
    if (min === null || first.bytes >= min) return answer("met", first);
  } else {
    if (lossless && aim === "best" && (picture.flat || aboutLosslessWebp(picture.pixels) <= max * HOPE)) {
      const whole = await encode(null);
      if (whole.bytes <= max && whole.bytes >= (min ?? 0)) return answer("met", whole, ["lossless, because that fits too"]);
    }
    const target = aim === "middle" ? Math.round(((min ?? 0) + max) / 2) : max;
    const prior = format === "webp" ? webpPriorLog : avifPriorLog;
    const { under, points } = await solveArm({
      goal: target, enough: target * NEAR, lowest, highest, overhead: picture.overhead,
      expect: (quality) => prior(quality) + Math.log(picture.pixels),
      encode: async (quality) => (await encode(quality)).bytes,
      budget: MAX_ENCODES - made.length - 3,
    });
    if (!under) return answer("over", { setting: setting(points.length ? Math.min(...points.map((p) => p.quality)) : lowest), bytes: Math.min(...points.map((p) => p.bytes)) });
    const found = { setting: setting(under.quality), bytes: under.bytes };
    if (min === null || found.bytes >= min) return answer("met", found);
  }
  // Below the floor: the highest quality, then lossless.
  const told = ["the highest quality, because the floor is not reached without it"];
  const top = made.find((m) => m.setting.quality === highest) ?? (await encode(highest));
  if (top.bytes >= min! && top.bytes <= (max ?? Infinity)) return answer("met", top, told);
  if (lossless && top.bytes < min!) {
    const whole = made.find((m) => m.setting.quality === null) ?? (await encode(null));
    if (whole.bytes >= min! && whole.bytes <= (max ?? Infinity)) return answer("met", whole, ["lossless, because the floor is not reached without it"]);
  }
  return answer("under", [...made].filter((m) => m.bytes <= (max ?? Infinity)).sort((a, b) => b.bytes - a.bytes)[0] ?? top, told);
}
