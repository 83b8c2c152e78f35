/**
 * Which part of a photo is used and how many pixels it becomes. All results are whole pixels that hit what
 * is asked.
 */
import type { FrameMode, ResolvedBrief } from "../brief";
import type { QuarterTurn, Rect, Size } from "../photo";
import { aimedSize, CENTRED, checkFrame, cutsByHand, type Frame, GeometryError, turnedSize } from "../photo";
import { formatSize } from "../units";
import { type Bounds, hasShape, naturalSize, type Target, targetFor } from "./target";

export interface Geometry {
  /** Output size in pixels. */
  width: number;
  height: number;
  mode: FrameMode;
  /**
   * The part of the upright and turned photo that is used, in its pixels, not rounded, before it leans by
   * `angle` about its centre.
   */
  crop: Rect;
  /** Clockwise quarter turns after the EXIF orientation; missing is 0. */
  turn?: QuarterTurn;
  /** How far the part leans clockwise, in degrees; missing is 0. */
  angle?: number;
  /** Pixels of the border around it, inside the output; missing is 0. */
  border?: number;
  /** Where it lies in the output, in whole pixels; smaller than the output only where background is added. */
  place: Rect;
  /** Output pixels per photo pixel, the larger of both axes; above 1 pixels are made up. */
  scale: number;
  /** Share of the photo's area that is cut away, 0 to 1. */
  cut: number;
}

const clamp = (value: number, { min, max }: Bounds) => Math.min(max, Math.max(min, value));

/**
 * The geometry that a brief asks for. `photo` is upright. Throws {@link GeometryError} with a sentence when
 * the photo cannot meet it.
 */
export function planGeometry(brief: ResolvedBrief, photo: Size, frame: Frame = CENTRED): Geometry {
  checkFrame(frame);
  if (framesInside(brief, photo, frame) && fitsBorder(brief))
    return bordered(planGeometry(insideOf(brief), photo, frame), brief.border!.px);
  const target = targetFor(brief, aimedSize(photo, frame));
  const { width: w, height: h } = target;
  if (w.min === w.max && h.min === h.max)
    return frameInto(brief, photo, { width: w.min, height: h.min }, frame);
  const base = baseSize(brief, photo, target.ratio, frame);
  // A side of one pixel is the least there is, so asking for one asks nothing.
  const least = (side: Bounds, px: number) => (side.min <= 1 ? 0 : (side.min - 0.5) / px);
  const low = Math.max(least(w, base.width), least(h, base.height));
  const high = Math.min((w.max + 0.499) / base.width, (h.max + 0.499) / base.height);
  if (low > high && brief.frame === "whole" && !cutsByHand(frame)) {
    throw new GeometryError(
      `The whole photo (${formatSize(photo.width, photo.height)} px) has the wrong shape for the ` +
        "asked sides; let it be cut (frame fill) or padded (frame pad).",
    );
  }
  let scale = 1;
  if (high < 1) scale = Math.min(w.max / base.width, h.max / base.height);
  if (low > 1 || (low > high && low > scale)) scale = Math.max(w.min / base.width, h.min / base.height);
  return frameInto(brief, photo, sizeAt(base, scale, target), frame);
}

/** The size at which no pixel of the used part is made or lost. */
function baseSize(brief: ResolvedBrief, photo: Size, ratio: number | null, frame: Frame): Size {
  const seen = turnedSize(photo, frame);
  if (!cutsByHand(frame)) return naturalSize(seen, ratio, brief);
  const aimed = aimedSize(photo, frame);
  return largestPart(seen, ratio ?? aimed.width / aimed.height, frame);
}

/** The part of that shape that a frame takes: the largest that fits at its angle, divided by its zoom. */
function largestPart(seen: Size, ratio: number, frame: Frame): Size {
  const { cos, sin } = lean(frame.angle ?? 0);
  const width =
    Math.min(seen.width / (cos + sin / ratio), seen.height / (sin + cos / ratio)) / (frame.zoom ?? 1);
  return { width, height: width / ratio };
}

function lean(angle: number): { cos: number; sin: number } {
  const radians = (Math.abs(angle) * Math.PI) / 180;
  return { cos: Math.cos(radians), sin: Math.sin(radians) };
}

/** Whole sides at a scale, inside the bounds and of the asked shape. */
function sizeAt(base: Size, scale: number, { width: w, height: h, ratio }: Target): Size {
  const width = clamp(Math.max(1, Math.round(base.width * scale)), w);
  const height = clamp(Math.max(1, Math.round(base.height * scale)), h);
  if (ratio === null || hasShape(width, height, ratio)) return { width, height };
  // The side that was clamped leads; the other follows the shape.
  const byWidth = { width, height: clamp(Math.max(1, Math.round(width / ratio)), h) };
  const byHeight = { width: clamp(Math.max(1, Math.round(height * ratio)), w), height };
  return hasShape(byWidth.width, byWidth.height, ratio) ? byWidth : byHeight;
}

