/** The tables of the simulated receivers: what they ask, what came to them, and what is on its way. */
import { integer, jsonb, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import { batches, created, id, runs, workspace } from "./schema";

/**
 * A simulated receiver. What its rules and answers hold is the receivers' own business, and checked where
 * they are read.
 */
export const receivers = pgTable("receivers", {
  id: id(),
  workspaceId: workspace(),
  rules: jsonb("rules").$type<unknown>().notNull(),
  position: integer("position").notNull(),
  createdAt: created(),
});

/** A file as a receiver has got it. */
export interface ArrivedFile {
  slot: string | null;
  name: string;
  sha256: string;
  bytes: number;
}

/** What came to a receiver under one key: however often it is sent, it is there once. */
export const arrivals = pgTable(
  "arrivals",
  {
    id: id(),
    receiverId: uuid("receiver_id")
      .notNull()
      .references(() => receivers.id),
    /** The sender's own name for it. */
    key: text("key").notNull(),
    files: jsonb("files").$type<ArrivedFile[]>().notNull().default([]),
    /** The message that it came in. */
    message: jsonb("message").$type<ArrivedMessage>(),
    /** Null until all of it is there. */
    answer: jsonb("answer").$type<unknown>(),
    createdAt: created(),
  },
  (t) => [uniqueIndex("arrivals_once").on(t.receiverId, t.key)],
);

export interface ArrivedMessage {
  subject: string;
  from: string;
  /** As it came over the line. */
  bytes: number;
  sha256: string | null;
}

export type HandoverState = "waiting" | "sending" | "answered" | "failed";

/** A run's files on their way to a receiver. */
export const handovers = pgTable("handovers", {
  id: id(),
  workspaceId: workspace(),
  receiverId: uuid("receiver_id")
    .notNull()
    .references(() => receivers.id),
  runId: uuid("run_id")
    .notNull()
    .references(() => runs.id),
  /** For a form: the item of each slot. */
  slots: jsonb("slots").$type<Record<string, string>>(),
  state: text("state").$type<HandoverState>().notNull().default("waiting"),
  /** Why it failed, and what to do. */
  error: text("error"),
  answer: jsonb("answer").$type<unknown>(),
  tries: integer("tries").notNull().default(0),
  createdAt: created(),
});

/**
 * The documents of a form that are prepared together: a batch whose slots bear the keys of the form's.
 */
export const packages = pgTable("packages", {
  id: id(),
  receiverId: uuid("receiver_id")
    .notNull()
    .references(() => receivers.id),
  batchId: uuid("batch_id")
    .notNull()
    .references(() => batches.id),
  createdAt: created(),
});
