/**
 * A JPEG as the one strip of a TIFF. Sources: TIFF 6.0, sections 8 and 21 (YCbCr); Adobe's technical note 2 of 1995
 * (compression 7, a strip is a JPEG of its own), from memory.
 */
import { concat, view } from "./bytes";
import { directory, type ExifEntry, longEntry, readExif, shortEntry } from "./exif";
import { MARKER, readJpeg, rebuildJpeg } from "./jpeg";

const JPEG = 7;
const [GREY, YCBCR] = [1, 6];
const HEAD = 8;
const TAGS = {
  ImageWidth: 256,
  ImageLength: 257,
  BitsPerSample: 258,
  Compression: 259,
  Photometric: 262,
  StripOffsets: 273,
  SamplesPerPixel: 277,
  RowsPerStrip: 278,
  StripByteCounts: 279,
  PlanarConfiguration: 284,
  YCbCrSubSampling: 530,
  YCbCrPositioning: 531,
  ReferenceBlackWhite: 532,
} as const;

const shorts = (tag: number, ...values: number[]): ExifEntry => {
  const value = new Uint8Array(values.length * 2);
  values.forEach((v, i) => void view(value).setUint16(i * 2, v, true));
  return { tag, type: 3, count: values.length, value };
};

/** Codes that black and white of each part have: all 256, with colours around the middle (ITU-T T.871). */
function fullRange(): ExifEntry {
  const value = new Uint8Array(48);
  [0, 255, 128, 255, 128, 255].forEach((v, i) => {
    view(value).setUint32(i * 8, v, true);
    view(value).setUint32(i * 8 + 4, 1, true);
  });
  return { tag: TAGS.ReferenceBlackWhite, type: 5, count: 6, value };
}

/** Of one part (grey) or three; without headers of its own. */
export function tiffOfJpeg(jpeg: Uint8Array): Uint8Array {
  const file = readJpeg(jpeg);
  const { width, height, components } = file.frame;
  const strip = rebuildJpeg(file, [], ({ marker }) => marker < MARKER.APP0 || marker > 0xef);
  const colour = components.length === 3;
  const [first] = components;
  const entries: ExifEntry[] = [
    longEntry(TAGS.ImageWidth, width, true),
    longEntry(TAGS.ImageLength, height, true),
    shorts(TAGS.BitsPerSample, ...components.map(() => 8)),
    shortEntry(TAGS.Compression, JPEG, true),
    shortEntry(TAGS.Photometric, colour ? YCBCR : GREY, true),
    longEntry(TAGS.StripOffsets, HEAD, true),
    shortEntry(TAGS.SamplesPerPixel, components.length, true),
    longEntry(TAGS.RowsPerStrip, height, true),
    longEntry(TAGS.StripByteCounts, strip.length, true),
    shortEntry(TAGS.PlanarConfiguration, 1, true),
    ...(colour
      ? [
          shorts(TAGS.YCbCrSubSampling, first.h, first.v),
          // JFIF's: between the pixels that it stands for.
          shortEntry(TAGS.YCbCrPositioning, 1, true),
          fullRange(),
        ]
      : []),
  ];
  const padded = concat([strip, new Uint8Array(strip.length & 1)]);
  const at = HEAD + padded.length;
  const head = new Uint8Array([0x49, 0x49, 42, 0, 0, 0, 0, 0]);
  view(head).setUint32(4, at, true);
  return concat([head, padded, directory(entries, at, true)]);
}

/** The JPEG in a TIFF that is one strip of it; null for all others. Never throws. */
export function jpegInTiff(bytes: Uint8Array): Uint8Array | null {
  try {
    const { ifd0, littleEndian } = readExif(bytes);
    const value = (tag: number): number | null => {
      const entry = ifd0.find((e) => e.tag === tag && e.count === 1);
      if (!entry) return null;
      const data = view(entry.value);
      return entry.type === 3 ? data.getUint16(0, littleEndian) : data.getUint32(0, littleEndian);
    };
    const [at, length] = [value(TAGS.StripOffsets), value(TAGS.StripByteCounts)];
    if (value(TAGS.Compression) !== JPEG || at === null || length === null) return null;
    return bytes.subarray(at, at + length);
  } catch {
    return null;
  }
}
