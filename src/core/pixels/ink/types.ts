/** What the search for ink works on, and what it answers. */
import type { Rect } from "../../photo";

/** 8-bit RGB code values, interleaved, upright. */
export interface RgbPicture {
  data: Uint8Array;
  width: number;
  height: number;
}

export interface InkFound {
  width: number;
  height: number;
  /** How much of each pixel is ink, 0 to 255. */
  cover: Uint8Array;
  /** Pixels that hold any ink, with the soft edge. */
  bounds: Rect;
  /** Share of the picture that is ink, 0 to 1. */
  share: number;
  /** Median width of the strokes in px. */
  stroke: number;
  /** Groups of strokes that lie apart. */
  groups: number;
  /** Ink runs into the edge of the picture: something may be missing. */
  touches: boolean;
  /** Lines of the paper that were left out. */
  lines: number;
  /** Mean colour of the ink on white, code values. */
  colour: [number, number, number];
}

/**
 * What is told of found ink: `width` and `height` are pixels of the part that was searched, in which
 * `bounds` are counted.
 */
export interface InkReport
  extends Pick<
    InkFound,
    "width" | "height" | "bounds" | "share" | "stroke" | "groups" | "touches" | "lines"
  > {
  /** Sentences for a person. */
  notes: string[];
}

/** There is nothing that looks like ink; the message is one sentence with a way out. */
export class InkError extends Error {
  override name = "InkError";
}
