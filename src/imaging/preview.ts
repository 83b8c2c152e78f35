/** Small pictures for the screen; never part of what is handed over. */
import sharp, { type Sharp } from "sharp";
import { decodeBmp, readBmp, sniff } from "@/core/containers";
import { MAX_PIXELS } from "@/core/units";

function opened(bytes: Buffer): Sharp {
  if (sniff(bytes.subarray(0, 64)) !== "bmp") return sharp(bytes, { failOn: "none", limitInputPixels: MAX_PIXELS });
  const file = readBmp(bytes);
  return sharp(decodeBmp(file), { raw: { width: file.width, height: file.height, channels: 3 } });
}

/** A JPEG of the upright photo that fits into side × side px. Damaged photos give what can be decoded. */
export function preview(bytes: Buffer, side: number): Promise<Buffer> {
  return opened(bytes)
    .autoOrient()
    .resize(side, side, { fit: "inside", withoutEnlargement: true })
    .flatten({ background: "#ffffff" })
    .toColourspace("srgb")
    .jpeg({ quality: 86, chromaSubsampling: "4:4:4" })
    .toBuffer();
}
