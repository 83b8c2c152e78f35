/**
 * The facts of a file, read from its bytes: containers by our own readers, the rest by the decoder's header
 * parser.
 */
import { inflateSync } from "node:zlib";
import sharp, { type Metadata } from "sharp";
import { formatName } from "@/core/brief";
import {
  type AvifFile,
  avifColour,
  avifExif,
  avifLight,
  avifXmp,
  type BmpFile,
  bodyOf,
  ContainerError,
  chromaOf,
  chunkBody,
  type Exif,
  exifBlock,
  filterExif,
  findChunk,
  type GainMap,
  iccProfile,
  isBareExif,
  isIptc,
  isMultiPicture,
  isRawTiff,
  isXmp,
  type JpegFile,
  jfifDensity,
  latin1,
  MARKER,
  numberAt,
  orientationOf,
  type PngFile,
  physOf,
  qualityOf,
  readAvif,
  readBmp,
  readExif,
  readGainMap,
  readHeif,
  readJpeg,
  readPng,
  readWebp,
  resolutionOf,
  sniff,
  startsWith,
  TAG,
  TIFF_TAG,
  textAt,
  tiffPages,
  type WebpFile,
  webpChunk,
  webpExif,
} from "@/core/containers";
import { PhotoError, swapsSides, uprightSize } from "@/core/photo";
import { type Profile, WHITE_NITS } from "@/core/pixels/colour";
import type { Facts } from "@/core/proof";
import { formatSize, MAX_PIXELS } from "@/core/units";
import type { Foreign, Wish } from "../foreign";
import { MOST_FOREIGN_PIXELS, openOra, readRawFacts } from "../foreign";
import { readPdfPicture } from "./pdf";
import { judgeProfile } from "./profiles";

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

/** Also files that are written here and read back only. Throws as {@link readSource} does. */
export async function readWritten(bytes: Buffer): Promise<Source> {
  return sniff(bytes.subarray(0, 64)) === "pdf" ? checkSize(await pdfSource(bytes)) : readSource(bytes);
}

/** The picture on a page: its JPEG's own facts, printed at the size that the page shows it at. */
async function pdfSource(bytes: Buffer): Promise<Source> {
  const { jpeg, page, shown, pages, icc } = await readPdfPicture(bytes);
  const source = jpegSource(jpeg);
  const { profile, fault } = icc
    ? judgeProfile(icc, source.jpeg!.frame.components.length)
    : { profile: source.profile, fault: source.facts.profileFault };
  const { width, height } = source.jpeg!.frame;
  const facts: Facts = {
    ...source.facts,
    width,
    height,
    format: "pdf",
    bytes: bytes.length,
    pages,
    page,
    orientation: 1,
    resolution: [width / shown.width, height / shown.height],
    resolutionStep: 0,
    profile: icc !== null || source.facts.profile,
    profileFault: fault,
    colourSpace: profile?.name ?? source.facts.colourSpace,
    fixedHeaders: true,
  };
  return { ...source, facts, icc: icc ?? source.icc, profile };
}

/**
 * Reads the facts. Throws {@link PhotoError} or a container error with one clear sentence. Nothing is
 * decoded.
 */
export async function readSource(bytes: Buffer): Promise<Source> {
  if (bytes.length === 0) throw new PhotoError("The file is empty (0 bytes). Bring in the photo once more.");
  const format = sniff(bytes.subarray(0, 64));
  if (format === "raw" || (format === "tiff" && isRawTiff(bytes))) return checkSize(await rawSource(bytes));
  if (format === "jpeg") return checkSize(jpegSource(bytes));
  if (format === "png") return checkSize(pngSource(bytes));
  if (format === "bmp") return checkSize(bmpSource(bytes));
  if (format === "heif") return checkSize(heifSource(bytes));
  if (format === "ora") return checkSize(await oraSource(bytes));
  if (format === "layered")
    throw new PhotoError(
      "This is layered artwork of a closed kind, which cannot be read. Save it as OpenRaster (.ora), " +
        "or flattened as PNG or TIFF.",
    );
  if (format === "tiff" || format === "webp" || format === "avif" || format === "gif")
    return checkSize(await otherSource(bytes, format));
  if (format !== null)
    throw new PhotoError(
      `This is a ${format.toUpperCase()} file, which cannot be read. Save it as JPEG, PNG or TIFF first.`,
    );
  if (looksLikeText(bytes))
    throw new PhotoError(
      "This is a text file, not a picture, whatever its name says. Bring in the photo itself.",
    );
  // Raw files of many cameras have no mark in common: their reader is asked.
  const raw = await rawSource(bytes).catch(() => null);
  if (raw) return checkSize(raw);
  throw new PhotoError(
    "This is not a picture of a known kind (JPEG, PNG, TIFF, WebP, AVIF, HEIC, raw file, OpenRaster, " +
      "GIF or BMP). Save it as one of these first.",
  );
}

