/**
 * The TIFF structure that EXIF lives in, read and written at byte level.
 * Source: TIFF 6.0 section 2; tags from CIPA DC-008 (Exif 2.32).
 */
import { concat, copyOf, latin1, view } from "./bytes";
import { ContainerError } from "./error";

export interface ExifEntry {
  tag: number;
  type: number;
  count: number;
  /** The value's bytes, in the byte order of the block. */
  value: Uint8Array;
}

export interface Exif {
  littleEndian: boolean;
  ifd0: ExifEntry[];
  exif: ExifEntry[];
  gps: ExifEntry[];
  /** Whether a second directory (the embedded thumbnail) follows the first. */
  hasThumbnail: boolean;
}

export const TAG = {
  ImageWidth: 0x0100,
  ImageLength: 0x0101,
  BitsPerSample: 0x0102,
  Photometric: 0x0106,
  ImageDescription: 0x010e,
  Make: 0x010f,
  Model: 0x0110,
  Orientation: 0x0112,
  XResolution: 0x011a,
  YResolution: 0x011b,
  ResolutionUnit: 0x0128,
  Software: 0x0131,
  DateTime: 0x0132,
  Artist: 0x013b,
  YCbCrPositioning: 0x0213,
  Copyright: 0x8298,
  IccProfile: 0x8773,
  ExifIfd: 0x8769,
  GpsIfd: 0x8825,
  DateTimeOriginal: 0x9003,
  PixelXDimension: 0xa002,
  PixelYDimension: 0xa003,
  InteropIfd: 0xa005,
  MakerNote: 0x927c,
  UserComment: 0x9286,
  CameraOwnerName: 0xa430,
  BodySerialNumber: 0xa431,
  LensSerialNumber: 0xa435,
} as const;

const TYPE_SIZE = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8, 4];
const MAX_ENTRIES = 1000;

/** Reads a block that begins with "II" or "MM". Throws {@link ContainerError} when it is no such block. */
export function readExif(block: Uint8Array): Exif {
  const order = block.length >= 8 ? latin1(block.subarray(0, 2)) : "";
  if (order !== "II" && order !== "MM")
    throw new ContainerError("The EXIF block does not begin with a byte order.");
  const littleEndian = order === "II";
  const data = view(block);
  const [ifd0, next] = readDirectory(block, data.getUint32(4, littleEndian), littleEndian);
  const child = (tag: number) => {
    const entry = ifd0.find((e) => e.tag === tag);
    return entry && entry.value.length >= 4
      ? readDirectory(block, view(entry.value).getUint32(0, littleEndian), littleEndian)[0]
      : [];
  };
  return { littleEndian, ifd0, exif: child(TAG.ExifIfd), gps: child(TAG.GpsIfd), hasThumbnail: next !== 0 };
}

/**
 * Entries that point outside the block are left out: cameras and editors write such, and they carry nothing.
 */
function readDirectory(block: Uint8Array, at: number, littleEndian: boolean): [ExifEntry[], number] {
  const data = view(block);
  if (at < 8 || at + 2 > block.length) return [[], 0];
  const count = Math.min(data.getUint16(at, littleEndian), MAX_ENTRIES);
  const entries: ExifEntry[] = [];
  for (let i = 0; i < count; i += 1) {
    const p = at + 2 + i * 12;
    if (p + 12 > block.length) return [entries, 0];
    const type = data.getUint16(p + 2, littleEndian);
    const n = data.getUint32(p + 4, littleEndian);
    const size = (TYPE_SIZE[type] ?? 0) * n;
    if (size === 0) continue;
    const from = size <= 4 ? p + 8 : data.getUint32(p + 8, littleEndian);
    if (from + size > block.length) continue;
    entries.push({
      tag: data.getUint16(p, littleEndian),
      type,
      count: n,
      value: copyOf(block.subarray(from, from + size)),
    });
  }
  const end = at + 2 + count * 12;
  return [entries, end + 4 <= block.length ? data.getUint32(end, littleEndian) : 0];
}

/**
 * Where the first directory, its EXIF and GPS directories and all their longer values lie: [start, end] in
 * bytes.
 */
