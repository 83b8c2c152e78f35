/** The facts of kinds whose headers the colour library parses; their containers are read by us beside it. */

import type { Metadata } from "sharp";
import {
  type AvifFile,
  asStill,
  avifColour,
  avifExif,
  avifLight,
  avifSequence,
  avifXmp,
  ContainerError,
  chromaOf,
  type Exif,
  filterExif,
  isBareExif,
  isSequence,
  jpegInTiff,
  numberAt,
  orientationOf,
  qualityOf,
  readAvif,
  readJpeg,
  readWebp,
  resolutionOf,
  startsWith,
  TAG,
  TIFF_TAG,
  tiffPages,
  webpChunk,
  webpExif,
} from "@/core/containers";
import { PhotoError, uprightSize } from "@/core/photo";
import { WHITE_NITS } from "@/core/pixels/colour";
import type { Facts } from "@/core/proof";
import { judgeProfile } from "./profiles";
import { captureDate, NOTHING, PRIMARIES, type Source, TIFF_TAGS, tryExif, turned } from "./source";

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

type Kind = "tiff" | "webp" | "avif" | "gif";

export async function otherSource(bytes: Buffer, format: Kind, page = 0): Promise<Source> {
  const webp = format === "webp" ? tryContainer(() => readWebp(bytes)) : null;
  const avif = format === "avif" ? tryContainer(() => readAvif(bytes)) : null;
  // Its first frame may be whole where the others are not.
  if (format === "avif" && !avif && isSequence(bytes)) throw unreadable(format);
  const meta = await parsedHeaders(bytes, format, page);
  const pages = (avif && avifSequence(avif)?.colour.length) ?? meta.pages ?? 1;
  const block = format === "tiff" ? bytes : ((webp && webpExif(webp)) ?? (avif && avifExif(avif)) ?? null);
  const whole = tryExif(block);
  const tagValue = (tag: number) =>
    (format === "tiff" && whole?.ifd0.find((e) => e.tag === tag)?.value) || null;
  const xmp = tagValue(TIFF_TAG.Xmp) ?? (webp && webpChunk(webp, "XMP ")) ?? (avif && avifXmp(avif)) ?? null;
  const iptc = tagValue(TIFF_TAG.Iptc);
  const exif = format === "tiff" ? describing(whole) : whole;
  const privateData = exif ? filterExif(exif, "private").dropped : [];
  if (xmp) privateData.push("XMP data");
  if (iptc || meta.iptc) privateData.push("IPTC data");
  const inside = format === "tiff" ? insideTiff(bytes) : null;
  const orientation = format === "tiff" || format === "webp" ? orientationOf(exif) : 1;
  const facts: Facts = {
    format,
    ...uprightSize({ width: meta.width, height: meta.pageHeight ?? meta.height }, orientation),
    bytes: bytes.length,
    resolution: turned(resolutionOf(exif), orientation),
    resolutionStep: 0,
    bits: Math.max(8, bitsOf(format, whole, meta)),
    ...coloursOf(avif, meta),
    quality: inside?.quality ?? null,
    qualityExact: inside?.exact ?? false,
    chroma:
      inside?.chroma ??
      (format === "avif" ? (meta.chromaSubsampling ?? null) : format === "webp" ? "4:2:0" : null),
    orientation,
    alpha: meta.hasAlpha,
    pages,
    ...pageSizesOf(bytes, format),
    privateData,
    metadata: (exif !== null && !isBareExif(exif)) || privateData.length > 0,
    fixedHeaders:
      format === "gif" ||
      (format === "webp" && !webp) ||
      // What lies in tracks is found by places in the file.
      (format === "avif" && !avif?.top.every(({ type }) => type !== "moov")) ||
      pages > 1 ||
      startsWith(bytes, "II+") ||
      startsWith(bytes, "MM\0+"),
    date: captureDate(exif),
  };
  const { profile } = judgeProfile(meta.icc, channelsOf(meta));
  return { ...NOTHING, bytes, page, facts, exif, webp, avif, xmp, iptc, icc: meta.icc ?? null, profile };
}

/** Read only when a file of such a kind comes: the library takes a tenth of a second to load. */
async function parsedHeaders(bytes: Buffer, format: Kind, page: number): Promise<Metadata> {
  const { default: sharp } = await import("sharp");
  return sharp(asStill(bytes), { limitInputPixels: false, page })
    .metadata()
    .catch(() => {
      throw unreadable(format);
    });
}

const unreadable = (format: Kind) =>
  new PhotoError(
    `The ${format.toUpperCase()} file cannot be read: it is damaged or cut short. Bring in a sound copy.`,
  );

/** Of a TIFF's directory the tags that describe the photo. */
const describing = (exif: Exif | null): Exif | null =>
  exif && { ...exif, ifd0: exif.ifd0.filter((e) => TIFF_TAGS.has(e.tag)), hasThumbnail: false };

/** Of the JPEG that a TIFF is made of, where it is one. */
function insideTiff(bytes: Buffer) {
  const strip = jpegInTiff(bytes);
  const file = strip && tryContainer(() => readJpeg(strip));
  return file && { ...(qualityOf(file) ?? { quality: null, exact: false }), chroma: chromaOf(file.frame) };
}

const bitsOf = (format: Kind, exif: Exif | null, meta: Metadata): number =>
  format === "tiff" && exif
    ? (numberAt(exif.ifd0, TAG.BitsPerSample, exif.littleEndian) ?? 8)
    : (meta.bitsPerSample ?? (meta.depth === "ushort" ? 16 : 8));

const isGrey = ({ space }: Metadata): boolean => space === "b-w" || space === "grey16";
const channelsOf = (meta: Metadata): 1 | 3 | 4 => (meta.space === "cmyk" ? 4 : isGrey(meta) ? 1 : 3);

function coloursOf(
  avif: AvifFile | null,
  meta: Metadata,
): Pick<Facts, "colourSpace" | "profileFault" | "profile" | "light"> {
  const { profile, fault } = judgeProfile(meta.icc, channelsOf(meta));
  const bright = avif ? lightOf(avif) : null;
  const plain = meta.space === "cmyk" ? "cmyk" : isGrey(meta) ? "gray" : "srgb";
  return {
    colourSpace: profile?.name ?? bright?.space ?? plain,
    profileFault: fault,
    profile: meta.icc !== undefined || bright !== null,
    ...(bright && { light: bright.light }),
  };
}

function pageSizesOf(bytes: Buffer, format: Kind): Pick<Facts, "pageSizes"> {
  const pages = format === "tiff" ? tiffPages(bytes) : [];
  if (pages.length < 2) return {};
  return { pageSizes: pages.slice(0, MOST_PAGE_SIZES).map(({ width, height }) => ({ width, height })) };
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
