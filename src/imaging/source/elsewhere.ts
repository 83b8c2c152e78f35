/** The facts of kinds whose pixels are decoded by a process of their own. */

import { formatName } from "@/core/brief";
import { filterExif, isBareExif, readHeif, readSvg, resolutionOf, startsWith } from "@/core/containers";
import { PhotoError } from "@/core/photo";
import type { Facts } from "@/core/proof";
import { formatSize } from "@/core/units";
import { type Foreign, MOST_FOREIGN_PIXELS, openOra, readRawFacts } from "../foreign";
import { judgeProfile } from "./profiles";
import { captureDate, NOTHING, PRIMARIES, type Source, TIFF_TAGS, tryExif } from "./source";

function checkForeign(kind: Foreign, { width, height }: { width: number; height: number }): void {
  const most = MOST_FOREIGN_PIXELS[kind];
  if (width * height > most)
    throw new PhotoError(
      `The ${formatName(kind)} has ${formatSize(width, height)} px; up to ${most / 1e6} megapixels ` +
        "are decoded. Save it as JPEG or TIFF where it came from.",
    );
}

/** What is drawn has no headers of a camera, and may be seen through. */
const ARTWORK = {
  resolutionStep: 0,
  bits: 8,
  colourSpace: "srgb",
  quality: null,
  qualityExact: false,
  chroma: null,
  orientation: 1,
  alpha: true,
  profile: false,
  pages: 1,
  privateData: [] as string[],
  metadata: false,
  fixedHeaders: true,
  date: null,
};

/** Layered artwork as it looks when it is flattened. */
export async function oraSource(bytes: Buffer): Promise<Source> {
  const file = await openOra(bytes);
  file.close();
  const { width, height, resolution } = file.artwork;
  checkForeign("ora", file.artwork);
  const facts: Facts = {
    ...ARTWORK,
    format: "ora",
    width,
    height,
    bytes: bytes.length,
    resolution,
  };
  return { ...NOTHING, bytes, facts, foreign: "ora" };
}

/** A drawing without pixels of its own is drawn at least so many px long, whatever its file says. */
const LEAST_LONG = 2048;
const MOST_LONG = 8192;

/** A drawing, as many pixels as are asked. Throws a container error with one sentence. */
export function svgSource(bytes: Buffer): Source {
  const { width, height, lettering } = readSvg(new TextDecoder().decode(bytes));
  const long = Math.max(width, height);
  const scale = Math.min(MOST_LONG, Math.max(LEAST_LONG, long)) / long;
  const side = (length: number) => Math.max(1, Math.round(length * scale));
  const facts: Facts = {
    ...ARTWORK,
    format: "svg",
    width: side(width),
    height: side(height),
    bytes: bytes.length,
    resolution: null,
    drawing: { width, height, lettering },
  };
  return { ...NOTHING, bytes, facts, foreign: "svg" };
}

/** A camera's raw file as it is when it is developed: linear light in a wide space of 16 bits. */
export async function rawSource(bytes: Buffer): Promise<Source> {
  const { width, height, bits, preview, date } = await readRawFacts(bytes);
  checkForeign("raw", { width, height });
  const found = startsWith(bytes, "II*\0") || startsWith(bytes, "MM\0*") ? tryExif(bytes) : null;
  const exif = found && {
    ...found,
    ifd0: found.ifd0.filter((e) => TIFF_TAGS.has(e.tag)),
    hasThumbnail: false,
  };
  const privateData = exif ? filterExif(exif, "private").dropped : [];
  const facts: Facts = {
    // How the sensor was held is part of developing.
    format: "raw",
    width,
    height,
    bytes: bytes.length,
    resolution: null,
    resolutionStep: 0,
    bits: bits > 8 ? 16 : 8,
    colourSpace: null,
    quality: null,
    qualityExact: false,
    chroma: null,
    orientation: 1,
    alpha: false,
    profile: false,
    pages: 1,
    privateData,
    metadata: (exif !== null && !isBareExif(exif)) || privateData.length > 0,
    fixedHeaders: true,
    date: captureDate(exif) ?? date,
    preview,
  };
  return { ...NOTHING, bytes, facts, exif, foreign: "raw" };
}

export function heifSource(bytes: Buffer): Source {
  const heif = readHeif(bytes);
  const { width, height, bits, pictures, xmp } = heif;
  checkForeign("heif", heif);
  const exif = tryExif(heif.exif);
  const { profile, fault } = judgeProfile(heif.icc, 3);
  const privateData = exif ? filterExif(exif, "private").dropped : [];
  if (xmp) privateData.push("XMP data");
  const facts: Facts = {
    format: "heif",
    width,
    height,
    bytes: bytes.length,
    resolution: resolutionOf(exif),
    resolutionStep: 0,
    bits,
    colourSpace: profile?.name ?? PRIMARIES[heif.primaries ?? 1] ?? "srgb",
    profileFault: fault,
    // The file's own turn is part of decoding; what EXIF says of it does not count (ISO/IEC 23008-12, annex
    // A).
    quality: null,
    qualityExact: false,
    chroma: null,
    orientation: 1,
    alpha: false,
    profile: heif.icc !== null,
    pages: pictures,
    privateData,
    metadata: (exif !== null && !isBareExif(exif)) || privateData.length > 0,
    fixedHeaders: true,
    date: captureDate(exif),
  };
  return { ...NOTHING, bytes, facts, exif, foreign: "heif", xmp, icc: heif.icc, profile };
}
