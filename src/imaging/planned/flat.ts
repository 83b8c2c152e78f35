/** Lettering and drawings told from photographs. */
import type { Planned } from "@/core/pixels/develop";

/**
 * Large flat areas with hard edges (lettering, drawings): many pixels equal their right neighbour exactly.
 */
export function isFlat(picture: Planned): boolean {
  const { width, height } = picture;
  let equal = 0;
  let seen = 0;
  const step = Math.max(1, Math.floor(height / 200));
  for (let y = 0; y < height; y += step) {
    equal += equalIn(picture, y * width);
    seen += width - 1;
  }
  return seen > 0 && equal / seen > 0.4;
}

/** Pixels of a row that equal the next. Apart: code that is entered once a picture would be compiled anew for each. */
function equalIn({ data, width, channels }: Planned, from: number): number {
  const colours = channels < 3 ? 1 : 3;
  let equal = 0;
  for (let p = from * channels, end = (from + width - 1) * channels; p < end; p += channels) {
    let same = true;
    for (let c = 0; c < colours && same; c += 1) same = data[p + c] === data[p + channels + c];
    if (same) equal += 1;
  }
  return equal;
}
