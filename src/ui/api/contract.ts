/** What the pages get from the server. */
import type { Brief } from "@/core/brief";
import type { Frame, Geometry } from "@/core/frame";
import type { Step, Verdict } from "@/core/plan";
import type { Check, Facts } from "@/core/proof";

export interface DeskView {
  batches: { id: string; name: string; photos: number; bytes: number }[];
  briefs: { revisionId: string; briefId: string; name: string }[];
  /** Whether the demo is being made at this moment. */
  demoComing: boolean;
}

export interface RowView {
  id: string;
  photoId: string;
  assignmentId: string | null;
  name: string;
  /** The brief that it is held against. */
  revisionId: string | null;
  /** That brief is its own, not the batch's. */
  own: boolean;
  /** Whether the small picture is there. */
  thumb: boolean;
  before: Facts;
  frame: Frame;
  /** Period in px of a dot screen that beats with the new pixels; null where none does. */
  screen: number | null;
  /** Null where the photo cannot take the asked pixels, or no brief is chosen. */
  geometry: Geometry | null;
  /** measured: from a real encode. about: estimated. */
  figure: "measured" | "about" | "none";
  bytes: number | null;
  /** Resolution that the file will carry, in ppi. */
  ppi: number | null;
  steps: Step[];
  notes: string[];
  checks: Check[];
  verdict: Verdict | null;
  /** How the file will be called. */
  outputName: string | null;
  /** What the newest run made of it under this brief and frame. */
  made: MadeView | null;
}

export interface MadeView {
  itemId: string;
  state: "waiting" | "done" | "failed";
  error: string | null;
  name: string | null;
  bytes: number | null;
  checks: Check[];
  unchanged: string[];
  /** What of the photo's metadata is not in the file. */
  dropped: string[];
  ok: boolean;
}

/** A brief of the shelf. */
export interface ShelfBrief {
  id: string;
  revisionId: string;
  body: Brief;
  shipped: boolean;
}

/** A brief that a batch, or some of its rows, are held against. */
export interface BriefInUse {
  revisionId: string;
  briefId: string;
  body: Brief;
  /** Its clauses that cannot be carried out yet, as a sentence. */
  refusal: string | null;
  /** The shelf has it just as it is here. */
  onShelf: boolean;
  /** Photos under it. */
  rows: number;
}

export interface BatchView {
  id: string;
  name: string;
  /** The brief of all rows that have none of their own. */
  brief: BriefInUse | null;
  /** All briefs in use here, the batch's first. */
  briefs: BriefInUse[];
  rows: RowView[];
  undo: string | null;
  redo: string | null;
  run: { id: string; total: number; done: number; failed: number; finished: boolean } | null;
}
