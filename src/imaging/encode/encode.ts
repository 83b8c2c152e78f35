/**
 * One encoding of a planned picture at one setting, without profile, EXIF or resolution; those are added by
 * `assemble`.
 */
import sharp, { type Sharp } from "sharp";
import {
  ANNEX_K,
  indexed,
  type JpegSetting,
  OWN_CODER_PIXELS,
  type PngSetting,
  type Setting,
} from "@/core/coding";
import { readAvif, readPng, rebuildAvif, rebuildPng, tiffOfJpeg, writeBmp } from "@/core/containers";
import type { Size } from "@/core/photo";
import type { PqName } from "@/core/pixels/colour";
import type { Planned } from "@/core/pixels/develop";
import { meterLight } from "@/core/pixels/light";
import { jpegAside } from "../workers";
import { writeGif } from "./gif";
import { asRgb, exactPng, fewerColours } from "./indexed-png";

/** The chunks that make up the picture; everything else comes from `assemble`. */
const PICTURE_CHUNKS = new Set(["PLTE", "tRNS", "IDAT", "IEND"]);

/**
 * `cmyk`: the picture stands in sRGB and becomes CMYK by the colour library's free profile, which it embeds.
 */
export async function encode(pixels: Planned, setting: Setting, cmyk = false): Promise<Uint8Array> {
  switch (setting.format) {
    case "bmp":
      return writeBmp(rgbOf(pixels), pixels.width, pixels.height);
    case "png":
      return encodePng(pixels, setting);
    case "pdf":
    case "jpeg":
      return encodeJpeg(pixels, { ...setting, format: "jpeg" }, cmyk);
    case "webp": {
      const { quality, effort } = setting;
      return open(pixels, false)
        .webp(
          quality === null
            ? { lossless: true, effort, exact: false }
            : { quality, effort, smartSubsample: true },
        )
        .toBuffer();
    }
    case "avif": {
      const file = await open(pixels, false)
        .avif({
          quality: setting.quality,
          effort: setting.effort,
          bitdepth: setting.bits,
          chromaSubsampling: setting.chroma ?? "4:4:4",
        })
        .toBuffer();
      return pixels.light ? signalled(file, pixels) : file;
    }
    case "tiff": {
      if (setting.compression === "jpeg")
        return tiffOfJpeg(await encodeJpeg(pixels, { ...setting, format: "jpeg" }, cmyk));
      const { compression } = setting;
      return open(pixels, cmyk)
        .tiff({ compression, ...(compression !== "none" && { predictor: "horizontal" as const }) })
        .toBuffer();
    }
    case "gif":
      return writeStillGif(pixels, setting.colours);
  }
}

function open({ data, width, height, channels }: Planned, cmyk: boolean): Sharp {
  const image = sharp(data, {
    raw: { width, height, channels: channels as 1 | 2 | 3 | 4 },
    limitInputPixels: false,
  });
  const deep = data instanceof Uint16Array;
  if (cmyk) return image.toColourspace("cmyk").withIccProfile("cmyk");
  if (channels < 3) return image.toColourspace(deep ? "grey16" : "b-w");
  return deep ? image.toColourspace("rgb16") : image;
}

/**
 * Code points of ITU-T H.273 for primaries, PQ, and the matrix that the encoder works by (BT.601, full
 * range).
 */
const PRIMARIES: Record<PqName, number> = { srgb: 1, bt2020: 9, "display-p3": 12 };
const [PQ, ENCODER_MATRIX] = [16, 6];

/**
 * The colour library writes no colour box: what the signals mean, and how light the picture is, is put in
 * here.
 */
function signalled(file: Uint8Array, { data, channels, light }: Planned): Uint8Array {
  const { peak, average } = meterLight({ data: data as Uint16Array, channels });
  const colour = {
    primaries: PRIMARIES[light!],
    transfer: PQ,
    matrix: ENCODER_MATRIX,
    fullRange: true,
    light: { peak: Math.round(peak), average: Math.round(average) },
  };
  return rebuildAvif(readAvif(file), { exif: null, xmp: null, colour });
}

function rgbOf({ data, channels }: Planned): Uint8Array {
  if (channels === 3 && data instanceof Uint8Array) return data;
  const out = new Uint8Array((data.length / channels) * 3);
  for (let p = 0, o = 0; p < data.length; p += channels, o += 3)
    for (let c = 0; c < 3; c += 1) out[o + c] = data[p + (channels < 3 ? 0 : c)];
  return out;
}

async function encodePng(pixels: Planned, { colours, level }: PngSetting): Promise<Uint8Array> {
  // Up to 256 colours a table of them loses nothing and takes a fraction of the bytes.
  const exact = colours === null && level === 9 ? exactPng(pixels) : null;
  if (exact) return exact;
  // The library rounds the number of colours to 2, 4, 16 or 256.
  if (colours !== null) return fewerColours(pixels, colours);
  const options = { compressionLevel: level, adaptiveFiltering: level > 6, palette: false };
  const file = readPng(await open(pixels, false).png(options).toBuffer());
  return rebuildPng(file, [], (type) => PICTURE_CHUNKS.has(type));
}

function writeStillGif(pixels: Planned, colours: number): Uint8Array {
  const { width, height, ...rgb } = asRgb(pixels);
  const made = indexed({ ...rgb, width, height }, { colours, dither: "diffuse", hardAlpha: true });
  return writeGif(made, { width, height, delays: [0], loop: 1 });
}

/** Our coder writes no CMYK, no file that is larger than it need be, and none of very many pixels. */
export const ownCoder = (
  { effort }: Pick<JpegSetting, "effort">,
  { width, height }: Size,
  cmyk: boolean,
): boolean => !cmyk && effort !== "plain" && width * height <= OWN_CODER_PIXELS;

async function encodeJpeg(pixels: Planned, setting: JpegSetting, cmyk: boolean): Promise<Uint8Array> {
  if (ownCoder(setting, pixels, cmyk)) return jpegAside(pixels, setting);
  const { quality, chroma, table, effort, sequential } = setting;
  return open(pixels, cmyk)
    .jpeg({
      quality: Math.round(quality),
      chromaSubsampling: chroma === "4:4:4" ? chroma : "4:2:0",
      // The library's second table takes fewest bytes beside annex K's where nothing is weighed.
      quantisationTable: table === ANNEX_K ? 0 : 2,
      progressive: effort === "careful" && !sequential,
      optimiseCoding: effort !== "plain",
    })
    .toBuffer();
}
