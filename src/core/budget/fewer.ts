/** Which number of pixels to try for all photos alike, where the brief leaves that free. */
import { CLEAN, PLAIN } from "../difference";

/** What came of one common long side. */
export interface Tried {
  /** Null: as many pixels as the brief allows. */
  side: number | null;
  /** The difference that all ended at; null where even the coarsest is too large together. */
  level: number | null;
  /** Bytes of the whole at the coarsest, where that is too much. */
  total: number;
}

/** What a sample of one photo foretells, as it is looked at. */
export interface Ideal {
  /** The long side, in px, that differs least at about as many bytes as each photo can have. */
  side: number;
  /** Long side of the view size. */
  view: number;
  /** What differs there. */
  difference: number;
  /** About the bytes from which on nothing is seen at the view size. */
  clean: number;
}

const MOST_TRIED = 4;
/** Too large by more than this, no side near the foretold one brings the whole under its limit. */
const NEARLY = 1.3;
/** Bytes grow a little slower than pixels. */
const GROWTH = 0.85;
/** Where even the coarsest are too large, each step down keeps at most this share of the pixels. */
const STEP = 0.72;
const LEAST_SIDE = 32;
/** Settled with real files, a whole may end this little above what is plain to see. */
const JUST = 1.02;
/** A side is kept where another is hardly better. */
const BETTER = 0.97;
/** Foretold this far under the limit, more pixels than are seen are tried. */
const ROOM = 1.08;

/** The share of the pixels at which the whole is expected to take `max` bytes instead of `total`. */
export const pixelShare = (max: number, total: number): number => Math.min(1, (max / total) ** (1 / GROWTH));

/**
 * The side that samples foretell for all, in px; null for as many pixels as the brief allows, which are
 * foretold to stay clean. `max`: bytes of all files.
 */
export function foretoldSide(ideals: readonly Ideal[], longest: number, max: number): number | null {
  const clean = ideals.reduce((sum, { clean }) => sum + clean, 0);
  const view = Math.max(...ideals.map((ideal) => ideal.view));
  if (clean * ROOM <= max) {
    const side = Math.floor(view * Math.sqrt((max / clean / ROOM) ** (1 / GROWTH)));
    return side >= longest ? null : even(side);
  }
  // Of sides, as of sizes, the middle is the geometric mean.
  const mean = Math.exp(ideals.reduce((sum, { side }) => sum + Math.log(side), 0) / ideals.length);
  const side = Math.max(LEAST_SIDE, even(Math.min(view, mean)));
  return side >= longest ? null : side;
}

const even = (side: number): number => Math.max(2, Math.round(side / 2) * 2);

/**
 * The next side to try, in px; null where the best is found. `view`: the longest side at which any photo is
 * looked at.
 */
export function nextSide(
  tried: readonly Tried[],
  { longest, view, max }: { longest: number; view: number; max: number },
): number | null {
  const last = tried[tried.length - 1];
  if (!last || tried.length >= MOST_TRIED) return null;
  const side = last.side ?? longest;
  // More detail is lost than the coarsest coding of more pixels would cost.
  if (last.level !== null && last.level > PLAIN && side < view && !tried.some((one) => one.side === view))
    return view;
  if (last.level === null) {
    if (last.side !== null && last.total > max * NEARLY) return null;
    const share = Math.min(STEP, pixelShare(max, last.total) * 0.92);
    return smaller(Math.floor(side * Math.sqrt(share)), side);
  }
  // More pixels than are seen are only worth it as long as they are clean.
  return last.level > CLEAN && side > view && !tried.some((one) => one.side === view) ? view : null;
}

const smaller = (next: number, side: number): number | null =>
  next >= LEAST_SIDE && next < side ? even(next) : null;

/** The difference at which all are expected to end at the foretold side: where their first trials are made. */
export const foretoldLevel = (ideals: readonly Ideal[]): number =>
  Math.min(PLAIN, Math.max(CLEAN, ...ideals.map(({ difference }) => difference)));

/**
 * Of several the one with the least difference; more pixels where that is nearly the same. Null where none
 * fits.
 */
export function bestSide(tried: readonly Tried[]): Tried | null {
  let best: Tried | null = null;
  for (const one of tried)
    if (
      one.level !== null &&
      one.level <= PLAIN * JUST &&
      (best === null || one.level < best.level! * BETTER)
    )
      best = one;
  return best;
}
