/** What the pages get from the server. */

import type { Brief, OutputFormat } from "@/core/brief";
import type { Limit, Offer } from "@/core/budget";
import type { Choice, Chroma, Setting } from "@/core/coding";
import type { Shift } from "@/core/difference";
import type { Geometry } from "@/core/geometry";
import type { Frame, Lighter, RawTaking, Rect, Size } from "@/core/photo";
import type { InkReport } from "@/core/pixels/ink";
import type { Part, Savings } from "@/core/pixels/layers";
import type { Step, Verdict } from "@/core/plan";
import type { NameNote } from "@/core/plan/names";
import type { Check, Facts } from "@/core/proof";
import type { Answer, Rules } from "@/receivers";
import type { SetFileView } from "./set-contract";

export interface DeskView {
  batches: { id: string; name: string; photos: number; bytes: number }[];
  briefs: { revisionId: string; briefId: string; name: string }[];
  /** Whether the demo is being made at this moment. */
  demoComing: boolean;
}

/** An edit that can be undone or redone: its number, by which it is named, and what it did. */
export interface EditLabel {
  edit: number;
  words: string;
}

/** The answer to undo and redo. `done`: false where it was done already. */
export interface Stepped {
  done: boolean;
  undo: EditLabel | null;
  redo: EditLabel | null;
}

export interface RowView {
  id: string;
  photoId: string;
  assignmentId: string | null;
  name: string;
  /** Where it lay below the folder that was brought in, parted by "/"; empty for none. */
  folder: string;
  /** The brief that it is held against. */
  revisionId: string | null;
  /** That brief is its own, not the batch's. */
  own: boolean;
  /** Whether the small picture is there. */
  thumb: boolean;
  before: Facts;
  frame: Frame;
  /** Period in px of a dot screen that beats with the new pixels; null where none does. */
  dotScreen: number | null;
  /** Null where the photo cannot take the asked pixels, or no brief is chosen. */
  geometry: Geometry | null;
  /** measured: from a real encode. about: estimated. */
  figure: "measured" | "about" | "none";
  bytes: number | null;
  /** Visible difference from the planned picture; null until it is measured. */
  difference: number | null;
  /** It is told from a sample of the picture. */
  differenceAbout: boolean;
  /** Bytes from which on the ceiling would force no visible loss, and no pixels to be given up. */
  cleanFrom: number | null;
  /** Pixels that the brief leaves free were given up: all of them, those at which it is looked at, and why. */
  gaveUp: { all: Size; view: Size; why: string } | null;
  /** It could not be made for no fault of the photo's: it may be tried again. */
  passing: boolean;
  /** The setting that a person has chosen. */
  choice: Choice | null;
  /** Resolution that the file will carry, in ppi. */
  ppi: number | null;
  steps: Step[];
  notes: string[];
  /** What was found as ink; null where none is looked for. */
  ink: InkReport | null;
  checks: Check[];
  verdict: Verdict | null;
  /** How the file will be called, with its folder. */
  outputName: string | null;
  /** What is worth knowing of that name. */
  nameNotes: NameNote[];
  /** What the newest run made of it under this brief and frame; of a set, of all its files. */
  made: MadeView | null;
  /** The files that it becomes, the widest first; null where one is asked. */
  set: SetFileView[] | null;
  /** What it shows, for those who do not see it. */
  alt: string;
}

export interface MadeView {
  itemId: string;
  runId: string;
  onlyYou: string[];
  ticks: Record<string, string>;
  state: "waiting" | "done" | "failed";
  error: string | null;
  /** With its folder. */
  name: string | null;
  bytes: number | null;
  /** Read back from the file; null until it is made. */
  facts: Pick<Facts, "bytes" | "width" | "height" | "format" | "resolution"> | null;
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
  /** The shelf has it just as it is here. */
  onShelf: boolean;
  /** Photos under it. */
  rows: number;
}

/** A document that a form asks for. */
export interface SlotView {
  id: string;
  name: string;
  revisionId: string;
  /** The row of the batch that is there for it. */
  row: string | null;
  /** A row that is likely meant for it, until somebody says so. */
  proposed: string | null;
}

