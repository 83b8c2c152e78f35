/** GIF89a from pictures in a table of colours; LZW by omggif. What stays as it was from frame to frame is not written again. */
import { GifWriter } from "omggif";
import type { Indexed } from "@/core/coding";

export interface GifFrames {
  width: number;
  /** Of one frame. */
  height: number;
  /** In ms, one a frame; they are kept in hundredths of a second. */
  delays: readonly number[];
  /** How often it is shown, 0 for ever. */
  loop: number;
}

/** The most that LZW takes for a pixel, and for all else of a file and of a frame. */
const [A_PIXEL, BESIDE, A_FRAME] = [1.6, 4000, 1500];
/** How a frame goes: it stays, or what is under it comes back (GIF89a, 23). */
const [STAYS, CLEARED] = [1, 2];

/** `indices` holds the frames one after the other. */
export function writeGif(
  { indices, palette }: Indexed,
  { width, height, delays, loop }: GifFrames,
): Uint8Array {
  const pixels = width * height;
  const hole = holeOf(palette);
  // One colour more says "as before" where nothing is seen through.
  const same = delays.length > 1 && hole < 0 && palette.length / 4 < 256 ? palette.length / 4 : -1;
  const colours = tableOf(palette);
  const out = Buffer.alloc(Math.ceil(delays.length * (pixels * A_PIXEL + A_FRAME)) + BESIDE);
  const gif = new GifWriter(out, width, height, { palette: colours, ...again(loop) });
  for (const [i, ms] of delays.entries()) {
    const frame = indices.subarray(i * pixels, (i + 1) * pixels);
    const before = i && same >= 0 ? indices.subarray((i - 1) * pixels, i * pixels) : null;
    const { x, y, w, h, data } = before
      ? changed(frame, before, width, height, same)
      : wholeOf(frame, width, height);
    const transparent = before ? same : hole;
    gif.addFrame(x, y, w, h, data, {
      delay: Math.round(ms / 10),
      disposal: delays.length < 2 ? 0 : hole >= 0 ? CLEARED : STAYS,
      ...(transparent >= 0 && { transparent }),
    });
  }
  return out.subarray(0, gif.end());
}

/** The field counts how often it begins again; without it, it is shown once (Netscape 2.0, common practice). */
const again = (loop: number) => (loop === 1 ? {} : { loop: Math.max(0, loop - 1) });

const holeOf = (palette: Uint8Array): number => {
  for (let k = 0; k < palette.length / 4; k += 1) if (palette[k * 4 + 3] === 0) return k;
  return -1;
};

/** As many as a power of two, at least two, with room for one more (GIF89a, 18 and 19). */
function tableOf(palette: Uint8Array): number[] {
  const count = palette.length / 4;
  const colours = Array.from(
    { length: count },
    (_, k) => (palette[k * 4] << 16) | (palette[k * 4 + 1] << 8) | palette[k * 4 + 2],
  );
  let length = 2;
  while (length < Math.min(256, count + 1)) length *= 2;
  return [...colours, ...Array<number>(length - count).fill(0)];
}

const wholeOf = (data: Uint8Array, w: number, h: number) => ({ x: 0, y: 0, w, h, data });

/** The smallest part in which anything changed, what did not in it marked. */
function changed(frame: Uint8Array, before: Uint8Array, width: number, height: number, same: number) {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0, i = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1, i += 1) {
      if (frame[i] === before[i]) continue;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = y;
    }
  // Nothing: one pixel holds the time.
  if (right < 0) [left, top, right, bottom] = [0, 0, 0, 0];
  const [w, h] = [right - left + 1, bottom - top + 1];
  const data = new Uint8Array(w * h);
  for (let y = 0; y < h; y += 1)
    for (let x = 0; x < w; x += 1) {
      const i = (top + y) * width + left + x;
      data[y * w + x] = frame[i] === before[i] ? same : frame[i];
    }
  return { x: left, y: top, w, h, data };
}
