/** What is known of a photo's bytes: the first station's answer. */
import {
  type AvifFile,
  type BmpFile,
  type Exif,
  type GainMap,
  type JpegFile,
  type PngFile,
  readExif,
  TAG,
  textAt,
  type WebpFile,
} from "@/core/containers";
import { swapsSides } from "@/core/photo";
import type { Profile } from "@/core/pixels/colour";
import type { Samples } from "@/core/pixels/develop";
import type { Facts } from "@/core/proof";
import type { Foreign, Wish } from "../foreign";

/** A photo's bytes with what is known about them. */
export interface Source {
  bytes: Buffer;
  facts: Facts;
  /** The EXIF data, if any; for TIFF those of its tags that describe the photo. */
  exif: Exif | null;
  jpeg: JpegFile | null;
  png: PngFile | null;
  webp: WebpFile | null;
  avif: AvifFile | null;
  bmp: BmpFile | null;
  /** The light that a second picture in the JPEG adds to it. */
  gainMap: GainMap | null;
  /** A kind whose pixels are decoded by a process of their own. */
  foreign: Foreign | null;
  /** Which page of several, from 0. */
  page: number;
  /** Decoded already: one frame of an animation, in sRGB. */
  decoded?: Samples;
  /** What is asked of that process. */
  wish: Wish;
  /** The XMP packet and the IPTC data, if any. */
  xmp: Uint8Array | null;
  iptc: Uint8Array | null;
  /** The embedded profile's bytes, whether they can be used or not. */
  icc: Uint8Array | null;
  /** The profile where it can be used. */
  profile: Profile | null;
}

export function tryExif(block: Uint8Array | null): Exif | null {
  if (!block) return null;
  try {
    return readExif(block);
  } catch {
    return null;
  }
}

export function captureDate(exif: Exif | null): string | null {
  const text = exif && (textAt(exif.exif, TAG.DateTimeOriginal) ?? textAt(exif.ifd0, TAG.DateTime));
  const match = text ? /^(\d{4}):(\d\d):(\d\d)/.exec(text) : null;
  return match ? `${match[1]}-${match[2]}-${match[3]}` : null;
}

/** What a source of one kind has not. */
export const NOTHING = {
  exif: null,
  jpeg: null,
  gainMap: null,
  png: null,
  webp: null,
  avif: null,
  bmp: null,
  foreign: null,
  page: 0,
  wish: {},
  xmp: null,
  iptc: null,
  icc: null,
  profile: null,
};

/** The recorded resolution turned with the picture. */
export const turned = (ppi: [number, number] | null, orientation: number): [number, number] | null =>
  ppi && swapsSides(orientation) ? [ppi[1], ppi[0]] : ppi;

/** Tags of a TIFF's first directory that describe the photo rather than how it is stored. */
export const TIFF_TAGS: ReadonlySet<number> = new Set([
  TAG.ImageDescription,
  TAG.Make,
  TAG.Model,
  TAG.Software,
  TAG.DateTime,
  TAG.Copyright,
  TAG.Artist,
  TAG.XResolution,
  TAG.YResolution,
  TAG.ResolutionUnit,
  TAG.Orientation,
]);

/** By ITU-T H.273: 1 are the primaries of sRGB, 9 of BT.2020, 12 of Display P3. */
export const PRIMARIES: Record<number, string> = { 1: "srgb", 9: "bt2020", 12: "display-p3" };