function looksLikeText(bytes: Buffer): boolean {
  const head = bytes.subarray(0, 512);
  return head.every((b) => b === 9 || b === 10 || b === 13 || (b >= 32 && b !== 127));
}

/** A decoder holds every coefficient of a progressive JPEG: measured, 600 megapixels take 1.9 to 2.4 GB. */
const MAX_PROGRESSIVE = 250_000_000;

function checkSize(source: Source): Source {
  const { width, height } = source.facts;
  if (width < 1 || height < 1)
    throw new PhotoError(
      `The picture says it has ${formatSize(width, height)} px. Save it anew in the program it came from.`,
    );
  if (width * height > MAX_PIXELS) {
    const found = Math.round((width * height) / 1e6);
    throw new PhotoError(
      `The picture has ${formatSize(width, height)} px, ${found} megapixels; at most ` +
        `${MAX_PIXELS / 1e6} are taken. Make it smaller where it came from.`,
    );
  }
  if (source.jpeg?.frame.progressive && width * height > MAX_PROGRESSIVE) {
    const found = Math.round((width * height) / 1e6);
    throw new PhotoError(
      `This is a progressive JPEG of ${found} megapixels; progressive ones are taken up to ` +
        `${MAX_PROGRESSIVE / 1e6}, because all of one has to be held at once. Save it as a baseline ` +
        "JPEG or as TIFF.",
    );
  }
  return source;
}

function tryExif(block: Uint8Array | null): Exif | null {
  if (!block) return null;
  try {
    return readExif(block);
  } catch {
    return null;
  }
}

function captureDate(exif: Exif | null): string | null {
  const text = exif && (textAt(exif.exif, TAG.DateTimeOriginal) ?? textAt(exif.ifd0, TAG.DateTime));
  const match = text ? /^(\d{4}):(\d\d):(\d\d)/.exec(text) : null;
  return match ? `${match[1]}-${match[2]}-${match[3]}` : null;
}

