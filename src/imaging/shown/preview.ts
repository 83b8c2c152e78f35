/** Small pictures for the screen; never part of what is handed over. */
import sharp, { type Sharp } from "sharp";
import { decodeBmp } from "@/core/containers";
import { MAX_PIXELS } from "@/core/units";
import { needsDeveloping, smallPicture } from "../planned";
import { readSource } from "../source";

async function opened(bytes: Buffer, side: number): Promise<Sharp> {
  const source = await readSource(bytes).catch(() => null);
  if (source && needsDeveloping(source)) {
    const { data, width, height, channels } = await smallPicture(source, side);
    return sharp(data, { raw: { width, height, channels } });
  }
  if (!source?.bmp) return sharp(bytes, { failOn: "none", limitInputPixels: MAX_PIXELS });
  const file = source.bmp;
  return sharp(decodeBmp(file), { raw: { width: file.width, height: file.height, channels: 3 } });
}

/** A JPEG of the upright photo that fits into side × side px. Damaged photos give what can be decoded. */
export async function preview(bytes: Buffer, side: number): Promise<Buffer> {
  return (await opened(bytes, side))
    .autoOrient()
    .resize(side, side, { fit: "inside", withoutEnlargement: true })
    .flatten({ background: "#ffffff" })
    .toColourspace("srgb")
    .jpeg({ quality: 86, chromaSubsampling: "4:4:4" })
    .toBuffer();
}
