/** The first frame of a photo that has to be cut. */
import type { ResolvedBrief } from "../brief";
import type { Size } from "../photo";
import { type Frame, turnedSize } from "../photo";
import { type DetailMap, proposePosition } from "./detail";
import { planGeometry } from "./geometry";

/** Cuts smaller than this share of the photo are not worth a proposal. */
const LEAST_CUT = 0.002;

/**
 * The frame with its position by detail; any other frame, and one that cuts nothing, as it is. `map` is that
 * of the upright photo.
 */
export function proposeFrame(brief: ResolvedBrief, photo: Size, frame: Frame, map: DetailMap | null): Frame {
  if (!frame.auto || !map || frame.turn || frame.angle) return frame;
  const { crop, cut, mode } = planGeometry(brief, photo, frame);
  if (mode !== "fill" || cut < LEAST_CUT) return frame;
  return { ...frame, ...proposePosition(map, turnedSize(photo, frame), crop) };
}
