/**
 * A picture in bands of output rows: rows of the stored picture, which decoders reach one after the other.
 * Each band sees a little beyond its edge, so that nothing shows where two of them meet.
 */
import type { Geometry } from "@/core/geometry";
import { type Rect, swapsSides, toStored, turnOrientation } from "@/core/photo";
import type { ConversionReport } from "@/core/pixels/colour";
import type { Planned } from "@/core/pixels/develop";
import type { Facts } from "@/core/proof";

/** Output rows that neighbouring bands share where sharpening has to see across their edge. */
export const OVERLAP = 16;
/** Samples that a kernel reaches beyond the part, in output pixels: the widest kernel and a little. */
const REACH = 4;

export interface Band {
  /** The geometry that makes this band, with what it shares with its neighbours. */
  geometry: Geometry;
  /** The part of the upright photo that has to be decoded for it. */
  region: Rect;
  /** Where it goes in the picture. */
  at: { x: number; y: number };
  /** Its own pixels, without what it shares. */
  own: Rect;
}

export function bandsOf(geometry: Geometry, photo: Facts, count: number, overlap: number): Band[] {
  const { crop, place } = geometry;
  const columns = swapsSides(turnOrientation(photo.orientation, geometry.turn ?? 0));
  const total = columns ? place.width : place.height;
  const ratio = (columns ? crop.width : crop.height) / total;
  return Array.from({ length: count }, (_, k) => {
    const [from, to] = [Math.round((k * total) / count), Math.round(((k + 1) * total) / count)];
    const [a, b] = [Math.max(0, from - overlap), Math.min(total, to + overlap)];
    const cut: Rect = columns
      ? { ...crop, x: crop.x + a * ratio, width: (b - a) * ratio }
      : { ...crop, y: crop.y + a * ratio, height: (b - a) * ratio };
    const part = columns ? { ...place, width: b - a } : { ...place, height: b - a };
    const own: Geometry = { ...geometry, crop: cut, place: part };
    return {
      geometry: own,
      region: neededFor(own, photo),
      at: columns ? { x: from, y: 0 } : { x: 0, y: from },
      own: columns
        ? { x: from - a, y: 0, width: to - from, height: place.height }
        : { x: 0, y: from - a, width: place.width, height: to - from },
    };
  });
}

/** The part of the upright photo that has to be decoded for a geometry. */
export const neededFor = (geometry: Geometry, photo: Facts): Rect =>
  unturned(regionOf(geometry, geometry.crop), geometry, photo);

/** What is needed of the turned photo for a part: the part as it leans, and what the kernel reaches beyond it. */
function regionOf({ place, angle }: Geometry, crop: Rect): Rect {
  const radians = (Math.abs(angle ?? 0) * Math.PI) / 180;
  const [cos, sin] = [Math.cos(radians), Math.sin(radians)];
  const [w, h] = [crop.width * cos + crop.height * sin, crop.width * sin + crop.height * cos];
  const reach = REACH * Math.max(1, crop.width / place.width, crop.height / place.height) + 4;
  return {
    x: crop.x + (crop.width - w) / 2 - reach,
    y: crop.y + (crop.height - h) / 2 - reach,
    width: w + 2 * reach,
    height: h + 2 * reach,
  };
}

/** A part of the turned photo as part of the upright one, inside it. */
function unturned(rect: Rect, geometry: Geometry, photo: { width: number; height: number }): Rect {
  const plain = toStored(
    rect,
    { width: photo.width, height: photo.height },
    turnOrientation(1, geometry.turn ?? 0),
  );
  const x = Math.max(0, plain.x);
  const y = Math.max(0, plain.y);
  return {
    x,
    y,
    width: Math.min(photo.width, plain.x + plain.width) - x,
    height: Math.min(photo.height, plain.y + plain.height) - y,
  };
}

/** Of a band or a whole picture: its pixels and what was done to its colours. */
interface Piece extends Planned {
  conversion: ConversionReport | null;
}

/** Bands put together, each in its place; what was done to their colours is told of all. */
export function joined<T extends Piece>(
  bands: readonly Band[],
  pieces: readonly T[],
  { place }: Geometry,
): T {
  const [first] = pieces;
  const { width, height } = place;
  const length = width * height * first.channels;
  // Threads that code and judge it see the same memory.
  const memory = new SharedArrayBuffer(length * first.data.BYTES_PER_ELEMENT);
  const data = first.data instanceof Uint16Array ? new Uint16Array(memory) : new Uint8Array(memory);
  const whole: T = { ...first, width, height, data, conversion: conversionOf(pieces) };
  bands.forEach(({ at, own }, k) => paste({ to: whole, from: pieces[k], at, part: own }));
  return whole;
}

function conversionOf(pieces: readonly Piece[]): ConversionReport | null {
  const reports = pieces.flatMap((piece) => piece.conversion ?? []);
  if (!reports.length) return null;
  const mean = (of: (report: ConversionReport) => number) =>
    reports.reduce((sum, report) => sum + of(report), 0) / reports.length;
  return {
    outside: mean((report) => report.outside),
    meanDelta: mean((report) => report.meanDelta),
    maxDelta: Math.max(...reports.map((report) => report.maxDelta)),
  };
}

/** `part` of one picture, put at a place of another. */
export function paste({
  to,
  from,
  at,
  part,
}: {
  to: Planned;
  from: Planned;
  at: { x: number; y: number };
  part: Rect;
}): void {
  const { channels } = to;
  for (let row = 0; row < part.height; row += 1) {
    const start = ((part.y + row) * from.width + part.x) * channels;
    to.data.set(
      from.data.subarray(start, start + part.width * channels),
      ((at.y + row) * to.width + at.x) * channels,
    );
  }
}