export function entrySpans(block: Uint8Array): [number, number][] {
  const le = block[0] === 0x49;
  const data = view(block);
  const spans: [number, number][] = [];
  const visit = (at: number, depth: number): void => {
    if (at < 8 || at + 2 > block.length || depth > 1) return;
    const count = Math.min(data.getUint16(at, le), MAX_ENTRIES);
    spans.push([at, Math.min(block.length, at + 2 + count * 12 + 4)]);
    for (let i = 0; i < count; i += 1) {
      const p = at + 2 + i * 12;
      if (p + 12 > block.length) return;
      const [tag, size] = [
        data.getUint16(p, le),
        (TYPE_SIZE[data.getUint16(p + 2, le)] ?? 0) * data.getUint32(p + 4, le),
      ];
      const to = data.getUint32(p + 8, le);
      if (size > 4 && to + size <= block.length) spans.push([to, to + size]);
      if (tag === TAG.ExifIfd || tag === TAG.GpsIfd) visit(to, depth + 1);
    }
  };
  visit(data.getUint32(4, le), 0);
  return spans;
}

/** Writes the block anew, without a thumbnail. Offsets inside a maker note do not survive; drop it first. */
export function writeExif(exif: Exif): Uint8Array {
  const le = exif.littleEndian;
  const ifd0 = exif.ifd0.filter((e) => e.tag !== TAG.ExifIfd && e.tag !== TAG.GpsIfd);
  const children: [number, ExifEntry[]][] = [];
  if (exif.exif.length) children.push([TAG.ExifIfd, exif.exif.filter((e) => e.tag !== TAG.InteropIfd)]);
  if (exif.gps.length) children.push([TAG.GpsIfd, exif.gps]);
  const rootSize = directorySize([...ifd0, ...children.map(([tag]) => longEntry(tag, 0, le))]);
  let at = 8 + rootSize;
  const blocks: Uint8Array[] = [];
  for (const [tag, entries] of children) {
    ifd0.push(longEntry(tag, at, le));
    blocks.push(directory(entries, at, le));
    at += blocks[blocks.length - 1].length;
  }
  const head = new Uint8Array(8);
  head.set(le ? [0x49, 0x49, 0x2a, 0] : [0x4d, 0x4d, 0, 0x2a]);
  view(head).setUint32(4, 8, le);
  return concat([head, directory(ifd0, 8, le), ...blocks]);
}

const padded = (n: number) => n + (n & 1);
const directorySize = (entries: ExifEntry[]) =>
  2 +
  entries.length * 12 +
  4 +
  entries.reduce((sum, e) => sum + (e.value.length > 4 ? padded(e.value.length) : 0), 0);

/**
 * A directory as it stands at offset `base`: its entries by tag, no next one, then the values that are
 * longer than 4 bytes.
 */
export function directory(entries: ExifEntry[], base: number, le: boolean): Uint8Array {
  const sorted = [...entries].sort((a, b) => a.tag - b.tag);
  const out = new Uint8Array(directorySize(sorted));
  const data = view(out);
  data.setUint16(0, sorted.length, le);
  let overflow = 2 + sorted.length * 12 + 4;
  sorted.forEach((entry, i) => {
    const p = 2 + i * 12;
    data.setUint16(p, entry.tag, le);
    data.setUint16(p + 2, entry.type, le);
    data.setUint32(p + 4, entry.count, le);
    if (entry.value.length <= 4) out.set(entry.value, p + 8);
    else {
      data.setUint32(p + 8, base + overflow, le);
      out.set(entry.value, overflow);
      overflow += padded(entry.value.length);
    }
  });
  return out;
}

export function emptyExif(): Exif {
  return { littleEndian: false, ifd0: [], exif: [], gps: [], hasThumbnail: false };
}

export function shortEntry(tag: number, value: number, le: boolean): ExifEntry {
  const bytes = new Uint8Array(2);
  view(bytes).setUint16(0, value, le);
  return { tag, type: 3, count: 1, value: bytes };
}

export function longEntry(tag: number, value: number, le: boolean): ExifEntry {
  const bytes = new Uint8Array(4);
  view(bytes).setUint32(0, value, le);
  return { tag, type: 4, count: 1, value: bytes };
}

export function asciiEntry(tag: number, text: string): ExifEntry {
  const value = new TextEncoder().encode(`${text}\0`);
  return { tag, type: 2, count: value.length, value };
}

