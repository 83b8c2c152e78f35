/** How much effort encoders spend, and how long they take: measured on two cores with one thread. */
import { type Setting, TIGHTEST } from "./types";

/**
 * Effort by the number of pixels, so that one encode stays under about 10 s (AVIF, 24 megapixels: effort 1
 * takes 2.6 s, effort 2 7.6 s). At the same difference effort 3 takes 8 to 10 % fewer bytes than effort 2 in 1.5
 * to 2 times its time; effort 4 another 4 % in five to fifteen times, most of all in ten bits (13 photographs of
 * 700 px): it is worth that to nobody who waits.
 */
export const avifEffort = (pixels: number): number =>
  pixels <= 1_200_000 ? 3 : pixels <= 6_000_000 ? 2 : pixels <= 40_000_000 ? 1 : 0;
export const webpEffort = (pixels: number): number =>
  pixels <= 8_000_000 ? 4 : pixels <= 40_000_000 ? 2 : 0;

/** Seconds a megapixel; ten bits take up to twice as long as eight. */
const AVIF = [0.3, 0.6, 1.3, 2.2, 20];
const TEN_BITS = 1.8;

/** About how many seconds one encode takes: decides where it runs, and is never shown. */
export function expectedSeconds(setting: Setting, pixels: number): number {
  const each = (seconds: number) => (seconds * pixels) / 1e6;
  switch (setting.format) {
    case "avif":
      return each(AVIF[Math.min(setting.effort, AVIF.length - 1)] * (setting.bits === 10 ? TEN_BITS : 1));
    case "pdf":
    case "jpeg":
      return each(setting.effort === "careful" ? 0.06 : 0.03);
    case "webp":
      return each(setting.quality === null ? 0.5 : 0.11);
    case "png":
      return each(setting.level === TIGHTEST ? 20 : setting.level > 6 ? 0.3 : 0.06);
    case "gif":
      return each(0.4);
    default:
      return each(0.02);
  }
}
