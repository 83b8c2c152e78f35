/** What is asked of a print sheet, as it comes over the line. */
import * as z from "zod";

export const sheetTask = z.strictObject({
  /** Millimetres; either way up. */
  width: z.number().min(20).max(2000),
  height: z.number().min(20).max(2000),
  /** White around everything, and between pictures, in millimetres. */
  margin: z.number().min(0).max(500),
  gap: z.number().min(0).max(2000),
  lines: z.enum(["none", "corners", "across"]),
  /**
   * fill: as many of all as one sheet holds. copies: as many as are said, on as many sheets as it takes.
   * single: each alone, with bleed and crop marks.
   */
  mode: z.enum(["fill", "copies", "single"]),
  /** What of each picture is cut off on every side, in millimetres; only for single ones. */
  bleed: z.number().min(0).max(50),
  /** By file; one that is missing is left out. */
  copies: z.record(z.string(), z.int().min(1).max(500)),
});
export type SheetTask = z.infer<typeof sheetTask>;

/** A picture at the size at which it is printed, in millimetres. */
export interface Piece {
  id: string;
  name: string;
  width: number;
  height: number;
}

/**
 * Where a picture lies, in millimetres from the upper left corner. Turned pictures are a quarter turn
 * clockwise.
 */
export interface Placed {
  id: string;
  x: number;
  y: number;
  width: number;
  height: number;
  turned: boolean;
}

export interface Sheet {
  width: number;
  height: number;
  placed: Placed[];
}

/** What cannot be laid out: what was asked, what was found, what to do. */
export class SheetError extends Error {
  override name = "SheetError";
}
