/**
 * The search for WebP and AVIF: lossless where that fits, else the highest quality of the encoder's own
 * scale that does.
 */
import { CLEAN } from "../difference";
import { solveArm } from "./arm";
import { solveWhole } from "./clean-along";
import { avifEffort, webpEffort } from "./effort";
import { ABOVE_FLOOR } from "./jpeg";
import { aboutLosslessWebp, avifPriorLog, differenceLog, webpPriorLog } from "./prior";
import {
  type AvifSetting,
  type Found,
  type Goal,
  MAX_ENCODES,
  NEAR,
  type Picture,
  type SearchResult,
  type WebpSetting,
} from "./types";

type QualitySetting = WebpSetting | AvifSetting;

export interface QualityLimits {
  quality: { min: number; max: number } | null;
  /** AVIF only. */
  bits: 8 | 10;
}

/** Below this the damage is such that a file is not offered. */
const LOWEST: Record<QualitySetting["format"], number> = { webp: 5, avif: 12 };
/** Lossless is tried where its usual size is not far above the ceiling. */
const HOPE = 1.6;

export async function searchQuality(
  format: QualitySetting["format"],
  picture: Picture,
  goal: Goal,
  limits: QualityLimits,
): Promise<SearchResult<QualitySetting>> {
  const made: Found<QualitySetting>[] = [];
  const setting = (quality: number | null): QualitySetting =>
    format === "webp"
      ? { format, quality, effort: webpEffort(picture.pixels) }
      : { format, quality: quality ?? 100, bits: limits.bits, effort: avifEffort(picture.pixels) };
  const encode = async (quality: number | null) => {
    const found = { setting: setting(quality), bytes: await picture.encode(setting(quality)) };
    made.push(found);
    return found;
  };
  const answer = (
    outcome: SearchResult["outcome"],
    found: Found<QualitySetting>,
    told: string[] = [],
  ): SearchResult<QualitySetting> => ({ outcome, found, encodes: made.length, told });
  const [lowest, highest] = [Math.max(LOWEST[format], limits.quality?.min ?? 1), limits.quality?.max ?? 100];
  const { min, max, aim } = goal;
  const lossless = format === "webp" && limits.quality === null;
  let ceiling = max;

  if (aim === "clean") {
    const tried = await solveWhole<QualitySetting>(picture, {
      setting,
      lowest,
      highest,
      expect: (quality) => differenceLog(format, quality),
    });
    made.push(...tried);
    const clean =
      tried.filter((trial) => trial.difference <= CLEAN).sort((a, b) => a.bytes - b.bytes)[0] ?? null;
    // Drawings and lettering are often smaller without any loss than without a visible one.
    if (lossless && picture.flat) {
      const whole = await encode(null);
      if (
        (!clean || whole.bytes <= clean.bytes) &&
        whole.bytes >= (min ?? 0) &&
        whole.bytes <= (max ?? Infinity)
      )
        return answer("met", whole, ["lossless, because that is smaller still"]);
    }
    if (clean && clean.bytes >= (min ?? 0) && clean.bytes <= (max ?? Infinity)) return answer("met", clean);
    if (clean && clean.bytes < (min ?? 0)) ceiling = Math.min(max ?? Infinity, min! * ABOVE_FLOOR);
  }
  if (ceiling === null) {
    const first = lossless ? await encode(null) : await encode(highest);
    if (min === null || first.bytes >= min)
      return answer("met", first, lossless ? ["lossless, because no ceiling is asked"] : []);
  } else {
    if (lossless && aim === "best" && (picture.flat || aboutLosslessWebp(picture.pixels) <= ceiling * HOPE)) {
      const whole = await encode(null);
      if (whole.bytes <= ceiling && whole.bytes >= (min ?? 0))
        return answer("met", whole, ["lossless, because that fits too"]);
    }
    const target = aim === "middle" ? Math.round(((min ?? 0) + ceiling) / 2) : ceiling;
    const prior = format === "webp" ? webpPriorLog : avifPriorLog;
    const { under, points } = await solveArm({
      goal: target,
      enough: Math.max(min ?? 0, target * NEAR),
      lowest,
      highest,
      overhead: picture.overhead,
      expect: (quality) => prior(quality) + Math.log(picture.pixels),
      encode: async (quality) => (await encode(quality)).bytes,
      budget: Math.max(2, MAX_ENCODES - made.length - 3),
    });
    if (!under && ceiling === max)
      return answer("over", {
        setting: setting(points.length ? Math.min(...points.map((p) => p.quality)) : lowest),
        bytes: Math.min(...points.map((p) => p.bytes)),
      });
    const found = under && { setting: setting(under.quality), bytes: under.bytes };
    if (found && (min === null || found.bytes >= min)) return answer("met", found);
  }
  // Below the floor: a quality in between where there is a ceiling to aim at, the highest one, then lossless.
  const told = ["the highest quality, because the floor is not reached without it"];
  const top = made.find((m) => m.setting.quality === highest) ?? (await encode(highest));
  if (top.bytes >= min! && top.bytes <= (max ?? Infinity)) return answer("met", top, told);
  if (lossless && top.bytes < min!) {
    const whole = made.find((m) => m.setting.quality === null) ?? (await encode(null));
    if (whole.bytes >= min! && whole.bytes <= (max ?? Infinity))
      return answer("met", whole, ["lossless, because the floor is not reached without it"]);
  }
  return answer(
    "under",
    [...made].filter((m) => m.bytes <= (max ?? Infinity)).sort((a, b) => b.bytes - a.bytes)[0] ?? top,
    told,
  );
}
