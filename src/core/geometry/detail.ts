/**
 * Where a photo has detail, and the first frame that follows from it. It knows nothing of what the detail is.
 */
import type { Rect, Size } from "../photo";

/** Sides of the map, in cells. */
export const DETAIL_CELLS = 24;

/** Detail of DETAIL_CELLS × DETAIL_CELLS cells of the upright photo, row after row, 0 to 255. */
export type DetailMap = number[];

/**
 * From a small grey copy of the photo (some 100 px a side, row after row, 0 to 255). Detail is the
 * difference between
 * neighbours, damped so that one hard edge does not outweigh a whole wing; noise counts for nothing.
 */
export function detailMap(grey: Uint8Array, { width, height }: Size): DetailMap {
  const sums = new Float64Array(DETAIL_CELLS * DETAIL_CELLS);
  const counts = new Float64Array(sums.length);
  for (let y = 0; y + 1 < height; y += 1) {
    for (let x = 0; x + 1 < width; x += 1) {
      const p = y * width + x;
      const step = Math.hypot(grey[p + 1] - grey[p], grey[p + width] - grey[p]);
      const cell =
        Math.min(DETAIL_CELLS - 1, Math.floor((y / height) * DETAIL_CELLS)) * DETAIL_CELLS +
        Math.min(DETAIL_CELLS - 1, Math.floor((x / width) * DETAIL_CELLS));
      sums[cell] += Math.sqrt(Math.max(0, step - NOISE));
      counts[cell] += 1;
    }
  }
  const means = Array.from(sums, (sum, i) => (counts[i] ? sum / counts[i] : 0));
  // What is everywhere (bark, gravel, weave) draws no attention: only what stands out of the usual counts.
  const usual = [...means].sort((a, b) => a - b)[Math.floor(means.length / 2)];
  const out = means.map((v) => Math.max(0, v - usual));
  const top = Math.max(...out);
  return out.map((v) => (top > 0 ? Math.round((v / top) * 255) : 0));
}

const NOISE = 3;
/** How much less a cell at the corner counts than one in the middle. */
const EDGE_LOSS = 0.35;

/** How much of the whole detail a part of the upright photo holds, cells weighted towards the middle. */
function held(map: DetailMap, photo: Size, part: Rect): number {
  let sum = 0;
  for (let row = 0; row < DETAIL_CELLS; row += 1) {
    for (let column = 0; column < DETAIL_CELLS; column += 1) {
      const detail = map[row * DETAIL_CELLS + column];
      if (!detail) continue;
      const across = overlap(
        (column / DETAIL_CELLS) * photo.width,
        photo.width / DETAIL_CELLS,
        part.x,
        part.width,
      );
      const down = overlap(
        (row / DETAIL_CELLS) * photo.height,
        photo.height / DETAIL_CELLS,
        part.y,
        part.height,
      );
      if (across <= 0 || down <= 0) continue;
      const off =
        Math.hypot((column + 0.5) / DETAIL_CELLS - 0.5, (row + 0.5) / DETAIL_CELLS - 0.5) / Math.SQRT1_2;
      sum += detail * across * down * (1 - EDGE_LOSS * off);
    }
  }
  return sum;
}

/** Share of [a, a + length) that lies in [b, b + other). */
const overlap = (a: number, length: number, b: number, other: number) =>
  Math.max(0, Math.min(a + length, b + other) - Math.max(a, b)) / length;

const STEPS = 40;

/**
 * The position of a part of that size that holds most of the detail, as shares of the room that is left.
 * Of places that hold nearly the same the one nearest to the middle is taken.
 */
export function proposePosition(map: DetailMap, photo: Size, part: Size): { x: number; y: number } {
  const room = { x: photo.width - part.width, y: photo.height - part.height };
  const places = (free: number, side: number) =>
    free / side < 0.002 ? [0.5] : Array.from({ length: STEPS + 1 }, (_, i) => i / STEPS);
  let best = { x: 0.5, y: 0.5, score: -Infinity };
  for (const y of places(room.y, photo.height)) {
    for (const x of places(room.x, photo.width)) {
      const found = held(map, photo, {
        width: part.width,
        height: part.height,
        x: room.x * x,
        y: room.y * y,
      });
      const score = found * (1 - 0.06 * Math.hypot(x - 0.5, y - 0.5));
      if (score > best.score + 1e-9) best = { x, y, score };
    }
  }
  return best.score > 0 ? { x: best.x, y: best.y } : { x: 0.5, y: 0.5 };
}
