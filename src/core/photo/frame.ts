/**
 * What a person decides about one photo under one brief: which part is used, which way up, and how it is
 * taken.
 */
import { GeometryError } from "./error";
import { MOST_ANGLE, MOST_ZOOM } from "./frame-limits";
import type { Frame, Marks, Point } from "./frame-schema";
import { DEFAULT_INK, type InkSettings } from "./ink-settings";
import type { QuarterTurn, Size } from "./orientation";
import { DEFAULT_LIGHT, DEFAULT_RAW, sameSettings } from "./settings";
import type { LightSettings, RawTaking } from "./settings-schema";

export const CENTRED: Frame = { x: 0.5, y: 0.5 };
/** The frame of a photo that nobody has looked at. */
export const AUTO: Frame = { ...CENTRED, auto: true };

/**
 * Throws {@link GeometryError} with one sentence for a frame that lies outside the photo or leans too far.
 */
export function checkFrame(frame: Frame): void {
  const bad = (asked: string, found: unknown) =>
    new GeometryError(`${asked}; found ${String(found)}. Reset the frame.`);
  for (const v of [frame.x, frame.y])
    if (!(v >= 0 && v <= 1)) throw bad("The frame has to lie inside the photo (0 to 1)", v);
  if (frame.zoom !== undefined && !(frame.zoom >= 1 && frame.zoom <= MOST_ZOOM))
    throw bad(`The part can be 1 to ${MOST_ZOOM} times smaller than the largest`, frame.zoom);
  if (frame.angle !== undefined && !(Math.abs(frame.angle) <= MOST_ANGLE))
    throw bad(`Straightening goes from -${MOST_ANGLE} to ${MOST_ANGLE} degrees`, frame.angle);
  if (![0, 90, 180, 270].includes(frame.turn ?? 0))
    throw bad("Quarter turns are 0, 90, 180 or 270 degrees", frame.turn);
}

const flipped = ({ width, height }: Size): Size => ({ width: height, height: width });

/** The photo's upright size after the frame's quarter turns. */
export const turnedSize = (photo: Size, frame: Frame): Size =>
  (frame.turn ?? 0) % 180 === 0 ? { width: photo.width, height: photo.height } : flipped(photo);

/**
 * The size by which a brief decides which way up its output stands: the turned photo's, swapped where that
 * is asked.
 */
export const aimedSize = (photo: Size, frame: Frame): Size =>
  frame.swap ? flipped(turnedSize(photo, frame)) : turnedSize(photo, frame);

/** Whether the frame cuts although the brief does not ask for a shape. */
export const cutsByHand = (frame: Frame): boolean =>
  (frame.zoom ?? 1) > 1 || (frame.angle ?? 0) !== 0 || frame.swap === true;

/** How ink is looked for in a photo under this frame. */
export const inkSettingsOf = (frame: Frame): InkSettings => frame.ink ?? DEFAULT_INK;

export const rawTakingOf = (frame: Frame): RawTaking => frame.raw ?? DEFAULT_RAW;
export const lightSettingsOf = (frame: Frame): LightSettings => frame.light ?? DEFAULT_LIGHT;

/** Without what says nothing, and rounded to what can be seen, so that equal frames have one spelling. */
export function tidyFrame(frame: Frame): Frame {
  const round = (v: number, digits: number) => Number(v.toFixed(digits));
  const turn: QuarterTurn = frame.turn ?? 0;
  const zoom = round(frame.zoom ?? 1, 4);
  const angle = round(frame.angle ?? 0, 2);
  return {
    x: round(frame.x, 6),
    y: round(frame.y, 6),
    ...(zoom > 1 && { zoom }),
    ...(turn !== 0 && { turn }),
    ...(angle !== 0 && { angle }),
    ...(frame.auto && { auto: true }),
    ...(frame.swap && { swap: true }),
    ...(frame.kernel && { kernel: frame.kernel }),
    ...(frame.takenAs && { takenAs: frame.takenAs }),
    ...(frame.marks && { marks: tidyMarks(frame.marks) }),
    ...(frame.ink &&
      (frame.ink.strength !== DEFAULT_INK.strength || frame.ink.margin !== DEFAULT_INK.margin) && {
        ink: frame.ink,
      }),
    ...(frame.raw && !sameSettings(frame.raw, DEFAULT_RAW) && { raw: frame.raw }),
    ...(frame.light && !sameSettings(frame.light, DEFAULT_LIGHT) && { light: frame.light }),
    ...(frame.layers &&
      frame.layers.shown.length + frame.layers.hidden.length > 0 && { layers: frame.layers }),
    ...((frame.page ?? 1) > 1 && { page: frame.page }),
    ...(frame.lighter && { lighter: frame.lighter }),
  };
}

function tidyMarks({ crown, chin, eyes }: Marks): Marks {
  const at = ({ x, y }: Point): Point => ({ x: Number(x.toFixed(5)), y: Number(y.toFixed(5)) });
  return { crown: at(crown), chin: at(chin), ...(eyes && { eyes: at(eyes) }) };
}
