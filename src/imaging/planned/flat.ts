/** Lettering and drawings told from photographs. */
import type { Planned } from "@/core/pixels/develop";

/**
 * Large flat areas with hard edges (lettering, drawings): many pixels equal their right neighbour exactly.
 */
export function isFlat({ data, width, height, channels }: Planned): boolean {
  const colours = channels < 3 ? 1 : 3;
  let equal = 0;
  let seen = 0;
  const step = Math.max(1, Math.floor(height / 200));
  for (let y = 0; y < height; y += step) {
    for (let x = 0; x + 1 < width; x += 1) {
      const p = (y * width + x) * channels;
      seen += 1;
      let same = true;
      for (let c = 0; c < colours && same; c += 1) same = data[p + c] === data[p + channels + c];
      if (same) equal += 1;
    }
  }
  return seen > 0 && equal / seen > 0.4;
}
