/**
 * The tables. Every row belongs to a workspace, directly or through its parent.
 * An assignment is (photo in a batch × immutable brief revision × frame); a run has items,
 * each a snapshot of an assignment. What undo reaches is deleted softly.
 */

import { sql } from "drizzle-orm";
import {
  bigint,
  boolean,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { Brief } from "@/core/brief";
import type { Limit, TraceAsked, Traced } from "@/core/budget";
import type { Choice, Setting } from "@/core/coding";
import type { Shift } from "@/core/difference";
import type { Frame, KernelName, Rect } from "@/core/photo";
import type { ConversionReport } from "@/core/pixels/colour";
import type { PhotoKind } from "@/core/pixels/ink";
import type { Verdict } from "@/core/plan";
import type { Check, Facts } from "@/core/proof";
import type {
  EditChange,
  ItemSnapshot,
  ItemState,
  Measured,
  ShareState,
  ShareTarget,
  Slot,
  WeighedSize,
  WeighPlan,
} from "./rows";

export const id = () => uuid("id").primaryKey().defaultRandom();
export const created = () => timestamp("created_at", { withTimezone: true }).notNull().defaultNow();
const deleted = () => timestamp("deleted_at", { withTimezone: true });
export const bytes = (name: string) => bigint(name, { mode: "number" });

export const workspaces = pgTable("workspaces", {
  id: id(),
  name: text("name").notNull().unique(),
  createdAt: created(),
});
export const workspace = () =>
  uuid("workspace_id")
    .notNull()
    .references(() => workspaces.id);

/** Bytes on disk under their SHA-256. Who may see them is decided by the rows that refer to them. */
export const files = pgTable("files", {
  sha256: text("sha256").primaryKey(),
  bytes: bytes("bytes").notNull(),
  /** The bytes were given up; the row stays for what refers to it. */
  gone: boolean("gone").notNull().default(false),
  createdAt: created(),
  /** When somebody last stored these bytes, or began to refer to them. */
  touchedAt: timestamp("touched_at", { withTimezone: true }).notNull().defaultNow(),
  /** When they were first found to be needed by nothing; null while something needs them. */
  markedAt: timestamp("marked_at", { withTimezone: true }),
});

export const briefs = pgTable("briefs", {
  id: id(),
  workspaceId: workspace(),
  shipped: boolean("shipped").notNull().default(false),
  /**
   * What the shelf offers. Null for a brief that lives in a batch only; edits on the Desk never change the
   * shelf by themselves.
   */
  shelfRevisionId: uuid("shelf_revision_id"),
  createdAt: created(),
  deletedAt: deleted(),
});

/** Never changed once written. */
export const briefRevisions = pgTable(
  "brief_revisions",
  {
    id: id(),
    briefId: uuid("brief_id")
      .notNull()
      .references(() => briefs.id),
    number: integer("number").notNull(),
    body: jsonb("body").$type<Brief>().notNull(),
    createdAt: created(),
  },
  (t) => [uniqueIndex("brief_revisions_number").on(t.briefId, t.number)],
);

export const batches = pgTable("batches", {
  id: id(),
  workspaceId: workspace(),
  name: text("name").notNull(),
  demo: boolean("demo").notNull().default(false),
  revisionId: uuid("revision_id").references(() => briefRevisions.id),
  /** Messages that a limit on one message is shared out over. */
  messages: integer("messages").notNull().default(1),
  /** The documents that a form asks for, in its order; none for an ordinary batch. */
  slots: jsonb("slots").$type<Slot[]>().notNull().default([]),
  createdAt: created(),
  deletedAt: deleted(),
});

/** An original. One row for the same bytes in a workspace, whatever names it has in batches. */
export const photos = pgTable(
  "photos",
  {
    id: id(),
    workspaceId: workspace(),
    sha256: text("sha256")
      .notNull()
      .references(() => files.sha256),
    facts: jsonb("facts").$type<Facts>().notNull(),
    thumbSha256: text("thumb_sha256").references(() => files.sha256),
    /** What it shows; null until a batch with documents asks. */
    kind: text("kind").$type<PhotoKind>(),
    createdAt: created(),
  },
  (t) => [
    uniqueIndex("photos_same").on(t.workspaceId, t.sha256),
    index("photos_file").on(t.sha256),
    index("photos_thumb").on(t.thumbSha256),
  ],
);

export const batchPhotos = pgTable(
  "batch_photos",
  {
    id: id(),
    batchId: uuid("batch_id")
      .notNull()
      .references(() => batches.id),
    photoId: uuid("photo_id")
      .notNull()
      .references(() => photos.id),
    name: text("name").notNull(),
    /** Where it lay below the folder that was brought in, parted by "/". */
    folder: text("folder").notNull().default(""),
    /** A brief of its own; null where the batch's brief holds. */
    revisionId: uuid("revision_id").references(() => briefRevisions.id),
    /** What it shows, for those who do not see it: the alternative text of its markup; null: what the photo says itself. */
    alt: text("alt"),
    /** Above 0 for the same photo once more: it serves several documents. */
    copy: integer("copy").notNull().default(0),
    /** Order in the batch: that in which the photos were given, however their uploads overtook each other. */
    position: doublePrecision("position").notNull(),
    createdAt: created(),
    deletedAt: deleted(),
  },
  (t) => [
    uniqueIndex("batch_photos_same").on(t.batchId, t.photoId, t.copy),
    index("batch_photos_order").on(t.batchId, t.position),
    index("batch_photos_photo").on(t.photoId),
  ],
);

export const assignments = pgTable(
  "assignments",
  {
    id: id(),
    batchPhotoId: uuid("batch_photo_id")
      .notNull()
      .references(() => batchPhotos.id),
    revisionId: uuid("revision_id")
      .notNull()
      .references(() => briefRevisions.id),
    frame: jsonb("frame").$type<Frame>().notNull(),
    /** The setting that a person has chosen; null where the search decides. */
    choice: jsonb("choice").$type<Choice>(),
    /** Equal for equal frame and choice. */
    frameKey: text("frame_key").notNull(),
    /** A person has looked at the frame and said that it is right. */
    accepted: boolean("accepted").notNull().default(false),
    /** Of all frames of a photo under a revision the one in use. */
    current: boolean("current").notNull().default(true),
    /**
     * What is known of it for sharing a limit on the whole, by the common long side that was tried ("all":
     * none).
     */
    traced: jsonb("traced").$type<Record<string, Traced>>(),
    /** Trials that the sharing waits for. */
    trialsAsked: jsonb("trials_asked").$type<Omit<TraceAsked, "id">>(),
    /** What the sharing has settled; its file is made from this. */
    share: jsonb("share").$type<ShareTarget>(),
    measured: jsonb("measured").$type<Measured>(),
    verdict: jsonb("verdict").$type<Verdict>(),
    createdAt: created(),
    deletedAt: deleted(),
  },
  (t) => [
    uniqueIndex("assignments_same").on(t.batchPhotoId, t.revisionId, t.frameKey),
    uniqueIndex("assignments_current").on(t.batchPhotoId, t.revisionId).where(sql`${t.current}`),
  ],
);

export const shares = pgTable(
  "shares",
  {
    batchId: uuid("batch_id")
      .notNull()
      .references(() => batches.id),
    revisionId: uuid("revision_id")
      .notNull()
      .references(() => briefRevisions.id),
    state: jsonb("state").$type<ShareState>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.batchId, t.revisionId] })],
);

