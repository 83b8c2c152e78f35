/** Small pictures for the screen; never part of what is handed over. */
import sharp, { type Sharp } from "sharp";
import { asStill, decodeBmp } from "@/core/containers";
import { kindOf, type PhotoKind } from "@/core/pixels/ink";
import { MAX_PIXELS } from "@/core/units";
import { needsDeveloping, smallPicture } from "../planned";
import { readSource } from "../source";

async function opened(bytes: Buffer, side: number): Promise<Sharp> {
  const source = await readSource(bytes).catch(() => null);
  if (source && needsDeveloping(source)) {
    const { data, width, height, channels } = await smallPicture(source, side);
    return sharp(data, { raw: { width, height, channels } });
  }
  if (!source?.bmp) return sharp(asStill(bytes), { failOn: "none", limitInputPixels: MAX_PIXELS });
  const file = source.bmp;
  return sharp(decodeBmp(file), { raw: { width: file.width, height: file.height, channels: 3 } });
}

/** Upright, on white, inside side × side px, sRGB. */
const small = async (bytes: Buffer, side: number): Promise<Sharp> =>
  (await opened(bytes, side))
    .autoOrient()
    .resize(side, side, { fit: "inside", withoutEnlargement: true })
    .flatten({ background: "#ffffff" })
    .toColourspace("srgb");

/** Strokes and lines of lettering are still told apart at so many px on the longer side. */
const KIND_SIDE = 640;

/** What the photo shows, so that it can be proposed as one of several documents. */
export async function photoKind(bytes: Buffer): Promise<PhotoKind> {
  const { data, info } = await (await small(bytes, KIND_SIDE)).raw().toBuffer({ resolveWithObject: true });
  const { width, height, channels } = info;
  if (channels === 3) return kindOf({ data, width, height });
  const rgb = new Uint8Array(width * height * 3);
  for (let i = 0; i < rgb.length; i += 1) rgb[i] = data[Math.floor(i / 3) * channels];
  return kindOf({ data: rgb, width, height });
}

/** A JPEG of the upright photo that fits into side × side px. Damaged photos give what can be decoded. */
export async function preview(bytes: Buffer, side: number): Promise<Buffer> {
  return (await small(bytes, side)).jpeg({ quality: 86, chromaSubsampling: "4:4:4" }).toBuffer();
}
