/**
 * Several settings for one batch, side by side: each photo under each setting is an assignment like any
 * other, only not the one in use.
 */
import { and, eq, inArray, isNull } from "drizzle-orm";
import { type Choice, choiceName, forAll } from "@/core/coding";
import { addJobs, PRIORITY } from "../queue";
import { assignments, comparisons } from "../schema";
import type { Executor } from "../store";
import { frameKey } from "./batch-briefs";
import { type BatchRow, listRows } from "./batch-rows";
import { startItems } from "./runs";

/** Settings that are compared at most. */
export const MOST_CHOICES = 5;

export async function choicesOf(db: Executor, batchId: string): Promise<Choice[]> {
  const [row] = await db
    .select({ choices: comparisons.choices })
    .from(comparisons)
    .where(and(eq(comparisons.batchId, batchId), isNull(comparisons.deletedAt)));
  return row?.choices ?? [];
}

/** Sets what is compared and queues what is not measured yet. Nothing to compare ends the comparison. */
export async function compare(db: Executor, batch: BatchRow, choices: readonly Choice[]): Promise<void> {
  const wanted = [
    ...new Map(choices.map((choice) => [JSON.stringify(forAll(choice)), forAll(choice)])).values(),
  ];
  await db
    .update(comparisons)
    .set({ deletedAt: new Date() })
    .where(and(eq(comparisons.batchId, batch.id), isNull(comparisons.deletedAt)));
  if (!wanted.length) return;
  await db.insert(comparisons).values({ batchId: batch.id, choices: wanted });
  await ensure(db, batch.id, wanted);
}

async function ensure(db: Executor, batchId: string, choices: readonly Choice[]): Promise<void> {
  const rows = (await listRows(db, batchId)).filter((row) => row.assignmentId);
  const values = rows.flatMap((row) =>
    choices.map((choice) => ({
      batchPhotoId: row.id,
      revisionId: row.revisionId!,
      frame: row.frame!,
      choice,
      frameKey: frameKey(row.frame!, choice),
      accepted: row.accepted === true,
      current: false,
    })),
  );
  if (values.length) await db.insert(assignments).values(values).onConflictDoNothing();
  const waiting = (await assignmentsOf(db, batchId, choices)).filter((one) => !one.measured);
  await addJobs(
    db,
    "measure",
    waiting.map((one) => one.id),
    PRIORITY.measure,
  );
}

type Row = Awaited<ReturnType<typeof listRows>>[number];

/** The assignments of what is compared, with the row and the choice that they stand for. */
async function assignmentsOf(db: Executor, batchId: string, choices: readonly Choice[]) {
  const rows = (await listRows(db, batchId)).filter((row) => row.assignmentId);
  const wanted = new Map<string, { row: Row; choice: Choice }>();
  for (const row of rows)
    for (const choice of choices)
      wanted.set(`${row.id} ${row.revisionId} ${frameKey(row.frame!, choice)}`, { row, choice });
  if (!wanted.size) return [];
  const found = await db
    .select({
      id: assignments.id,
      batchPhotoId: assignments.batchPhotoId,
      revisionId: assignments.revisionId,
      frameKey: assignments.frameKey,
      measured: assignments.measured,
    })
    .from(assignments)
    .where(
      inArray(
        assignments.batchPhotoId,
        rows.map((row) => row.id),
      ),
    );
  return found.flatMap((one) => {
    const of = wanted.get(`${one.batchPhotoId} ${one.revisionId} ${one.frameKey}`);
    return of ? [{ ...one, ...of }] : [];
  });
}

export interface ComparedTotal {
  choice: Choice;
  photos: number;
  done: number;
  failed: number;
  /** Sum of what is measured. */
  bytes: number;
  /** Photos whose brief did not allow the setting, so that one was looked for. */
  elsewise: number;
  /** The largest difference of any photo; null until one is known. */
  worst: number | null;
}

/** What is compared follows a change of the batch: other frames, other briefs, photos that came. */
export async function followComparison(db: Executor, batchId: string): Promise<void> {
  const choices = await choicesOf(db, batchId);
  if (choices.length) await ensure(db, batchId, choices);
}

/** Totals of each setting. */
export async function totals(db: Executor, batchId: string): Promise<ComparedTotal[]> {
  const choices = await choicesOf(db, batchId);
  if (!choices.length) return [];
  const all = await assignmentsOf(db, batchId, choices);
  return choices.map((choice) => {
    const mine = all.filter((one) => one.choice === choice);
    const measured = mine.flatMap((one) => (one.measured ? [one.measured] : []));
    const differences = measured.flatMap((one) =>
      typeof one.difference === "number" ? [one.difference] : [],
    );
    return {
      choice,
      photos: mine.length,
      done: measured.length,
      failed: measured.filter((one) => one.error).length,
      bytes: measured.reduce((sum, one) => sum + (one.bytes ?? 0), 0),
      elsewise: measured.filter((one) => one.elsewise).length,
      worst: differences.length ? Math.max(...differences) : null,
    };
  });
}

/** A run of every photo under every setting, each setting into a folder of its own name. */
export async function runAll(db: Executor, batch: BatchRow): Promise<string | null> {
  const choices = await choicesOf(db, batch.id);
  await ensure(db, batch.id, choices);
  const all = (await assignmentsOf(db, batch.id, choices)).filter((one) => !one.measured?.error);
  const order = new Map(choices.map((choice, i) => [choice, i]));
  all.sort((a, b) => order.get(a.choice)! - order.get(b.choice)! || a.row.position - b.row.position);
  return startItems(
    db,
    batch,
    all.map(({ id, row, choice }) => ({ row, assignmentId: id, choice, folder: folderName(choice) })),
  );
}

/** A name that every file system takes. */
export const folderName = (choice: Choice): string =>
  choiceName(choice).replace(/[:,]/g, "").replace(/\s+/g, "-").toLowerCase();
