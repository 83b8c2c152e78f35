/** The facts of a BMP. */

import { readBmp } from "@/core/containers";
import type { Facts } from "@/core/proof";
import { NOTHING, type Source } from "./source";

export function bmpSource(bytes: Buffer): Source {
  const bmp = readBmp(bytes);
  const facts: Facts = {
    format: "bmp",
    width: bmp.width,
    height: bmp.height,
    bytes: bytes.length,
    resolution: bmp.resolution,
    resolutionStep: 0.0127,
    bits: 8,
    colourSpace: "srgb",
    quality: null,
    qualityExact: false,
    chroma: null,
    orientation: 1,
    alpha: false,
    profile: false,
    pages: 1,
    privateData: [],
    metadata: false,
    date: null,
  };
  return { ...NOTHING, bytes, facts, bmp };
}
