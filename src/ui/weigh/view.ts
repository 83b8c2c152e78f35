/** Where panes look: one place and one zoom for all of them, in pixels of the output. */
import type { Rect, Size } from "@/core/photo";
import { TILE, type TileAt } from "./tiles";

export interface View {
  /** The middle of the pane, in output pixels. */
  x: number;
  y: number;
  /** Screen pixels of one output pixel. */
  zoom: number;
}

export const MOST_ZOOM = 32;
const STEPS = [
  1 / 64,
  1 / 48,
  1 / 32,
  1 / 24,
  1 / 16,
  1 / 12,
  1 / 8,
  1 / 6,
  1 / 4,
  1 / 3,
  1 / 2,
  2 / 3,
  1,
  1.5,
  2,
  3,
  4,
  6,
  8,
  12,
  16,
  24,
  32,
];

export const fitZoom = (output: Size, pane: Size): number =>
  Math.min(pane.width / output.width, pane.height / output.height, MOST_ZOOM);

/** The next step in or out. Never so far out that the picture is smaller than half its pane. */
export function stepZoom(zoom: number, direction: 1 | -1, fit: number): number {
  const next =
    direction > 0
      ? STEPS.find((step) => step > zoom * 1.001)
      : [...STEPS].reverse().find((step) => step < zoom * 0.999);
  return Math.min(MOST_ZOOM, Math.max(Math.min(fit, 1), next ?? zoom));
}

/**
 * Zooms so that the output pixel under a place of the pane (measured from its middle, in screen pixels)
 * stays there.
 */
export function zoomAbout(view: View, zoom: number, at: { x: number; y: number }): View {
  const shift = 1 / view.zoom - 1 / zoom;
  return { x: view.x + at.x * shift, y: view.y + at.y * shift, zoom };
}

/** The middle stays on the picture. */
export function held({ x, y, zoom }: View, output: Size): View {
  return { x: Math.min(output.width, Math.max(0, x)), y: Math.min(output.height, Math.max(0, y)), zoom };
}

/** A place and what surrounds it: it fills about a third of the pane, at 100 % at least. */
export function viewOf(place: Rect, pane: Size): View {
  const wanted = Math.min(pane.width / place.width, pane.height / place.height) / 2.2;
  const zoom = Math.min(8, Math.max(1, [...STEPS].reverse().find((step) => step <= wanted) ?? 1));
  return { x: place.x + place.width / 2, y: place.y + place.height / 2, zoom };
}

/** How one picture lies in a pane. */
export interface Placed {
  /** Screen pixels of one of the picture's own pixels. */
  scale: number;
  /** The picture's pixel at the pane's upper left corner. */
  left: number;
  top: number;
  /** The level that is drawn: at 100 % and above the picture itself. */
  level: number;
}

export interface PlaceTask {
  view: View;
  output: Size;
  picture: Size;
  pane: Size;
  apparent: boolean;
}

/**
 * `apparent`: the same apparent size as the output, whatever its pixels; else one output zoom for its own
 * pixels.
 */
export function place({ view, output, picture, pane, apparent }: PlaceTask): Placed {
  const scale = apparent ? (view.zoom * output.width) / picture.width : view.zoom;
  const x = (view.x * picture.width) / output.width;
  const y = (view.y * picture.height) / output.height;
  const most = Math.max(0, Math.floor(Math.log2(Math.max(picture.width, picture.height))));
  const level = scale >= 1 ? 0 : Math.min(most, Math.floor(Math.log2(1 / scale) + 1e-6));
  return { scale, left: x - pane.width / 2 / scale, top: y - pane.height / 2 / scale, level };
}

/** The part of a level that is in sight, in its whole pixels. */
export function inSight({ scale, left, top, level }: Placed, picture: Size, pane: Size): Rect {
  const step = 2 ** level;
  const [width, height] = [Math.ceil(picture.width / step), Math.ceil(picture.height / step)];
  const x = Math.min(width, Math.max(0, Math.floor(left / step)));
  const y = Math.min(height, Math.max(0, Math.floor(top / step)));
  const right = Math.min(width, Math.max(0, Math.ceil((left + pane.width / scale) / step)));
  const bottom = Math.min(height, Math.max(0, Math.ceil((top + pane.height / scale) / step)));
  return { x, y, width: right - x, height: bottom - y };
}

/** The squares that cover a part of a level. */
export function tilesOf(part: Rect, level: number): TileAt[] {
  const out: TileAt[] = [];
  if (part.width <= 0 || part.height <= 0) return out;
  for (let y = Math.floor(part.y / TILE); y * TILE < part.y + part.height; y += 1) {
    for (let x = Math.floor(part.x / TILE); x * TILE < part.x + part.width; x += 1) out.push({ level, x, y });
  }
  return out;
}
