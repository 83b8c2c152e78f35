/** From a photo to its planned picture: decoded once, resized once, turned, in sRGB, 8 bits. */
import sharp from "sharp";
import { keepsPixels, orientPixels, swapsSides, toStored, uprightSize, type Geometry, type Rect, type Size } from "@/core/frame";
import { MAX_PIXELS } from "@/core/units";
import { PhotoError } from "./error";
import type { Source } from "./facts";

/** Raw 8-bit sRGB pixels, interleaved, upright. */
export interface Pixels extends Size {
  data: Uint8Array;
  channels: 3 | 4;
}

/** Damage that decoders warn of but that loses nothing of the picture. */
const HARMLESS = /extraneous bytes before marker|unknown Adobe color transform|Invalid SOS parameters|bad sRGB|known incorrect sRGB|iCCP/i;

/**
 * The planned picture. `background` ("#rrggbb") lies under transparency when `opaque`, and around the photo when it is padded.
 * Throws {@link PhotoError} for a damaged photo; a damaged photo never becomes a half-grey picture.
 */
export async function preparePixels(source: Source, geometry: Geometry, background: string, opaque: boolean): Promise<Pixels> {
  const make = async (failOn: "warning" | "truncated") =>
    (await Promise.all([decode(source, geometry, background, opaque, failOn), checkTail(source, geometry, failOn)]))[0];
  let pixels: Pixels;
  try {
    pixels = await make("warning");
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    if (!HARMLESS.test(message)) throw damaged(source, message);
    pixels = await make("truncated").catch((again: unknown) => {
      throw damaged(source, again instanceof Error ? again.message : String(again));
    });
  }
  return padded(pixels, geometry, background);
}

function damaged(source: Source, message: string): PhotoError {
  const short = /premature|truncat|end of|too few|not enough|read gave/i.test(message);
  const kind = source.facts.format.toUpperCase();
  return new PhotoError(`The ${kind} is ${short ? "cut short" : "damaged"}: its picture data cannot be decoded to the end. Bring in a sound copy.`);
}

async function decode(source: Source, geometry: Geometry, background: string, opaque: boolean, failOn: "warning" | "truncated"): Promise<Pixels> {
  const { facts } = source;
  const { orientation } = facts;
  const stored = swapsSides(orientation) ? { width: facts.height, height: facts.width } : { width: facts.width, height: facts.height };
  const steps = arrange(geometry, facts);
  let image = sharp(source.bytes, { failOn, limitInputPixels: MAX_PIXELS, autoOrient: false });
  if (steps.cutFirst) image = image.extract(sharpRect(toStored(steps.cutFirst, stored, orientation)));
  if (steps.resize) {
    const size = uprightSize(steps.resize, orientation);
    image = image.resize(size.width, size.height, { fit: "fill", kernel: "lanczos3" });
    if (steps.cutAfter) image = image.extract(sharpRect(toStored(steps.cutAfter, size, orientation)));
  }
  if (opaque && facts.alpha) image = image.flatten({ background });
  const { data, info } = await image.toColourspace("srgb").raw({ depth: "uchar" }).toBuffer({ resolveWithObject: true });
  const rgb = info.channels < 3 ? spread(data, info.channels) : data;
  const channels = info.channels === 2 || info.channels === 4 ? 4 : 3;
  const upright = uprightSize(info, orientation);
  return { data: orientPixels(rgb, info, channels, orientation), channels, ...upright };
}

/**
 * A decoder that shrinks a JPEG by 4 or 8 while loading does not notice that the last rows are missing
 * (measured: a file that lacks its last 3 % decodes without a warning). So the last row is read at full size too,
 * beside the real decode: 0.2 s for 24 megapixels.
 */
async function checkTail({ jpeg, bytes }: Source, geometry: Geometry, failOn: "warning" | "truncated"): Promise<void> {
  if (!jpeg || geometry.scale >= 0.5) return;
  const { width, height } = jpeg.frame;
  await sharp(bytes, { failOn, limitInputPixels: MAX_PIXELS }).extract({ left: 0, top: height - 1, width, height: 1 }).raw().toBuffer();
}

