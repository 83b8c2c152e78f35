import type { OutputFormat } from "@/core/brief";
import type { Limit, Offer, Tried } from "@/core/budget";
import type { Choice, Chroma, Setting } from "@/core/coding";
import type { Geometry } from "@/core/geometry";
import type { Frame, Size } from "@/core/photo";
import type { InkReport } from "@/core/pixels/ink";
import type { Step } from "@/core/plan";
import type { SetPart } from "@/core/plan/set";
import type { Check, Facts } from "@/core/proof";

/** own: as if it were alone. cannot: the whole is too large, and why. */
export type ShareTarget =
  | { kind: "own" }
  | { kind: "set"; setting: Setting | null; geometry: Geometry; told: string[] }
  | { kind: "cannot"; why: string };

/** What a finished measurement says about an assignment. */
/** One file of a set. */
export interface MeasuredFile {
  part: SetPart;
  outputSha256: string;
  facts: Facts;
  checks: Check[];
  setting: Setting | null;
  /** Null where it is not known. */
  difference: number | null;
  differenceAbout: boolean;
}

/** Of a set: its first file, with the bytes of all. */
export interface Measured {
  /** The error is none of the photo's: somebody may have it tried again. */
  passing?: boolean;
  outputSha256: string | null;
  bytes: number | null;
  format: string | null;
  facts: Facts | null;
  geometry: Geometry | null;
  /** The frame that was used; missing in what was measured before frames were proposed. */
  frame?: Frame;
  /** Period in px of a dot screen that would beat with the new pixels. */
  dotScreen?: number | null;
  setting: Setting | null;
  /** Visible difference from the planned picture; missing in what was measured before that was known. */
  difference?: number | null;
  /** It is told from a sample. */
  differenceAbout?: boolean;
  /** Bytes from which on the ceiling would force no visible loss. */
  cleanFrom?: number | null;
  /** Pixels that the brief leaves free were given up; missing in what was measured before that was done. */
  gaveUp?: { all: Size; view: Size; why: string } | null;
  /** What was found as ink; missing where none was looked for. */
  ink?: InkReport | null;
  checks: Check[];
  steps: Step[];
  told: string[];
  notes: string[];
  passedThrough: boolean;
  /** Of a drawing, which has no pixels of its own; missing for all else. */
  drawn?: boolean;
  /** The setting that a person has chosen was not allowed, so that one was looked for; missing in older ones. */
  elsewise?: boolean;
  encodes: number;
  /** The files of a set, the widest first; missing where one file is asked. */
  set?: MeasuredFile[];
  error: string | null;
}

/** A limit on the whole, and how it was shared out among the photos under a brief. */
export interface ShareState {
  limit: Limit;
  /**
   * settling: trials are being made. own: nothing binds. shared: all end at one difference. cannot: see
   * `why`.
   */
  state: "settling" | "own" | "shared" | "cannot";
  /** Photos that take part, and how many of them wait for a trial. */
  photos: number;
  waiting: number;
  /** The visible difference that all end at, about; null where nothing binds or nothing is settled. */
  level: number | null;
  /** The common long side that was chosen; null for as many pixels as the brief allows. */
  side: number | null;
  /** Bytes of the whole as it is counted, foretold until all files are made. */
  total: number | null;
  why: string | null;
  offers: Offer[];
  /** Files made as if alone were too large together, so the limit binds. */
  binds: boolean;
  /** The sides that were tried, in order. */
  tried: Tried[];
  /** Equal for equal photos, frames, choices and limits. */
  key: string;
}

export type ItemState = "waiting" | "done" | "failed" | "cancelled";

/**
 * A snapshot of an assignment: what it says does not change when the frame is edited later. The brief is that of the
 * assignment's revision, which never changes.
 */
export interface ItemSnapshot {
  frame: Frame;
  sourceSha256: string;
  sourceName: string;
  before: Facts;
  n: number;
  choice?: Choice;
  share?: ShareTarget;
  /**
   * A folder of the run that the file goes into: one a setting where several are compared, else that of the
   * photo.
   */
  folder?: string;
  /** Several settings of one photo. */
  compared?: boolean;
  /** Of a set: which of its files. */
  part?: SetPart;
  /** Of a set: what its photo shows, for those who do not see it. */
  alt?: string;
  /** The name that was shown before the run, with its folder. */
  plannedName?: string;
}

/** Pixels that trials are made of. */
export interface WeighedSize {
  geometry: Geometry;
  /**
   * By format: which planned picture its trials belong to, and the bytes of headers that its files carry
   * beside the bare encoding.
   */
  formats: Partial<Record<OutputFormat, { pictureKey: string; added: number }>>;
}

/** A measurement without a file. */
export const NOT_MADE: Measured = {
  outputSha256: null,
  bytes: null,
  format: null,
  facts: null,
  geometry: null,
  setting: null,
  difference: null,
  cleanFrom: null,
  gaveUp: null,
  checks: [],
  steps: [],
  told: [],
  notes: [],
  passedThrough: false,
  encodes: 0,
  error: null,
};

/** What the worker has found out about the pictures that are weighed. */
export interface WeighPlan extends WeighedSize {
  /** Chroma of the JPEG line. */
  chroma: Chroma;
  /** Bytes of the photo's own JPEG data packed tighter; null where the picture has to be encoded anew. */
  packed: number | null;
  /** Raw file: bytes of each way of taking it, under the setting that the plan takes. */
  ways?: Partial<Record<"developed" | "camera", number>>;
  /** The ladder of trials that the chart is drawn from, and how many of them are made. */
  ladder: number;
  made: number;
}

/** A document that a form asks for: its brief, and the row of the batch that is there for it. */
export interface Slot {
  id: string;
  name: string;
  revisionId: string;
  row: string | null;
}

/** One edit that undo can take back. */
export type EditChange =
  | { kind: "brief"; before: string | null; after: string | null }
  /** Briefs of single rows, and of the batch where that changes too. */
  | {
      kind: "rows";
      batch: { before: string | null; after: string | null } | null;
      rows: Record<string, { before: string | null; after: string | null }>;
      slots?: { before: Slot[]; after: Slot[] };
      /** Rows that the edit put into the batch, and rows that it took out. */
      came?: string[];
      went?: string[];
    }
  | { kind: "remove"; batchPhotoIds: string[] }
  | { kind: "messages"; before: number; after: number }
  | { kind: "frame"; batchPhotoId: string; revisionId: string; before: FrameState; after: FrameState }
  | {
      kind: "choice";
      rows: { batchPhotoId: string; revisionId: string; before: FrameState; after: FrameState }[];
    };

export interface FrameState {
  frame: Frame;
  accepted: boolean;
  /** The setting that a person has chosen for this photo; absent where the search decides. */
  choice?: Choice;
}
