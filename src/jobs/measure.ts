/** Measures an assignment: makes its file for real, so that "Make files" mostly hands over what is there. */
import { and, eq, isNull, or, sql } from "drizzle-orm";
import { verdictOf } from "@/core/plan";
import { fitPhoto, type Proof, prove } from "@/imaging";
import { trace } from "@/imaging/candidates";
import { isDiskFull, readSource, sentence } from "@/imaging/source";
import type { Store } from "@/store";
import {
  announce,
  assignments,
  batches,
  batchPhotos,
  briefRevisions,
  type Measured,
  photos,
  type TraceWanted,
} from "@/store";
import { keepTraced, rememberFile, stillSharing, touchShares, trialStore } from "@/store/queries";
import { plannedPictures } from "./planned";
import { sideKey } from "./share";

/** The assignment's batch has another brief, frame or lost the photo meanwhile. */
class StaleError extends Error {}

/** Its setting is one of several that are compared for the batch. */
const compared = sql`exists (select 1 from comparisons c where c.batch_id = ${batches.id} and c.deleted_at is null and c.choices @> jsonb_build_array(${assignments.choice}))`;

async function load({ db }: Store, id: string) {
  const [row] = await db
    .select({
      frame: assignments.frame,
      choice: assignments.choice,
      accepted: assignments.accepted,
      measured: assignments.measured,
      current: assignments.current,
      traced: assignments.traced,
      wanted: assignments.wanted,
      share: assignments.share,
      brief: briefRevisions.body,
      sha256: photos.sha256,
      batchId: batchPhotos.batchId,
    })
    .from(assignments)
    .innerJoin(briefRevisions, eq(briefRevisions.id, assignments.revisionId))
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .innerJoin(
      batches,
      and(
        eq(batches.id, batchPhotos.batchId),
        sql`coalesce(${batchPhotos.revisionId}, ${batches.revisionId}) = ${assignments.revisionId}`,
      ),
    )
    .innerJoin(photos, eq(photos.id, batchPhotos.photoId))
    .where(
      and(
        eq(assignments.id, id),
        or(eq(assignments.current, true), compared),
        isNull(batchPhotos.deletedAt),
        isNull(batches.deletedAt),
      ),
    );
  return row ?? null;
}

const FAILED: Measured = {
  outputSha256: null,
  bytes: null,
  format: null,
  facts: null,
  geometry: null,
  setting: null,
  difference: null,
  cleanFrom: null,
  checks: [],
  steps: [],
  told: [],
  notes: [],
  passedThrough: false,
  encodes: 0,
  error: null,
};

/** The proof of the file where one was made now. */
export async function measure(store: Store, id: string): Promise<Proof | null> {
  const row = await load(store, id);
  if (!row) return null;
  if (row.wanted) {
    await traceOne(store, id, row, row.wanted);
    return null;
  }
  // Under a limit on the whole no file is made before that is shared out.
  if (row.measured || (limited(row) && !row.share)) return null;
  let measured: Measured;
  let proof: Proof | null = null;
  try {
    ({ measured, proof } = await fitted(store, id, row));
  } catch (error) {
    if (error instanceof StaleError) return null;
    // Tried again when there is space; nothing is said about the photo.
    if (isDiskFull(error)) throw error;
    measured = { ...FAILED, error: sentence(error) };
  }
  const verdict = verdictOf({ ...measured, accepted: row.accepted });
  const same = row.share
    ? sql`${assignments.share} = ${JSON.stringify(row.share)}::jsonb`
    : isNull(assignments.share);
  // What was settled meanwhile has a job of its own.
  await store.db
    .update(assignments)
    .set({ measured, verdict })
    .where(and(eq(assignments.id, id), same));
  await announce(store.db, row.batchId);
  if (limited(row) && !(await stillSharing(store.db, row.batchId, "files")))
    await touchShares(store.db, row.batchId);
  return proof;
}

/** Its brief limits the whole, and no setting is tried out for it. */
const limited = (row: NonNullable<Awaited<ReturnType<typeof load>>>): boolean =>
  row.brief.total !== undefined && row.current;

/** Makes the trials that the sharing of a limit on the whole waits for. */
async function traceOne(
  store: Store,
  id: string,
  row: NonNullable<Awaited<ReturnType<typeof load>>>,
  { side, trials: wanted }: TraceWanted,
): Promise<void> {
  const key = sideKey(side);
  try {
    const source = await readSource(await store.files.read(row.sha256));
    const traced = await trace({ source, ...asked(store, id, row) }, side, row.traced?.[key] ?? null, wanted);
    await keepTraced(store.db, id, key, traced);
  } catch (error) {
    if (error instanceof StaleError) return;
    if (isDiskFull(error)) throw error;
    const measured = { ...FAILED, error: sentence(error) };
    await store.db
      .update(assignments)
      .set({ measured, verdict: verdictOf({ ...measured, accepted: row.accepted }), wanted: null })
      .where(eq(assignments.id, id));
  }
  await announce(store.db, row.batchId);
  if (!(await stillSharing(store.db, row.batchId, "trials"))) await touchShares(store.db, row.batchId);
}

function asked(store: Store, id: string, row: NonNullable<Awaited<ReturnType<typeof load>>>) {
  const wanted = async () => {
    if (!(await load(store, id))) throw new StaleError();
  };
  return {
    brief: row.brief,
    frame: row.frame,
    choice: row.choice ?? undefined,
    trials: trialStore(store),
    planned: limited(row) ? plannedPictures(store) : undefined,
    wanted,
    sha256: row.sha256,
  };
}

async function fitted(
  store: Store,
  id: string,
  row: NonNullable<Awaited<ReturnType<typeof load>>>,
): Promise<{ measured: Measured; proof: Proof | null }> {
  const source = await readSource(await store.files.read(row.sha256));
  if (row.share?.kind === "cannot") return { measured: { ...FAILED, error: row.share.why }, proof: null };
  const answer = await fitPhoto({
    source,
    ...asked(store, id, row),
    share: row.share?.kind === "set" ? row.share : undefined,
  });
  const {
    output,
    geometry,
    frame,
    screen,
    setting,
    steps,
    told,
    notes,
    passedThrough,
    encodes,
    format,
    difference,
    cleanFrom,
    ink,
  } = answer;
  const common = {
    geometry,
    frame: row.brief.ink ? row.frame : frame,
    ink,
    screen,
    setting,
    steps,
    told,
    notes,
    passedThrough,
    encodes,
    format,
    difference,
    cleanFrom,
  };
  if (!output) return { measured: { ...FAILED, ...common, error: answer.error }, proof: null };
  const { sha256, bytes } = await store.files.put(output);
  await rememberFile(store.db, { sha256, bytes });
  const proof = await prove(row.brief, await store.files.read(sha256), {
    before: source.facts,
    frame,
    original: source.bytes,
  });
  return {
    measured: {
      ...common,
      notes: [...notes, ...proof.notes],
      outputSha256: sha256,
      bytes,
      facts: proof.facts,
      checks: proof.checks,
      error: null,
    },
    proof,
  };
}
