/**
 * The view size: the pixels at which a finished picture is looked at. What lies beyond it is not seen, so
 * that pixels and quality are chosen together for it.
 */
import type { ResolvedBrief } from "../brief";
import { aimedSize, CENTRED, type Frame, type Size } from "../photo";
import { type Geometry, rescale } from "./geometry";
import { targetFor } from "./target";

/**
 * Pixels an inch of paper that are seen: at 29 cm they are 60 a degree, which is one minute of arc each, the
 * resolution of an eye of 20/20 (ISO 8596; common practice in print).
 */
export const SEEN_PPI = 300;

export interface Viewing {
  brief: ResolvedBrief;
  /** Upright size of the photo. */
  photo: Size;
  frame?: Frame;
}

/** The largest output that the brief allows, `full`, but no larger than what its view shows. Floors win. */
export function viewGeometry(viewing: Viewing, full: Geometry): Geometry {
  const shown = shownSize(viewing, full);
  const share = Math.min(1, shown.width / full.width, shown.height / full.height);
  return share < 1 ? resized(viewing, full, share) : full;
}

/** A floor of the brief asks for more pixels than its view shows. */
export function exceedsView(viewing: Viewing, geometry: Geometry): boolean {
  const shown = shownSize(viewing, geometry);
  return geometry.width > shown.width + 1 || geometry.height > shown.height + 1;
}

/** In px, not rounded; infinite where every pixel is looked at. */
function shownSize({ brief, photo, frame = CENTRED }: Viewing, full: Geometry): Size {
  const { view } = brief;
  if (view.kind === "pixels") return { width: Infinity, height: Infinity };
  if (view.kind === "paper") {
    const { paper } = targetFor(brief, aimedSize(photo, frame));
    const px = (inches: number | null | undefined) =>
      inches == null ? Infinity : Math.max(1, inches * SEEN_PPI);
    return { width: px(paper?.width), height: px(paper?.height) };
  }
  const [long, short] = [Math.max(view.width, view.height), Math.min(view.width, view.height)];
  return full.width >= full.height ? { width: long, height: short } : { width: short, height: long };
}

/** Sides are looked for up to so many px below the asked one. */
const NEARBY = 16;

/**
 * `from` with about `share` of its sides, even ones where some lie near; `from` itself where the brief leaves
 * no fewer pixels. Wishes hold.
 */
export function resized({ brief, photo, frame }: Viewing, from: Geometry, share: number): Geometry {
  const long = Math.max(from.width, from.height);
  const aimed = Math.max(1, Math.round(long * share));
  let first: Geometry | null = null;
  for (let side = aimed; side > Math.max(0, aimed - NEARBY); side -= 1) {
    const at = rescale({ brief, photo, from, area: (side / long) ** 2, frame, wishesHold: true });
    first ??= at;
    if (!at) break;
    if (at.width % 2 === 0 && at.height % 2 === 0 && at.mode === from.mode) return at;
  }
  return first ?? from;
}

/** `full` with a long side of so many px, or as the brief leaves it; `full` itself where that is not longer. */
export function withLongSide(viewing: Viewing, full: Geometry, side: number | null): Geometry {
  const long = longSide(full);
  return side === null || side >= long ? full : resized(viewing, full, side / long);
}

export const longSide = ({ width, height }: Size): number => Math.max(width, height);

/** Shares of the view's sides that are offered beside it. */
const SMALLER = [0.75, 0.5];
/** Sizes nearer than this are one. */
const ALIKE = 0.94;

/**
 * Sizes worth comparing, the largest first: all pixels, the view, one between them and some below, each as the
 * brief leaves it; none that is as good as `planned`. Empty where the brief leaves no pixels free.
 */
export function comparedSizes(viewing: Viewing, full: Geometry, planned: Size): Geometry[] {
  const long = longSide(full);
  const view = longSide(viewGeometry(viewing, full));
  const sides = [long, Math.sqrt(long * view), view, ...SMALLER.map((share) => view * share)];
  const out: Geometry[] = [];
  for (const side of sides) {
    const size = withLongSide(viewing, full, Math.round(side));
    const near = [planned, ...out].some((other) => alike(longSide(other), longSide(size)));
    if (!near) out.push(size);
  }
  return out;
}

const alike = (a: number, b: number) => Math.min(a, b) > Math.max(a, b) * ALIKE;

export const pixelsOf = ({ width, height }: Size): number => width * height;
