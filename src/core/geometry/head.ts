/**
 * The head of a portrait: where marks lie in the output, and the frame under which they lie as the brief asks. Nothing
 * is looked for in the picture; a person has set the marks.
 */
import type { ResolvedBrief } from "../brief";
import type { Frame, Marks, Point, Size } from "../photo";
import { GeometryError, turnedSize } from "../photo";
import type { Measure } from "../units";
import { centreAt, type Editing } from "./editing";
import { frameInto, type Geometry, planGeometry } from "./geometry";
import { targetFor } from "./target";

export interface HeadFound {
  /** From crown to chin, as a share of the output's height. */
  height: number;
  /** The eyes above the lower edge, likewise; null where they are not marked. */
  eyes: number | null;
  /** How much of the head lies outside the output, likewise; 0 where all of it is there. */
  cut: number;
}

/** A mark in px of the photo as it is turned. */
function seenPoint({ x, y }: Point, { width, height }: Size, turn = 0): Point {
  const [px, py] = [x * width, y * height];
  if (turn === 90) return { x: height - py, y: px };
  if (turn === 180) return { x: width - px, y: height - py };
  return turn === 270 ? { x: py, y: width - px } : { x: px, y: py };
}

/** The other way round: shares of the upright photo of a place in px of the photo as it is turned. */
export function markAt({ x, y }: Point, { width, height }: Size, turn = 0): Point {
  const inside = (value: number) => Math.min(1, Math.max(0, value));
  const of = (px: number, py: number) => ({ x: inside(px / width), y: inside(py / height) });
  if (turn === 90) return of(y, height - x);
  if (turn === 180) return of(width - x, height - y);
  return turn === 270 ? of(width - y, x) : of(x, y);
}

/** Marks in px of the photo as it is turned. */
export function seenMarks(marks: Marks, photo: Size, frame: Frame): Marks {
  const at = (point: Point) => seenPoint(point, photo, frame.turn);
  return { crown: at(marks.crown), chin: at(marks.chin), ...(marks.eyes && { eyes: at(marks.eyes) }) };
}

/** Down the output, in units of the photo's px. */
const axis = (angle = 0): Point => {
  const radians = (angle * Math.PI) / 180;
  return { x: -Math.sin(radians), y: Math.cos(radians) };
};

/** `photo` is upright; throws a {@link GeometryError} where the chin is not below the crown. */
export function headIn(geometry: Geometry, photo: Size, frame: Frame, marks: Marks): HeadFound {
  const { crop, place, height } = geometry;
  const down = axis(geometry.angle);
  const middle = { x: crop.x + crop.width / 2, y: crop.y + crop.height / 2 };
  const seen = seenMarks(marks, photo, frame);
  const at = (point: Point): number => {
    const below = (point.x - middle.x) * down.x + (point.y - middle.y) * down.y;
    return (place.y + (below / crop.height + 0.5) * place.height) / height;
  };
  const [crown, chin] = [at(seen.crown), at(seen.chin)];
  if (!(chin - crown > 1e-4))
    throw new GeometryError("The chin has to lie below the crown. Move the two lines apart.");
  const cut = Math.max(0, -crown) + Math.max(0, chin - 1);
  return { height: chin - crown, eyes: seen.eyes ? 1 - at(seen.eyes) : null, cut };
}

/** Bounds as shares of the output's height; an end that cannot be told is left open. */
export interface Shares {
  min: number;
  max: number;
}

/** `paper`: the height of the output on paper in inches; null where it is not known. Null where nothing can be told. */
export function sharesOf(
  range: { min: Measure | null; max: Measure | null } | null,
  paper: number | null,
): Shares | null {
  const share = (measure: Measure | null) =>
    measure === null ? null : measure.of === "picture" ? measure.value : paper && measure.value / paper;
  const [min, max] = [share(range?.min ?? null), share(range?.max ?? null)];
  return min === null && max === null ? null : { min: min ?? 0, max: max ?? 1 };
}

/** The height of an output on its paper in inches, as it is asked; null where no paper is. */
export function paperHeight(brief: ResolvedBrief, aimed: Size, output: Size | null): number | null {
  const { paper } = targetFor(brief, aimed);
  if (paper?.height) return paper.height;
  const ppi = brief.resolution?.exact;
  return ppi && output ? output.height / ppi : null;
}

/** Whether a share found in an output is as asked, to half a pixel of it. */
export const within = ({ min, max }: Shares, share: number, output: Size): boolean => {
  const slack = 0.5 / output.height;
  return share >= min - slack && share <= max + slack;
};

/** Of what is left beside the head, so much lies above it where nobody asks for more. Common practice. */
const ABOVE = 0.4;
/** Heights that are tried from the middle of what is asked outwards. */
const TRIED = 24;

/**
 * The frame under which the marked head lies as the brief asks: in the middle of what is allowed, as far as the photo
 * reaches. Where it cannot hold, the nearest; the proof then says so. Throws a {@link GeometryError} for marks that are
 * no head.
 */
