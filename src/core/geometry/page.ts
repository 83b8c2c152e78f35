/** The page of a PDF: its size, and where the picture lies on it. */
import type { ResolvedBrief } from "../brief";
import type { Size } from "../photo";
import { POINTS_PER_INCH } from "../units";
import { targetFor } from "./target";

export interface Page {
  /** Points. */
  page: Size;
  /** From the lower left corner, in points. */
  place: { x: number; y: number; width: number; height: number };
}

/** Where nothing says how densely a page is printed; a screenful becomes about a sheet. */
export const PAGE_PPI = 150;
/** The largest side that readers take (ISO 32000-1, annex C), in points. */
const LARGEST = 14_400;

/** Points that nobody measures: 0.08 mm. */
const HAIR = (0.08 / 25.4) * POINTS_PER_INCH;

/** To within half a pixel. */
const near = (a: number, b: number, ppi: number) => Math.abs(a - b) <= (0.5 / ppi) * POINTS_PER_INCH + 1e-6;

/**
 * The asked paper with all of the picture in its middle; without one a page as large as the picture at its
 * resolution. `photo`: the upright source.
 */
export function pageFor(brief: ResolvedBrief, photo: Size, out: Size, ppi: number | null): Page {
  const { paper } = targetFor(brief, photo);
  const own = (px: number) => Math.min(LARGEST, (px / (ppi ?? PAGE_PPI)) * POINTS_PER_INCH);
  if (!paper)
    return {
      page: { width: own(out.width), height: own(out.height) },
      place: { x: 0, y: 0, width: own(out.width), height: own(out.height) },
    };
  const ratio = out.height / out.width;
  const width = (paper.width ?? paper.height! / ratio) * POINTS_PER_INCH;
  const height = (paper.height ?? paper.width! * ratio) * POINTS_PER_INCH;
  if (
    ppi !== null &&
    brief.resolution &&
    near(own(out.width), width, ppi) &&
    near(own(out.height), height, ppi)
  ) {
    // Whole pixels at the asked density are a hair shorter or longer than the paper, which then is as long
    // as they are.
    const [w, h] = [own(out.width), own(out.height)];
    const page = {
      width: Math.abs(w - width) <= HAIR ? w : width,
      height: Math.abs(h - height) <= HAIR ? h : height,
    };
    return { page, place: { x: (page.width - w) / 2, y: (page.height - h) / 2, width: w, height: h } };
  }
  const scale = Math.min(width / out.width, height / out.height);
  // Half a pixel of rounding is not left white.
  const side = (all: number, px: number) => (Math.abs(all - px * scale) <= scale ? all : px * scale);
  const [w, h] = [side(width, out.width), side(height, out.height)];
  return { page: { width, height }, place: { x: (width - w) / 2, y: (height - h) / 2, width: w, height: h } };
}
