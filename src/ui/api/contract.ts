/** What the pages get from the server. */
import type { Brief } from "@/core/brief";
import type { Frame, Geometry } from "@/core/frame";
import type { Step, Verdict } from "@/core/plan";
import type { Check, Facts } from "@/core/proof";

export interface DeskView {
  batches: { id: string; name: string; photos: number; bytes: number }[];
  briefs: { revisionId: string; name: string }[];
  /** Whether the demo is being made at this moment. */
  demoComing: boolean;
}

export interface RowView {
  id: string;
  photoId: string;
  assignmentId: string | null;
  name: string;
  /** Whether the small picture is there. */
  thumb: boolean;
  before: Facts;
  frame: Frame;
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
  ok: boolean;
}

export interface BatchView {
  id: string;
  name: string;
  brief: { revisionId: string; body: Brief; refusal: string | null } | null;
  rows: RowView[];
  undo: string | null;
  redo: string | null;
  run: { id: string; total: number; done: number; failed: number; finished: boolean } | null;
}
