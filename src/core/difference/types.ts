import type { Rect } from "../photo";

/** Pixels a side that one value of the map stands for. */
export const CELL = 4;

/** Visible difference place by place, on the same scale as the whole, row by row. */
export interface DifferenceMap {
  data: Float32Array;
  /** In cells of {@link CELL} × {@link CELL} px; the last column and row may stand for less. */
  width: number;
  height: number;
}

/** How the picture as a whole has moved. */
export interface Shift {
  /** Mean change of Oklab lightness, in hundredths: + is lighter. */
  lightness: number;
  /** Length of the mean change on both colour axes, in hundredths. */
  colour: number;
}

export interface Difference {
  /** In steps: 1 is what a careful eye can just see at 100 %; 0 only for the same picture. */
  difference: number;
  /** Null where nothing differs. */
  worst: Rect | null;
  shift: Shift;
  map: DifferenceMap;
}

/** Up to here a trial shows no visible loss at 100 %. */
export const CLEAN = 0.9;
/** From here on the loss is plain to see. */
export const PLAIN = 2;

/** What is told of pixels beside a reference; `about`: from parts of a large picture alone. */
export interface Seen {
  difference: number;
  about: boolean;
}