/**
 * The same geometry with about `area` times its pixels, where the brief leaves that free (its wishes may
 * yield unless they are to hold); null where it does not.
 */
export function rescale({
  brief,
  photo,
  from,
  area,
  frame = CENTRED,
  wishesHold = false,
}: {
  brief: ResolvedBrief;
  photo: Size;
  from: Geometry;
  area: number;
  frame?: Frame;
  wishesHold?: boolean;
}): Geometry | null {
  if (framesInside(brief, photo, frame)) {
    const { px } = brief.border!;
    const long = Math.max(from.width, from.height);
    // The border keeps its width: the picture inside it takes all of the change.
    const factor = (long * Math.sqrt(area) - 2 * px) / (long - 2 * px);
    if (factor <= 0) return null;
    const inner = rescale({
      brief: insideOf(brief),
      photo,
      from: { ...from, width: from.width - 2 * px, height: from.height - 2 * px },
      area: factor ** 2,
      frame,
      wishesHold,
    });
    return inner && bordered(inner, px);
  }
  const bounds = targetFor(brief, aimedSize(photo, frame), wishesHold ? NONE : brief.wishes);
  const side = Math.sqrt(area);
  const cap = brief.enlarge === "allow" || area < 1 ? Infinity : 1 / from.scale;
  const factor = Math.min(side, cap);
  const low = Math.max(bounds.width.min / from.width, bounds.height.min / from.height);
  const high = Math.min(bounds.width.max / from.width, bounds.height.max / from.height);
  const fitted = Math.min(high, Math.max(low, factor));
  if (low > high) return null;
  const size = sizeAt(from, fitted, bounds);
  const grows = size.width * size.height > from.width * from.height;
  if (
    size.width < 1 ||
    size.height < 1 ||
    (size.width === from.width && size.height === from.height) ||
    grows !== area > 1
  )
    return null;
  return frameInto(brief, photo, size, frame);
}

const NONE: ReadonlySet<never> = new Set();

/** Puts the photo into an output of exactly `out` pixels, inside the border that is asked. */
export function frameInto(brief: ResolvedBrief, photo: Size, out: Size, frame: Frame = CENTRED): Geometry {
  const px = brief.border?.px ?? 0;
  if (px === 0) return insideBorder(brief, photo, out, frame);
  const inner = { width: out.width - 2 * px, height: out.height - 2 * px };
  if (inner.width < 1 || inner.height < 1) {
    throw new GeometryError(
      `A border of ${px} px on each side leaves nothing of ${formatSize(out.width, out.height)} px. ` +
        "Ask for a thinner border or more pixels.",
    );
  }
  return bordered(insideBorder(brief, photo, inner, frame), px);
}

function bordered({ place, ...rest }: Geometry, px: number): Geometry {
  return {
    ...rest,
    width: rest.width + 2 * px,
    height: rest.height + 2 * px,
    border: px,
    place: { ...place, x: place.x + px, y: place.y + px },
  };
}

/** The brief for what lies inside its border. */
function insideOf(brief: ResolvedBrief): ResolvedBrief {
  const less = 2 * brief.border!.px;
  const side = (px: number | null) => (px === null ? null : Math.max(1, px - less));
  const pixels = Object.fromEntries(
    Object.entries(brief.pixels).map(([key, range]) => [
      key,
      range && { exact: side(range.exact), min: side(range.min), max: side(range.max) },
    ]),
  ) as ResolvedBrief["pixels"];
  return {
    ...brief,
    pixels,
    box: brief.box && { width: side(brief.box.width)!, height: side(brief.box.height)! },
    border: null,
  };
}

/** A border that leaves nothing is refused where the output's size is known. */
const fitsBorder = ({ pixels, border }: ResolvedBrief): boolean =>
  [pixels.width, pixels.height].every((range) => range?.exact == null || range.exact > 2 * border!.px);

/** With a free shape the photo keeps its own inside the border; with an asked one the whole output has it. */
const framesInside = (brief: ResolvedBrief, photo: Size, frame: Frame): boolean =>
  brief.border !== null && targetFor(brief, aimedSize(photo, frame)).ratio === null;

interface Placing {
  brief: ResolvedBrief;
  frame: Frame;
  /** The photo as it is seen, upright and turned. */
  seen: Size;
  out: Size;
}

