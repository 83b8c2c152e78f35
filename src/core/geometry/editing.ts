/**
 * Moving a frame about: every change keeps the frame inside the photo. Positions and lengths are in photo
 * pixels, after quarter turns.
 */
import type { ResolvedBrief } from "../brief";
import type { QuarterTurn, Size } from "../photo";
import { type Frame, MOST_ANGLE, MOST_ZOOM, tidyFrame, turnedSize } from "../photo";
import { type Geometry, planGeometry } from "./geometry";

/** What is needed to move a frame. */
export interface Editing {
  brief: ResolvedBrief;
  /** Upright, not turned. */
  photo: Size;
}

const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

/** How far the centre of the part can go: it and its lean have to stay inside. */
function bounds(
  { crop, angle }: Geometry,
  seen: Size,
): { width: number; height: number; roomX: number; roomY: number } {
  const radians = (Math.abs(angle ?? 0) * Math.PI) / 180;
  const [cos, sin] = [Math.cos(radians), Math.sin(radians)];
  const [width, height] = [crop.width * cos + crop.height * sin, crop.width * sin + crop.height * cos];
  return { width, height, roomX: Math.max(0, seen.width - width), roomY: Math.max(0, seen.height - height) };
}

/** The frame with its part centred there, or as near as the photo allows. */
export function centreAt(editing: Editing, frame: Frame, x: number, y: number): Frame {
  const geometry = planGeometry(editing.brief, editing.photo, frame);
  const { width, height, roomX, roomY } = bounds(geometry, turnedSize(editing.photo, frame));
  const share = (at: number, length: number, room: number, old: number) =>
    room < 1e-6 ? old : clamp((at - length / 2) / room, 0, 1);
  return tidyFrame({
    ...frame,
    auto: false,
    x: share(x, width, roomX, frame.x),
    y: share(y, height, roomY, frame.y),
  });
}

export function centreOf({ crop }: Geometry): { x: number; y: number } {
  return { x: crop.x + crop.width / 2, y: crop.y + crop.height / 2 };
}

/** The frame moved by so many photo pixels. */
export function moveBy(editing: Editing, frame: Frame, dx: number, dy: number): Frame {
  const { x, y } = centreOf(planGeometry(editing.brief, editing.photo, frame));
  return centreAt(editing, frame, x + dx, y + dy);
}

/** The frame `factor` times closer (above 1) or wider, about its centre. */
export function zoomBy(editing: Editing, frame: Frame, factor: number): Frame {
  const { x, y } = centreOf(planGeometry(editing.brief, editing.photo, frame));
  const zoom = clamp((frame.zoom ?? 1) * factor, 1, MOST_ZOOM);
  return centreAt(editing, { ...frame, zoom }, x, y);
}

/** The frame with a part that is `width` photo pixels wide. */
export function widthTo(editing: Editing, frame: Frame, width: number): Frame {
  const { crop } = planGeometry(editing.brief, editing.photo, frame);
  return width > 0 ? zoomBy(editing, frame, crop.width / width) : frame;
}

/** The frame leaning by so many degrees, about its centre. */
export function leanTo(editing: Editing, frame: Frame, angle: number): Frame {
  const { x, y } = centreOf(planGeometry(editing.brief, editing.photo, frame));
  return centreAt(editing, { ...frame, angle: clamp(angle, -MOST_ANGLE, MOST_ANGLE) }, x, y);
}

/** A quarter turn more, clockwise or not; the same place of the photo stays in the middle. */
export function turnBy(editing: Editing, frame: Frame, quarter: 90 | -90): Frame {
  const seen = turnedSize(editing.photo, frame);
  const { x, y } = centreOf(planGeometry(editing.brief, editing.photo, frame));
  const turn = (((((frame.turn ?? 0) + quarter) % 360) + 360) % 360) as QuarterTurn;
  const [nx, ny] = quarter === 90 ? [seen.height - y, x] : [y, seen.width - x];
  return centreAt(editing, { ...frame, turn }, nx, ny);
}

/** Whether the brief leaves open which way up the output stands, so that swapping does something. */
export function canSwap(editing: Editing, frame: Frame): boolean {
  try {
    const [a, b] = [frame, { ...frame, swap: !frame.swap }].map((f) =>
      planGeometry(editing.brief, editing.photo, f),
    );
    return a.width !== b.width || a.height !== b.height;
  } catch {
    return false;
  }
}

/** Whether a closer, leaning or swapped frame is possible: not where the brief says that nothing is cut. */
export function canCut({ brief }: Editing): boolean {
  return brief.frame === "fill" || !brief.stated.has("frame");
}

/** What of a frame another photo can take over: the same place, closeness, turn and lean. */
export function carried(frame: Frame): Frame {
  const { x, y, zoom, turn, angle, swap } = frame;
  return tidyFrame({ x, y, zoom, turn, angle, swap });
}
