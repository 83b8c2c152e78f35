/** Limits on the whole: which photos take part, what is known of them, and what was settled. */
import { and, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import type { TraceAsked, Traced } from "@/core/budget";
import { addJob, addJobs, PRIORITY } from "../queue";
import type { Measured, ShareState, ShareTarget } from "../rows";
import { assignments, batches, batchPhotos, briefRevisions, shares } from "../schema";
import type { Executor } from "../store";

const revisionOfRow = sql`coalesce(${batchPhotos.revisionId}, ${batches.revisionId})`;
/** The same as `limitsWhole` of the core. */
export const limitsTheWhole = sql`${briefRevisions.body} ? 'total' and not ${briefRevisions.body} ? 'set'`;
const present = and(
  eq(assignments.current, true),
  isNull(batchPhotos.deletedAt),
  isNull(batches.deletedAt),
  sql`${assignments.revisionId} = ${revisionOfRow}`,
);

/**
 * Queues the sharing of a batch where one of its briefs limits the whole. It only looks and settles; trials
 * are jobs of their own.
 */
export async function touchShares(db: Executor, batchId: string): Promise<void> {
  const [limited] = await db
    .select({ id: batches.id })
    .from(batches)
    .leftJoin(batchPhotos, and(eq(batchPhotos.batchId, batches.id), isNull(batchPhotos.deletedAt)))
    .innerJoin(briefRevisions, and(sql`${briefRevisions.id} = ${revisionOfRow}`, limitsTheWhole))
    .where(eq(batches.id, batchId))
    .limit(1);
  if (limited) await addJob(db, "share", batchId, PRIORITY.share);
}

export interface Member {
  id: string;
  batchPhotoId: string;
  revisionId: string;
  name: string;
  folder: string;
  traced: Record<string, Traced> | null;
  /** Trials that the sharing waits for. */
  trialsAsked: Omit<TraceAsked, "id"> | null;
  share: ShareTarget | null;
  measured: Measured | null;
  frameKey: string;
}

/** The photos of a batch under briefs that limit the whole, in order. */
export async function membersOf(db: Executor, batchId: string): Promise<Member[]> {
  return db
    .select({
      id: assignments.id,
      batchPhotoId: batchPhotos.id,
      revisionId: assignments.revisionId,
      name: batchPhotos.name,
      folder: batchPhotos.folder,
      traced: assignments.traced,
      trialsAsked: assignments.trialsAsked,
      share: assignments.share,
      measured: assignments.measured,
      frameKey: assignments.frameKey,
    })
    .from(assignments)
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .innerJoin(briefRevisions, eq(briefRevisions.id, assignments.revisionId))
    .where(and(eq(batchPhotos.batchId, batchId), present, limitsTheWhole))
    .orderBy(batchPhotos.position, batchPhotos.id);
}

/** Whether some photo of the batch still waits for a trial, or for its file under a limit on the whole. */
export async function stillSharing(
  db: Executor,
  batchId: string,
  what: "trials" | "files",
): Promise<boolean> {
  const waits =
    what === "trials"
      ? isNotNull(assignments.trialsAsked)
      : and(isNotNull(assignments.share), isNull(assignments.measured));
  const [row] = await db
    .select({ id: assignments.id })
    .from(assignments)
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .where(and(eq(batchPhotos.batchId, batchId), present, waits))
    .limit(1);
  return row !== undefined;
}

export async function sharesOf(db: Executor, batchId: string): Promise<Map<string, ShareState>> {
  const rows = await db.select().from(shares).where(eq(shares.batchId, batchId));
  return new Map(rows.map((row) => [row.revisionId, row.state]));
}

export async function keepShare(
  db: Executor,
  batchId: string,
  revisionId: string,
  state: ShareState,
): Promise<void> {
  await db
    .insert(shares)
    .values({ batchId, revisionId, state })
    .onConflictDoUpdate({ target: [shares.batchId, shares.revisionId], set: { state } });
}

/** Asks for trials; they are made like measurements, rows in sight first. */
export async function askTrials(db: Executor, trials: readonly TraceAsked[]): Promise<void> {
  for (const { id, ...asked } of trials)
    await db.update(assignments).set({ trialsAsked: asked }).where(eq(assignments.id, id));
  const ids = trials.map(({ id }) => id);
  await addJobs(db, "measure", ids, PRIORITY.measure);
}

/** Hands out what was settled; files that were made for something else are made anew. */
export async function settleShares(db: Executor, settled: ReadonlyMap<string, ShareTarget>): Promise<void> {
  for (const [id, share] of settled)
    await db
      .update(assignments)
      .set({ share, trialsAsked: null, measured: null, verdict: null })
      .where(eq(assignments.id, id));
  await addJobs(db, "measure", [...settled.keys()], PRIORITY.measure);
}

/** Keeps what a trial has shown, and is done with what was asked. */
export async function keepTraced(db: Executor, id: string, key: string, traced: Traced): Promise<void> {
  await db
    .update(assignments)
    .set({
      traced: sql`coalesce(${assignments.traced}, '{}'::jsonb) || ${JSON.stringify({ [key]: traced })}::jsonb`,
      trialsAsked: null,
    })
    .where(eq(assignments.id, id));
}

export async function bodiesOf(db: Executor, revisionIds: readonly string[]) {
  if (!revisionIds.length) return new Map<string, (typeof briefRevisions.$inferSelect)["body"]>();
  const rows = await db
    .select({ id: briefRevisions.id, body: briefRevisions.body })
    .from(briefRevisions)
    .where(inArray(briefRevisions.id, [...revisionIds]));
  return new Map(rows.map((row) => [row.id, row.body]));
}