/**
 * A planned picture that was looked at. The key is a hash of photo, geometry, colour and engine, not of the
 * brief.
 */
export const plannedPictures = pgTable("planned_pictures", {
  key: text("key").primaryKey(),
  flat: boolean("flat").notNull(),
  /** The kernel it was resized with and what the conversion of its colours did. */
  kernel: text("kernel").$type<KernelName>(),
  conversion: jsonb("conversion").$type<ConversionReport>(),
  dotScreen: doublePrecision("dot_screen"),
  createdAt: created(),
});

/**
 * One encoding that was really made. Its bytes may have been given up to keep the cache small; its size
 * stays.
 */
export const trials = pgTable(
  "trials",
  {
    pictureKey: text("picture_key")
      .notNull()
      .references(() => plannedPictures.key),
    settingKey: text("setting_key").notNull(),
    setting: jsonb("setting").$type<Setting>().notNull(),
    bytes: bytes("bytes").notNull(),
    sha256: text("sha256"),
    /** What is seen of it, once it was held against the planned picture. */
    difference: doublePrecision("difference"),
    worst: jsonb("worst").$type<Rect>(),
    shift: jsonb("shift").$type<Shift>(),
    /** How long the encode took. */
    ms: integer("ms"),
    usedAt: timestamp("used_at", { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.pictureKey, t.settingKey] }),
    index("trials_used").on(t.usedAt),
    index("trials_file").on(t.sha256),
  ],
);

