/**
 * The search for PNG: lossless where that fits, a palette only where it is asked for, looser packing to
 * reach a floor.
 */
import { CLEAN } from "../difference";
import {
  type Found,
  type Goal,
  MAX_ENCODES,
  type Picture,
  type PngSetting,
  type SearchResult,
  TIGHTEST,
} from "./types";

const LOOSER = [6, 3, 1, 0];
/** A picture without loss that is over by no more may be packed under the ceiling. */
const HARDLY_OVER = 1.15;
/** The picture's bytes alone from which on packing tighter takes longer than it is given. */
const MOST_TIGHT = 1_500_000;

/** `palette`: whether colours may be given up to get under the ceiling. */
export async function searchPng(
  picture: Picture,
  goal: Goal,
  palette: boolean,
): Promise<SearchResult<PngSetting>> {
  const made: Found<PngSetting>[] = [];
  const told: string[] = [];
  const encode = async (colours: number | null, level: number) => {
    const setting: PngSetting = { format: "png", colours, level };
    const found = { setting, bytes: await picture.encode(setting) };
    made.push(found);
    return found;
  };
  const answer = (outcome: SearchResult["outcome"], found: Found<PngSetting>): SearchResult<PngSetting> => ({
    outcome,
    found,
    encodes: made.length,
    told,
  });
  const min = goal.min ?? 0;
  const max = goal.max ?? Infinity;

  /** The same packed as tightly as it can be; null where that is not worth its time. */
  const tighter = async ({ setting, bytes }: Found<PngSetting>) => {
    if (bytes > MOST_TIGHT) return null;
    const tight = await encode(setting.colours, TIGHTEST);
    return tight.bytes < bytes ? tight : null;
  };

  const lossless = await encode(null, 9);
  if (goal.aim === "clean") {
    const fewer = await cleanPalette(picture, lossless, min, encode);
    const chosen = fewer && fewer.bytes <= max ? fewer : lossless;
    if (chosen === fewer) told.push("fewer colours, because that is smaller and the eye does not see it");
    const tight = picture.flat && chosen.bytes <= max ? await tighter(chosen) : null;
    if (tight && tight.bytes >= min) return answer("met", tight);
    if (chosen === fewer) return answer("met", fewer);
  }
  if (lossless.bytes < min) {
    told.push("a less thrifty packing, because the floor is not reached at the tightest");
    let largest = lossless;
    for (const level of LOOSER) {
      const looser = await encode(null, level);
      if (looser.bytes >= min && looser.bytes <= max) return answer("met", looser);
      if (looser.bytes <= max && looser.bytes > largest.bytes) largest = looser;
    }
    return answer("under", largest);
  }
  if (lossless.bytes <= max) return answer("met", lossless);
  const under = lossless.bytes <= max * HARDLY_OVER ? await tighter(lossless) : null;
  if (under && under.bytes >= min && under.bytes <= max) {
    told.push("packed tighter than usual, because that alone brings it under the ceiling");
    return answer("met", under);
  }
  if (!palette) return answer("over", lossless);

  // Size grows with the number of colours, roughly with its logarithm: halve the exponent's interval.
  told.push("fewer colours, because every colour kept is too large");
  let best: Found<PngSetting> | null = null;
  let [low, high] = [2, 256];
  let colours = 256;
  while (made.length < MAX_ENCODES && low <= high) {
    const found = await encode(colours, 9);
    if (found.bytes <= max) {
      best = found;
      if (found.bytes >= Math.max(min, max * 0.96)) break;
      low = colours + 1;
    } else high = colours - 1;
    colours = Math.min(high, Math.max(low, Math.round(Math.sqrt(low * high))));
  }
  if (!best) return answer("over", [...made].sort((a, b) => a.bytes - b.bytes)[0]);
  return answer(best.bytes >= min ? "met" : "under", best);
}

/** A palette with which nothing is seen to be missing, where it saves bytes; null where there is none. */
async function cleanPalette(
  picture: Picture,
  lossless: Found<PngSetting>,
  min: number,
  encode: (colours: number, level: number) => Promise<Found<PngSetting>>,
): Promise<Found<PngSetting> | null> {
  let best: Found<PngSetting> | null = null;
  for (const colours of [256, 128, 64, 32]) {
    const trial = await encode(colours, 9);
    if (
      trial.bytes >= (best ?? lossless).bytes ||
      trial.bytes < min ||
      (await picture.difference(trial.setting)) > CLEAN
    )
      break;
    best = trial;
  }
  return best;
}
