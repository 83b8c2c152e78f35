/** Batches, the photos in them and the assignments that follow from brief and frame. */

import { and, asc, eq, inArray, isNull, notInArray, sql } from "drizzle-orm";
import type { Slot } from "../rows";
import { batches, batchPhotos, files, photos } from "../schema";
import type { Executor } from "../store";
import { assignAll } from "./batch-briefs";
import type { BatchRow } from "./batch-rows";
import { claimFiles } from "./files";
import { cancelRunsOf } from "./run-control";

export interface BatchSummary {
  id: string;
  name: string;
  photos: number;
  bytes: number;
}

export async function listBatches(db: Executor, workspaceId: string): Promise<BatchSummary[]> {
  const here = and(eq(batchPhotos.batchId, batches.id), isNull(batchPhotos.deletedAt));
  return db
    .select({
      id: batches.id,
      name: batches.name,
      photos: sql<number>`count(${batchPhotos.id})::int`,
      bytes: sql<number>`coalesce(sum(${files.bytes}), 0)::float8`,
    })
    .from(batches)
    .leftJoin(batchPhotos, here)
    .leftJoin(photos, eq(photos.id, batchPhotos.photoId))
    .leftJoin(files, eq(files.sha256, photos.sha256))
    .where(and(eq(batches.workspaceId, workspaceId), isNull(batches.deletedAt)))
    .groupBy(batches.id)
    .orderBy(asc(batches.createdAt), asc(batches.name));
}

export interface NewBatch {
  workspaceId: string;
  name: string;
  revisionId: string | null;
  demo?: boolean;
  slots?: Slot[];
}

export async function createBatch(
  db: Executor,
  { workspaceId, name, revisionId, demo = false, slots = [] }: NewBatch,
): Promise<string> {
  const [row] = await db
    .insert(batches)
    .values({ workspaceId, name, revisionId, demo, slots })
    .returning({ id: batches.id });
  return row.id;
}

/**
 * Puts a batch away, with the runs that are still going; it can come back for a while. False where there is
 * none.
 */
export async function removeBatch(db: Executor, workspaceId: string, id: string): Promise<boolean> {
  const [row] = await db
    .update(batches)
    .set({ deletedAt: sql`now()` })
    .where(and(eq(batches.id, id), eq(batches.workspaceId, workspaceId), isNull(batches.deletedAt)))
    .returning({ id: batches.id });
  if (row) await cancelRunsOf(db, id);
  return row !== undefined;
}

/**
 * Brings a removed batch back. False where it is not there any more; throws a FileGoneError where its photos were
 * given up to free space.
 */
export async function restoreBatch(db: Executor, workspaceId: string, id: string): Promise<boolean> {
  const [row] = await db
    .update(batches)
    .set({ deletedAt: null })
    .where(
      and(eq(batches.id, id), eq(batches.workspaceId, workspaceId), sql`${batches.deletedAt} is not null`),
    )
    .returning({ id: batches.id });
  if (!row) return false;
  const originals = await db
    .select({ sha256: photos.sha256 })
    .from(batchPhotos)
    .innerJoin(photos, eq(photos.id, batchPhotos.photoId))
    .where(eq(batchPhotos.batchId, id));
  await claimFiles(
    db,
    originals.map(({ sha256 }) => sha256),
  );
  await assignAll(db, id);
  return true;
}

export async function renameBatch(db: Executor, batch: BatchRow, name: string): Promise<void> {
  await db.update(batches).set({ name }).where(eq(batches.id, batch.id));
}

/**
 * Puts the demo's batches away. One that somebody brought photos of their own into stays, as a batch of
 * theirs.
 */
export async function putDemoAway(
  db: Executor,
  workspaceId: string,
  demoPhotos: readonly string[],
): Promise<void> {
  const demo = and(eq(batches.workspaceId, workspaceId), eq(batches.demo, true), isNull(batches.deletedAt));
  const own = await db
    .selectDistinct({ id: batches.id })
    .from(batches)
    .innerJoin(
      batchPhotos,
      and(
        eq(batchPhotos.batchId, batches.id),
        isNull(batchPhotos.deletedAt),
        notInArray(batchPhotos.name, [...demoPhotos]),
      ),
    )
    .where(demo);
  if (own.length)
    await db
      .update(batches)
      .set({ demo: false })
      .where(
        inArray(
          batches.id,
          own.map((row) => row.id),
        ),
      );
  await db.update(batches).set({ deletedAt: new Date() }).where(demo);
}
