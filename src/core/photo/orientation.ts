/**
 * The eight orientations of EXIF (CIPA DC-008, tag 0x0112) as operations on pixels and sizes.
 * The value says where row 0 and column 0 of the stored picture lie in the upright one.
 */
export interface Size {
  width: number;
  height: number;
}

export interface Rect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Whether upright width and height are swapped against the stored ones. */
export const swapsSides = (orientation: number): boolean => orientation >= 5;

export function uprightSize(stored: Size, orientation: number): Size {
  return swapsSides(orientation) ? { width: stored.height, height: stored.width } : { ...stored };
}

export type QuarterTurn = 0 | 90 | 180 | 270;

/** Orientations 2, 4, 5 and 7 show the picture in a mirror. */
export const isMirrored = (orientation: number): boolean =>
  orientation === 2 || orientation === 4 || orientation === 5 || orientation === 7;

/** What each orientation becomes by one quarter turn to the right (clockwise) of the upright picture. */
const TURNED: Readonly<Record<number, number>> = { 1: 6, 6: 3, 3: 8, 8: 1, 2: 7, 7: 4, 4: 5, 5: 2 };

/** The orientation that shows a picture turned clockwise by so many degrees after the one it has. */
export function turnOrientation(orientation: number, turn: QuarterTurn): number {
  let out = orientation >= 1 && orientation <= 8 ? orientation : 1;
  for (let k = 0; k < turn / 90; k += 1) out = TURNED[out];
  return out;
}

/** Position in the stored picture of the upright pixel (x, y); `w` and `h` are the stored size. */
function storedPosition(x: number, y: number, w: number, h: number, orientation: number): [number, number] {
  switch (orientation) {
    case 2:
      return [w - 1 - x, y];
    case 3:
      return [w - 1 - x, h - 1 - y];
    case 4:
      return [x, h - 1 - y];
    case 5:
      return [y, x];
    case 6:
      return [y, h - 1 - x];
    case 7:
      return [w - 1 - y, h - 1 - x];
    case 8:
      return [w - 1 - y, x];
    default:
      return [x, y];
  }
}

/** A rectangle of the upright picture in stored coordinates. */
export function toStored(rect: Rect, stored: Size, orientation: number): Rect {
  // Corners are edges between pixels, so the far corner is the pixel position of a grid one larger.
  const [w, h] = [stored.width + 1, stored.height + 1];
  const [ax, ay] = storedPosition(rect.x, rect.y, w, h, orientation);
  const [bx, by] = storedPosition(rect.x + rect.width, rect.y + rect.height, w, h, orientation);
  return { x: Math.min(ax, bx), y: Math.min(ay, by), width: Math.abs(ax - bx), height: Math.abs(ay - by) };
}

/** Pixels turned upright. `pixels` is stored.width × stored.height × channels, interleaved. */
export function orientPixels<T extends Uint8Array | Uint16Array>(
  pixels: T,
  stored: Size,
  channels: number,
  orientation: number,
): T {
  if (orientation <= 1 || orientation > 8) return pixels;
  const { width, height } = uprightSize(stored, orientation);
  const out = (
    pixels instanceof Uint16Array ? new Uint16Array(pixels.length) : new Uint8Array(pixels.length)
  ) as T;
  const [ox, oy] = storedPosition(0, 0, stored.width, stored.height, orientation);
  const [rx, ry] = storedPosition(1, 0, stored.width, stored.height, orientation);
  const [dx, dy] = storedPosition(0, 1, stored.width, stored.height, orientation);
  const right = ((ry - oy) * stored.width + (rx - ox)) * channels;
  const down = ((dy - oy) * stored.width + (dx - ox)) * channels;
  let row = (oy * stored.width + ox) * channels;
  let to = 0;
  for (let y = 0; y < height; y += 1, row += down) {
    let from = row;
    for (let x = 0; x < width; x += 1, from += right) {
      for (let c = 0; c < channels; c += 1) out[to + c] = pixels[from + c];
      to += channels;
    }
  }
  return out;
}
