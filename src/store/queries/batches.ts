/** Batches, the photos in them and the assignments that follow from brief and frame. */
import { and, asc, eq, inArray, isNull, notInArray, sql } from "drizzle-orm";
import { type Brief, PIXEL_CLAUSES } from "@/core/brief";
import type { Choice } from "@/core/coding";
import { AUTO, type Frame, tidyFrame } from "@/core/photo";
import type { Facts } from "@/core/proof";
import { canonical } from "@/core/units";
import { addJobs, PRIORITY, removeJobs } from "../queue";
import { assignments, batches, batchPhotos, type FrameState, files, photos } from "../schema";
import type { Executor } from "../store";
import { getRevision } from "./briefs";
import { rememberFile } from "./files";
import { cancelRunsOf } from "./run-control";
import { touchShares } from "./shares";

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
}

export async function createBatch(
  db: Executor,
  { workspaceId, name, revisionId, demo = false }: NewBatch,
): Promise<string> {
  const [row] = await db
    .insert(batches)
    .values({ workspaceId, name, revisionId, demo })
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

/** Brings a removed batch back. False where it is not there any more. */
export async function restoreBatch(db: Executor, workspaceId: string, id: string): Promise<boolean> {
  const [row] = await db
    .update(batches)
    .set({ deletedAt: null })
    .where(
      and(eq(batches.id, id), eq(batches.workspaceId, workspaceId), sql`${batches.deletedAt} is not null`),
    )
    .returning({ id: batches.id });
  if (row) await assignAll(db, id);
  return row !== undefined;
}

export async function renameBatch(db: Executor, batch: BatchRow, name: string): Promise<void> {
  await db.update(batches).set({ name }).where(eq(batches.id, batch.id));
}

export interface BatchRow {
  id: string;
  workspaceId: string;
  name: string;
  revisionId: string | null;
  /** Messages that a limit on one message is shared out over. */
  messages: number;
}

/** Null where there is no such batch in the workspace. */
export async function getBatch(db: Executor, workspaceId: string, id: string): Promise<BatchRow | null> {
  const [row] = await db
    .select({
      id: batches.id,
      workspaceId: batches.workspaceId,
      name: batches.name,
      revisionId: batches.revisionId,
      messages: batches.messages,
    })
    .from(batches)
    .where(and(eq(batches.id, id), eq(batches.workspaceId, workspaceId), isNull(batches.deletedAt)));
  return row ?? null;
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

export interface NewPhoto {
  name: string;
  /** Below the folder that was brought in, parted by "/". */
  folder?: string;
  /** Photos of a batch are shown in this order; milliseconds since 1970 where nobody says. */
  position?: number;
  sha256: string;
  bytes: number;
  facts: Facts;
}

/**
 * Brings a stored file into a batch. The same bytes twice are one photo, under the name that came first; a
 * removed one comes back. `here`: the batch had it.
 */
export async function addPhoto(
  db: Executor,
  batch: BatchRow,
  photo: NewPhoto,
): Promise<{ batchPhotoId: string; photoId: string; here: boolean }> {
  await rememberFile(db, photo);
  const [fresh] = await db
    .insert(photos)
    .values({ workspaceId: batch.workspaceId, sha256: photo.sha256, facts: photo.facts })
    .onConflictDoNothing()
    .returning({ id: photos.id });
  const [same] = await db
    .select({ id: photos.id })
    .from(photos)
    .where(and(eq(photos.workspaceId, batch.workspaceId), eq(photos.sha256, photo.sha256)));
  const [before] = await db
    .select({ id: batchPhotos.id })
    .from(batchPhotos)
    .where(
      and(eq(batchPhotos.batchId, batch.id), eq(batchPhotos.photoId, same.id), isNull(batchPhotos.deletedAt)),
    );
  const [placed] = await db
    .insert(batchPhotos)
    .values({
      batchId: batch.id,
      photoId: same.id,
      name: photo.name,
      folder: photo.folder ?? "",
      position: photo.position ?? Date.now(),
    })
    .onConflictDoUpdate({ target: [batchPhotos.batchId, batchPhotos.photoId], set: { deletedAt: null } })
    .returning({ id: batchPhotos.id });
  // One that comes back after its bytes were given up has lost its small picture too.
  const [lost] = fresh
    ? [fresh]
    : await db
        .update(photos)
        .set({ thumbSha256: null })
        .where(
          and(
            eq(photos.id, same.id),
            sql`exists (select 1 from files f where f.sha256 = ${photos.thumbSha256} and f.gone)`,
          ),
        )
        .returning({ id: photos.id });
  if (lost) await addJobs(db, "thumb", [same.id], PRIORITY.thumb);
  const [row] = await db
    .select({ own: batchPhotos.revisionId })
    .from(batchPhotos)
    .where(eq(batchPhotos.id, placed.id));
  const revisionId = row.own ?? batch.revisionId;
  if (revisionId) await assign({ db, batchId: batch.id, revisionId, from: null, only: placed.id });
  return { batchPhotoId: placed.id, photoId: same.id, here: before !== undefined };
}

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
  ]);

/** The brief of a row: its own, else that of its batch. */
const briefOfRow = sql`coalesce(${batchPhotos.revisionId}, ${batches.revisionId})`;

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
  await addJobs(db, "measure", await unmeasured(db, batchId, revisionId, only), PRIORITY.measure);
  if (now.body.total) await touchShares(db, batchId);
}

/** The missing assignments of every brief that a batch uses. */
export async function assignAll(db: Executor, batchId: string): Promise<void> {
  const used = new Set((await listRows(db, batchId)).map((row) => row.revisionId));
  for (const revisionId of used) if (revisionId) await assign({ db, batchId, revisionId });
}

/** Equal for equal frame and choice; the database gives keys of objects back in an order of its own. */
export const frameKey = (frame: Frame, choice?: Choice | null): string =>
  canonical(choice ? [tidyFrame(frame), choice] : tidyFrame(frame));

async function unmeasured(
  db: Executor,
  batchId: string,
  revisionId: string,
  only: string | null = null,
): Promise<string[]> {
  const rows = await db
    .select({ id: assignments.id })
    .from(assignments)
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .where(
      and(
        eq(batchPhotos.batchId, batchId),
        sql`${briefOfRow} = ${revisionId}`,
        isNull(batchPhotos.deletedAt),
        eq(assignments.revisionId, revisionId),
        eq(assignments.current, true),
        isNull(assignments.measured),
        only ? eq(batchPhotos.id, only) : undefined,
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

/** The rows of the grid, each under its own brief or that of the batch. */
export async function listRows(db: Executor, batchId: string) {
  return db
    .select({
      id: batchPhotos.id,
      position: batchPhotos.position,
      name: batchPhotos.name,
      folder: batchPhotos.folder,
      photoId: photos.id,
      sha256: photos.sha256,
      facts: photos.facts,
      thumb: sql<boolean>`${photos.thumbSha256} is not null`,
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
    .leftJoin(
      assignments,
      and(
        eq(assignments.batchPhotoId, batchPhotos.id),
        sql`${assignments.revisionId} = ${briefOfRow}`,
        eq(assignments.current, true),
        isNull(assignments.deletedAt),
      ),
    )
    .where(and(eq(batchPhotos.batchId, batchId), isNull(batchPhotos.deletedAt)))
    .orderBy(asc(batchPhotos.position), asc(batchPhotos.id));
}