export function frameForHead(editing: Editing, frame: Frame): Frame {
  const { brief, photo } = editing;
  const { marks } = frame;
  if (!marks || !brief.head) return frame;
  const widest = planGeometry(brief, photo, { ...frame, zoom: 1, auto: false });
  const seen = turnedSize(photo, frame);
  const paper = paperHeight(brief, seen, widest);
  const asked = { height: sharesOf(brief.head.height, paper), eyes: sharesOf(brief.head.eyes, paper) };
  const least = headIn(widest, photo, frame, marks).height;
  let best: { frame: Frame; off: number } | null = null;
  for (const share of heightsToTry(
    asked.height,
    headIn(planGeometry(brief, photo, frame), photo, frame, marks).height,
  )) {
    const zoom = Math.max(1, share / least);
    const tried = placed(editing, { ...frame, zoom, auto: false }, asked.eyes);
    const found = headIn(planGeometry(brief, photo, tried), photo, tried, marks);
    const eyes = found.eyes === null ? 0 : beyond(asked.eyes, found.eyes);
    const off = beyond(asked.height, found.height) + eyes + found.cut;
    if (!best || off < best.off - 1e-9) best = { frame: tried, off };
    if (off <= 0) break;
  }
  return best?.frame ?? frame;
}

const beyond = (asked: Shares | null, share: number): number =>
  asked ? Math.max(0, asked.min - share, share - asked.max) : 0;

/** From the middle of what is asked to its ends; the one that stands where nothing is. */
function heightsToTry(asked: Shares | null, now: number): number[] {
  // Closer and closer, until there is room to move the eyes to their place.
  if (!asked) return Array.from({ length: TRIED + 1 }, (_, i) => now * (1 + (2 * i) / TRIED));
  // With one end only there is no middle: a little inside that end.
  const low = asked.min || asked.max * 0.9;
  const high = asked.max < 1 ? asked.max : Math.min(1, asked.min * 1.1);
  const middle = (low + high) / 2;
  return Array.from({ length: TRIED + 1 }, (_, i) => {
    const step = (Math.ceil(i / 2) / (TRIED / 2)) * ((high - low) / 2);
    return i % 2 ? middle - step : middle + step;
  });
}

/** The frame moved so that the head stands in the middle, at the height that its eyes or its crown give. */
function placed(editing: Editing, frame: Frame, eyes: Shares | null): Frame {
  const { brief, photo } = editing;
  const geometry = planGeometry(brief, photo, frame);
  const { crop, place, height } = geometry;
  const down = axis(geometry.angle);
  const marks = seenMarks(frame.marks!, photo, frame);
  const middle = { x: (marks.crown.x + marks.chin.x) / 2, y: (marks.crown.y + marks.chin.y) / 2 };
  // Px of the photo that one output pixel stands for, and the output's edges beside the part.
  const px = crop.height / place.height;
  const found = headIn(geometry, photo, frame, frame.marks!);
  const led = eyes && marks.eyes ? marks.eyes : marks.crown;
  const wanted =
    eyes && marks.eyes
      ? 1 - (eyes.max < 1 ? (eyes.min + eyes.max) / 2 : Math.min(1, eyes.min * 1.05))
      : ABOVE * (1 - found.height);
  // How far the leading mark has to lie below the middle of the part.
  const below = (wanted * height - place.y - place.height / 2) * px;
  const along = (led.x - middle.x) * down.x + (led.y - middle.y) * down.y - below;
  return centreAt(editing, frame, middle.x + along * down.x, middle.y + along * down.y);
}

/** The head of a written file, by its pixels alone: the frame it was made under gives the rest. */
export const headOf = (brief: ResolvedBrief, photo: Size, frame: Frame, output: Size): HeadFound =>
  headIn(frameInto(brief, photo, output, frame), photo, frame, frame.marks!);

/** Marks to begin with: a head of about the size that is asked, in the part that the frame takes now. */
export function firstMarks({ brief, photo }: Editing, frame: Frame): Marks {
  const geometry = planGeometry(brief, photo, frame);
  const paper = paperHeight(brief, turnedSize(photo, frame), geometry);
  const [asked, eyes] = [brief.head?.height, brief.head?.eyes].map((range) => sharesOf(range ?? null, paper));
  const height = asked ? Math.min(0.9, (asked.min + asked.max) / 2) : 0.6;
  const { crop } = geometry;
  const x = crop.x + crop.width / 2;
  const at = (share: number) => markAt({ x, y: crop.y + share * crop.height }, photo, frame.turn);
  const crown = ABOVE * (1 - height);
  return {
    crown: at(crown),
    chin: at(crown + height),
    ...(brief.head?.eyes && { eyes: at(eyes ? 1 - (eyes.min + eyes.max) / 2 : crown + height / 2) }),
  };
}
