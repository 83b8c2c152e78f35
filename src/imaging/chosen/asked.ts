import type { Brief } from "@/core/brief";
import type { Choice, Setting } from "@/core/coding";
import type { Geometry } from "@/core/geometry";
import type { Frame } from "@/core/photo";
import type { InkReport } from "@/core/pixels/ink";
import type { Step } from "@/core/plan";
import type { WrittenKind } from "@/core/plan/names";
import type { TrialStore } from "../candidates";
import type { PlannedCache } from "../planned";
import type { Source } from "../source";

export interface FitRequest {
  source: Source;
  brief: Brief;
  frame?: Frame;
  /** The setting that a person has chosen; it is taken wherever the brief allows it. */
  choice?: Choice;
  /** What the sharing of a limit on the whole has settled for this photo. */
  share?: Shared;
  trials?: TrialStore;
  planned?: PlannedCache;
  /** Called between steps; throws when nobody wants the answer any more. */
  wanted?: () => void | Promise<void>;
  /** SHA-256 of the source where it is known already. */
  sha256?: string;
}

/** One photo's part of a limit on the whole. */
export interface Shared {
  /** Null: its own data stay. */
  setting: Setting | null;
  geometry: Geometry;
  /** Why, for the plan. */
  told: string[];
}

export interface FitAnswer {
  /** The whole file; null where the photo cannot meet the brief. */
  output: Uint8Array | null;
  format: WrittenKind | null;
  error: string | null;
  geometry: Geometry | null;
  /** The frame that was used: a proposed one where nobody has set it. */
  frame: Frame;
  /** Period in px of a dot screen that beats with the new pixels; null where none does. */
  screen: number | null;
  setting: Setting | null;
  /**
   * Visible difference from the planned picture; 0 where the picture data stay. Null where no file was made.
   */
  difference: number | null;
  /**
   * Bytes from which on the ceiling would force no visible loss; null where it forces none or that is not
   * known.
   */
  cleanFrom: number | null;
  /** What was found as ink, where the brief asks for it. */
  ink: InkReport | null;
  passedThrough: boolean;
  encodes: number;
  steps: Step[];
  told: string[];
  notes: string[];
}
