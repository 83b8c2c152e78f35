/**
 * A small 8-bit sRGB picture of a photo that the colour library cannot read, or whose light it would misread.
 */
import { resolveBrief } from "@/core/brief";
import type { Geometry } from "@/core/geometry";
import { CENTRED } from "@/core/photo";
import { destinationOf } from "../headers";
import type { Source } from "../source";
import { preparePicture } from "./prepare";

export const needsDeveloping = (source: Source): boolean =>
  source.foreign !== null || source.facts.light !== undefined;

/** Upright, inside side × side px, never larger than the photo. */
export async function smallPicture(
  source: Source,
  side: number,
): Promise<{ data: Uint8Array; width: number; height: number; channels: 1 | 2 | 3 | 4 }> {
  const { width, height } = source.facts;
  const scale = Math.min(1, side / Math.max(width, height));
  const size = {
    width: Math.max(1, Math.round(width * scale)),
    height: Math.max(1, Math.round(height * scale)),
  };
  const geometry: Geometry = {
    ...size,
    mode: "whole",
    crop: { x: 0, y: 0, width, height },
    place: { x: 0, y: 0, ...size },
    scale,
    cut: 0,
  };
  const to = destinationOf(resolveBrief({ zumbrelBrief: 1, name: "small" }), source);
  const made = await preparePicture(source, {
    geometry,
    frame: CENTRED,
    to,
    bits: 8,
    background: "#ffffff",
    opaque: true,
    sharpen: null,
    ppi: null,
  });
  return {
    data: made.data as Uint8Array,
    width: made.width,
    height: made.height,
    channels: made.channels as 1,
  };
}
