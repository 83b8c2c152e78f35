/** The documents of a batch, and the rows that are there for them. */
import { and, eq, sql } from "drizzle-orm";
import { addJobs, PRIORITY } from "../queue";
import type { EditChange, Slot } from "../rows";
import { batchPhotos } from "../schema";
import type { Executor } from "../store";
import { type BatchRow, listRows } from "./batch-rows";

type RowsChange = Extract<EditChange, { kind: "rows" }>;

/** Puts documents in place of those that the batch has; its photos follow none of them yet. */
export async function newSlots(db: Executor, batch: BatchRow, after: Slot[]): Promise<RowsChange> {
  const rows = await listRows(db, batch.id);
  await lookAtPhotos(db, rows);
  const held = new Set(batch.slots.map((slot) => slot.row));
  return {
    kind: "rows",
    batch: { before: batch.revisionId, after: null },
    slots: { before: batch.slots, after },
    rows: Object.fromEntries(
      rows
        .filter((row) => held.has(row.id) && row.copy === 0 && row.own)
        .map((row) => [row.id, { before: row.own, after: null }]),
    ),
    went: rows.filter((row) => row.copy > 0).map((row) => row.id),
  };
}

/** What each photo shows is looked at, so that it can be proposed. */
const lookAtPhotos = (db: Executor, rows: readonly { photoId: string; kind: string | null }[]) =>
  addJobs(
    db,
    "thumb",
    rows.filter((row) => row.kind === null).map((row) => row.photoId),
    PRIORITY.thumb,
  );

/**
 * Puts rows into documents (null: none). A photo that serves another document already comes into the batch once more.
 */
export async function filledSlots(
  db: Executor,
  batch: BatchRow,
  fill: Readonly<Record<string, string | null>>,
): Promise<RowsChange> {
  const rows = new Map((await listRows(db, batch.id)).map((row) => [row.id, row]));
  const keeps = (slot: Slot) => (slot.row && rows.has(slot.row) ? slot.row : null);
  const before = batch.slots.map((slot) => ({ ...slot, row: keeps(slot) }));
  const used = new Set(before.filter((slot) => !(slot.id in fill)).map((slot) => slot.row));
  const came: string[] = [];
  const after: Slot[] = [];
  for (const slot of before) {
    const wanted = slot.id in fill ? fill[slot.id] : slot.row;
    const again = wanted !== null && slot.id in fill && used.has(wanted);
    const row = again ? await copyOf(db, wanted) : wanted;
    if (again) came.push(row!);
    used.add(row);
    after.push({ ...slot, row });
  }
  const changes: RowsChange["rows"] = {};
  for (const { row, revisionId } of after) {
    const own = (row && rows.get(row)?.own) ?? null;
    if (row && own !== revisionId) changes[row] = { before: own, after: revisionId };
  }
  const left = before.flatMap(({ row }) => (row && !used.has(row) ? [rows.get(row)!] : []));
  for (const row of left) if (!row.copy) changes[row.id] = { before: row.own, after: null };
  return {
    kind: "rows",
    batch: null,
    slots: { before: batch.slots, after },
    rows: changes,
    came,
    went: left.filter((row) => row.copy > 0).map((row) => row.id),
  };
}

/** The same photo once more in its batch, right after itself. */
async function copyOf(db: Executor, id: string): Promise<string> {
  const [row] = await db.select().from(batchPhotos).where(eq(batchPhotos.id, id));
  const same = and(eq(batchPhotos.batchId, row.batchId), eq(batchPhotos.photoId, row.photoId));
  const [{ most }] = await db
    .select({ most: sql<number>`max(${batchPhotos.copy})::int` })
    .from(batchPhotos)
    .where(same);
  const { batchId, photoId, name, folder, position } = row;
  const [made] = await db
    .insert(batchPhotos)
    .values({ batchId, photoId, name, folder, position, copy: most + 1 })
    .returning({ id: batchPhotos.id });
  return made.id;
}