interface Arrangement {
  cutFirst: Rect | null;
  resize: Size | null;
  cutAfter: Rect | null;
}

/**
 * Reducing strongly, the whole photo is reduced and then cut, so that the decoder
 * can shrink while loading; otherwise the part is cut out first.
 */
function arrange(geometry: Geometry, photo: Size): Arrangement {
  const { crop, place, scale } = geometry;
  if (keepsPixels(geometry, photo)) return { cutFirst: null, resize: null, cutAfter: null };
  const part = geometry.cut > 0;
  if (!part) return { cutFirst: null, resize: { width: place.width, height: place.height }, cutAfter: null };
  if (scale < 0.5) {
    const resize = { width: Math.max(place.width, Math.round(photo.width * scale)), height: Math.max(place.height, Math.round(photo.height * scale)) };
    const x = Math.min(resize.width - place.width, Math.max(0, Math.round(crop.x * scale)));
    const y = Math.min(resize.height - place.height, Math.max(0, Math.round(crop.y * scale)));
    return { cutFirst: null, resize, cutAfter: { x, y, width: place.width, height: place.height } };
  }
  const width = Math.min(photo.width, Math.max(1, Math.round(crop.width)));
  const height = Math.min(photo.height, Math.max(1, Math.round(crop.height)));
  const x = Math.min(photo.width - width, Math.max(0, Math.round(crop.x)));
  const y = Math.min(photo.height - height, Math.max(0, Math.round(crop.y)));
  return { cutFirst: { x, y, width, height }, resize: { width: place.width, height: place.height }, cutAfter: null };
}

const sharpRect = (r: Rect) => ({ left: r.x, top: r.y, width: r.width, height: r.height });

/** Grey (with alpha) to three (four) channels. */
function spread(data: Uint8Array, channels: number): Uint8Array {
  const out = new Uint8Array((data.length / channels) * (channels + 2));
  for (let i = 0, o = 0; i < data.length; i += channels) {
    out[o] = out[o + 1] = out[o + 2] = data[i];
    if (channels === 2) out[o + 3] = data[i + 1];
    o += channels + 2;
  }
  return out;
}

function padded(pixels: Pixels, geometry: Geometry, background: string): Pixels {
  if (pixels.width === geometry.width && pixels.height === geometry.height) return pixels;
  const { channels } = pixels;
  const colour = [1, 3, 5].map((i) => Number.parseInt(background.slice(i, i + 2), 16));
  const out = new Uint8Array(geometry.width * geometry.height * channels);
  for (let i = 0; i < out.length; i += channels) {
    out[i] = colour[0];
    out[i + 1] = colour[1];
    out[i + 2] = colour[2];
    if (channels === 4) out[i + 3] = 255;
  }
  const row = pixels.width * channels;
  for (let y = 0; y < pixels.height; y += 1) {
    out.set(pixels.data.subarray(y * row, (y + 1) * row), ((geometry.place.y + y) * geometry.width + geometry.place.x) * channels);
  }
  return { data: out, channels, width: geometry.width, height: geometry.height };
}

/** Large flat areas with hard edges (lettering, drawings): many pixels equal their right neighbour exactly. */
export function isFlat({ data, width, height, channels }: Pixels): boolean {
  let equal = 0;
  let seen = 0;
  const step = Math.max(1, Math.floor(height / 200));
  for (let y = 0; y < height; y += step) {
    for (let x = 0; x + 1 < width; x += 1) {
      const p = (y * width + x) * channels;
      seen += 1;
      if (data[p] === data[p + channels] && data[p + 1] === data[p + channels + 1] && data[p + 2] === data[p + channels + 2]) equal += 1;
    }
  }
  return seen > 0 && equal / seen > 0.4;
}