/** A rational that is exact for up to four decimals: 152.4 is 762/5. */
export function rationalEntry(tag: number, value: number, le: boolean): ExifEntry {
  let numerator = Math.round(value * 10_000);
  let denominator = 10_000;
  const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));
  const g = gcd(numerator, denominator);
  numerator /= g;
  denominator /= g;
  const bytes = new Uint8Array(8);
  view(bytes).setUint32(0, numerator, le);
  view(bytes).setUint32(4, denominator, le);
  return { tag, type: 5, count: 1, value: bytes };
}

/** Replaces or adds entries by tag. */
export function withEntries(entries: ExifEntry[], replace: ExifEntry[]): ExifEntry[] {
  const tags = new Set(replace.map((e) => e.tag));
  return [...entries.filter((e) => !tags.has(e.tag)), ...replace];
}

export function numberAt(entries: ExifEntry[], tag: number, le: boolean): number | null {
  const entry = entries.find((e) => e.tag === tag);
  if (!entry) return null;
  const data = view(entry.value);
  switch (entry.type) {
    case 1:
      return data.getUint8(0);
    case 3:
      return data.getUint16(0, le);
    case 4:
      return data.getUint32(0, le);
    case 5: {
      const denominator = data.getUint32(4, le);
      return denominator === 0 ? null : data.getUint32(0, le) / denominator;
    }
    default:
      return null;
  }
}

export function textAt(entries: ExifEntry[], tag: number): string | null {
  const entry = entries.find((e) => e.tag === tag && e.type === 2);
  return entry
    ? new TextDecoder()
        .decode(entry.value)
        .replace(/\0[\s\S]*$/, "")
        .trim()
    : null;
}

/** 1 to 8; 1 where the tag is missing or senseless. */
export function orientationOf(exif: Exif | null): number {
  const value = exif ? numberAt(exif.ifd0, TAG.Orientation, exif.littleEndian) : null;
  return value !== null && value >= 1 && value <= 8 ? value : 1;
}

/** Pixels per inch as [x, y]; null where no resolution, or one without a unit, is recorded. */
export function resolutionOf(exif: Exif | null): [number, number] | null {
  if (!exif) return null;
  const le = exif.littleEndian;
  const x = numberAt(exif.ifd0, TAG.XResolution, le);
  const y = numberAt(exif.ifd0, TAG.YResolution, le);
  // Exif 2.32, ResolutionUnit: 2 inches, 3 centimetres; 2 where it is missing.
  const unit = numberAt(exif.ifd0, TAG.ResolutionUnit, le) ?? 2;
  if (x === null || y === null || x <= 0 || y <= 0 || (unit !== 2 && unit !== 3)) return null;
  return unit === 3 ? [x * 2.54, y * 2.54] : [x, y];
}

/**
 * The block with this resolution written over the old one, every other byte where it was; null where there
 * is none to write over.
 * Maker notes and thumbnails survive only this way.
 */
export function patchResolution(block: Uint8Array, ppi: number): Uint8Array | null {
  const le = block[0] === 0x49;
  const out = copyOf(block);
  const data = view(out);
  const at = data.getUint32(4, le);
  const found = new Set<number>();
  const count = at + 2 <= out.length ? Math.min(data.getUint16(at, le), MAX_ENTRIES) : 0;
  for (let i = 0; i < count; i += 1) {
    const p = at + 2 + i * 12;
    if (p + 12 > out.length) return null;
    const [tag, type] = [data.getUint16(p, le), data.getUint16(p + 2, le)];
    const to = data.getUint32(p + 8, le);
    if ((tag === TAG.XResolution || tag === TAG.YResolution) && type === 5 && to + 8 <= out.length)
      out.set(rationalEntry(tag, ppi, le).value, to);
    else if (tag === TAG.ResolutionUnit && type === 3) data.setUint16(p + 8, 2, le);
    else continue;
    found.add(tag);
  }
  return found.size === 3 ? out : null;
}

/** The same block with this resolution (ppi, both ways). */
export function withResolution(exif: Exif, ppi: number): Exif {
  const le = exif.littleEndian;
  return {
    ...exif,
    ifd0: withEntries(exif.ifd0, [
      rationalEntry(TAG.XResolution, ppi, le),
      rationalEntry(TAG.YResolution, ppi, le),
      shortEntry(TAG.ResolutionUnit, 2, le),
    ]),
  };
}
