/** The whole file put together: a bare encoding and what it carries. */
import { deflateSync } from "node:zlib";
import type { OutputFormat } from "@/core/brief";
import {
  ascii,
  chunk,
  concat,
  copyOf,
  correctXmp,
  type Exif,
  type ExifEntry,
  emptyExif,
  exifSegment,
  iccSegments,
  isIcc,
  jfifSegment,
  longEntry,
  MARKER,
  physChunk,
  readAvif,
  readJpeg,
  readPng,
  readTiff,
  readWebp,
  rebuildAvif,
  rebuildBmp,
  rebuildJpeg,
  rebuildPng,
  rebuildTiff,
  rebuildWebp,
  segment,
  shortEntry,
  TAG,
  TIFF_TAG,
  withEntries,
  withResolution,
  writeExif,
  writePdf,
} from "@/core/containers";
import type { Headers } from "./headers";

/** Tags that describe how the source was stored, not the photo. */
const STRUCTURE = new Set<number>([
  TAG.ImageWidth,
  TAG.ImageLength,
  TAG.BitsPerSample,
  0x0103,
  TAG.Photometric,
  0x0111,
  0x0115,
  0x0116,
  0x0117,
  0x011c,
  0x0140,
  0x0142,
  0x0143,
  0x0144,
  0x0145,
  0x0152,
  0x0153,
  0x0211,
  0x0212,
  TAG.YCbCrPositioning,
  0x0214,
  0x013d,
  0x013e,
  0x013f,
  0x014a,
  0x015b,
  0x00fe,
  TIFF_TAG.Xmp,
  TIFF_TAG.Iptc,
  TIFF_TAG.ImageResources,
  TIFF_TAG.Icc,
]);

/** EXIF of an upright output of that size; null where there is nothing to say. */
function outputExif(headers: Headers, alwaysDensity: boolean): Exif | null {
  const { ppi, size } = headers;
  if (headers.none)
    return alwaysDensity && headers.asksDensity && ppi !== null ? withResolution(emptyExif(), ppi) : null;
  let { exif } = headers;
  if (exif) {
    const le = exif.littleEndian;
    const ifd0 = withEntries(
      exif.ifd0.filter((e) => !STRUCTURE.has(e.tag)),
      [shortEntry(TAG.Orientation, 1, le)],
    );
    const own = headers.to?.name === "srgb" || headers.to === null ? 1 : 0xffff;
    const inner = exif.exif.length
      ? withEntries(exif.exif, [
          longEntry(TAG.PixelXDimension, size.width, le),
          longEntry(TAG.PixelYDimension, size.height, le),
          shortEntry(0xa001, own, le),
        ])
      : [];
    exif = { ...exif, ifd0, exif: inner };
  }
  return ppi === null ? exif : withResolution(exif ?? emptyExif(), ppi);
}

/** The blocks that lie beside the picture, as they are written. */
interface Blocks {
  exif: Uint8Array | null;
  xmp: Uint8Array | null;
  icc: Uint8Array | null;
}

/** A fresh encoding with its headers: the whole file. */
export function assemble(encoded: Uint8Array, format: OutputFormat, headers: Headers): Uint8Array {
  const { ppi, size } = headers;
  const onlyExif = format === "webp" || format === "avif";
  const exif = outputExif(headers, onlyExif);
  const blocks: Blocks = {
    exif: exif && writeExif(exif),
    xmp: headers.xmp && correctXmp(headers.xmp, { ...size, ppi }),
    icc: headers.to?.icc ?? null,
  };
  switch (format) {
    case "jpeg":
      return jpegFile(encoded, headers, blocks);
    case "pdf":
      return pdfFile(encoded, headers, blocks);
    case "png":
      return pngFile(encoded, headers, blocks);
    case "webp":
      return rebuildWebp(readWebp(encoded), blocks);
    case "avif":
      return rebuildAvif(readAvif(encoded), blocks);
    case "tiff":
      return tiffFile(encoded, headers, exif, blocks.xmp);
    case "bmp":
      return rebuildBmp(encoded, ppi);
    // GIF89a has no place for resolution, EXIF or a profile.
    case "gif":
      return encoded;
  }
}

export const XMP_HEAD = ascii("http://ns.adobe.com/xap/1.0/\0");
/** The most that one segment of a JPEG holds. */
const SEGMENT_ROOM = 65_533;

function jpegFile(encoded: Uint8Array, headers: Headers, { exif, xmp, icc }: Blocks): Uint8Array {
  const file = readJpeg(encoded);
  const head = [jfifSegment(headers.ppi)];
  if (exif) head.push(exifSegment(exif));
  if (xmp && xmp.length + XMP_HEAD.length <= SEGMENT_ROOM)
    head.push(segment(MARKER.APP1, concat([XMP_HEAD, xmp])));
  if (icc) head.push(...iccSegments(icc));
  // CMYK comes with its profile from the colour library, and APP14 says how its inks are stored.
  return rebuildJpeg(
    file,
    head,
    (s) =>
      s.marker < MARKER.APP0 ||
      s.marker > 0xef ||
      s.marker === MARKER.APP14 ||
      (headers.to?.name === "cmyk" && isIcc(file, s)),
  );
}

