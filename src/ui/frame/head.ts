/** The head's marks as the screen moves them: after each move the frame is worked out anew. */
import { type Editing, firstMarks, frameForHead, markAt, seenMarks } from "@/core/geometry";
import { type Frame, type Marks, type Point, turnedSize } from "@/core/photo";

export const MARKS = ["crown", "eyes", "chin"] as const;
export type Mark = (typeof MARKS)[number];

export const MARK_NAMES: Record<Mark, string> = { crown: "Crown", eyes: "Eyes", chin: "Chin" };

/** The marks begin in the part that is framed now. */
export const begin = (editing: Editing, frame: Frame): Frame =>
  frameForHead(editing, { ...frame, marks: firstMarks(editing, frame) });

export const unmarked = ({ marks, ...frame }: Frame): Frame => frame;

/** A mark moved to a place in px of the turned photo. */
export function moveMark(editing: Editing, frame: Frame, mark: Mark, to: Point): Frame {
  const { photo } = editing;
  const marks = { ...frame.marks!, [mark]: markAt(inside(to, editing, frame), photo, frame.turn) } as Marks;
  return frameForHead(editing, { ...frame, marks });
}

/** A mark moved by so many px of the turned photo. */
export function nudgeMark(editing: Editing, frame: Frame, mark: Mark, dx: number, dy: number): Frame {
  const at = seenMarks(frame.marks!, editing.photo, frame)[mark];
  return at ? moveMark(editing, frame, mark, { x: at.x + dx, y: at.y + dy }) : frame;
}

function inside({ x, y }: Point, { photo }: Editing, frame: Frame): Point {
  const { width, height } = turnedSize(photo, frame);
  return { x: Math.min(width, Math.max(0, x)), y: Math.min(height, Math.max(0, y)) };
}
