/** How much effort encoders spend, and how long they take: measured on two cores with one thread. */
import type { Setting } from "./types";

/**
 * Effort by the number of pixels, so that one encode stays under about 10 s (AVIF, 24 megapixels: effort 1
 * takes 2.6 s, effort 2 7.6 s).
 */
export const avifEffort = (pixels: number): number =>
  pixels <= 600_000 ? 4 : pixels <= 6_000_000 ? 2 : pixels <= 40_000_000 ? 1 : 0;
export const webpEffort = (pixels: number): number =>
  pixels <= 8_000_000 ? 4 : pixels <= 40_000_000 ? 2 : 0;

/** Seconds a megapixel. */
const AVIF = [0.08, 0.12, 0.55, 1.5, 3];

/** About how many seconds one encode takes: decides where it runs, and is never shown. */
export function expectedSeconds(setting: Setting, pixels: number): number {
  const each = (seconds: number) => (seconds * pixels) / 1e6;
  switch (setting.format) {
    case "avif":
      return each(AVIF[Math.min(setting.effort, AVIF.length - 1)]);
    case "pdf":
    case "jpeg":
      return each(setting.effort === "careful" ? 0.06 : 0.03);
    case "webp":
      return each(setting.quality === null ? 0.5 : 0.11);
    case "png":
      return each(setting.level > 6 ? 0.3 : 0.06);
    case "gif":
      return each(0.4);
    default:
      return each(0.02);
  }
}
