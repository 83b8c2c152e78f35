/** What is answered of one photo through one brief. */
import type { Setting } from "@/core/coding";
import type { Pixels, Seen } from "@/core/difference";
import type { Geometry } from "@/core/geometry";
import { AUTO, type Frame } from "@/core/photo";
import type { InkReport } from "@/core/pixels/ink";
import type { Step } from "@/core/plan";
import type { WrittenKind } from "@/core/plan/names";
import type { Chosen, FitRequest } from "./chosen";
import { notesOn, type PlannedPhoto, resolvedFor } from "./planned";
import type { GaveUp } from "./written";

export interface FitAnswer {
  /** The whole file; null where the photo cannot meet the brief. */
  output: Uint8Array | null;
  format: WrittenKind | null;
  error: string | null;
  geometry: Geometry | null;
  /** The frame that was used: a proposed one where nobody has set it. */
  frame: Frame;
  /** Period in px of a dot screen that beats with the new pixels; null where none does. */
  dotScreen: number | null;
  setting: Setting | null;
  /**
   * Visible difference from the planned picture; 0 where the picture data stay. Null where no file was made,
   * or where `judge` tells it of the written pixels.
   */
  difference: number | null;
  judge: ((pixels: Pixels) => Promise<Seen>) | null;
  /** Bytes from which on the ceiling would force no visible loss; null where it forces none or that is not known. */
  cleanFrom: number | null;
  /** What was given up of the pixels that the brief leaves free; null where nothing was. */
  gaveUp: GaveUp | null;
  /** What was found as ink, where the brief asks for it. */
  ink: InkReport | null;
  passedThrough: boolean;
  /** The setting that a person has chosen was not allowed by the brief, so that one was looked for. */
  elsewise: boolean;
  encodes: number;
  steps: Step[];
  told: string[];
  notes: string[];
}

const NOTHING = {
  output: null,
  format: null,
  dotScreen: null,
  setting: null,
  difference: null,
  judge: null,
  cleanFrom: null,
  gaveUp: null,
  passedThrough: false,
  elsewise: false,
  encodes: 0,
  steps: [],
  told: [],
};

export const unplanned = ({ brief, source, frame = AUTO }: FitRequest, error: string): FitAnswer => ({
  ...NOTHING,
  error,
  geometry: null,
  frame,
  ink: null,
  notes: notesOn(resolvedFor({ brief }), source.facts, frame),
});

export const cannot = (
  { frame, ink, notes }: PlannedPhoto,
  chosen: Extract<Chosen, { kind: "cannot" }>,
): FitAnswer => ({
  ...NOTHING,
  error: chosen.why,
  geometry: chosen.geometry,
  frame,
  ink,
  encodes: chosen.encodes,
  notes: [...notes, ...chosen.notes],
});
