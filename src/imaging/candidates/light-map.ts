/** Light above white beside an ordinary JPEG: ordinary programs show the picture, others add what the map says. */
import { CAN } from "@/core/brief";
import { OWN_TABLES } from "@/core/coding";
import { type GainMap, withGainMap } from "@/core/containers";
import { GAIN_OFFSET, gainBetween } from "@/core/pixels/light";
import { encode } from "../encode";
import type { PlannedPhoto, PlannedPicture, PlannedPictures } from "../planned";

/** Codes are smooth, and what is coarse in them is seen as coarse light. */
const QUALITY = 85;
/** Half the sides of the picture: what is finer than that is in the picture itself; a quarter where bytes are short. */
const SHRINKS = [2, 4];
/** Of a ceiling a map takes no more, if a smaller one will do: what is seen on ordinary screens needs the rest. */
const SHARE = 0.15;

/** Whether a picture is to carry its light as a map. */
export const carriesMap = ({ resolved }: PlannedPhoto, { format }: PlannedPicture): boolean =>
  resolved.light === "hdr" && CAN[format].lightMap;

export async function lightMap(pictures: PlannedPictures, picture: PlannedPicture): Promise<GainMap> {
  const { fileSize } = pictures.photo.resolved;
  const base = await pictures.pixels(picture);
  const bright = await pictures.pixels(pictures.at(picture.geometry, "avif"));
  let map: GainMap | null = null;
  for (const shrink of SHRINKS) {
    const { data, width, height, min, max } = gainBetween(base, bright, picture.space!, shrink);
    const setting = {
      format: "jpeg",
      quality: QUALITY,
      chroma: "4:4:4",
      table: OWN_TABLES,
      effort: "careful",
    } as const;
    const jpeg = await encode({ data, width, height, channels: 1 }, setting);
    map = {
      jpeg,
      min: [min],
      max: [max],
      gamma: [1],
      offsetBase: [GAIN_OFFSET],
      offsetLight: [GAIN_OFFSET],
      capacity: max,
    };
    if (fileSize.max === null || jpeg.length <= fileSize.max * SHARE) break;
  }
  return map!;
}

/** Bytes that a file has more with a map, whatever its picture. */
export const bytesOfMap = (bare: Uint8Array, map: GainMap): number =>
  withGainMap(bare, map).length - bare.length;
