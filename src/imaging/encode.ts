/** One encoding of a planned picture at one setting. */
import sharp from "sharp";
import { readPng, rebuildPng } from "@/core/containers";
import type { Setting } from "@/core/search";
import type { Pixels } from "./prepare";

/** The chunks that make up the picture; everything else comes from `assemble`. */
const PICTURE_CHUNKS = new Set(["PLTE", "tRNS", "IDAT", "IEND"]);

/** Bytes without profile, EXIF or resolution; those are added by `assemble`. */
export async function encode(pixels: Pixels, setting: Setting): Promise<Buffer> {
  const { width, height, channels } = pixels;
  const image = sharp(pixels.data, { raw: { width, height, channels } });
  if (setting.format === "png") {
    const { colours, level } = setting;
    const options =
      colours === null
        ? { compressionLevel: level, adaptiveFiltering: level > 6, palette: false }
        : { palette: true, colours, dither: 1, effort: 7, compressionLevel: level };
    const file = readPng(await image.png(options).toBuffer());
    return Buffer.from(rebuildPng(file, [], (type) => PICTURE_CHUNKS.has(type)));
  }
  const careful = setting.effort === "careful";
  return image
    .jpeg({
      quality: setting.quality,
      chromaSubsampling: setting.chroma,
      quantisationTable: setting.table,
      trellisQuantisation: careful,
      progressive: careful,
      optimiseCoding: setting.effort !== "plain",
      optimiseScans: false,
    })
    .toBuffer();
}
