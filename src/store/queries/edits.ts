/** Edits of a batch, with undo and redo. */
import { and, asc, desc, eq, inArray } from "drizzle-orm";
import type { EditChange } from "../rows";
import { batches, batchPhotos, edits } from "../schema";
import type { Executor } from "../store";
import { assignAll, setFrame, useRevision, useRowBriefs } from "./batch-briefs";
import { type BatchRow, getBatch } from "./batch-rows";
import { touchShares } from "./shares";

type Side = "before" | "after";

/** Carries an edit out and remembers it; what had been undone before it can no longer be redone. */
export async function makeEdit(
  db: Executor,
  batch: BatchRow,
  words: string,
  change: EditChange,
): Promise<void> {
  await db.delete(edits).where(and(eq(edits.batchId, batch.id), eq(edits.undone, true)));
  await db.insert(edits).values({ batchId: batch.id, words, change });
  await apply(db, batch, change, "after");
}

async function apply(db: Executor, batch: BatchRow, change: EditChange, side: Side): Promise<void> {
  if (change.kind === "brief") {
    const revision = change[side];
    await useRevision(db, batch, revision);
  } else if (change.kind === "rows") {
    const rows = Object.fromEntries(Object.entries(change.rows).map(([id, values]) => [id, values[side]]));
    await useRowBriefs(db, batch, rows, change.batch ? change.batch[side] : undefined);
  } else if (change.kind === "frame") {
    await setFrame(db, change.batchPhotoId, change.revisionId, change[side]);
  } else if (change.kind === "choice") {
    for (const row of change.rows) await setFrame(db, row.batchPhotoId, row.revisionId, row[side]);
  } else if (change.kind === "messages") {
    await db.update(batches).set({ messages: change[side] }).where(eq(batches.id, batch.id));
  } else {
    const deletedAt = side === "after" ? new Date() : null;
    await db
      .update(batchPhotos)
      .set({ deletedAt })
      .where(and(eq(batchPhotos.batchId, batch.id), inArray(batchPhotos.id, change.batchPhotoIds)));
    if (side === "before") await assignAll(db, batch.id);
  }
  await touchShares(db, batch.id);
}

/** What undo and redo would do, in words; null where there is nothing. */
export async function editState(
  db: Executor,
  batchId: string,
): Promise<{ undo: string | null; redo: string | null }> {
  const [undo] = await db
    .select()
    .from(edits)
    .where(and(eq(edits.batchId, batchId), eq(edits.undone, false)))
    .orderBy(desc(edits.seq))
    .limit(1);
  const [redo] = await db
    .select()
    .from(edits)
    .where(and(eq(edits.batchId, batchId), eq(edits.undone, true)))
    .orderBy(asc(edits.seq))
    .limit(1);
  return { undo: undo?.words ?? null, redo: redo?.words ?? null };
}

/** Takes the newest edit back, or makes the oldest undone one again. False where there is none. */
export async function stepEdit(
  db: Executor,
  workspaceId: string,
  batchId: string,
  direction: "undo" | "redo",
): Promise<boolean> {
  const undoing = direction === "undo";
  const [edit] = await db
    .select()
    .from(edits)
    .where(and(eq(edits.batchId, batchId), eq(edits.undone, !undoing)))
    .orderBy(undoing ? desc(edits.seq) : asc(edits.seq))
    .limit(1);
  const batch = await getBatch(db, workspaceId, batchId);
  if (!edit || !batch) return false;
  await db.update(edits).set({ undone: undoing }).where(eq(edits.seq, edit.seq));
  await apply(db, batch, edit.change, undoing ? "before" : "after");
  return true;
}