export const runs = pgTable(
  "runs",
  {
    id: id(),
    workspaceId: workspace(),
    batchId: uuid("batch_id")
      .notNull()
      .references(() => batches.id),
    /** The batch's brief; each item keeps the one that it was made under. */
    revisionId: uuid("revision_id").references(() => briefRevisions.id),
    /** Order in which runs were begun: a clock may be set back. */
    seq: integer("seq").notNull().generatedAlwaysAsIdentity(),
    /** A name for lists: that of the batch and of the brief, as they were. */
    title: text("title").notNull().default(""),
    /** The limit on the whole that it was made under. */
    limit: jsonb("limit").$type<Limit>(),
    createdAt: created(),
    /**
     * When work on it was last taken up, and how many items were finished then: time left is worked out from
     * there.
     */
    resumedAt: timestamp("resumed_at", { withTimezone: true }).notNull().defaultNow(),
    finishedThen: integer("finished_then").notNull().default(0),
    pausedAt: timestamp("paused_at", { withTimezone: true }),
    /** Why it pauses where nobody asked for it. */
    pauseReason: text("pause_reason"),
    cancelledAt: timestamp("cancelled_at", { withTimezone: true }),
    finishedAt: timestamp("finished_at", { withTimezone: true }),
    /** Its files were given up; the record stays. */
    filesDeletedAt: timestamp("files_deleted_at", { withTimezone: true }),
    deletedAt: deleted(),
  },
  (t) => [index("runs_batch").on(t.batchId)],
);

export const runItems = pgTable(
  "run_items",
  {
    id: id(),
    runId: uuid("run_id")
      .notNull()
      .references(() => runs.id),
    assignmentId: uuid("assignment_id")
      .notNull()
      .references(() => assignments.id),
    position: integer("position").notNull(),
    /** Which file of a set, counted from 0; 0 for a single file. */
    part: integer("part").notNull().default(0),
    snapshot: jsonb("snapshot").$type<ItemSnapshot>().notNull(),
    state: text("state").$type<ItemState>().notNull().default("waiting"),
    error: text("error"),
    outputSha256: text("output_sha256").references(() => files.sha256),
    outputName: text("output_name"),
    /** Visible difference of the file. */
    difference: doublePrecision("difference"),
    /** It is told from a sample. */
    differenceAbout: boolean("difference_about").notNull().default(false),
    finishedAt: timestamp("finished_at", { withTimezone: true }),
    /** Rules that only a person can check, which somebody has ticked: the rule's words, and when. */
    ticks: jsonb("ticks").$type<Record<string, string>>().notNull().default({}),
  },
  (t) => [
    uniqueIndex("run_items_same").on(t.runId, t.assignmentId, t.part),
    uniqueIndex("run_items_name").on(t.runId, sql`lower(${t.outputName})`),
    index("run_items_left").on(t.runId, t.state),
    index("run_items_assignment").on(t.assignmentId),
    index("run_items_output").on(t.outputSha256),
  ],
);

