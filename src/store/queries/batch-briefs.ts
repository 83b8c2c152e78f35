import { and, asc, eq, inArray, isNotNull, isNull, or, type SQL, sql } from "drizzle-orm";
import { type Brief, limitsWhole, PIXEL_CLAUSES } from "@/core/brief";
import type { Choice } from "@/core/coding";
import { AUTO, type Frame, tidyFrame } from "@/core/photo";
import { canonical } from "@/core/units";
import { addJobs, PRIORITY, removeJobs } from "../queue";
import type { FrameState } from "../rows";
import { assignments, batches, batchPhotos, briefRevisions } from "../schema";
import type { Executor } from "../store";
import { type BatchRow, briefOfRow, listRows } from "./batch-rows";
import { getRevision } from "./briefs";
import { limitsTheWhole, touchShares } from "./shares";

const pixelClauses = (brief: Brief) =>
  JSON.stringify([
    ...PIXEL_CLAUSES.map((key) => brief[key]),
    brief.sizes,
    brief.box,
    brief.shape,
    brief.scale,
    brief.paper,
    brief.frame,
    brief.enlarge,
    brief.head,
  ]);

/**
 * Makes the assignments of a batch (or of one of its photos) under a revision that are missing, and queues
 * their measuring.
 * Frames come along from the revision before; "looked at" only where the pixels asked are the same.
 */
export async function assign({
  db,
  batchId,
  revisionId,
  from = null,
  only = null,
}: {
  db: Executor;
  batchId: string;
  revisionId: string;
  from?: string | null;
  only?: string | null;
}): Promise<void> {
  const [now, before] = [await getRevision(db, revisionId), from ? await getRevision(db, from) : null];
  if (!now) return;
  const same = before !== null && pixelClauses(now.body) === pixelClauses(before.body);
  const keeps = before !== null && before.briefId === now.briefId;
  const present = await db
    .select({ id: batchPhotos.id })
    .from(batchPhotos)
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .leftJoin(
      assignments,
      and(
        eq(assignments.batchPhotoId, batchPhotos.id),
        eq(assignments.revisionId, revisionId),
        eq(assignments.current, true),
      ),
    )
    .where(
      and(
        eq(batchPhotos.batchId, batchId),
        sql`${briefOfRow} = ${revisionId}`,
        isNull(batchPhotos.deletedAt),
        isNull(assignments.id),
        only ? eq(batchPhotos.id, only) : undefined,
      ),
    )
    .orderBy(asc(batchPhotos.position), asc(batchPhotos.id));
  if (present.length) {
    const frames = new Map<string, FrameState>();
    if (keeps) {
      const rows = await db
        .select({
          id: assignments.batchPhotoId,
          frame: assignments.frame,
          choice: assignments.choice,
          accepted: assignments.accepted,
        })
        .from(assignments)
        .where(
          and(
            eq(assignments.revisionId, from!),
            eq(assignments.current, true),
            inArray(
              assignments.batchPhotoId,
              present.map((p) => p.id),
            ),
          ),
        );
      for (const row of rows)
        frames.set(row.id, {
          frame: row.frame,
          choice: row.choice ?? undefined,
          accepted: same && row.accepted,
        });
    }
    const values = present.map(({ id }) => {
      const { frame, choice, accepted } = frames.get(id) ?? { frame: AUTO, accepted: false };
      return { batchPhotoId: id, revisionId, frame, choice, frameKey: frameKey(frame, choice), accepted };
    });
    await db.insert(assignments).values(values).onConflictDoNothing();
  }
  await addJobs(
    db,
    "measure",
    await unmeasured(db, batchId, revisionId, only ? eq(batchPhotos.id, only) : undefined),
    PRIORITY.measure,
  );
  if (limitsWhole(now.body)) await touchShares(db, batchId);
}

/** The missing assignments of every brief that a batch uses. */
export async function assignAll(db: Executor, batchId: string): Promise<void> {
  const used = new Set((await listRows(db, batchId)).map((row) => row.revisionId));
  for (const revisionId of used) if (revisionId) await assign({ db, batchId, revisionId });
}

/** Equal for equal frame and choice; the database gives keys of objects back in an order of its own. */
export const frameKey = (frame: Frame, choice?: Choice | null): string =>
  canonical(choice ? [tidyFrame(frame), choice] : tidyFrame(frame));

