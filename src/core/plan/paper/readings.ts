/** What a number of pixels means: memory, prints, enlargement. */
import type { Size } from "../../photo";
import { trimNumber } from "../../units";

/**
 * Densities at which prints are judged. Common practice: 300 ppi in the hand, 200 on a wall, 150 for a
 * poster.
 */
export const PRINT_PPI = [150, 200, 300] as const;

/**
 * Paper that people name, both sides in mm, larger ones last. ISO 216 for the A sizes; photo paper by common
 * practice.
 */
const PAPERS: readonly (readonly [name: string, short: number, long: number])[] = [
  ["10 × 15 cm", 100, 150],
  ["13 × 18 cm", 130, 180],
  ["A5", 148, 210],
  ["20 × 30 cm", 200, 300],
  ["A4", 210, 297],
  ["A3", 297, 420],
  ["A2", 420, 594],
  ["A1", 594, 841],
];

export const megapixels = ({ width, height }: Size): string => {
  const value = (width * height) / 1e6;
  return trimNumber(value, value < 0.1 ? 3 : value < 10 ? 2 : 1);
};

/** Bytes of the picture unpacked, as programs hold it: three channels of 8 or 16 bits. */
export const inMemory = ({ width, height }: Size, bits = 8): number =>
  width * height * 3 * (bits > 8 ? 2 : 1);

/** "30.5 × 20.3 cm": how large it prints at a density. */
export function printSize({ width, height }: Size, ppi: number): string {
  const cm = (px: number) => trimNumber((px / ppi) * 2.54, 1);
  return `${cm(width)} × ${cm(height)} cm`;
}

/**
 * The largest paper that pixels fill at a density, either way up; null where not even the smallest. A
 * twentieth less is not seen.
 */
export function largestPaper({ width, height }: Size, ppi: number): string | null {
  const [short, long] = [Math.min(width, height), Math.max(width, height)].map(
    (px) => (px / ppi) * 25.4 * 1.05,
  );
  return PAPERS.filter(([, s, l]) => short >= s && long >= l).pop()?.[0] ?? null;
}

/** What the output is no longer good for, in a sentence; null where it is as good as the photo. */
export function noLongerGoodFor(photo: Size, out: Size): string | null {
  if (out.width * out.height >= photo.width * photo.height) return null;
  const [was, is] = [largestPaper(photo, 300), largestPaper(out, 300)];
  if (was === is) return null;
  return is === null
    ? `Good for a screen; no longer for a print of ${was} in the hand, as the photo was.`
    : `Good for prints up to ${is} in the hand; no longer for ${was}, as the photo was.`;
}

/** The longer factor of both sides: above 1 pixels are made up. */
export const enlargement = (photo: Size, out: Size): number =>
  Math.max(out.width / photo.width, out.height / photo.height);

/** The warning as soon as a side grows, with the factor in words; null where none does. */
export function madeUp(photo: Size, out: Size): string | null {
  const factor = enlargement(photo, out);
  if (factor <= 1 || (out.width <= photo.width && out.height <= photo.height)) return null;
  const share = 1 - 1 / factor ** 2;
  return (
    `Pixels are made up: each side grows ${trimNumber(factor, 2)} times, so ` +
    `${Math.max(1, Math.round(share * 100))} of 100 pixels were never photographed.`
  );
}