function insideBorder(brief: ResolvedBrief, photo: Size, out: Size, frame: Frame): Geometry {
  const placing: Placing = { brief, frame, out, seen: turnedSize(photo, frame) };
  const geometry = placed(placing);
  const { crop, scale } = geometry;
  // Half a pixel of rounding is not an enlargement.
  const grows = scale > 1 && (out.width > crop.width + 0.5 || out.height > crop.height + 0.5);
  if (brief.enlarge === "never" && grows)
    throw new GeometryError(
      `${formatSize(out.width, out.height)} px are asked, ${part(geometry, placing.seen)} and enlarging is ` +
        "ruled out; allow enlarging or bring a larger photo.",
    );
  return geometry;
}

function placed(placing: Placing): Geometry {
  const { brief, frame, seen, out } = placing;
  const byHand = cutsByHand(frame);
  const [sx, sy] = [out.width / seen.width, out.height / seen.height];
  const sameShape = Math.round(seen.width * sy) === out.width || Math.round(seen.height * sx) === out.height;
  if (byHand && brief.stated.has("frame") && brief.frame !== "fill")
    throw new GeometryError(
      `The brief says that nothing is cut (frame ${brief.frame}), but this frame takes a part of the ` +
        "photo. Reset the frame, or let the brief cut.",
    );
  // "Nothing cut" into two fixed sides of another shape can only be met with background.
  const mode: FrameMode = byHand ? "fill" : brief.frame === "whole" && !sameShape ? "pad" : brief.frame;
  if (!byHand && (mode === "stretch" || mode === "whole" || (sameShape && mode !== "pad")))
    return {
      ...turned(placing),
      mode: sameShape ? "whole" : mode,
      crop: { x: 0, y: 0, ...seen },
      place: { x: 0, y: 0, ...sizeOf(out) },
      scale: Math.max(sx, sy),
      cut: 0,
    };
  return mode === "fill" ? filled(placing) : padded(placing);
}

const sizeOf = ({ width, height }: Size): Size => ({ width, height });

const turned = ({ out, frame }: Placing) => ({
  ...out,
  ...(frame.turn && { turn: frame.turn }),
  ...(frame.angle && { angle: frame.angle }),
});

/** Cut to the shape of the output. */
function filled(placing: Placing): Geometry {
  const { frame, seen, out } = placing;
  const part = largestPart(seen, out.width / out.height, frame);
  const { cos, sin } = lean(frame.angle ?? 0);
  // The leaning part's own bounds have to stay inside the photo.
  const [bw, bh] = [part.width * cos + part.height * sin, part.width * sin + part.height * cos];
  const centre = {
    x: bw / 2 + Math.max(0, seen.width - bw) * frame.x,
    y: bh / 2 + Math.max(0, seen.height - bh) * frame.y,
  };
  const crop = { x: centre.x - part.width / 2, y: centre.y - part.height / 2, ...part };
  // Without a lean a corner below zero is the rounding of a float.
  if (!frame.angle) Object.assign(crop, { x: Math.max(0, crop.x), y: Math.max(0, crop.y) });
  return {
    ...turned(placing),
    mode: "fill",
    crop,
    place: { x: 0, y: 0, ...sizeOf(out) },
    scale: out.width / part.width,
    cut: 1 - (part.width * part.height) / (seen.width * seen.height),
  };
}

/** Whole, with background around it. */
function padded(placing: Placing): Geometry {
  const { brief, frame, seen, out } = placing;
  const fit = Math.min(out.width / seen.width, out.height / seen.height);
  const scale = brief.enlarge === "never" ? Math.min(1, fit) : fit;
  const width = Math.max(1, Math.round(seen.width * scale));
  const height = Math.max(1, Math.round(seen.height * scale));
  const [x, y] = [Math.round((out.width - width) * frame.x), Math.round((out.height - height) * frame.y)];
  const fills = width === out.width && height === out.height;
  return {
    ...turned(placing),
    mode: fills ? "whole" : "pad",
    crop: { x: 0, y: 0, ...seen },
    place: { x, y, width, height },
    scale,
    cut: 0,
  };
}

function part({ crop }: Geometry, seen: Size): string {
  const all = crop.width >= seen.width - 0.5 && crop.height >= seen.height - 0.5;
  return all
    ? `the photo has ${formatSize(seen.width, seen.height)} px`
    : `the part of the photo has ${formatSize(Math.round(crop.width), Math.round(crop.height))} px`;
}

/** Whether the output has exactly the photo's pixels, none cut, moved or made. */
export function keepsPixels(geometry: Geometry, photo: Size): boolean {
  return (
    geometry.width === photo.width &&
    geometry.height === photo.height &&
    geometry.cut === 0 &&
    geometry.mode === "whole" &&
    !geometry.turn &&
    !geometry.angle &&
    !geometry.border
  );
}
