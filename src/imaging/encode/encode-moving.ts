/** Frames as one animation. */
import sharp from "sharp";
import { avifEffort, indexed, type MovingPixels, type MovingSetting, NO_LOSS } from "@/core/coding";
import { joinAvif } from "@/core/containers";
import { encode } from "./encode";
import { writeGif } from "./gif";

/** `dress`: puts the headers into a file, or into the first frame where that is a file by itself. */
export async function encodeMoving(
  pixels: MovingPixels,
  { format, level }: Pick<MovingSetting, "format" | "level">,
  dress: (bare: Uint8Array) => Uint8Array,
): Promise<Uint8Array> {
  const { data, width, height, channels, delays, loop } = pixels;
  if (format === "avif") {
    const [first, ...others] = await stills(pixels, level);
    return joinAvif(dress(first), others, { delays: delays.map(asShown), loop });
  }
  const all = height * delays.length;
  if (format === "gif") {
    // One table for all frames, and a pattern that keeps its place: what does not move does not flicker. One colour
    // is left for what stays as it was.
    const colours = Math.min(255, level);
    const made = indexed(
      { data, width, height: all, channels },
      { colours, dither: "pattern", hardAlpha: true },
    );
    return dress(writeGif(made, { width, height, delays, loop }));
  }
  const raw = { width, height: all, channels: channels as 3 | 4, pageHeight: height };
  const webp = await sharp(data, { raw, limitInputPixels: false })
    .webp({
      delay: delays,
      loop,
      effort: 4,
      ...(level === NO_LOSS ? { lossless: true, exact: false } : { quality: level, smartSubsample: true }),
    })
    .toBuffer();
  return dress(webp);
}

/** Frames that are coded at a time. */
const AT_ONCE = 2;
/** Frames of 10 ms and less are shown for 100 ms by programs that show GIF: common practice. */
const [SHORTEST, SHOWN_FOR] = [10, 100];
const asShown = (ms: number): number => (ms > SHORTEST ? ms : SHOWN_FOR);

async function stills(
  { data, width, height, channels, delays }: MovingPixels,
  quality: number,
): Promise<Uint8Array[]> {
  const setting = {
    format: "avif",
    quality,
    bits: 8,
    effort: avifEffort(width * height * delays.length),
  } as const;
  const size = width * height * channels;
  const made: Uint8Array[] = [];
  for (let from = 0; from < delays.length; from += AT_ONCE) {
    const some = delays.slice(from, from + AT_ONCE).map((_, i) => {
      const frame = data.subarray((from + i) * size, (from + i + 1) * size);
      return encode({ data: frame, width, height, channels }, setting, false);
    });
    made.push(...(await Promise.all(some)));
  }
  return made;
}
