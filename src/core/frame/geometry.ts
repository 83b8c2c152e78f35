/** Which part of a photo is used and how many pixels it becomes. All results are whole pixels that hit what is asked. */
import type { FrameMode, ResolvedBrief } from "../brief";
import { formatSize } from "../units";
import type { Rect, Size } from "./orientation";
import { hasShape, naturalSize, targetFor, type Bounds, type Target } from "./target";

/** Where the used part sits along the axis that is cut (or padded): 0 left or top, 0.5 middle, 1 right or bottom. */
export interface Frame {
  x: number;
  y: number;
}

export const CENTRED: Frame = { x: 0.5, y: 0.5 };

export interface Geometry {
  /** Output size in pixels. */
  width: number;
  height: number;
  mode: FrameMode;
  /** The part of the upright photo that is used, in its pixels, not rounded. */
  crop: Rect;
  /** Where it lies in the output, in whole pixels; smaller than the output only where background is added. */
  place: Rect;
  /** Output pixels per photo pixel, the larger of both axes; above 1 pixels are made up. */
  scale: number;
  /** Share of the photo's area that is cut away, 0 to 1. */
  cut: number;
}

/** The brief cannot be met by this photo, whatever the encoding. The message is one sentence for people. */
export class GeometryError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "GeometryError";
  }
}

const clamp = (value: number, { min, max }: Bounds) => Math.min(max, Math.max(min, value));

/** The geometry that a brief asks for. Throws {@link GeometryError} with a sentence when the photo cannot meet it. */
export function planGeometry(brief: ResolvedBrief, photo: Size, frame: Frame = CENTRED): Geometry {
  const target = targetFor(brief, photo);
  const { width: w, height: h } = target;
  if (w.min === w.max && h.min === h.max) return frameInto(brief, photo, { width: w.min, height: h.min }, frame);
  const base = naturalSize(photo, target.ratio, brief);
  // A side of one pixel is the least there is, so asking for one asks nothing.
  const least = (side: Bounds, px: number) => (side.min <= 1 ? 0 : (side.min - 0.5) / px);
  const low = Math.max(least(w, base.width), least(h, base.height));
  const high = Math.min((w.max + 0.499) / base.width, (h.max + 0.499) / base.height);
  if (low > high && brief.frame === "whole") {
    throw new GeometryError(
      `The whole photo (${formatSize(photo.width, photo.height)} px) has the wrong shape for the asked sides; let it be cut (frame fill) or padded (frame pad).`,
    );
  }
  let scale = 1;
  if (high < 1) scale = Math.min(w.max / base.width, h.max / base.height);
  if (low > 1 || (low > high && low > scale)) scale = Math.max(w.min / base.width, h.min / base.height);
  return frameInto(brief, photo, sizeAt(base, scale, target), frame);
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

/** The same geometry with about `area` times its pixels, where the brief leaves that free (its wishes may yield); null where it does not. */
export function rescale(brief: ResolvedBrief, photo: Size, from: Geometry, area: number, frame: Frame = CENTRED): Geometry | null {
  const bounds = targetFor(brief, photo, brief.wishes);
  const side = Math.sqrt(area);
  const cap = brief.enlarge === "allow" || area < 1 ? Infinity : 1 / from.scale;
  const factor = Math.min(side, cap);
  const low = Math.max(bounds.width.min / from.width, bounds.height.min / from.height);
  const high = Math.min(bounds.width.max / from.width, bounds.height.max / from.height);
  const fitted = Math.min(high, Math.max(low, factor));
  if (low > high) return null;
  const size = sizeAt(from, fitted, bounds);
  const grows = size.width * size.height > from.width * from.height;
  if (size.width < 1 || size.height < 1 || (size.width === from.width && size.height === from.height) || grows !== area > 1) return null;
  return frameInto(brief, photo, size, frame);
}

/** Puts the photo into an output of exactly `out` pixels. */
export function frameInto(brief: ResolvedBrief, photo: Size, out: Size, frame: Frame = CENTRED): Geometry {
  const [sx, sy] = [out.width / photo.width, out.height / photo.height];
  const sameShape = Math.round(photo.width * sy) === out.width || Math.round(photo.height * sx) === out.height;
  // "Nothing cut" into two fixed sides of another shape can only be met with background.
  const mode: FrameMode = brief.frame === "whole" && !sameShape ? "pad" : brief.frame;
  const whole: Rect = { x: 0, y: 0, width: photo.width, height: photo.height };
  const full: Rect = { x: 0, y: 0, width: out.width, height: out.height };
  let geometry: Geometry;
  if (mode === "stretch" || mode === "whole" || (sameShape && mode !== "pad")) {
    geometry = { ...out, mode: sameShape ? "whole" : mode, crop: whole, place: full, scale: Math.max(sx, sy), cut: 0 };
  } else if (mode === "fill") {
    const scale = Math.max(sx, sy);
    const [cw, ch] = [Math.min(photo.width, out.width / scale), Math.min(photo.height, out.height / scale)];
    const crop = { x: (photo.width - cw) * frame.x, y: (photo.height - ch) * frame.y, width: cw, height: ch };
    geometry = { ...out, mode, crop, place: full, scale, cut: 1 - (cw * ch) / (photo.width * photo.height) };
  } else {
    const fit = Math.min(sx, sy);
    const scale = brief.enlarge === "never" ? Math.min(1, fit) : fit;
    const [pw, ph] = [Math.max(1, Math.round(photo.width * scale)), Math.max(1, Math.round(photo.height * scale))];
    const place = { x: Math.round((out.width - pw) * frame.x), y: Math.round((out.height - ph) * frame.y), width: pw, height: ph };
    const fills = pw === out.width && ph === out.height;
    geometry = { ...out, mode: fills ? "whole" : "pad", crop: whole, place, scale, cut: 0 };
  }
  // Half a pixel of rounding is not an enlargement.
  if (brief.enlarge === "never" && geometry.scale > 1 && (out.width > photo.width || out.height > photo.height)) {
    throw new GeometryError(
      `${formatSize(out.width, out.height)} px are asked, the photo has ${formatSize(photo.width, photo.height)} px and enlarging is ruled out; allow enlarging or bring a larger photo.`,
    );
  }
  return geometry;
}

/** Whether the output has exactly the photo's pixels, none cut, moved or made. */
export function keepsPixels(geometry: Geometry, photo: Size): boolean {
  return geometry.width === photo.width && geometry.height === photo.height && geometry.cut === 0 && geometry.mode === "whole";
}
