/** How densely the pixels of an output are printed: what is written into the file. */
import type { PixelRange, ResolvedBrief } from "../brief";
import type { Size } from "../photo";
import { targetFor } from "./target";

/**
 * Whether pixels at a resolution are as long as asked, to within half a pixel. A side that is not asked
 * holds.
 */
export function holdsPaper(
  paper: { width: number | null; height: number | null },
  size: Size,
  ppi: readonly [number, number],
  slack = 0,
): boolean {
  const side = (inches: number | null, px: number, density: number) =>
    inches === null || Math.abs(px - inches * density) <= 0.5 + slack + 1e-6;
  return side(paper.width, size.width, ppi[0]) && side(paper.height, size.height, ppi[1]);
}

/**
 * The ppi that a brief asks of this output; null where it asks none. `photo` is the upright source, `has`
 * its ppi.
 */
export function askedPpi(brief: ResolvedBrief, photo: Size, out: Size, has: number | null): number | null {
  const target = targetFor(brief, photo);
  if (target.paper) return paperPpi(target.paper, out, brief.resolution);
  return brief.resolution ? intoRange(brief.resolution, has) : null;
}

const EDGE = 0.001;

function intoRange(range: PixelRange, has: number | null): number {
  if (range.exact !== null) return range.exact;
  return Math.min(range.max ?? Infinity, Math.max(range.min ?? 0, has ?? range.min ?? range.max!));
}

/**
 * The density at which the pixels are as long as the paper; where both sides do not agree, the one at which
 * nothing sticks out.
 */
function paperPpi(
  paper: { width: number | null; height: number | null },
  out: Size,
  resolution: PixelRange | null,
): number {
  const sides = (
    [
      [paper.width, out.width],
      [paper.height, out.height],
    ] as const
  ).filter((side): side is readonly [number, number] => side[0] !== null);
  const low = Math.max(...sides.map(([inches, px]) => (px - 0.5) / inches));
  const high = Math.min(...sides.map(([inches, px]) => (px + 0.5) / inches));
  const own = Math.max(...sides.map(([inches, px]) => px / inches));
  if (low > high) return own;
  const first = sides[0][1] / sides[0][0];
  // Fields hold four decimals: a density at the very edge of half a pixel would be rounded over it.
  const fitting = first >= low + EDGE && first <= high - EDGE ? first : (low + high) / 2;
  if (!resolution) return fitting;
  const asked = intoRange(resolution, fitting);
  return asked >= low && asked <= high ? asked : fitting;
}
