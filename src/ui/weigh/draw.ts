/** Drawing into a pane, and reading pixels out of it. */
import { CELL, CLEAN, PLAIN } from "@/core/difference";
import type { Rect, Size } from "@/core/photo";
import { whiteTimes } from "@/core/pixels/light";

import { TILE, type Tiles } from "./tiles";
import { inSight, type Placed, tilesOf } from "./view";

/**
 * True when every square in sight was there. Squares that are still coming are drawn from a coarser level
 * where there is one.
 */
export function drawPicture({
  context,
  tiles,
  of,
  size,
  placed,
  room,
}: {
  context: CanvasRenderingContext2D;
  tiles: Tiles;
  of: string;
  size: Size;
  placed: Placed;
  room: Size;
}): boolean {
  let whole = true;
  for (const level of [placed.level + 2, placed.level]) {
    if (2 ** level > Math.max(size.width, size.height)) continue;
    const at = { ...placed, level };
    const step = 2 ** level;
    context.imageSmoothingEnabled = placed.scale * step < 1;
    for (const tile of tilesOf(inSight(at, size, room), level)) {
      const held = level === placed.level || !whole ? tiles.get(of, tile) : null;
      if (!held) {
        if (level === placed.level) whole = false;
        continue;
      }
      const [x, y] = [
        (tile.x * TILE * step - placed.left) * placed.scale,
        (tile.y * TILE * step - placed.top) * placed.scale,
      ];
      context.drawImage(
        held.image,
        x,
        y,
        held.width * step * placed.scale,
        held.height * step * placed.scale,
      );
    }
  }
  return whole;
}

/** From barely to plainly: each step is darker than the one before, so that it reads without colour. */
const BANDS: readonly [from: number, colour: string][] = [
  [CLEAN / 2, "rgba(255, 232, 170, 0.55)"],
  [CLEAN, "rgba(224, 150, 40, 0.65)"],
  [PLAIN, "rgba(150, 40, 0, 0.75)"],
];
export const MAP_WORDS: readonly [colour: string, words: string][] = [
  [BANDS[0][1], `${CLEAN / 2} on`],
  [BANDS[1][1], `${CLEAN} on`],
  [BANDS[2][1], `${PLAIN} on`],
];

export function drawMap(
  context: CanvasRenderingContext2D,
  map: { data: Float32Array; width: number; height: number },
  placed: Placed,
  part: Rect,
): void {
  const step = 2 ** placed.level;
  const cell = CELL * step * placed.scale;
  const [left, top] = [
    (part.x * step - placed.left) * placed.scale,
    (part.y * step - placed.top) * placed.scale,
  ];
  for (let y = 0; y < map.height; y += 1) {
    for (let x = 0; x < map.width; x += 1) {
      const value = map.data[y * map.width + x];
      const band = value >= PLAIN ? 2 : value >= CLEAN ? 1 : value >= CLEAN / 2 ? 0 : -1;
      if (band < 0) continue;
      context.fillStyle = BANDS[band][1];
      context.fillRect(left + x * cell, top + y * cell, cell, cell);
    }
  }
}

export function drawSpot(context: CanvasRenderingContext2D, spot: Rect, { scale, left, top }: Placed): void {
  const [x, y, w, h] = [
    (spot.x - left) * scale,
    (spot.y - top) * scale,
    spot.width * scale,
    spot.height * scale,
  ];
  context.lineWidth = 3;
  context.strokeStyle = "#1b1b1d";
  context.strokeRect(x, y, w, h);
  context.lineWidth = 1.2;
  context.strokeStyle = "#ffffff";
  context.strokeRect(x, y, w, h);
}

/** The pixels of a part of a level; null while squares are missing. */
export function gather(
  tiles: Tiles,
  of: string,
  level: number,
  part: Rect,
): { data: Uint8ClampedArray<ArrayBuffer>; space: PredefinedColorSpace } | null {
  const out = new Uint8ClampedArray(part.width * part.height * 4);
  let space: PredefinedColorSpace = "srgb";
  for (const at of tilesOf(part, level)) {
    const tile = tiles.get(of, at);
    if (!tile) return null;
    space = tile.space;
    const [left, top] = [at.x * TILE, at.y * TILE];
    const from = Math.max(part.x, left);
    const to = Math.min(part.x + part.width, left + tile.width);
    for (let y = Math.max(part.y, top); y < Math.min(part.y + part.height, top + tile.height); y += 1) {
      const row = ((y - top) * tile.width + from - left) * 4;
      out.set(
        tile.data.subarray(row, row + (to - from) * 4),
        ((y - part.y) * part.width + from - part.x) * 4,
      );
    }
  }
  return { data: out, space };
}

/** The pixel under the pointer, or in the middle where there is none; null where there is no picture. */
export function pixelAt({
  tiles,
  of,
  size,
  placed,
  room,
  pointer,
}: {
  tiles: Tiles;
  of: string;
  size: Size;
  placed: Placed;
  room: Size;
  pointer: { x: number; y: number } | null;
}): Readout | null {
  const step = 2 ** placed.level;
  const x = Math.floor((placed.left + (room.width / 2 + (pointer?.x ?? 0)) / placed.scale) / step);
  const y = Math.floor((placed.top + (room.height / 2 + (pointer?.y ?? 0)) / placed.scale) / step);
  if (x < 0 || y < 0 || x * step >= size.width || y * step >= size.height) return null;
  const tile = tiles.get(of, { level: placed.level, x: Math.floor(x / TILE), y: Math.floor(y / TILE) });
  if (!tile) return null;
  const [u, v] = [x % TILE, y % TILE];
  if (u >= tile.width || v >= tile.height) return null;
  const at = (v * tile.width + u) * 4;
  const { light } = tile;
  return {
    codes: [tile.data[at], tile.data[at + 1], tile.data[at + 2]],
    times: light && [0, 1, 2].map((c) => whiteTimes()[light.codes[at + c]]),
    level: placed.level,
  };
}

export interface Readout {
  /** 8-bit codes. */
  codes: readonly number[];
  /** Multiples of reference white, where the picture has light above it; else null. */
  times: readonly number[] | null;
  level: number;
}
