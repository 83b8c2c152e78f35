/** Edits of a batch, with undo and redo. */
import { and, asc, desc, eq, inArray } from "drizzle-orm";
import type { EditChange } from "../rows";
import { batches, batchPhotos, edits } from "../schema";
import type { Executor } from "../store";
import { assignAll, setFrame, useRevision, useRowBriefs } from "./batch-briefs";
import type { BatchRow } from "./batch-rows";
import { touchShares } from "./shares";

type Side = "before" | "after";

/**
 * Carries an edit out and remembers it. What had been undone before it on the same photos can no longer be
 * redone.
 */
export async function makeEdit(
  db: Executor,
  batch: BatchRow,
  words: string,
  change: EditChange,
): Promise<void> {
  const undone = await db
    .select({ seq: edits.seq, change: edits.change })
    .from(edits)
    .where(and(eq(edits.batchId, batch.id), eq(edits.undone, true)));
  const lost = undone.filter((edit) => meet(edit.change, change)).map(({ seq }) => seq);
  if (lost.length) await db.delete(edits).where(inArray(edits.seq, lost));
  await db.insert(edits).values({ batchId: batch.id, words, change });
  await apply(db, batch, change, "after");
}

/** Photos that an edit is about; null: the whole batch. */
function photosOf(change: EditChange): readonly string[] | null {
  switch (change.kind) {
    case "brief":
    case "messages":
      return null;
    case "rows":
      return change.batch || change.slots ? null : Object.keys(change.rows);
    case "frame":
      return [change.batchPhotoId];
    case "choice":
      return change.rows.map(({ batchPhotoId }) => batchPhotoId);
    case "remove":
      return change.batchPhotoIds;
  }
}

/** Whether two edits are about the same photo. */
function meet(one: EditChange, other: EditChange): boolean {
  const [mine, theirs] = [photosOf(one), photosOf(other)];
  if (mine === null || theirs === null) return true;
  const known = new Set(mine);
  return theirs.some((id) => known.has(id));
}

async function apply(db: Executor, batch: BatchRow, change: EditChange, side: Side): Promise<void> {
  if (change.kind === "brief") {
    const revision = change[side];
    await useRevision(db, batch, revision);
  } else if (change.kind === "rows") {
    const { slots, came = [], went = [] } = change;
    if (slots) await db.update(batches).set({ slots: slots[side] }).where(eq(batches.id, batch.id));
    await setThere(db, batch.id, side === "after" ? came : went, side === "after" ? went : came);
    const rows = Object.fromEntries(Object.entries(change.rows).map(([id, values]) => [id, values[side]]));
    await useRowBriefs(db, batch, rows, change.batch ? change.batch[side] : undefined);
  } else if (change.kind === "frame") {
    await setFrame(db, change.batchPhotoId, change.revisionId, change[side]);
  } else if (change.kind === "choice") {
    for (const row of change.rows) await setFrame(db, row.batchPhotoId, row.revisionId, row[side]);
  } else if (change.kind === "messages") {
    await db.update(batches).set({ messages: change[side] }).where(eq(batches.id, batch.id));
  } else {
    const ids = change.batchPhotoIds;
    await setThere(db, batch.id, side === "after" ? [] : ids, side === "after" ? ids : []);
    if (side === "before") await assignAll(db, batch.id);
  }
  await touchShares(db, batch.id);
}

/** Puts rows into the batch again, or out of it. */
async function setThere(
  db: Executor,
  batchId: string,
  there: readonly string[],
  gone: readonly string[],
): Promise<void> {
  for (const [ids, deletedAt] of [[there, null] as const, [gone, new Date()] as const])
    if (ids.length)
      await db
        .update(batchPhotos)
        .set({ deletedAt })
        .where(and(eq(batchPhotos.batchId, batchId), inArray(batchPhotos.id, [...ids])));
}

/** One edit that can be undone or redone. */
export interface EditLabel {
  /** Its number, by which it is named. */
  edit: number;
  words: string;
}

export interface EditState {
  undo: EditLabel | null;
  redo: EditLabel | null;
}

/** What undo and redo would do; null where there is nothing. */
export async function editState(db: Executor, batchId: string): Promise<EditState> {
  const label = async (undone: boolean) => {
    const [row] = await db
      .select({ edit: edits.seq, words: edits.words })
      .from(edits)
      .where(and(eq(edits.batchId, batchId), eq(edits.undone, undone)))
      .orderBy(undone ? asc(edits.seq) : desc(edits.seq))
      .limit(1);
    return row ?? null;
  };
  return { undo: await label(false), redo: await label(true) };
}

/** Another edit stands between the one that is named and now. */
export class EditOrderError extends Error {
  override name = "EditOrderError";
}

/**
 * Takes the named edit back, or makes it again. False where that was done already. Throws an {@link EditOrderError}
 * where another edit of the same photo stands in between.
 */
export async function stepEdit(
  db: Executor,
  batch: BatchRow,
  direction: "undo" | "redo",
  seq: number,
): Promise<boolean> {
  const undoing = direction === "undo";
  const all = await db.select().from(edits).where(eq(edits.batchId, batch.id)).orderBy(asc(edits.seq));
  const edit = all.find((one) => one.seq === seq);
  if (!edit || edit.undone === undoing) return false;
  // Undone from the newest back, redone from the oldest on: what is in between on the same photos goes first.
  const between = all.find(
    (one) =>
      one.seq !== seq &&
      !one.undone === undoing &&
      one.seq > seq === undoing &&
      meet(one.change, edit.change),
  );
  if (between)
    throw new EditOrderError(
      undoing
        ? `Since then: ${between.words}. Undo that first; nothing was changed.`
        : `Before that came: ${between.words}. Redo that first; nothing was changed.`,
    );
  await db.update(edits).set({ undone: undoing }).where(eq(edits.seq, seq));
  await apply(db, batch, edit.change, undoing ? "before" : "after");
  return true;
}
