/**
 * The facts of a file, read from its bytes: containers by our own readers, the rest by the decoder's header
 * parser.
 */

import { isRawTiff, sniff, xmpAlt } from "@/core/containers";
import { PhotoError } from "@/core/photo";
import type { Facts } from "@/core/proof";
import { formatSize, MAX_PIXELS } from "@/core/units";
import { bmpSource } from "./bmp";
import { otherSource } from "./by-library";
import { heifSource, oraSource, rawSource, svgSource } from "./elsewhere";
import { jpegSource } from "./jpeg";
import { readPdfPicture } from "./pdf";
import { pngSource } from "./png";
import { judgeProfile } from "./profiles";
import type { Source } from "./source";

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
  if (format === "svg") return checkSize(svgSource(bytes));
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
      "SVG, GIF or BMP). Save it as one of these first.",
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
  const shows = xmpAlt(source.xmp);
  return shows === null ? source : { ...source, facts: { ...source.facts, shows } };
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
