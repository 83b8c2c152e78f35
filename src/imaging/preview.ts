/** Small pictures for the screen; never part of what is handed over. */
import sharp from "sharp";
import { MAX_PIXELS } from "@/core/units";

/** A JPEG of the upright photo that fits into side × side px. Damaged photos give what can be decoded. */
export function preview(bytes: Buffer, side: number): Promise<Buffer> {
  return sharp(bytes, { failOn: "none", limitInputPixels: MAX_PIXELS })
    .autoOrient()
    .resize(side, side, { fit: "inside", withoutEnlargement: true })
    .flatten({ background: "#ffffff" })
    .toColourspace("srgb")
    .jpeg({ quality: 86, chromaSubsampling: "4:4:4" })
    .toBuffer();
}