export interface BatchView {
  id: string;
  name: string;
  /** The brief of all rows that have none of their own. */
  brief: BriefInUse | null;
  /** All briefs in use here, the batch's first. */
  briefs: BriefInUse[];
  rows: RowView[];
  /** The documents that are asked for, in the receiver's order; none for an ordinary batch. */
  slots: SlotView[];
  undo: EditLabel | null;
  redo: EditLabel | null;
  /** Limits on the whole, by brief. */
  totals: TotalView[];
  /** The newest run. */
  run: RunProgress | null;
}

/** What a page was told last of a batch. */
export interface Have {
  epoch: string;
  stamp: number;
}

/** A batch as it stands, without the rows that a page holds already. */
export interface BatchNews extends BatchView {
  have: Have;
  /** All rows in their order; null where it is as the page holds it. */
  order: string[] | null;
}

/** What came of a refusal that was taken. */
export interface Retaken {
  /** Null where no files had been made, or a limit on the whole has to be shared out first. */
  runId: string | null;
  /** Files that are made again, and those that obey as they are. */
  again: number;
  kept: number;
}

export interface RunProgress {
  id: string;
  total: number;
  done: number;
  failed: number;
  cancelled: number;
  finished: boolean;
  /** Why nothing is made at the moment: somebody asked for it, or the disk is full. */
  paused: "asked" | "disk" | null;
  /** About; null where nothing can be told yet. */
  secondsLeft: number | null;
  /** It made several settings, each into a folder of its own. */
  folders: boolean;
}

/** A limit on the whole, and how it is shared out. */
export interface TotalView {
  revisionId: string;
  limit: Limit;
  state: "settling" | "own" | "shared" | "cannot";
  photos: number;
  /** Photos that wait for a trial. */
  waiting: number;
  level: number | null;
  side: number | null;
  /** Bytes of the whole as it is counted; null until that is known. */
  bytes: number | null;
  /** Bytes of files that the limit leaves. */
  room: number;
  /** Bytes of the photos as they are now, counted the same way. */
  now: number;
  why: string | null;
  offers: Offer[];
}

/** What came of files that were brought in. */
export interface BroughtIn {
  added: number;
  /** Photos that the batch had already. */
  known: number;
  /** Their rows in the batch. */
  rows: string[];
  /** Entries of a package that were not taken, with the reason; the first of them where there are many. */
  refused: { name: string; why: string }[];
  refusedCount: number;
}

export interface RunView {
  id: string;
  batchId: string;
  title: string;
  /** ISO 8601. */
  at: string;
  progress: RunProgress;
  /** Bytes of the originals, and of the files that were made. */
  before: number;
  after: number;
  /** Its files were given up. */
  filesGone: boolean;
}

export interface RunItemView {
  id: string;
  source: string;
  /** With its folder; null where nothing was made. */
  name: string | null;
  state: "waiting" | "done" | "failed" | "cancelled";
  error: string | null;
  before: Facts;
  after: Facts | null;
  bytes: number | null;
  difference: number | null;
  /** It is told from a sample of the picture. */
  differenceAbout: boolean;
  checks: Check[];
  unchanged: string[];
  dropped: string[];
  /** Figures that judge nothing. */
  notes: string[];
  /** What only a person can check, and when somebody has. */
  onlyYou: string[];
  ticks: Record<string, string>;
  ok: boolean | null;
  photoId: string;
}

export interface RunDetail extends RunView {
  limit: Limit | null;
  /** The limit as a line of the proof; null where there is none, or nothing was made. */
  total: Check | null;
  items: RunItemView[];
  /** Folders of the machine that files may be put into. */
  outRoots: string[];
  /** Messages that its files take as mail under its limit; 1 where there is no limit. */
  messages: { files: number; bytes: number }[];
}

export interface StorageView {
  originals: number;
  runs: number;
  ready: number;
  trials: number;
  leftovers: number;
  /** Planned pictures, which can always be made again. */
  planned: number;
  total: number;
  /** Bytes that the disk has left. */
  free: number;
}

