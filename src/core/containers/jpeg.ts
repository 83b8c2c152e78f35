/** JPEG at the level of its segments. Source: ITU-T T.81 annex B; JFIF 1.02; CIPA DC-008 for APP1. */
import { ascii, concat, startsWith, view } from "./bytes";
import { ContainerError } from "./error";

export interface JpegSegment {
  marker: number;
  /** Where the marker's 0xFF stands. */
  start: number;
  /** Behind the segment's last byte. */
  end: number;
}

export interface JpegFrame {
  width: number;
  height: number;
  bits: number;
  progressive: boolean;
  components: { id: number; h: number; v: number; table: number }[];
}

export interface JpegFile {
  bytes: Uint8Array;
  /** Segments between the start of the file and the first scan. */
  segments: JpegSegment[];
  /** Offset of the first start-of-scan marker. */
  scan: number;
  /** Offset behind the end-of-image marker; null where the file is cut short. */
  end: number | null;
  frame: JpegFrame;
}

export const MARKER = {
  SOI: 0xd8,
  EOI: 0xd9,
  SOS: 0xda,
  DQT: 0xdb,
  APP0: 0xe0,
  APP1: 0xe1,
  APP2: 0xe2,
  APP13: 0xed,
  APP14: 0xee,
  COM: 0xfe,
} as const;
const EXIF_HEAD = "Exif\0\0";
const XMP_HEAD = "http://ns.adobe.com/xap/1.0/\0";
const ICC_HEAD = "ICC_PROFILE\0";

const isFrame = (marker: number) =>
  marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc;

/** Programs write some dozens; a profile or a preview in pieces takes up to 255 (ICC.1, annex B.4). */
const MOST_SEGMENTS = 10_000;
/** Progressive files have about ten scans, and no more than some hundreds can be made sensibly (ITU-T T.81, G). */
const MOST_SCANS = 300;
/** Pixels that all scans together go over. */
const MOST_SCANNED = 8e9;

/** Reads the structure; the picture data are only walked over. Throws {@link ContainerError}. */
export function readJpeg(bytes: Uint8Array): JpegFile {
  const data = view(bytes);
  const segments: JpegSegment[] = [];
  let frame: JpegFrame | null = null;
  let at = 2;
  for (;;) {
    if (at + 4 > bytes.length)
      throw new ContainerError(
        "The JPEG ends before its picture begins: it is cut short. Bring in the whole file.",
      );
    if (bytes[at] !== 0xff)
      throw new ContainerError(`The JPEG is damaged at byte ${at}: a marker was expected there.`);
    const marker = bytes[at + 1];
    if (marker === 0xff) {
      at += 1;
      continue;
    }
    if (marker === MARKER.SOS) break;
    const end = at + 2 + data.getUint16(at + 2);
    if (end > bytes.length)
      throw new ContainerError("The JPEG ends inside a header: it is cut short. Bring in the whole file.");
    if (isFrame(marker) && !frame) frame = readFrame(bytes.subarray(at + 4, end), marker);
    if (segments.length >= MOST_SEGMENTS)
      throw new ContainerError(
        `The JPEG has more than ${MOST_SEGMENTS} parts before its picture, as no camera or program writes. ` +
          "Save it anew in the program it came from.",
      );
    segments.push({ marker, start: at, end });
    at = end;
  }
  if (!frame)
    throw new ContainerError(
      "The JPEG has no frame header, so its size is unknown. Save it anew in the program it came from.",
    );
  return { bytes, segments, scan: at, end: findEnd(bytes, at, frame.width * frame.height), frame };
}

function readFrame(body: Uint8Array, marker: number): JpegFrame {
  const data = view(body);
  if (body.length < 6 || body.length < 6 + body[5] * 3)
    throw new ContainerError("The JPEG's frame header is too short.");
  const components = Array.from({ length: body[5] }, (_, i) => {
    const p = 6 + i * 3;
    return { id: body[p], h: body[p + 1] >> 4, v: body[p + 1] & 15, table: body[p + 2] };
  });
  const progressive = marker === 0xc2 || marker === 0xc6 || marker === 0xca || marker === 0xce;
  return { bits: body[0], height: data.getUint16(1), width: data.getUint16(3), progressive, components };
}

