/** Frames as one animation. */
import sharp from "sharp";
import { indexed, type MovingPixels, type MovingSetting, NO_LOSS } from "@/core/coding";
import { writeGif } from "./gif";

export async function encodeMoving(
  pixels: MovingPixels,
  { format, level }: Pick<MovingSetting, "format" | "level">,
): Promise<Uint8Array> {
  const { data, width, height, channels, delays, loop } = pixels;
  const all = height * delays.length;
  if (format === "gif") {
    // One table for all frames, and a pattern that keeps its place: what does not move does not flicker. One colour
    // is left for what stays as it was.
    const colours = Math.min(255, level);
    const made = indexed(
      { data, width, height: all, channels },
      { colours, dither: "pattern", hardAlpha: true },
    );
    return writeGif(made, { width, height, delays, loop });
  }
  const raw = { width, height: all, channels: channels as 3 | 4, pageHeight: height };
  return sharp(data, { raw, limitInputPixels: false })
    .webp({
      delay: delays,
      loop,
      effort: 4,
      ...(level === NO_LOSS ? { lossless: true, exact: false } : { quality: level, smartSubsample: true }),
    })
    .toBuffer();
}
