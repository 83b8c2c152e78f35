/**
 * Parts of a large picture put together, from the calmest to the busiest: what settings can be tried on in a
 * tenth of the time.
 */
import type { Planned } from "@/core/pixels/develop";

/** Pictures of more pixels than this are sampled. */
export const SAMPLED_FROM = 900_000;
/** Side of a part in px: a multiple of every block size that encoders work in. */
export const SIDE = 128;
/** Parts across and down. */
const ACROSS = 4;

/** A picture of 512 × 512 px. */
export function sampleOf(picture: Planned): Planned {
  const { data, width, channels } = picture;
  const parts = spread(picture);
  const side = SIDE * ACROSS;
  const out =
    data instanceof Uint16Array
      ? new Uint16Array(side * side * channels)
      : new Uint8Array(side * side * channels);
  parts.forEach(({ x, y }, i) => {
    const [left, top] = [(i % ACROSS) * SIDE, Math.floor(i / ACROSS) * SIDE];
    for (let row = 0; row < SIDE; row += 1) {
      const from = ((y + row) * width + x) * channels;
      out.set(data.subarray(from, from + SIDE * channels), ((top + row) * side + left) * channels);
    }
  });
  return { data: out, width: side, height: side, channels, ...(picture.light && { light: picture.light }) };
}

/** Places of as many parts as are needed, evenly over the order of how busy they are. */
function spread({ data, width, height, channels }: Planned): { x: number; y: number }[] {
  const parts: { x: number; y: number; busy: number }[] = [];
  for (let y = 0; y + SIDE <= height; y += SIDE) {
    for (let x = 0; x + SIDE <= width; x += SIDE) {
      let busy = 0;
      for (let row = 0; row < SIDE; row += 8) {
        for (
          let p = ((y + row) * width + x) * channels, end = p + (SIDE - 1) * channels;
          p < end;
          p += channels
        )
          busy += Math.abs(data[p] - data[p + channels]);
      }
      parts.push({ x, y, busy });
    }
  }
  parts.sort((a, b) => a.busy - b.busy);
  const wanted = ACROSS * ACROSS;
  return Array.from({ length: wanted }, (_, i) => parts[Math.round((i * (parts.length - 1)) / (wanted - 1))]);
}