/**
 * Walks scans and the segments between them to the end-of-image marker. Throws {@link ContainerError} where so many
 * scans go over so many pixels that decoding would take minutes.
 */
function findEnd(bytes: Uint8Array, scan: number, pixels: number): number | null {
  const data = view(bytes);
  let at = scan;
  let scans = 0;
  while (at + 2 <= bytes.length) {
    const marker = bytes[at + 1];
    if (marker === MARKER.EOI) return at + 2;
    if (marker === MARKER.SOS) {
      scans += 1;
      if (scans > MOST_SCANS || scans * pixels > MOST_SCANNED)
        throw new ContainerError(
          `The JPEG goes over its picture more than ${scans - 1} times, which would take minutes to decode. ` +
            "Save it anew in the program it came from.",
        );
    }
    if (marker === 0x00 || marker === 0xff || (marker >= 0xd0 && marker <= 0xd7))
      at += marker === 0xff ? 1 : 2;
    else if (at + 4 <= bytes.length) at += 2 + data.getUint16(at + 2);
    else return null;
    at = bytes.indexOf(0xff, at);
    if (at < 0) return null;
  }
  return null;
}

export const bodyOf = (file: JpegFile, segment: JpegSegment): Uint8Array =>
  file.bytes.subarray(segment.start + 4, segment.end);

const isApp = (file: JpegFile, s: JpegSegment, marker: number, head: string) =>
  s.marker === marker && startsWith(bodyOf(file, s), head);
export const isExif = (file: JpegFile, s: JpegSegment) => isApp(file, s, MARKER.APP1, EXIF_HEAD);
export const isXmp = (file: JpegFile, s: JpegSegment) => isApp(file, s, MARKER.APP1, XMP_HEAD.slice(0, 20));
export const isIcc = (file: JpegFile, s: JpegSegment) => isApp(file, s, MARKER.APP2, ICC_HEAD);
export const isJfif = (file: JpegFile, s: JpegSegment) => isApp(file, s, MARKER.APP0, "JFIF\0");
export const isIptc = (_file: JpegFile, s: JpegSegment) => s.marker === MARKER.APP13;
export const isMultiPicture = (file: JpegFile, s: JpegSegment) => isApp(file, s, MARKER.APP2, "MPF\0");

/** The EXIF block (from its byte order on), or null. */
export function exifBlock(file: JpegFile): Uint8Array | null {
  const segment = file.segments.find((s) => isExif(file, s));
  return segment ? bodyOf(file, segment).subarray(EXIF_HEAD.length) : null;
}

/** The colour profile, put together from its numbered pieces (ICC.1:2022 annex B.4), or null. */
export function iccProfile(file: JpegFile): Uint8Array | null {
  const pieces = file.segments.filter((s) => isIcc(file, s)).map((s) => bodyOf(file, s));
  if (!pieces.length) return null;
  pieces.sort((a, b) => a[ICC_HEAD.length] - b[ICC_HEAD.length]);
  return concat(pieces.map((p) => p.subarray(ICC_HEAD.length + 2)));
}

/**
 * Density of the JFIF header in ppi as [x, y]; null where there is none or it is only an aspect. JFIF 1.02:
 * units 1 dots per inch, 2 per cm.
 */
export function jfifDensity(file: JpegFile): [number, number] | null {
  const segment = file.segments.find((s) => isJfif(file, s));
  if (!segment) return null;
  const body = bodyOf(file, segment);
  if (body.length < 12) return null;
  const data = view(body);
  const [unit, x, y] = [body[7], data.getUint16(8), data.getUint16(10)];
  if (x === 0 || y === 0 || (unit !== 1 && unit !== 2)) return null;
  return unit === 2 ? [x * 2.54, y * 2.54] : [x, y];
}

/**
 * Chroma subsampling in the usual J:a:b notation, from the sampling factors of the frame; null for one
 * component or odd factors.
 */
