/**
 * The search for formats with few settings: TIFF (three packings, all lossless), GIF (numbers of colours)
 * and BMP (one).
 */
import {
  type BmpSetting,
  type Found,
  type GifSetting,
  type Goal,
  MAX_ENCODES,
  type Picture,
  type SearchResult,
  type TiffSetting,
} from "./types";

const between = (bytes: number, { min, max }: Goal) => bytes >= (min ?? 0) && bytes <= (max ?? Infinity);

/** The tightest packing, looser ones where a floor asks for more bytes. */
export async function searchTiff(picture: Picture, goal: Goal): Promise<SearchResult<TiffSetting>> {
  const made: Found<TiffSetting>[] = [];
  for (const compression of ["deflate", "lzw", "none"] as const) {
    const setting: TiffSetting = { format: "tiff", compression };
    const found = { setting, bytes: await picture.encode(setting) };
    made.push(found);
    const told =
      made.length > 1 ? ["a less thrifty packing, because the floor is not reached at the tightest"] : [];
    if (between(found.bytes, goal)) return { outcome: "met", found, encodes: made.length, told };
    if (made.length === 1 && found.bytes > (goal.max ?? Infinity))
      return { outcome: "over", found, encodes: 1, told };
  }
  const under = made.filter((m) => m.bytes <= (goal.max ?? Infinity)).sort((a, b) => b.bytes - a.bytes)[0];
  return { outcome: "under", found: under, encodes: made.length, told: [] };
}

/** As many colours as fit under the ceiling; fewer only while the pixels are fixed (`palette`). */
export async function searchGif(
  picture: Picture,
  goal: Goal,
  palette: boolean,
): Promise<SearchResult<GifSetting>> {
  let encodes = 0;
  const told = ["at most 256 colours, because GIF holds no more"];
  const encode = async (colours: number): Promise<Found<GifSetting>> => {
    encodes += 1;
    return { setting: { format: "gif", colours }, bytes: await picture.encode({ format: "gif", colours }) };
  };
  const all = await encode(256);
  if (all.bytes < (goal.min ?? 0)) return { outcome: "under", found: all, encodes, told };
  if (between(all.bytes, goal)) return { outcome: "met", found: all, encodes, told };
  if (!palette) return { outcome: "over", found: all, encodes, told };
  let [low, high] = [2, 255];
  let best: Found<GifSetting> | null = null;
  let least = all;
  while (encodes < MAX_ENCODES && low <= high) {
    const found = await encode(Math.round(Math.sqrt(low * high)));
    if (found.bytes < least.bytes) least = found;
    if (found.bytes <= goal.max!) {
      best = found;
      low = found.setting.colours + 1;
    } else high = found.setting.colours - 1;
  }
  told.push("fewer colours, because 256 are too large");
  if (!best) return { outcome: "over", found: least, encodes, told };
  return { outcome: best.bytes >= (goal.min ?? 0) ? "met" : "under", found: best, encodes, told };
}

export async function searchBmp(picture: Picture, goal: Goal): Promise<SearchResult<BmpSetting>> {
  const setting: BmpSetting = { format: "bmp" };
  const found = { setting, bytes: await picture.encode(setting) };
  const outcome =
    found.bytes > (goal.max ?? Infinity) ? "over" : found.bytes < (goal.min ?? 0) ? "under" : "met";
  return { outcome, found, encodes: 1, told: [] };
}
