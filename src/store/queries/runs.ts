/** Runs, their items and proofs. */
import { and, asc, desc, eq, isNull, sql } from "drizzle-orm";
import type { Brief } from "@/core/brief";
import { freeName } from "@/core/names";
import type { Choice } from "@/core/search";
import { addJobs, PRIORITY } from "../queue";
import { files, proofs, runItems, runs, type ItemSnapshot, type ItemState } from "../schema";
import type { Database, Executor } from "../store";
import { getRevision } from "./briefs";
import { listRows, type BatchRow } from "./batches";

/** What a run is made of: an assignment, and the folder that its file goes into. */
interface Wanted {
  row: Awaited<ReturnType<typeof listRows>>[number];
  assignmentId: string;
  choice?: Choice;
  folder?: string;
}

/** Starts a run over every photo of the batch that can meet the brief. Null where there is none. */
export async function startRun(db: Executor, batch: BatchRow): Promise<string | null> {
  const rows = (await listRows(db, batch.id)).filter((row) => row.assignmentId && !row.measured?.error);
  return startItems(db, batch, rows.map((row) => ({ row, assignmentId: row.assignmentId!, choice: row.choice ?? undefined })));
}

/** Starts a run over assignments; a photo may come several times, under several settings. */
export async function startItems(db: Executor, batch: BatchRow, wanted: readonly Wanted[]): Promise<string | null> {
  if (!wanted.length) return null;
  const bodies = new Map<string, Brief>();
  for (const id of new Set(wanted.map(({ row }) => row.revisionId!))) bodies.set(id, (await getRevision(db, id))!.body);
  const numbers = new Map([...new Set(wanted.map(({ row }) => row.id))].map((id, i) => [id, i + 1]));
  const [run] = await db.insert(runs).values({ workspaceId: batch.workspaceId, batchId: batch.id, revisionId: batch.revisionId }).returning({ id: runs.id });
  const items = await db
    .insert(runItems)
    .values(
      wanted.map(({ row, assignmentId, choice, folder }, i) => {
        const snapshot: ItemSnapshot = { brief: bodies.get(row.revisionId!)!, frame: row.frame!, sourceSha256: row.sha256, sourceName: row.name, before: row.facts, n: numbers.get(row.id)!, choice, folder };
        return { runId: run.id, assignmentId, position: i, snapshot };
      }),
    )
    .returning({ id: runItems.id });
  await addJobs(db, "make", items.map((item) => item.id), PRIORITY.make);
  return run.id;
}

export interface Finished {
  sha256: string;
  bytes: number;
  name: string;
  proof: Omit<typeof proofs.$inferInsert, "runItemId" | "createdAt">;
}

/** Marks an item done under a name that no other item of the run has. Doing it twice changes nothing. */
export async function finishItem(db: Database, itemId: string, done: Finished | { error: string }): Promise<void> {
  await db.transaction(async (tx) => {
    const [item] = await tx.select({ runId: runItems.runId, state: runItems.state }).from(runItems).where(eq(runItems.id, itemId));
    if (!item || item.state !== "waiting") return;
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${item.runId}))`);
    if ("error" in done) {
      await tx.update(runItems).set({ state: "failed", error: done.error, finishedAt: new Date() }).where(eq(runItems.id, itemId));
    } else {
      const names = await tx.select({ name: runItems.outputName }).from(runItems).where(eq(runItems.runId, item.runId));
      const taken = new Set(names.map((row) => row.name?.toLowerCase()));
      await tx.insert(files).values({ sha256: done.sha256, bytes: done.bytes }).onConflictDoNothing();
      await tx.insert(proofs).values({ runItemId: itemId, ...done.proof }).onConflictDoNothing();
      await tx
        .update(runItems)
        .set({ state: "done", outputSha256: done.sha256, outputName: freeName(done.name, (name) => taken.has(name.toLowerCase())), finishedAt: new Date() })
        .where(eq(runItems.id, itemId));
    }
    const [left] = await tx.select({ n: sql<number>`count(*)::int` }).from(runItems).where(and(eq(runItems.runId, item.runId), eq(runItems.state, "waiting")));
    if (left.n === 0) await tx.update(runs).set({ finishedAt: new Date() }).where(eq(runs.id, item.runId));
  });
}

export interface ItemRow {
  id: string;
  runId: string;
  assignmentId: string;
  state: ItemState;
  error: string | null;
  outputSha256: string | null;
  outputName: string | null;
  bytes: number | null;
  checks: (typeof proofs.$inferSelect)["checks"] | null;
  ok: boolean | null;
  facts: (typeof proofs.$inferSelect)["facts"] | null;
  unchanged: string[] | null;
  dropped: string[] | null;
}

const itemColumns = {
  id: runItems.id, runId: runItems.runId, assignmentId: runItems.assignmentId, state: runItems.state, error: runItems.error,
  outputSha256: runItems.outputSha256, outputName: runItems.outputName, bytes: files.bytes, checks: proofs.checks, ok: proofs.ok, facts: proofs.facts, unchanged: proofs.unchanged, dropped: proofs.dropped,
};

/** The newest run of a batch, with its items in order; null before the first. */
export async function latestRun(db: Executor, batchId: string): Promise<{ id: string; revisionId: string | null; finished: boolean; folders: boolean; items: ItemRow[] } | null> {
  const [run] = await db.select().from(runs).where(and(eq(runs.batchId, batchId), isNull(runs.deletedAt))).orderBy(desc(runs.createdAt)).limit(1);
  if (!run) return null;
  const items = await db
    .select({ ...itemColumns, folder: sql<string | null>`${runItems.snapshot}->>'folder'` })
    .from(runItems)
    .leftJoin(proofs, eq(proofs.runItemId, runItems.id))
    .leftJoin(files, eq(files.sha256, runItems.outputSha256))
    .where(eq(runItems.runId, run.id))
    .orderBy(asc(runItems.position));
  return { id: run.id, revisionId: run.revisionId, finished: run.finishedAt !== null, folders: items.some((item) => item.folder !== null), items: items.map(({ folder: _, ...item }) => item) };
}

/** Finished files of a run, or of one item, that belong to the workspace. */
export async function outputsOf(db: Executor, workspaceId: string, by: { runId: string } | { itemId: string }) {
  const where = "runId" in by ? eq(runItems.runId, by.runId) : eq(runItems.id, by.itemId);
  return db
    .select({ name: runItems.outputName, sha256: runItems.outputSha256, bytes: files.bytes, format: sql<string>`${proofs.facts}->>'format'` })
    .from(runItems)
    .innerJoin(runs, eq(runs.id, runItems.runId))
    .innerJoin(files, eq(files.sha256, runItems.outputSha256))
    .innerJoin(proofs, eq(proofs.runItemId, runItems.id))
    .where(and(where, eq(runs.workspaceId, workspaceId), eq(runItems.state, "done")))
    .orderBy(asc(runItems.position));
}