export function chromaOf(frame: JpegFrame): string | null {
  const [luma, ...chroma] = frame.components;
  if (!luma || chroma.length < 2) return null;
  if (chroma.slice(0, 2).some((c) => c.h !== chroma[0].h || c.v !== chroma[0].v)) return null;
  const key = `${luma.h / chroma[0].h}x${luma.v / chroma[0].v}`;
  const names: Record<string, string> = {
    "1x1": "4:4:4",
    "2x1": "4:2:2",
    "2x2": "4:2:0",
    "1x2": "4:4:0",
    "4x1": "4:1:1",
    "4x2": "4:1:0",
  };
  return names[key] ?? null;
}

/** One segment with its marker and length. `body` holds at most 65533 bytes. */
export function segment(marker: number, body: Uint8Array): Uint8Array {
  const head = new Uint8Array([0xff, marker, 0, 0]);
  view(head).setUint16(2, body.length + 2);
  return concat([head, body]);
}

export const exifSegment = (block: Uint8Array) => segment(MARKER.APP1, concat([ascii(EXIF_HEAD), block]));

/** A JFIF 1.02 header with a density in whole ppi (0 writes an aspect of 1:1), without thumbnail. */
export function jfifSegment(ppi: number | null): Uint8Array {
  const body = new Uint8Array([0x4a, 0x46, 0x49, 0x46, 0, 1, 2, ppi === null ? 0 : 1, 0, 1, 0, 1, 0, 0]);
  if (ppi !== null) {
    const density = Math.min(65_535, Math.max(1, Math.round(ppi)));
    view(body).setUint16(8, density);
    view(body).setUint16(10, density);
  }
  return segment(MARKER.APP0, body);
}

export function iccSegments(profile: Uint8Array): Uint8Array[] {
  const room = 65_533 - ICC_HEAD.length - 2;
  const count = Math.ceil(profile.length / room);
  return Array.from({ length: count }, (_, i) =>
    segment(
      MARKER.APP2,
      concat([ascii(ICC_HEAD), new Uint8Array([i + 1, count]), profile.subarray(i * room, (i + 1) * room)]),
    ),
  );
}

/**
 * The file with its header segments replaced; tables and entropy-coded data stay byte for byte. Bytes behind
 * the end of the image are left out.
 */
export function rebuildJpeg(
  file: JpegFile,
  head: readonly Uint8Array[],
  keep: (segment: JpegSegment) => boolean,
): Uint8Array {
  const kept = file.segments.filter(keep).map((s) => file.bytes.subarray(s.start, s.end));
  return concat([
    file.bytes.subarray(0, 2),
    ...head,
    ...kept,
    file.bytes.subarray(file.scan, file.end ?? file.bytes.length),
  ]);
}

/**
 * The file filled up by comment segments to exactly `target` bytes.
 * A comment takes at least 4 bytes, so a gap of 1 to 3 ends 4 to 7 above.
 */
export function padJpeg(bytes: Uint8Array, target: number): Uint8Array {
  let missing = target - bytes.length;
  if (missing <= 0) return bytes;
  const comments: Uint8Array[] = [];
  while (missing > 0) {
    let size = Math.min(Math.max(missing, 4), 65_537);
    if (missing > size && missing - size < 4) size -= 4;
    const body = new Uint8Array(size - 4).fill(0x20);
    comments.push(segment(MARKER.COM, body));
    missing -= size;
  }
  return concat([
    bytes.subarray(0, 2),
    ...(comments.length ? [firstApps(bytes), ...comments, rest(bytes)] : [bytes.subarray(2)]),
  ]);
}

// JFIF wants its header right behind the start of the image, so comments go behind the application segments.
const appsEnd = (bytes: Uint8Array) => {
  let at = 2;
  while (bytes[at] === 0xff && bytes[at + 1] >= 0xe0 && bytes[at + 1] <= 0xef)
    at += 2 + view(bytes).getUint16(at + 2);
  return at;
};
const firstApps = (bytes: Uint8Array) => bytes.subarray(2, appsEnd(bytes));
const rest = (bytes: Uint8Array) => bytes.subarray(appsEnd(bytes));
