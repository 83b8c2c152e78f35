/** Where a trial differs most, and how far that place reaches. */
import type { Rect } from "../photo";
import { CELL, type DifferenceMap } from "./types";

/** Cells of at least this share of the peak belong to the place. */
const SAME = 0.7;
/** Sides of the place: at least so many px, at most this share of the picture's. */
const LEAST = 24;
const MOST = 0.3;

/** In pixels of the picture; null where nothing differs. */
export function worstSpot(map: DifferenceMap, width: number, height: number): Rect | null {
  const smooth = smoothed(map);
  let peak = 0;
  for (let from = 0; from < smooth.length; from += map.width) peak = highestIn(smooth, from, map.width, peak);
  if (!(smooth[peak] > 0)) return null;
  const { left, right, top, bottom } = grown(
    map,
    smooth,
    peak,
    Math.max(1, Math.round((width * MOST) / CELL)),
    Math.max(1, Math.round((height * MOST) / CELL)),
  );
  return within(
    { x: left * CELL, y: top * CELL, width: (right - left + 1) * CELL, height: (bottom - top + 1) * CELL },
    width,
    height,
  );
}

/** Means of three by three cells, so that one lone cell does not win over a region. */
function smoothed({ data, width, height }: DifferenceMap): Float32Array {
  const across = new Float64Array(data.length);
  for (let at = 0; at < data.length; at += width) sumsAcross(data, across, at, width);
  const out = new Float32Array(data.length);
  for (let y = 0; y < height; y += 1) meansDown(across, out, y, width, height);
  return out;
}

// Rows have functions of their own: code that is entered once a picture would be compiled anew for each.
function highestIn(values: Float32Array, from: number, count: number, before: number): number {
  let peak = before;
  for (let i = from; i < from + count; i += 1) if (values[i] > values[peak]) peak = i;
  return peak;
}

function sumsAcross(data: Float32Array, out: Float64Array, at: number, width: number): void {
  for (let x = 0; x < width; x += 1) {
    const left = x > 0 ? data[at + x - 1] : 0;
    const right = x + 1 < width ? data[at + x + 1] : 0;
    out[at + x] = left + data[at + x] + right;
  }
}

/** Of a place and its two neighbours, how many are in the picture. */
const taken = (at: number, all: number): number => 1 + (at > 0 ? 1 : 0) + (at + 1 < all ? 1 : 0);

function meansDown(across: Float64Array, out: Float32Array, y: number, width: number, height: number): void {
  const rows = taken(y, height);
  for (let x = 0, i = y * width; x < width; x += 1, i += 1) {
    const sum = (y > 0 ? across[i - width] : 0) + across[i] + (y + 1 < height ? across[i + width] : 0);
    out[i] = sum / (rows * taken(x, width));
  }
}

/** The box of the cells that hang together with the peak and are nearly as high. */
function grown(
  { width, height }: DifferenceMap,
  values: Float32Array,
  peak: number,
  mostAcross: number,
  mostDown: number,
) {
  const limit = values[peak] * SAME;
  const [px, py] = [peak % width, Math.floor(peak / width)];
  const box = { left: px, right: px, top: py, bottom: py };
  const seen = new Set([peak]);
  const queue = [peak];
  for (let at = queue.pop(); at !== undefined; at = queue.pop()) {
    const [x, y] = [at % width, Math.floor(at / width)];
    for (const [u, v] of [
      [x - 1, y],
      [x + 1, y],
      [x, y - 1],
      [x, y + 1],
    ]) {
      const next = v * width + u;
      if (u < 0 || v < 0 || u >= width || v >= height || seen.has(next) || values[next] < limit) continue;
      if (
        Math.max(box.right, u) - Math.min(box.left, u) >= mostAcross ||
        Math.max(box.bottom, v) - Math.min(box.top, v) >= mostDown
      )
        continue;
      seen.add(next);
      queue.push(next);
      Object.assign(box, {
        left: Math.min(box.left, u),
        right: Math.max(box.right, u),
        top: Math.min(box.top, v),
        bottom: Math.max(box.bottom, v),
      });
    }
  }
  return box;
}

function within(rect: Rect, width: number, height: number): Rect {
  const w = Math.min(width, Math.max(LEAST, rect.width));
  const h = Math.min(height, Math.max(LEAST, rect.height));
  const centre = { x: rect.x + rect.width / 2, y: rect.y + rect.height / 2 };
  const place = (middle: number, side: number, all: number) =>
    Math.round(Math.min(all - side, Math.max(0, middle - side / 2)));
  return { x: place(centre.x, w, width), y: place(centre.y, h, height), width: w, height: h };
}
