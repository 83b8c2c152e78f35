/** Small pictures for the screen; never part of what is handed over. */
import sharp, { type Sharp } from "sharp";
import { decodeBmp, readBmp, sniff } from "@/core/containers";
import { MAX_PIXELS } from "@/core/units";
import { decodeForeign } from "./foreign";
import { isForeign } from "./foreign-kinds";

async function opened(bytes: Buffer): Promise<Sharp> {
  const kind = sniff(bytes.subarray(0, 64));
  if (isForeign(kind)) {
    const { data, width, height, channels } = await decodeForeign(kind, bytes);
    return sharp(data, { raw: { width, height, channels } });
  }
  if (kind !== "bmp") return sharp(bytes, { failOn: "none", limitInputPixels: MAX_PIXELS });
  const file = readBmp(bytes);
  return sharp(decodeBmp(file), { raw: { width: file.width, height: file.height, channels: 3 } });
}

/** A JPEG of the upright photo that fits into side × side px. Damaged photos give what can be decoded. */
export async function preview(bytes: Buffer, side: number): Promise<Buffer> {
  return (await opened(bytes))
    .autoOrient()
    .resize(side, side, { fit: "inside", withoutEnlargement: true })
    .flatten({ background: "#ffffff" })
    .toColourspace("srgb")
    .jpeg({ quality: 86, chromaSubsampling: "4:4:4" })
    .toBuffer();
}
