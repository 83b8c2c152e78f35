/** Measures an assignment: makes its file for real, so that "Make files" mostly hands over what is there. */
import { and, eq, isNull, or, sql } from "drizzle-orm";
import { verdictOf } from "@/core/plan";
import { sentence } from "@/imaging/error";
import { readSource } from "@/imaging/facts";
import { fitPhoto, prove } from "@/imaging/fit-photo";
import { announce } from "@/store/queue";
import { assignments, batches, batchPhotos, briefRevisions, files, photos, type Measured } from "@/store/schema";
import type { Store } from "@/store/store";
import { trialStore } from "@/store/queries/trials";

/** The assignment's batch has another brief, frame or lost the photo meanwhile. */
class StaleError extends Error {}

/** Its setting is one of several that are compared for the batch. */
const compared = sql`exists (select 1 from comparisons c where c.batch_id = ${batches.id} and c.deleted_at is null and c.choices @> jsonb_build_array(${assignments.choice}))`;

async function load({ db }: Store, id: string) {
  const [row] = await db
    .select({
      frame: assignments.frame, choice: assignments.choice, accepted: assignments.accepted, measured: assignments.measured, brief: briefRevisions.body, sha256: photos.sha256, batchId: batchPhotos.batchId,
    })
    .from(assignments)
    .innerJoin(briefRevisions, eq(briefRevisions.id, assignments.revisionId))
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .innerJoin(batches, and(eq(batches.id, batchPhotos.batchId), sql`coalesce(${batchPhotos.revisionId}, ${batches.revisionId}) = ${assignments.revisionId}`))
    .innerJoin(photos, eq(photos.id, batchPhotos.photoId))
    .where(and(eq(assignments.id, id), or(eq(assignments.current, true), compared), isNull(batchPhotos.deletedAt), isNull(batches.deletedAt)));
  return row ?? null;
}

const FAILED: Measured = {
  outputSha256: null, bytes: null, format: null, facts: null, geometry: null, setting: null, difference: null, cleanFrom: null, checks: [], steps: [], told: [], notes: [],
  passedThrough: false, encodes: 0, error: null,
};

export async function measure(store: Store, id: string): Promise<void> {
  const row = await load(store, id);
  if (!row || row.measured) return;
  let measured: Measured;
  try {
    measured = await fitted(store, id, row);
  } catch (error) {
    if (error instanceof StaleError) return;
    measured = { ...FAILED, error: sentence(error) };
  }
  const verdict = verdictOf({ ...measured, accepted: row.accepted });
  await store.db.update(assignments).set({ measured, verdict }).where(eq(assignments.id, id));
  await announce(store.db, row.batchId);
}

async function fitted(store: Store, id: string, row: NonNullable<Awaited<ReturnType<typeof load>>>): Promise<Measured> {
  const source = await readSource(await store.files.read(row.sha256));
  const wanted = async () => {
    if (!(await load(store, id))) throw new StaleError();
  };
  const answer = await fitPhoto({ source, brief: row.brief, frame: row.frame, choice: row.choice ?? undefined, trials: trialStore(store), wanted, sha256: row.sha256 });
  const { output, geometry, frame, screen, setting, steps, told, notes, passedThrough, encodes, format, difference, cleanFrom } = answer;
  const common = { geometry, frame, screen, setting, steps, told, notes, passedThrough, encodes, format, difference, cleanFrom };
  if (!output) return { ...FAILED, ...common, error: answer.error };
  const proof = await prove(row.brief, Buffer.from(output.buffer, output.byteOffset, output.length), { before: source.facts, frame, original: source.bytes });
  const { sha256, bytes } = await store.files.put(output);
  await store.db.insert(files).values({ sha256, bytes }).onConflictDoNothing();
  return { ...common, outputSha256: sha256, bytes, facts: proof.facts, checks: proof.checks, error: null };
}
