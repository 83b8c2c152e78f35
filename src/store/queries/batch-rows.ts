import { and, asc, eq, inArray, isNull, sql } from "drizzle-orm";
import type { Slot } from "../rows";
import { assignments, batches, batchPhotos, photos } from "../schema";
import type { Executor } from "../store";

export interface BatchRow {
  id: string;
  workspaceId: string;
  name: string;
  revisionId: string | null;
  /** Messages that a limit on one message is shared out over. */
  messages: number;
  slots: Slot[];
}

/** Rows of the database change their version with every write. */
export interface Version {
  id: string;
  version: string;
}

/** Null where there is no such batch in the workspace. */
export const getBatch = async (db: Executor, workspaceId: string, id: string): Promise<BatchRow | null> =>
  (await batchQuery(db, workspaceId, id))[0] ?? null;

/** Nobody else changes it until this transaction ends. */
export const holdBatch = async (db: Executor, workspaceId: string, id: string): Promise<BatchRow | null> =>
  (await batchQuery(db, workspaceId, id).for("update"))[0] ?? null;

const batchQuery = (db: Executor, workspaceId: string, id: string) =>
  db
    .select({
      id: batches.id,
      workspaceId: batches.workspaceId,
      name: batches.name,
      revisionId: batches.revisionId,
      messages: batches.messages,
      slots: batches.slots,
    })
    .from(batches)
    .where(and(eq(batches.id, id), eq(batches.workspaceId, workspaceId), isNull(batches.deletedAt)));

/** The brief of a row: its own, else that of its batch. */
export const briefOfRow = sql`coalesce(${batchPhotos.revisionId}, ${batches.revisionId})`;

/** What a row takes from the brief that it is under. */
const assignmentOfRow = and(
  eq(assignments.batchPhotoId, batchPhotos.id),
  sql`${assignments.revisionId} = ${briefOfRow}`,
  eq(assignments.current, true),
  isNull(assignments.deletedAt),
);

const there = (batchId: string) => and(eq(batchPhotos.batchId, batchId), isNull(batchPhotos.deletedAt));
const inOrder = [asc(batchPhotos.position), asc(batchPhotos.id)];

/** The rows of the grid, or some of them, each under its own brief or that of the batch. */
export async function listRows(db: Executor, batchId: string, ids?: readonly string[]) {
  return db
    .select({
      id: batchPhotos.id,
      position: batchPhotos.position,
      name: batchPhotos.name,
      folder: batchPhotos.folder,
      alt: batchPhotos.alt,
      photoId: photos.id,
      sha256: photos.sha256,
      facts: photos.facts,
      thumb: sql<boolean>`${photos.thumbSha256} is not null`,
      kind: photos.kind,
      copy: batchPhotos.copy,
      assignmentId: assignments.id,
      frame: assignments.frame,
      choice: assignments.choice,
      accepted: assignments.accepted,
      measured: assignments.measured,
      share: assignments.share,
      revisionId: sql<string | null>`${briefOfRow}`,
      own: batchPhotos.revisionId,
    })
    .from(batchPhotos)
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .innerJoin(photos, eq(photos.id, batchPhotos.photoId))
    .leftJoin(assignments, assignmentOfRow)
    .where(and(there(batchId), ids && inArray(batchPhotos.id, [...ids])))
    .orderBy(...inOrder);
}

export type StoredRow = Awaited<ReturnType<typeof listRows>>[number];

/** The rows in their order, each with what becomes another whenever something is written about it. */
export const rowVersions = (db: Executor, batchId: string): Promise<Version[]> =>
  db
    .select({
      id: batchPhotos.id,
      version: sql<string>`concat_ws(' ', ${batchPhotos}.xmin, ${photos}.xmin, ${assignments.id}, ${assignments}.xmin, ${briefOfRow})`,
    })
    .from(batchPhotos)
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .innerJoin(photos, eq(photos.id, batchPhotos.photoId))
    .leftJoin(assignments, assignmentOfRow)
    .where(there(batchId))
    .orderBy(...inOrder);