/** Measures the rows in sight first. */
export async function measureFirst(db: Executor, batchId: string, rowIds: readonly string[]): Promise<void> {
  const ids = await unmeasured(db, batchId, briefOfRow, inArray(batchPhotos.id, [...rowIds]));
  await addJobs(db, "measure", ids, PRIORITY.inSight);
}

/** What waits to be measured; under a limit on the whole only what that has settled, or wants tried. */
async function unmeasured(
  db: Executor,
  batchId: string,
  revision: string | SQL,
  which?: SQL,
): Promise<string[]> {
  const rows = await db
    .select({ id: assignments.id })
    .from(assignments)
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .innerJoin(briefRevisions, eq(briefRevisions.id, assignments.revisionId))
    .where(
      and(
        eq(batchPhotos.batchId, batchId),
        sql`${briefOfRow} = ${revision}`,
        isNull(batchPhotos.deletedAt),
        sql`${assignments.revisionId} = ${revision}`,
        eq(assignments.current, true),
        isNull(assignments.measured),
        or(isNotNull(assignments.share), isNotNull(assignments.trialsAsked), sql`not (${limitsTheWhole})`),
        which,
      ),
    )
    .orderBy(asc(batchPhotos.position), asc(batchPhotos.id));
  return rows.map((row) => row.id);
}

/** Points a batch at another revision: stale work is taken back, what is missing is queued. */
export async function useRevision(db: Executor, batch: BatchRow, revisionId: string | null): Promise<void> {
  if (batch.revisionId === revisionId) return;
  if (batch.revisionId) await removeJobs(db, "measure", await unmeasured(db, batch.id, batch.revisionId));
  await db.update(batches).set({ revisionId }).where(eq(batches.id, batch.id));
  if (revisionId) await assign({ db, batchId: batch.id, revisionId, from: batch.revisionId });
}

/** Gives rows briefs of their own (null: that of the batch), and the batch another where that is asked. */
export async function useRowBriefs(
  db: Executor,
  batch: BatchRow,
  rows: Record<string, string | null>,
  batchRevision: string | null | undefined,
): Promise<void> {
  const before = await listRows(db, batch.id);
  await removeJobs(
    db,
    "measure",
    before
      .filter((row) => row.id in rows && row.assignmentId && !row.measured)
      .map((row) => row.assignmentId!),
  );
  for (const [id, revisionId] of Object.entries(rows)) {
    await db
      .update(batchPhotos)
      .set({ revisionId })
      .where(and(eq(batchPhotos.id, id), eq(batchPhotos.batchId, batch.id)));
  }
  if (batchRevision !== undefined && batchRevision !== batch.revisionId)
    await useRevision(db, batch, batchRevision);
  // Frames come along from the revision that most of these rows had.
  const after = await listRows(db, batch.id);
  const pairs = new Map<string, string | null>();
  for (const row of after)
    if (row.id in rows && row.revisionId)
      pairs.set(row.revisionId, before.find((b) => b.id === row.id)?.revisionId ?? null);
  for (const [revisionId, from] of pairs) await assign({ db, batchId: batch.id, revisionId, from });
}

/**
 * Puts another frame, or another choice of setting, in use; the assignments of earlier frames stay, so that
 * undo finds what was measured for them.
 */
export async function setFrame(
  db: Executor,
  batchPhotoId: string,
  revisionId: string,
  state: FrameState,
): Promise<void> {
  const mine = and(eq(assignments.batchPhotoId, batchPhotoId), eq(assignments.revisionId, revisionId));
  await db.update(assignments).set({ current: false }).where(mine);
  const [row] = await db
    .insert(assignments)
    .values({
      batchPhotoId,
      revisionId,
      frame: state.frame,
      choice: state.choice,
      frameKey: frameKey(state.frame, state.choice),
      accepted: state.accepted,
    })
    .onConflictDoUpdate({
      target: [assignments.batchPhotoId, assignments.revisionId, assignments.frameKey],
      set: { current: true, accepted: state.accepted },
    })
    .returning({ id: assignments.id, measured: assignments.measured });
  if (!row.measured) await addJobs(db, "measure", [row.id], PRIORITY.inSight);
}
