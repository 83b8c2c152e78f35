/** A first look at a photo: where its detail lies. */
import sharp from "sharp";
import { asStill, decodeBmp } from "@/core/containers";
import { type DetailMap, detailMap } from "@/core/geometry";
import { MAX_PIXELS } from "@/core/units";
import type { Source } from "../source";
import { needsDeveloping, smallPicture } from "./small-picture";

/** Longest side of the copy that is looked at: small enough that grain and weave are gone. */
const SIDE = 144;

export async function lookForDetail(source: Source): Promise<DetailMap> {
  const { bmp } = source;
  const pixels = needsDeveloping(source)
    ? await smallPicture(source, SIDE)
    : bmp && { data: decodeBmp(bmp), width: bmp.width, height: bmp.height, channels: 3 as const };
  const image = pixels
    ? sharp(pixels.data, { raw: { width: pixels.width, height: pixels.height, channels: pixels.channels } })
    : sharp(asStill(source.bytes), { failOn: "none", limitInputPixels: MAX_PIXELS }).autoOrient();
  const { data, info } = await image
    .resize(SIDE, SIDE, { fit: "inside", withoutEnlargement: true })
    .flatten({ background: "#ffffff" })
    .toColourspace("b-w")
    .raw({ depth: "uchar" })
    .toBuffer({ resolveWithObject: true });
  const grey = info.channels === 1 ? data : data.filter((_, i) => i % info.channels === 0);
  return detailMap(grey, info);
}
