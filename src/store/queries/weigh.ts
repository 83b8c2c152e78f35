/** What is weighed at this moment, and the trials that are known for it. */
import { and, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { addJob, PRIORITY } from "../queue";
import type { WeighedSize, WeighPlan } from "../rows";
import { assignments, batches, batchPhotos, briefRevisions, photos, trials, weighings } from "../schema";
import type { Database, Executor } from "../store";

/** A page asks at least every few seconds; after this long without, nobody is there any more. */
const PATIENCE = "40 seconds";

/** The assignment with all that planning its picture needs. */
export async function loadWeighed(db: Executor, id: string) {
  const [row] = await db
    .select({
      id: assignments.id,
      rowId: batchPhotos.id,
      frame: assignments.frame,
      choice: assignments.choice,
      measured: assignments.measured,
      accepted: assignments.accepted,
      revisionId: assignments.revisionId,
      brief: briefRevisions.body,
      name: batchPhotos.name,
      sha256: photos.sha256,
      facts: photos.facts,
      batchId: batches.id,
      workspaceId: batches.workspaceId,
    })
    .from(assignments)
    .innerJoin(briefRevisions, eq(briefRevisions.id, assignments.revisionId))
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .innerJoin(photos, eq(photos.id, batchPhotos.photoId))
    .where(and(eq(assignments.id, id), isNull(batchPhotos.deletedAt), isNull(batches.deletedAt)));
  return row ?? null;
}

/** Says that somebody looks; the first look, and the first after a pause, sets the ladder going. */
export async function seeWeighing(db: Database, id: string): Promise<typeof weighings.$inferSelect> {
  return db.transaction(async (tx) => {
    const [before] = await tx
      .select({ stale: sql<boolean>`${weighings.seenAt} < now() - ${PATIENCE}::interval` })
      .from(weighings)
      .where(eq(weighings.assignmentId, id))
      .for("update");
    const [row] = await tx
      .insert(weighings)
      .values({ assignmentId: id })
      .onConflictDoUpdate({ target: weighings.assignmentId, set: { seenAt: sql`now()` } })
      .returning();
    const unfinished = !row.plan || row.plan.made < row.plan.ladder;
    if (!before || (before.stale && unfinished)) await addJob(tx, "weigh", id, PRIORITY.weigh);
    return row;
  });
}

/** Pixels that are weighed, without saying that somebody looks; `side`: long side of others than the planned. */
export async function weighedSize(
  db: Executor,
  id: string,
  side: number | null,
): Promise<WeighedSize | null> {
  const [row] = await db
    .select({ plan: weighings.plan, others: weighings.others })
    .from(weighings)
    .where(eq(weighings.assignmentId, id));
  return (side === null ? row?.plan : row?.others[side]) ?? null;
}

/** Nobody looks any more: what is under way for it is given up. */
export async function stopWeighing(db: Executor, id: string): Promise<void> {
  await db.delete(weighings).where(eq(weighings.assignmentId, id));
}

export async function stillWeighed(db: Executor, id: string): Promise<boolean> {
  const [row] = await db
    .select({ id: weighings.assignmentId })
    .from(weighings)
    .where(and(eq(weighings.assignmentId, id), sql`${weighings.seenAt} > now() - ${PATIENCE}::interval`));
  return row !== undefined;
}

export async function keepPlan(db: Executor, id: string, plan: WeighPlan): Promise<void> {
  await db.update(weighings).set({ plan, error: null }).where(eq(weighings.assignmentId, id));
}

/** Other pixels than the planned ones; what is known of them in other formats stays. */
export async function keepSize(
  db: Executor,
  id: string,
  asked: number,
  { geometry, formats }: WeighedSize,
): Promise<void> {
  const side = String(asked);
  const known = sql`coalesce(${weighings.others} #> array[${side}, 'formats'], '{}'::jsonb)`;
  const size = sql`jsonb_build_object('geometry', ${JSON.stringify(geometry)}::jsonb, 'formats', ${known} || ${JSON.stringify(formats)}::jsonb)`;
  await db
    .update(weighings)
    .set({ others: sql`${weighings.others} || jsonb_build_object(${side}::text, ${size})` })
    .where(eq(weighings.assignmentId, id));
}

export async function keepWeighError(db: Executor, id: string, error: string): Promise<void> {
  await db.update(weighings).set({ error }).where(eq(weighings.assignmentId, id));
}

const keysOf = (formats: WeighedSize["formats"]) => [
  ...new Set(Object.values(formats).map(({ pictureKey }) => pictureKey)),
];

/** One trial whose bytes are there; null before it is made. */
export async function keptTrial(db: Executor, { formats }: WeighedSize, settingKey: string) {
  const keys = keysOf(formats);
  if (!keys.length) return null;
  const [row] = await db
    .select()
    .from(trials)
    .where(
      and(inArray(trials.pictureKey, keys), eq(trials.settingKey, settingKey), isNotNull(trials.sha256)),
    );
  return row ?? null;
}

/** Trials of the planned pictures, whatever asked for them. */
export async function trialsOf(db: Executor, { formats }: WeighedSize) {
  const keys = keysOf(formats);
  if (!keys.length) return [];
  return db.select().from(trials).where(inArray(trials.pictureKey, keys));
}
