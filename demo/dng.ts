/**
 * A camera's raw file: a mosaic of sensor values with what is needed to develop it, and a small JPEG that
 * the camera made itself.
 * Source: DNG 1.4.0.0 (2012), chapters 2 (structure), 4 (tags), 6 (mapping camera colours to XYZ); TIFF/EP
 * for the mosaic.
 */

import { directory, type ExifEntry } from "@/core/containers";
import { invert, type Matrix, multiply, SPACES } from "@/core/pixels/colour";

/** Linear light of the camera, three values a pixel, 0 to 1 where the sensor is full. */
export interface Scene {
  data: Float32Array;
  width: number;
  height: number;
}

export interface RawFile {
  scene: Scene;
  /** What the sensor holds at most, and what it says in the dark. */
  white: number;
  black: number;
  /** The camera's answer to white, green at 1. */
  neutral: readonly [number, number, number];
  /** The camera's own JPEG; null leaves it out. */
  preview: { jpeg: Uint8Array; width: number; height: number } | null;
  orientation: number;
  model: string;
  date: string;
}

/** Camera values of linear sRGB: a made-up sensor whose colours overlap a little. */
const SENSOR: Matrix = [0.72, 0.24, 0.04, 0.12, 0.8, 0.08, 0.03, 0.2, 0.77];
/** Bradford from D50 (where {@link SPACES} stand) back to D65, ICC.1:2022 annex E. */
const TO_D65: Matrix = [
  0.9555766, -0.0230393, 0.0631636, -0.0282895, 1.0099416, 0.0210077, 0.0122982, -0.020483, 1.3299098,
];

type Entry = [tag: number, type: number, values: readonly number[] | string | Uint8Array];
const BYTE = 1;
const ASCII = 2;
const SHORT = 3;
const LONG = 4;
const RATIONAL = 5;
const SRATIONAL = 10;
const SIZES = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8];
/** Fractions are written over a million. */
const OVER = 1_000_000;

function entryOf([tag, type, given]: Entry): ExifEntry {
  const values = typeof given === "string" ? Buffer.from(`${given}\0`, "latin1") : given;
  const size = SIZES[type];
  const value = Buffer.alloc(values.length * size);
  values.forEach((v, k) => {
    if (size === 8) {
      value.writeInt32LE(Math.round(v * OVER), k * 8);
      value.writeInt32LE(OVER, k * 8 + 4);
    } else value.writeUIntLE(v, k * size, size);
  });
  return { tag, type, count: values.length, value };
}

const directoryOf = (entries: readonly Entry[], at: number): Uint8Array =>
  directory(entries.map(entryOf), at, true);

/** Red, green, green, blue: which colour a place of the mosaic sees. */
const colourAt = (x: number, y: number): 0 | 1 | 2 =>
  y % 2 === 0 ? (x % 2 === 0 ? 0 : 1) : x % 2 === 0 ? 1 : 2;

/** The sensor's values of a scene in linear sRGB. */
export function mosaic({ scene: { data, width, height }, white, black, neutral }: RawFile): Buffer {
  const out = Buffer.alloc(width * height * 2);
  for (let y = 0, p = 0, o = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, p += 3, o += 2) {
      const c = colourAt(x, y);
      const seen =
        (SENSOR[c * 3] * data[p] + SENSOR[c * 3 + 1] * data[p + 1] + SENSOR[c * 3 + 2] * data[p + 2]) *
        neutral[c];
      out.writeUInt16LE(Math.round(black + Math.min(1, Math.max(0, seen)) * (white - black)), o);
    }
  }
  return out;
}

export function writeDng(file: RawFile): Buffer {
  const {
    scene: { width, height },
    preview,
    neutral,
    white,
    black,
  } = file;
  const raw = mosaic(file);
  // From XYZ under D65 to the camera: the sensor after XYZ to linear sRGB.
  const toXyz = multiply(TO_D65, SPACES.srgb.toXyz);
  const camera = multiply(
    [neutral[0], 0, 0, 0, neutral[1], 0, 0, 0, neutral[2]],
    multiply(SENSOR, invert(toXyz)!),
  );
  const previewAt = 8;
  const jpeg = preview ? Buffer.from(preview.jpeg) : Buffer.alloc(0);
  const rawAt = previewAt + jpeg.length + (jpeg.length & 1);
  const mosaicTags: Entry[] = [
    [254, LONG, [0]],
    [256, LONG, [width]],
    [257, LONG, [height]],
    [258, SHORT, [16]],
    [259, SHORT, [1]],
    [262, SHORT, [32_803]],
    [273, LONG, [rawAt]],
    [277, SHORT, [1]],
    [278, LONG, [height]],
    [279, LONG, [raw.length]],
    [284, SHORT, [1]],
    [33_421, SHORT, [2, 2]],
    [33_422, BYTE, [0, 1, 1, 2]],
    [50_710, BYTE, [0, 1, 2]],
    [50_711, SHORT, [1]],
    [50_713, SHORT, [1, 1]],
    [50_714, SHORT, [black]],
    [50_717, SHORT, [white]],
    [50_719, LONG, [0, 0]],
    [50_720, LONG, [width, height]],
    [50_829, LONG, [0, 0, height, width]],
  ];
  const rawDirectoryAt = rawAt + raw.length;
  const rawDirectory = directoryOf(mosaicTags, rawDirectoryAt);
  const firstAt = rawDirectoryAt + rawDirectory.length;
  const common: Entry[] = [
    [271, ASCII, "Quillmoor"],
    [272, ASCII, file.model],
    [274, SHORT, [file.orientation]],
    [305, ASCII, "Quillmoor field firmware"],
    [306, ASCII, file.date],
    [50_706, BYTE, [1, 4, 0, 0]],
    [50_707, BYTE, [1, 1, 0, 0]],
    [50_708, ASCII, `Quillmoor ${file.model}`],
    [50_721, SRATIONAL, camera],
    [50_728, RATIONAL, neutral],
    [50_778, SHORT, [21]],
  ];
  const shown: Entry[] = preview
    ? [
        [254, LONG, [1]],
        [256, LONG, [preview.width]],
        [257, LONG, [preview.height]],
        [258, SHORT, [8, 8, 8]],
        [259, SHORT, [7]],
        [262, SHORT, [6]],
        [273, LONG, [previewAt]],
        [277, SHORT, [3]],
        [278, LONG, [preview.height]],
        [279, LONG, [jpeg.length]],
        [284, SHORT, [1]],
        [330, LONG, [rawDirectoryAt]],
      ]
    : mosaicTags;
  const head = Buffer.alloc(8);
  head.write("II*\0", 0, "latin1");
  head.writeUInt32LE(firstAt, 4);
  return Buffer.concat([
    head,
    jpeg,
    Buffer.alloc(jpeg.length & 1),
    raw,
    rawDirectory,
    directoryOf([...shown, ...common], firstAt),
  ]);
}