/** The page around a JPEG; the profile goes beside the picture, once. */
function pdfFile(encoded: Uint8Array, headers: Headers, blocks: Blocks): Uint8Array {
  return pageOf(jpegFile(encoded, headers, { ...blocks, icc: null }), blocks.icc, headers);
}

/** A JPEG on its page. */
export function pageOf(jpeg: Uint8Array, icc: Uint8Array | null, { size, page }: Headers): Uint8Array {
  const components = readJpeg(jpeg).frame.components.length as 1 | 3 | 4;
  return writePdf({ jpeg, ...size, components, icc, ...page });
}

/** PNG keeps XMP in an iTXt chunk of this keyword (XMP part 3). */
export const pngXmp = (xmp: Uint8Array): Uint8Array =>
  chunk("iTXt", concat([ascii("XML:com.adobe.xmp\0\0\0\0\0"), xmp]));

function pngFile(encoded: Uint8Array, headers: Headers, { exif, xmp, icc }: Blocks): Uint8Array {
  const { ppi } = headers;
  const add: Uint8Array[] = [];
  // PNG, 11.3.2.5: the sRGB chunk stands for the whole profile; 0 is the perceptual intent.
  if (headers.to?.name === "srgb") add.push(chunk("sRGB", new Uint8Array([0])));
  else if (icc) add.push(chunk("iCCP", concat([ascii("profile\0\0"), deflateSync(icc, { level: 9 })])));
  if (ppi !== null) add.push(physChunk(ppi));
  if (exif) add.push(chunk("eXIf", exif));
  if (xmp) add.push(pngXmp(xmp));
  const dropped = new Set(["pHYs", "sRGB", "iCCP", "eXIf", "gAMA", "cHRM", "tEXt", "iTXt", "zTXt"]);
  return rebuildPng(readPng(encoded), add, (type) => !dropped.has(type));
}

/** Tags of TIFF that say how densely it is printed. */
const DENSITY = new Set<number>([TAG.XResolution, TAG.YResolution, TAG.ResolutionUnit]);

function tiffFile(
  encoded: Uint8Array,
  { ppi, to }: Headers,
  exif: Exif | null,
  xmp: Uint8Array | null,
): Uint8Array {
  const { littleEndian: le, ifd0 } = readTiff(encoded);
  const foreign = exif && exif.littleEndian !== le ? swapped(exif) : exif;
  const cmyk = to?.name === "cmyk";
  const picture = ifd0.filter(
    (e) =>
      STRUCTURE.has(e.tag) &&
      e.tag !== TIFF_TAG.Xmp &&
      e.tag !== TIFF_TAG.Iptc &&
      (e.tag !== TIFF_TAG.Icc || cmyk),
  );
  const own: ExifEntry[] = [...(foreign?.ifd0 ?? [])];
  if (to?.icc) own.push({ tag: TIFF_TAG.Icc, type: 7, count: to.icc.length, value: to.icc });
  if (xmp) own.push({ tag: TIFF_TAG.Xmp, type: 1, count: xmp.length, value: xmp });
  // Baseline TIFF wants these tags; without a unit they say nothing.
  if (ppi === null)
    own.push(
      ...withResolution({ ...emptyExif(), littleEndian: le }, 1).ifd0.filter(
        (e) => e.tag !== TAG.ResolutionUnit,
      ),
      shortEntry(TAG.ResolutionUnit, 1, le),
    );
  else if (!own.some((e) => DENSITY.has(e.tag)))
    own.push(...withResolution({ ...emptyExif(), littleEndian: le }, ppi).ifd0);
  return rebuildTiff(encoded, {
    ifd0: withEntries(picture, own),
    exif: foreign?.exif ?? [],
    gps: foreign?.gps ?? [],
  });
}

const UNIT = [0, 1, 1, 2, 4, 4, 1, 1, 2, 4, 4, 4, 8, 4];
/** The same entries in the other byte order. */
function swapped(exif: Exif): Exif {
  const turn = (e: ExifEntry): ExifEntry => {
    const unit = UNIT[e.type] ?? 1;
    const value = copyOf(e.value);
    for (let i = 0; unit > 1 && i + unit <= value.length; i += unit) value.subarray(i, i + unit).reverse();
    return { ...e, value };
  };
  return {
    ...exif,
    littleEndian: !exif.littleEndian,
    ifd0: exif.ifd0.map(turn),
    exif: exif.exif.map(turn),
    gps: exif.gps.map(turn),
  };
}