/** One encoding that was really made of the picture that is weighed. */
export interface TrialView {
  /** Equal for equal settings of equal pixels. */
  key: string;
  size: Size & { side: number | null };
  setting: Setting;
  /** Of the whole file. */
  bytes: number;
  /** Null until it was held against the planned picture. */
  difference: number | null;
  worst: Rect | null;
  shift: Shift | null;
  /** How long the encode took. */
  ms: number | null;
  /** Its bytes are still there to be looked at. */
  kept: boolean;
}

/** Pixels that a photo can be weighed at. */
export interface WeighedSizeView extends Size {
  /** Long side in px as a choice names it; null for the planned pixels. */
  side: number | null;
  /** The most that the brief allows. */
  all: boolean;
}

export interface WeighView {
  /** The assignment. */
  id: string;
  geometry: Geometry;
  /** Pixels at which the picture is looked at, and trials are judged; null: at 100 % of their own. */
  seenAs: Size | null;
  /** Pixels that trials may have, the most first; one where the brief leaves none free. */
  sizes: WeighedSizeView[];
  /** Pixels of the original's pane. */
  original: Size;
  sourceBytes: number;
  /** Formats that the brief allows. */
  formats: OutputFormat[];
  range: { min: number | null; max: number | null };
  /** Chroma of the JPEG line. */
  chroma: Chroma;
  /** Bits of the AVIF line. */
  bits: 8 | 10;
  /** Bytes of the photo's own JPEG data packed tighter; null where they cannot stay. */
  packed: number | null;
  /**
   * Raw file: its ways of being taken, each with the bytes of its file under the setting of the plan (null
   * until made) and its own pixels. Empty for others.
   */
  ways: { way: RawTaking["way"]; bytes: number | null; width: number; height: number }[];
  /** Trials that the chart is drawn from; null before the picture is planned. */
  ladder: number | null;
  made: number;
  error: string | null;
  choice: Choice | null;
  /** Key of the trial that the plan takes now. */
  chosen: string | null;
  trials: TrialView[];
}

/** One layer, group or page in the file's tree, from the top. */
export interface LayerView {
  /** Its place, such as "0.2". */
  place: string;
  name: string;
  group: boolean;
  /** Whether it takes part under the frame, itself and with the groups around it. */
  shown: boolean;
  seen: boolean;
  /** Whether the file says that it is visible. */
  visible: boolean;
  /** How it is laid on what is below, in words; empty for the plain way. */
  how: string;
}

/** What a file of layers or pages holds, and what could be saved of it. */
export interface LayersView {
  name: string;
  format: "ora" | "tiff";
  width: number;
  height: number;
  bytes: number;
  layers: LayerView[];
  parts: Part[];
  /** The brief keeps its layers. */
  keeps: boolean;
  lighter: Lighter;
}

/** Measured: what each measure saves, and what the file takes with those that are chosen. */
export interface LighterView {
  savings: Savings;
  bytes: number;
  width: number;
  height: number;
  told: string[];
}

/** One of several settings that are compared for a batch. */
export interface ComparedView {
  choice: Choice;
  photos: number;
  done: number;
  failed: number;
  /** Sum of what is measured. */
  bytes: number;
  /** Photos whose brief did not allow the setting. */
  elsewise: number;
  /** The largest difference of any photo. */
  worst: number | null;
}

export interface CounterView {
  receivers: { id: string; rules: Rules }[];
  /** Where the mailbox listens; null before it does. */
  smtpPort: number | null;
}

export interface ArrivedFileView {
  slot: string | null;
  name: string;
  bytes: number;
}

/** What came to a receiver, and its answer. */
export interface ArrivalView {
  id: string;
  at: string;
  answer: Answer;
  message: { subject: string; from: string; bytes: number } | null;
  files: ArrivedFileView[];
}

export interface HandoverView {
  id: string;
  runId: string;
  state: "waiting" | "sending" | "answered" | "failed";
  error: string | null;
  answer: Answer | null;
  tries: number;
  at: string;
}

export interface ReceiverView {
  id: string;
  rules: Rules;
  /** As it is published. */
  wording: string;
  /** The newest first. */
  arrivals: ArrivalView[];
  handovers: HandoverView[];
  /** The batch of the form's documents that were begun last. */
  package: { batchId: string } | null;
}
