/** Raw files for tests, by the demo's writer after DNG 1.4. */

import { type RawFile, writeDng } from "@demo/dng";
import sharp from "sharp";
import { linearTable, SRGB_CURVE } from "@/core/pixels/colour";
import { pixels } from "./photos";

/** A photo as a sensor would see it; `light`: multiples of white that the lightest code stands for. */
export async function dng(
  width: number,
  height: number,
  change: Partial<RawFile> & { seed?: number; light?: number; codes?: Uint8Array } = {},
): Promise<Buffer> {
  const { seed = 1, light = 1, codes = pixels(width, height, seed), ...rest } = change;
  const table = linearTable(SRGB_CURVE, 256);
  const small = { width: Math.round(width / 2), height: Math.round(height / 2) };
  const jpeg = await sharp(codes, { raw: { width, height, channels: 3 } })
    .resize(small.width, small.height)
    .jpeg()
    .toBuffer();
  const data = Float32Array.from(codes, (code) => table[code] * light);
  return writeDng({
    scene: { data, width, height },
    white: 15_000,
    black: 512,
    neutral: [0.5, 1, 0.6],
    preview: { jpeg, ...small },
    orientation: 1,
    model: "Lamp Camera 2",
    date: "2026:05:14 23:41:07",
    ...rest,
  });
}
