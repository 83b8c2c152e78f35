/** Found ink as a clean picture, and as a sign of what was taken. */
import type { InkFound, RgbPicture } from "./types";

/**
 * White, with the ink on it, cut to the ink and a margin that is even all around; where the margin reaches
 * beyond the
 * picture it goes on in white. `black`: pure black; `original`: the ink's own colour, evened out.
 */
export function renderInk(
  { cover, bounds, width, colour }: InkFound,
  mode: "black" | "original",
  margin: number,
): RgbPicture {
  const around = Math.max(1, Math.round((Math.max(bounds.width, bounds.height) * margin) / 100));
  const [w, h] = [bounds.width + 2 * around, bounds.height + 2 * around];
  const data = new Uint8Array(w * h * 3).fill(255);
  const ink = mode === "black" ? [0, 0, 0] : colour;
  for (let y = 0; y < bounds.height; y += 1) {
    for (let x = 0; x < bounds.width; x += 1) {
      const a = cover[(bounds.y + y) * width + bounds.x + x];
      if (a === 0) continue;
      const o = ((y + around) * w + x + around) * 3;
      for (let c = 0; c < 3; c += 1) data[o + c] = 255 - (a * (255 - ink[c])) / 255 + 0.5;
    }
  }
  return { data, width: w, height: h };
}

/** The picture paled, with what was taken as ink in one strong colour (code values). */
export function overlayInk(
  picture: RgbPicture,
  { cover }: InkFound,
  mark: readonly [number, number, number],
): RgbPicture {
  const data = new Uint8Array(picture.data.length);
  for (let i = 0, p = 0; i < cover.length; i += 1, p += 3) {
    const a = cover[i] / 255;
    const grey =
      110 + 0.57 * (0.3 * picture.data[p] + 0.59 * picture.data[p + 1] + 0.11 * picture.data[p + 2]);
    for (let c = 0; c < 3; c += 1) data[p + c] = grey * (1 - a) + mark[c] * a + 0.5;
  }
  return { ...picture, data };
}