export const proofs = pgTable("proofs", {
  runItemId: uuid("run_item_id")
    .primaryKey()
    .references(() => runItems.id),
  ok: boolean("ok").notNull(),
  facts: jsonb("facts").$type<Facts>().notNull(),
  checks: jsonb("checks").$type<Check[]>().notNull(),
  unchanged: jsonb("unchanged").$type<string[]>().notNull(),
  dropped: jsonb("dropped").$type<string[]>().notNull().default([]),
  /** Figures that judge nothing. */
  notes: jsonb("notes").$type<string[]>().notNull().default([]),
  createdAt: created(),
});

/**
 * An assignment that somebody is weighing at this moment: trials for it are made only while it is looked at.
 */
export const weighings = pgTable("weighings", {
  assignmentId: uuid("assignment_id")
    .primaryKey()
    .references(() => assignments.id),
  /** When a page last asked for it. */
  seenAt: timestamp("seen_at", { withTimezone: true }).notNull().defaultNow(),
  /** Null until the worker has planned the picture. */
  plan: jsonb("plan").$type<WeighPlan>(),
  /** Pixels beside the planned ones that were asked for, by their long side. */
  others: jsonb("others").$type<Record<string, WeighedSize>>().notNull().default({}),
  error: text("error"),
});

/** Work that was under way when the process that did it ended by itself. */
export const deaths = pgTable(
  "deaths",
  { task: text("task").notNull(), subject: text("subject").notNull(), count: integer("count").notNull() },
  (t) => [primaryKey({ columns: [t.task, t.subject] })],
);

/** Several settings for one batch, side by side. */
export const comparisons = pgTable(
  "comparisons",
  {
    id: id(),
    batchId: uuid("batch_id")
      .notNull()
      .references(() => batches.id),
    choices: jsonb("choices").$type<Choice[]>().notNull(),
    createdAt: created(),
    deletedAt: deleted(),
  },
  (t) => [index("comparisons_batch").on(t.batchId)],
);

export const edits = pgTable(
  "edits",
  {
    seq: integer("seq").primaryKey().generatedAlwaysAsIdentity(),
    batchId: uuid("batch_id")
      .notNull()
      .references(() => batches.id),
    words: text("words").notNull(),
    change: jsonb("change").$type<EditChange>().notNull(),
    undone: boolean("undone").notNull().default(false),
    createdAt: created(),
  },
  (t) => [index("edits_batch").on(t.batchId, t.seq)],
);

/**
 * Background workers that are alive: each counts its beats, so that a clock that is set back kills nobody.
 */
export const workers = pgTable("workers", {
  /** The queue's name for it: what it has locked. */
  id: text("id").primaryKey(),
  /** The launcher that started it. */
  instance: text("instance").notNull(),
  beat: bigint("beat", { mode: "number" }).notNull().default(0),
});

/** Facts about this installation, such as that the demo was loaded. */
/** Folders of this machine that are watched, and what has become of what came to lie in them. */
export const watches = pgTable("watches", {
  id: id(),
  workspaceId: workspace(),
  folder: text("folder").notNull(),
  out: text("out").notNull(),
  /** As it was when the watch was begun. */
  brief: jsonb("brief").$type<Brief>().notNull(),
  /** Files that are ready, and photos that wait for a person. */
  ready: integer("ready").notNull().default(0),
  needsYou: integer("needs_you").notNull().default(0),
  /** What it said last. */
  said: text("said").notNull().default(""),
  /** Why it does not run; null while it does. */
  problem: text("problem"),
  createdAt: created(),
  stoppedAt: timestamp("stopped_at", { withTimezone: true }),
});

export const settings = pgTable("settings", {
  key: text("key").primaryKey(),
  value: jsonb("value").notNull(),
});
