/**
 * The directory of a TIFF written anew, the picture left where it lies. Source: TIFF 6.0, section 2; tag
 * 34675 from ICC.1:2022, annex B.
 * The new directory goes to the end of the file; what is given up is overwritten with zeros, so that nothing
 * private stays behind.
 */
import { concat, copyOf, view } from "./bytes";
import { ContainerError } from "./error";
import { directory, type ExifEntry, entrySpans, longEntry, readExif, TAG, withEntries } from "./exif";

export const TIFF_TAG = {
  Xmp: 700,
  Iptc: 33_723,
  ImageResources: 34_377,
  Icc: 34_675,
  NewSubfile: 254,
} as const;

export interface TiffChange {
  /** The entries of the first directory, pointers to others left out. */
  ifd0: ExifEntry[];
  /** The EXIF directory; empty for none. */
  exif: ExifEntry[];
  gps: ExifEntry[];
}

/** Classic TIFF only: throws {@link ContainerError} for the variant with 64-bit offsets. */
export function readTiff(bytes: Uint8Array): {
  littleEndian: boolean;
  ifd0: ExifEntry[];
  exif: ExifEntry[];
  gps: ExifEntry[];
  next: number;
} {
  const littleEndian = bytes[0] === 0x49;
  const data = view(bytes);
  if (data.getUint16(2, littleEndian) !== 42)
    throw new ContainerError("This TIFF has 64-bit offsets, whose headers cannot be rewritten in place.");
  const { ifd0, exif, gps } = readExif(bytes);
  const first = data.getUint32(4, littleEndian);
  const next = first + 2 + data.getUint16(first, littleEndian) * 12;
  return {
    littleEndian,
    ifd0,
    exif,
    gps,
    next: next + 4 <= bytes.length ? data.getUint32(next, littleEndian) : 0,
  };
}

/** The file with these entries instead of its own; strips and tiles stay byte for byte where they are. */
export function rebuildTiff(bytes: Uint8Array, change: TiffChange): Uint8Array {
  const { littleEndian: le, next } = readTiff(bytes);
  const kept = copyOf(bytes);
  const data = view(kept);
  // Values move into the new directories with their entries, so all the old ones can go.
  for (const [start, end] of entrySpans(bytes)) kept.fill(0, start, end);
  const parts: Uint8Array[] = [kept, new Uint8Array(kept.length & 1)];
  let at = kept.length + (kept.length & 1);
  const add = (entries: ExifEntry[], following: number): number => {
    const block = directory(entries, at, le);
    view(block).setUint32(2 + entries.length * 12, following, le);
    const from = at;
    parts.push(block);
    at += block.length;
    return from;
  };
  let ifd0 = change.ifd0.filter((e) => e.tag !== TAG.ExifIfd && e.tag !== TAG.GpsIfd);
  if (change.exif.length) ifd0 = withEntries(ifd0, [longEntry(TAG.ExifIfd, add(change.exif, 0), le)]);
  if (change.gps.length) ifd0 = withEntries(ifd0, [longEntry(TAG.GpsIfd, add(change.gps, 0), le)]);
  data.setUint32(4, add(ifd0, next), le);
  return concat(parts);
}

/** Bytes behind everything that is pointed to: readers never look there. */
export function padTiff(bytes: Uint8Array, target: number): Uint8Array {
  return target > bytes.length ? concat([bytes, new Uint8Array(target - bytes.length)]) : bytes;
}
