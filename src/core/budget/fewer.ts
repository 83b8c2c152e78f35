/** Which number of pixels to try for all photos alike, where the brief leaves that free. */

/** What came of one common long side. */
export interface Tried {
  /** Null: as many pixels as the brief allows. */
  side: number | null;
  /** The difference that all ended at; null where even the coarsest is too large together. */
  level: number | null;
  /** Bytes of the whole at the coarsest, where that is too much. */
  total: number;
}

/** Up to this difference nobody gains by fewer pixels. */
const FINE = 1.6;
/** Each step down keeps this share of the pixels. */
const STEP = 0.72;
/** A step has to lessen the difference to this share of it. */
const BETTER = 0.97;
const MOST_TRIED = 4;
/** Bytes grow a little slower than pixels. */
const GROWTH = 0.85;
const LEAST_SIDE = 64;

/** The share of the pixels at which the whole is expected to take `max` bytes instead of `total`. */
export const pixelShare = (max: number, total: number): number => Math.min(1, (max / total) ** (1 / GROWTH));

/**
 * The next side to try, in px; null where the best is found. `longest`: the longest side of any photo at its
 * most pixels.
 */
export function nextSide(tried: readonly Tried[], longest: number, max: number): number | null {
  const last = tried[tried.length - 1];
  if (!last || tried.length >= MOST_TRIED) return null;
  const side = last.side ?? longest;
  const before = tried.length > 1 ? tried[tried.length - 2].level : null;
  if (last.level !== null && (last.level <= FINE || (before !== null && last.level > before * BETTER)))
    return null;
  const share = last.level === null ? Math.min(STEP, pixelShare(max, last.total) * 0.92) : STEP;
  const next = Math.floor(side * Math.sqrt(share));
  return next >= LEAST_SIDE && next < side ? next : null;
}

/**
 * Of several the one with the least difference; more pixels where that is nearly the same. Null where none
 * fits.
 */
export function bestSide(tried: readonly Tried[]): Tried | null {
  let best: Tried | null = null;
  for (const one of tried)
    if (one.level !== null && (best === null || one.level < best.level! * BETTER)) best = one;
  return best;
}
