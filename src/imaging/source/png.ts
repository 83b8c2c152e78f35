/** The facts of a PNG, by our own reader of its chunks. */

import { inflateSync } from "node:zlib";
import {
  chunkBody,
  filterExif,
  findChunk,
  isBareExif,
  latin1,
  orientationOf,
  type PngFile,
  physOf,
  readPng,
  resolutionOf,
} from "@/core/containers";
import { uprightSize } from "@/core/photo";
import type { Profile } from "@/core/pixels/colour";
import type { Facts } from "@/core/proof";
import { judgeProfile } from "./profiles";
import { captureDate, NOTHING, type Source, tryExif, turned } from "./source";

/** Text of a PNG that stays under `private`; the rest may name people or places. */
const HARMLESS_TEXT = new Set([
  "Title",
  "Description",
  "Copyright",
  "Creation Time",
  "Software",
  "Source",
  "Comment",
]);

export const isPngText = (type: string) => type === "tEXt" || type === "zTXt" || type === "iTXt";

export const pngKeyword = (body: Uint8Array): string =>
  latin1(body.subarray(0, Math.max(0, body.indexOf(0))));

export const keptPngText = (body: Uint8Array): boolean => HARMLESS_TEXT.has(pngKeyword(body));

const isGrey = (png: PngFile) => png.colourType === 0 || png.colourType === 4;

/** The space by the chunks of PNG: cICP before iCCP before sRGB (PNG specification, third edition, 4.3). */
function pngSpace(png: PngFile, profile: Profile | null): string {
  const cicp = findChunk(png, "cICP");
  if (cicp) return cicp[0] === 12 ? "display-p3" : cicp[0] === 9 ? "bt2020" : "srgb";
  return profile?.name ?? (isGrey(png) ? "gray" : "srgb");
}

/** The profile of an iCCP chunk; an empty one where it cannot be unpacked. */
function pngProfile(png: PngFile): Uint8Array | null {
  const iccp = findChunk(png, "iCCP");
  if (!iccp) return null;
  try {
    return inflateSync(iccp.subarray(iccp.indexOf(0) + 2), { maxOutputLength: 16_000_000 });
  } catch {
    return new Uint8Array(0);
  }
}

const XMP_KEYWORD = "XML:com.adobe.xmp\0";

export const isPngXmp = (body: Uint8Array): boolean =>
  body.length > XMP_KEYWORD.length && [...XMP_KEYWORD].every((c, i) => body[i] === c.charCodeAt(0));

/**
 * The packet in a PNG's iTXt chunk, packed or not (PNG, 11.3.3.4); null where there is none that can be read.
 */
export function xmpOfPng(body: Uint8Array): Uint8Array | null {
  const flags = XMP_KEYWORD.length;
  const language = body.indexOf(0, flags + 2);
  const keyword = language < 0 ? -1 : body.indexOf(0, language + 1);
  if (keyword < 0) return null;
  const packet = body.subarray(keyword + 1);
  try {
    return body[flags] === 1 ? inflateSync(packet, { maxOutputLength: 8_000_000 }) : packet;
  } catch {
    return null;
  }
}

export function pngSource(bytes: Buffer): Source {
  const png = readPng(bytes);
  const exif = tryExif(findChunk(png, "eXIf"));
  const orientation = orientationOf(exif);
  const privateData = exif ? filterExif(exif, "private").dropped : [];
  const texts = png.chunks.filter((c) => isPngText(c.type)).map((c) => chunkBody(png, c));
  if (texts.some((body) => !keptPngText(body))) privateData.push("text notes");
  const icc = pngProfile(png);
  const { profile, fault } = judgeProfile(icc, isGrey(png) ? 1 : 3);
  const phys = physOf(png);
  const blank = (body: Uint8Array) =>
    pngKeyword(body) === "Comment" && body.subarray(8).every((b) => b === 0x20);
  const facts: Facts = {
    format: "png",
    ...uprightSize(png, orientation),
    bytes: bytes.length,
    resolution: turned(phys ?? resolutionOf(exif), orientation),
    resolutionStep: phys ? 0.0127 : 0,
    bits: png.bits < 8 || png.colourType === 3 ? 8 : png.bits,
    colourSpace: pngSpace(png, profile),
    profileFault: fault,
    quality: null,
    qualityExact: false,
    chroma: null,
    orientation,
    alpha: png.colourType >= 4 || png.chunks.some((c) => c.type === "tRNS"),
    profile: png.chunks.some((c) => c.type === "iCCP" || c.type === "sRGB" || c.type === "cICP"),
    pages: 1,
    privateData,
    metadata:
      (exif !== null && !isBareExif(exif)) ||
      png.chunks.some((c) => c.type === "tIME") ||
      texts.some((body) => !blank(body)),
    date: captureDate(exif),
  };
  const packet = texts.find(isPngXmp);
  return { ...NOTHING, bytes, facts, exif, png, icc, profile, xmp: packet ? xmpOfPng(packet) : null };
}
