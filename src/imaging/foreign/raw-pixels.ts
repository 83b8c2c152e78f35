/**
 * A camera's raw file: what it says of itself, the camera's own picture in it, and the sensor's values
 * developed. By LibRaw, compiled to WebAssembly.
 */
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import sharp from "sharp";
import { DEFAULT_RAW, type RawTaking } from "@/core/photo";
import type { ForeignPixels, Wish } from "./kinds";

export interface RawFacts {
  /** Upright pixels of the developed picture. */
  width: number;
  height: number;
  bits: number;
  /** Of the camera's own picture in the file, upright; null where there is none. */
  preview: { width: number; height: number } | null;
  /** YYYY-MM-DD, or null. */
  date: string | null;
}

interface Metadata {
  width: number;
  height: number;
  flip: number;
  thumb_width: number;
  thumb_height: number;
  timestamp: number;
  color_data: { cam_mul: number[]; pre_mul: number[]; raw_bps: number };
}

interface Opened {
  open(bytes: Uint8Array, settings: object): void;
  metadata(all: boolean): Metadata;
  thumbnailData(): { data: Uint8Array; width: number; height: number; format: string } | undefined;
  imageData(): {
    data: Uint8Array | Uint16Array;
    width: number;
    height: number;
    colors: number;
    bits: number;
  };
}

/** Beside the module; named here so that no bundler takes it for a module of its own. */
const WASM = ["libraw-wasm", "dist", "libraw.wasm"].join("/");

/**
 * The camera's white balance, linear light (the reader takes a curve only with all six of its numbers) in
 * ROMM RGB, nothing brightened.
 */
const LINEAR = {
  useCameraWb: true,
  noAutoBright: true,
  outputBps: 16,
  outputColor: 4,
  gamm: [1, 1, 0, 0, 0, 0],
  userQual: 3,
};
/** Of the brightest values, this share may lie above white when a picture is brightened. */
const ABOVE_WHITE = 0.01;
/** Of the brightest values, this share does not count when it is asked how far light reaches. */
const SPECKS = 0.0005;
const MOST_BRIGHTENING = 8;

async function open(bytes: Uint8Array, settings: object): Promise<Opened> {
  const { default: create } = await import("libraw-wasm/dist/libraw.js");
  const wasmBinary = readFileSync(createRequire(import.meta.url).resolve(/*turbopackIgnore: true*/ WASM));
  const library = await create({ wasmBinary, print: () => undefined, printErr: () => undefined });
  const file = new library.LibRaw() as Opened;
  try {
    file.open(bytes, settings);
  } catch {
    throw new Error("it is damaged, or of a camera that is not known");
  }
  return file;
}

/**
 * Turns of the sensor by a quarter: the sides of the camera's own picture are told before them, those of the
 * sensor after.
 */
const quarter = (flip: number) => flip === 5 || flip === 6;

/** Throws with a plain reason where it cannot be read. */
export async function rawFacts(bytes: Uint8Array): Promise<RawFacts> {
  const meta = (await open(bytes, LINEAR)).metadata(true);
  const { width, height, flip } = meta;
  if (!(width > 0 && height > 0)) throw new Error("it says that its sensor has no pixels");
  const has = meta.thumb_width > 0 && meta.thumb_height > 0;
  const preview = !has
    ? null
    : quarter(flip)
      ? { width: meta.thumb_height, height: meta.thumb_width }
      : { width: meta.thumb_width, height: meta.thumb_height };
  const taken =
    Number(meta.timestamp) > 0 ? new Date(Number(meta.timestamp) * 1000).toISOString().slice(0, 10) : null;
  return { width, height, bits: meta.color_data.raw_bps || 16, preview, date: taken };
}

/** Throws with a plain reason where it cannot be developed. */
export async function rawPixels(
  bytes: Uint8Array,
  { raw = DEFAULT_RAW, half }: Wish,
): Promise<ForeignPixels> {
  return raw.way === "camera" ? cameraPicture(bytes) : developed(bytes, raw, half === true);
}

async function cameraPicture(bytes: Uint8Array): Promise<ForeignPixels> {
  const file = await open(bytes, LINEAR);
  const { flip } = file.metadata(false);
  let picture: ReturnType<Opened["thumbnailData"]>;
  try {
    picture = file.thumbnailData();
  } catch {
    picture = undefined;
  }
  if (!picture?.data.length)
    throw new Error("the camera's own picture in it is missing or damaged, choose the developed one");
  const { data, width, height, format } = picture;
  const image =
    format === "jpeg"
      ? sharp(data, { failOn: "truncated", autoOrient: false })
      : sharp(data, { raw: { width, height, channels: 3 } });
  const angle = { 3: 180, 5: 270, 6: 90 }[flip] ?? 0;
  try {
    const made = await image
      .rotate(angle)
      .toColourspace("srgb")
      .removeAlpha()
      .raw({ depth: "uchar" })
      .toBuffer({ resolveWithObject: true });
    return { data: made.data, width: made.info.width, height: made.info.height, channels: 3 };
  } catch {
    throw new Error("the camera's own picture in it is damaged, choose the developed one");
  }
}

async function developed(
  bytes: Uint8Array,
  { brighten, recover }: RawTaking,
  halfSize: boolean,
): Promise<ForeignPixels> {
  const file = await open(bytes, { ...LINEAR, highlight: recover ? 2 : 0, halfSize });
  const { color_data: colour } = file.metadata(true);
  const { data, width, height, colors, bits } = file.imageData();
  if (bits !== 16 || (colors !== 3 && colors !== 1))
    throw new Error(`its sensor has ${colors} colours, which cannot be developed`);
  const light = data as Uint16Array;
  const samples = colors === 3 ? light : threefold(light);
  // Where highlights are to be recovered everything is scaled down, so that no channel is cut at white.
  const balance = (colour.cam_mul[0] > 0 ? colour.cam_mul : colour.pre_mul).slice(0, 3);
  const room = recover ? Math.max(...balance) / Math.min(...balance) : 1;
  const [white, top] = [ABOVE_WHITE, SPECKS].map((share) => (room * lightest(samples, share)) / 65_535);
  const gain = brighten ? Math.min(MOST_BRIGHTENING, Math.max(1, 1 / Math.max(white, 1e-6))) : 1;
  return {
    data: samples,
    width,
    height,
    channels: 3,
    light: { space: "romm-rgb", peak: room * gain, reach: recover ? Math.max(1, top * gain) : 1 },
  };
}

/** The code that this share of the pixels exceeds in their strongest channel. */
function lightest(data: Uint16Array, share: number): number {
  const counts = new Uint32Array(65_536);
  for (let p = 0; p < data.length; p += 3) counts[Math.max(data[p], data[p + 1], data[p + 2])] += 1;
  let left = (data.length / 3) * share;
  let code = 65_535;
  for (; code > 0 && left >= counts[code]; code -= 1) left -= counts[code];
  return code;
}

function threefold(grey: Uint16Array): Uint16Array {
  const out = new Uint16Array(grey.length * 3);
  for (let i = 0; i < grey.length; i += 1) out[i * 3] = out[i * 3 + 1] = out[i * 3 + 2] = grey[i];
  return out;
}
