/** Runs that are paused, taken up again, given up, or tried again. */
import { and, eq, isNotNull, isNull, sql } from "drizzle-orm";
import { addJobs, PRIORITY, removeJobs } from "../queue";
import { runItems, runs } from "../schema";
import type { Database, Executor } from "../store";
import { claimFiles } from "./files";
import { forgetDeaths } from "./workers";

export async function getRun(db: Executor, workspaceId: string, id: string) {
  const [row] = await db
    .select()
    .from(runs)
    .where(and(eq(runs.id, id), eq(runs.workspaceId, workspaceId), isNull(runs.deletedAt)));
  return row ?? null;
}

interface WaitingItem {
  id: string;
  assignmentId: string;
}

/** In their order. */
const waitingItems = (db: Executor, runId: string): Promise<WaitingItem[]> =>
  db
    .select({ id: runItems.id, assignmentId: runItems.assignmentId })
    .from(runItems)
    .where(and(eq(runItems.runId, runId), eq(runItems.state, "waiting")))
    .orderBy(runItems.position);

const idsOf = (items: readonly WaitingItem[]): string[] => items.map(({ id }) => id);

/** Those whose jobs make them all: one a photo, which makes its whole set. */
const firstOfEach = (items: readonly WaitingItem[]): WaitingItem[] =>
  items.filter((item, i) => item.assignmentId !== items[i - 1]?.assignmentId);

/** Nothing more is begun; what is under way is finished. `reason` where nobody asked for it. */
export async function pauseRun(db: Database, runId: string, reason: string | null): Promise<void> {
  await db.transaction(async (tx) => {
    await lockRun(tx, runId);
    const [paused] = await tx
      .update(runs)
      .set({ pausedAt: sql`now()`, pauseReason: reason })
      .where(and(eq(runs.id, runId), isNull(runs.finishedAt), isNull(runs.pausedAt)))
      .returning({ id: runs.id });
    if (paused) await removeJobs(tx, "make", idsOf(await waitingItems(tx, runId)));
  });
}

export async function resumeRun(db: Database, runId: string): Promise<void> {
  await db.transaction(async (tx) => {
    await lockRun(tx, runId);
    const [row] = await tx
      .update(runs)
      .set({ pausedAt: null, pauseReason: null })
      .where(and(eq(runs.id, runId), isNull(runs.finishedAt), isNotNull(runs.pausedAt)))
      .returning({ id: runs.id });
    if (row) await takeUp(tx, runId);
  });
}

/** What waits becomes cancelled; what is done stays. */
export async function cancelRun(db: Executor, runId: string): Promise<void> {
  await lockRun(db, runId);
  await removeJobs(db, "make", idsOf(await waitingItems(db, runId)));
  const [row] = await db
    .update(runs)
    .set({ cancelledAt: sql`now()` })
    .where(and(eq(runs.id, runId), isNull(runs.finishedAt)))
    .returning({ id: runs.id });
  if (!row) return;
  await db
    .update(runItems)
    .set({ state: "cancelled" })
    .where(and(eq(runItems.runId, runId), eq(runItems.state, "waiting")));
  await closeRun(db, runId);
}

/** Makes again what failed or was cancelled. False where there is nothing. */
export async function retryRun(db: Database, runId: string): Promise<boolean> {
  return db.transaction(async (tx) => {
    await lockRun(tx, runId);
    const again = await tx
      .update(runItems)
      .set({ state: "waiting", error: null, finishedAt: null })
      .where(and(eq(runItems.runId, runId), sql`${runItems.state} in ('failed', 'cancelled')`))
      .returning({ id: runItems.id });
    if (!again.length) return false;
    await forgetDeaths(
      tx,
      "make",
      again.map(({ id }) => id),
    );
    await tx
      .update(runs)
      .set({ finishedAt: null, cancelledAt: null, pausedAt: null, pauseReason: null })
      .where(eq(runs.id, runId));
    await takeUp(tx, runId);
    return true;
  });
}

async function takeUp(db: Executor, runId: string): Promise<void> {
  await db
    .update(runs)
    .set({
      resumedAt: sql`clock_timestamp()`,
      finishedThen: sql`(select count(*)::int from run_items i where i.run_id = ${runId} and i.state in ('done', 'failed'))`,
    })
    .where(eq(runs.id, runId));
  await addJobs(db, "make", idsOf(firstOfEach(await waitingItems(db, runId))), PRIORITY.make);
}

/** Runs of a batch that are still going: they end with it. */
export async function cancelRunsOf(db: Executor, batchId: string): Promise<void> {
  const going = await db
    .select({ id: runs.id })
    .from(runs)
    .where(and(eq(runs.batchId, batchId), isNull(runs.finishedAt)));
  for (const { id } of going) await cancelRun(db, id);
}

/** Runs that pause for a reason that may pass. */
export async function pausedFor(db: Executor, reason: string): Promise<string[]> {
  const rows = await db
    .select({ id: runs.id })
    .from(runs)
    .where(and(isNotNull(runs.pausedAt), eq(runs.pauseReason, reason), isNull(runs.finishedAt)));
  return rows.map((row) => row.id);
}

/** The files may be collected; the record stays. */
export async function giveUpFiles(db: Executor, runId: string): Promise<void> {
  await db
    .update(runs)
    .set({ filesDeletedAt: sql`now()` })
    .where(and(eq(runs.id, runId), isNotNull(runs.finishedAt)));
}

export async function keepFiles(db: Executor, runId: string): Promise<void> {
  const outputs = await db
    .select({ sha256: runItems.outputSha256 })
    .from(runItems)
    .where(and(eq(runItems.runId, runId), isNotNull(runItems.outputSha256)));
  await claimFiles(
    db,
    outputs.map(({ sha256 }) => sha256!),
  );
  await db.update(runs).set({ filesDeletedAt: null }).where(eq(runs.id, runId));
}

export const lockRun = (db: Executor, runId: string) =>
  db.execute(sql`select pg_advisory_xact_lock(hashtext(${runId}))`);

/** A run in which nothing waits any more is finished. */
export async function closeRun(db: Executor, runId: string): Promise<void> {
  const [left] = await db
    .select({ n: sql<number>`count(*)::int` })
    .from(runItems)
    .where(and(eq(runItems.runId, runId), eq(runItems.state, "waiting")));
  if (left.n === 0)
    await db
      .update(runs)
      .set({ finishedAt: sql`clock_timestamp()`, pausedAt: null, pauseReason: null })
      .where(eq(runs.id, runId));
}