/** What a source of one kind has not. */
const NOTHING = {
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
const turned = (ppi: [number, number] | null, orientation: number): [number, number] | null =>
  ppi && swapsSides(orientation) ? [ppi[1], ppi[0]] : ppi;

function jpegSource(bytes: Buffer): Source {
  const jpeg = readJpeg(bytes);
  if (jpeg.end === null)
    throw new PhotoError("The JPEG is cut short: its end is missing. Bring in the whole file.");
  const exif = tryExif(exifBlock(jpeg));
  const icc = iccProfile(jpeg);
  const { profile, fault } = judgeProfile(icc, jpeg.frame.components.length);
  const quality = qualityOf(jpeg);
  const orientation = orientationOf(exif);
  const exifPpi = resolutionOf(exif);
  const untagged = { 1: "gray", 4: "cmyk" }[jpeg.frame.components.length] ?? "srgb";
  const privateData = exif ? filterExif(exif, "private").dropped : [];
  const has = (test: (file: JpegFile, s: (typeof jpeg.segments)[number]) => boolean) =>
    jpeg.segments.some((s) => test(jpeg, s));
  if (has(isXmp)) privateData.push("XMP data");
  if (has(isIptc)) privateData.push("IPTC data");
  const gainMap = jpeg.end < bytes.length ? readGainMap(jpeg) : null;
  if (gainMap) privateData.push("the gain map");
  else if (has(isMultiPicture) || jpeg.end < bytes.length) privateData.push("data behind the picture");
  const comment = jpeg.segments.some(
    (s) => s.marker === MARKER.COM && bodyOf(jpeg, s).some((b) => b !== 0x20),
  );
  const facts: Facts = {
    format: "jpeg",
    ...uprightSize(jpeg.frame, orientation),
    bytes: bytes.length,
    resolution: turned(exifPpi ?? jfifDensity(jpeg), orientation),
    resolutionStep: exifPpi ? 0 : 0.5,
    bits: jpeg.frame.bits,
    colourSpace: profile?.name ?? untagged,
    profileFault: fault,
    quality: quality?.quality ?? null,
    qualityExact: quality?.exact ?? false,
    chroma: chromaOf(jpeg.frame),
    orientation,
    alpha: false,
    profile: icc !== null,
    pages: 1,
    ...(gainMap && { gainMap: 2 ** Math.max(...gainMap.max) }),
    privateData,
    metadata: (exif !== null && !isBareExif(exif)) || comment || privateData.length > 0,
    date: captureDate(exif),
  };
  const packet = jpeg.segments.find((s) => isXmp(jpeg, s));
  const iptc = jpeg.segments.find((s) => isIptc(jpeg, s));
  const xmp = packet ? bodyOf(jpeg, packet) : null;
  return {
    ...NOTHING,
    bytes,
    facts,
    exif,
    jpeg,
    gainMap,
    icc,
    profile,
    xmp: xmp?.subarray(xmp.indexOf(0) + 1) ?? null,
    iptc: iptc ? bodyOf(jpeg, iptc) : null,
  };
}

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

function pngSource(bytes: Buffer): Source {
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

/** Tags of a TIFF's first directory that describe the photo rather than how it is stored. */
const TIFF_TAGS: ReadonlySet<number> = new Set([
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

/** Pages whose pixels are remembered; those of later ones are taken to be like the first's. */
const MOST_PAGE_SIZES = 200;

/**
 * Null for a structure that is not understood: such a file can still be decoded, but not rewritten in place.
 */
function tryContainer<T>(read: () => T): T | null {
  try {
    return read();
  } catch (error) {
    if (error instanceof ContainerError || error instanceof RangeError) return null;
    throw error;
  }
}

/**
 * The same file with another of its pages as the photo, counted from 1. Throws a {@link PhotoError} where
 * there is none of that number.
 */
export async function readPage(source: Source, page: number): Promise<Source> {
  const { pages } = source.facts;
  if (page > pages)
    throw new PhotoError(`Page ${page} is asked for, and the file has ${pages}. Choose another.`);
  const one = await otherSource(source.bytes, "tiff", page - 1);
  return checkSize({ ...one, facts: { ...one.facts, onePage: true } });
}

async function otherSource(
  bytes: Buffer,
  format: "tiff" | "webp" | "avif" | "gif",
  page = 0,
): Promise<Source> {
  const pages = format === "tiff" ? tiffPages(bytes) : [];
  const webp = format === "webp" ? tryContainer(() => readWebp(bytes)) : null;
  const avif = format === "avif" ? tryContainer(() => readAvif(bytes)) : null;
  let meta: Metadata;
  try {
    meta = await sharp(bytes, { limitInputPixels: false, page }).metadata();
  } catch {
    throw new PhotoError(
      `The ${format.toUpperCase()} file cannot be read: it is damaged or cut short. Bring in a sound copy.`,
    );
  }
  let exif = tryExif(
    format === "tiff" ? bytes : ((webp && webpExif(webp)) ?? (avif && avifExif(avif)) ?? null),
  );
  const le = exif?.littleEndian ?? true;
  const orientation = format === "tiff" || format === "webp" ? orientationOf(exif) : 1;
  const bits =
    format === "tiff" && exif
      ? (numberAt(exif.ifd0, TAG.BitsPerSample, le) ?? 8)
      : (meta.bitsPerSample ?? (meta.depth === "ushort" ? 16 : 8));
  const tagValue = (tag: number) =>
    (format === "tiff" && exif?.ifd0.find((e) => e.tag === tag)?.value) || null;
  const xmp = tagValue(TIFF_TAG.Xmp) ?? (webp && webpChunk(webp, "XMP ")) ?? (avif && avifXmp(avif));
  const iptc = tagValue(TIFF_TAG.Iptc);
  if (format === "tiff" && exif)
    exif = { ...exif, ifd0: exif.ifd0.filter((e) => TIFF_TAGS.has(e.tag)), hasThumbnail: false };
  const privateData = exif ? filterExif(exif, "private").dropped : [];
  if (xmp) privateData.push("XMP data");
  if (iptc || meta.iptc) privateData.push("IPTC data");
  const colours = meta.space === "cmyk" ? 4 : meta.space === "b-w" || meta.space === "grey16" ? 1 : 3;
  const { profile, fault } = judgeProfile(meta.icc, colours);
  const bright = avif ? lightOf(avif) : null;
  const untagged = bright
    ? bright.space
    : meta.space === "cmyk"
      ? "cmyk"
      : meta.space === "b-w" || meta.space === "grey16"
        ? "gray"
        : "srgb";
  const facts: Facts = {
    format,
    ...uprightSize({ width: meta.width, height: meta.pageHeight ?? meta.height }, orientation),
    bytes: bytes.length,
    resolution: turned(resolutionOf(exif), orientation),
    resolutionStep: 0,
    bits: bits < 8 ? 8 : bits,
    colourSpace: profile?.name ?? untagged,
    profileFault: fault,
    quality: null,
    qualityExact: false,
    chroma: format === "avif" ? (meta.chromaSubsampling ?? null) : format === "webp" ? "4:2:0" : null,
    orientation,
    alpha: meta.hasAlpha,
    profile: meta.icc !== undefined || bright !== null,
    ...(bright && { light: bright.light }),
    pages: meta.pages ?? 1,
    ...(pages.length > 1 && {
      pageSizes: pages.slice(0, MOST_PAGE_SIZES).map(({ width, height }) => ({ width, height })),
    }),
    privateData,
    metadata: (exif !== null && !isBareExif(exif)) || privateData.length > 0,
    fixedHeaders:
      format === "gif" ||
      (format === "webp" && !webp) ||
      (format === "avif" && !avif) ||
      (meta.pages ?? 1) > 1 ||
      startsWith(bytes, "II+") ||
      startsWith(bytes, "MM\0+"),
    date: captureDate(exif),
  };
  return {
    ...NOTHING,
    bytes,
    page,
    facts,
    exif,
    webp,
    avif,
    xmp: xmp ?? null,
    iptc,
    icc: meta.icc ?? null,
    profile,
  };
}

/** Where a file says nothing of how far its light reaches: 1000 cd/m², common practice for HDR pictures. */
const USUAL_PEAK = 1000;
const PQ = 16;

/** Light above white, where the file signals PQ. */
function lightOf(avif: AvifFile): { space: string; light: NonNullable<Facts["light"]> } | null {
  const colour = avifColour(avif);
  if (colour?.transfer !== PQ) return null;
  const said = avifLight(avif);
  const peak = said && said.peak > 0 ? said.peak : null;
  return {
    space: PRIMARIES[colour.primaries] ?? "srgb",
    light: { reach: (peak ?? USUAL_PEAK) / WHITE_NITS, peak, average: said?.average ?? null },
  };
}

function checkForeign(kind: Foreign, { width, height }: { width: number; height: number }): void {
  const most = MOST_FOREIGN_PIXELS[kind];
  if (width * height > most)
    throw new PhotoError(
      `The ${formatName(kind)} has ${formatSize(width, height)} px; up to ${most / 1e6} megapixels ` +
        "are decoded. Save it as JPEG or TIFF where it came from.",
    );
}

/** Layered artwork as it looks when it is flattened. */
async function oraSource(bytes: Buffer): Promise<Source> {
  const file = await openOra(bytes);
  file.close();
  const { width, height, resolution } = file.artwork;
  checkForeign("ora", file.artwork);
  const facts: Facts = {
    format: "ora",
    width,
    height,
    bytes: bytes.length,
    resolution,
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
    privateData: [],
    metadata: false,
    fixedHeaders: true,
    date: null,
  };
  return { ...NOTHING, bytes, facts, foreign: "ora" };
}

/** A camera's raw file as it is when it is developed: linear light in a wide space of 16 bits. */
async function rawSource(bytes: Buffer): Promise<Source> {
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

/** By ITU-T H.273: 1 are the primaries of sRGB, 9 of BT.2020, 12 of Display P3. */
const PRIMARIES: Record<number, string> = { 1: "srgb", 9: "bt2020", 12: "display-p3" };

function heifSource(bytes: Buffer): Source {
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

function bmpSource(bytes: Buffer): Source {
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
