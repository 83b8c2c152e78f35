/** Measures an assignment: makes its file for real, so that "Make files" mostly hands over what is there. */

import { and, eq, isNull, or, sql } from "drizzle-orm";
import { limitsWhole } from "@/core/brief";
import { sideKey, type TraceAsked } from "@/core/budget";
import { troubleOf } from "@/core/photo";
import { verdictOf } from "@/core/plan";
import { fitPhoto } from "@/imaging";
import { trace } from "@/imaging/candidates";
import { type Proof, prove } from "@/imaging/proved";
import { readSource, sentence } from "@/imaging/source";
import type { Store } from "@/store";
import {
  announce,
  assignments,
  batches,
  batchPhotos,
  briefRevisions,
  type Measured,
  NOT_MADE,
  photos,
} from "@/store";
import { keepBytes, keepTraced, stillSharing, touchShares } from "@/store/queries";
import { type HeldTrials, withHeldTrials } from "./held-trials";
import { keptPixels } from "./kept-pixels";
import { measuredSet } from "./set";
import { UnwantedError, whileWanted } from "./wanted";

/** Its setting is one of several that are compared for the batch. */
const compared = sql`exists (select 1 from comparisons c where c.batch_id = ${batches.id} and c.deleted_at is null and c.choices @> jsonb_build_array(${assignments.choice}))`;

type Row = NonNullable<Awaited<ReturnType<typeof load>>>;

async function load({ db }: Store, id: string) {
  const [row] = await db
    .select({
      frame: assignments.frame,
      choice: assignments.choice,
      accepted: assignments.accepted,
      measured: assignments.measured,
      current: assignments.current,
      traced: assignments.traced,
      trialsAsked: assignments.trialsAsked,
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

/** What was found out, with the proof of the file where one was made now. */
export interface Found {
  measured: Measured;
  proof: Proof | null;
}

/** Measures, and tells the pages; null where there is nothing to measure any more. */
export async function measure(store: Store, id: string): Promise<Found | null> {
  const row = await load(store, id);
  if (!row) return null;
  const found = await measureRow(store, id, row);
  if (found) await announce(store.db, row.batchId);
  return found;
}

/** The same for a run, which tells the pages when its file is there. */
export async function measureForRun(store: Store, id: string): Promise<Found | null> {
  const row = await load(store, id);
  return row && measureRow(store, id, row);
}

async function measureRow(store: Store, id: string, row: Row): Promise<Found | null> {
  if (row.trialsAsked) {
    await traceOne(store, id, row, row.trialsAsked);
    return null;
  }
  // Under a limit on the whole no file is made before that is shared out.
  if (row.measured || (limited(row) && !row.share)) return null;
  let found: Found;
  try {
    found = await withHeldTrials(store, (trials) => fitted(store, id, row, trials));
  } catch (error) {
    if (error instanceof UnwantedError) return null;
    // Trouble that passes is tried again; nothing is said about the photo.
    if (troubleOf(error) !== "photo") throw error;
    found = { measured: { ...NOT_MADE, error: sentence(error) }, proof: null };
  }
  const { measured } = found;
  const verdict = verdictOf({ ...measured, accepted: row.accepted });
  const same = row.share
    ? sql`${assignments.share} = ${JSON.stringify(row.share)}::jsonb`
    : isNull(assignments.share);
  // What was settled meanwhile has a job of its own.
  await store.db
    .update(assignments)
    .set({ measured, verdict })
    .where(and(eq(assignments.id, id), same));
  if (limited(row) && !(await stillSharing(store.db, row.batchId, "files")))
    await touchShares(store.db, row.batchId);
  return found;
}

/** Its brief limits the whole, and no setting is tried out for it. */
const limited = (row: Row): boolean => limitsWhole(row.brief) && row.current;

/** Makes the trials that the sharing of a limit on the whole waits for. */
async function traceOne(store: Store, id: string, row: Row, asked: Omit<TraceAsked, "id">): Promise<void> {
  const key = sideKey(asked.side);
  try {
    const source = await readSource(await store.files.read(row.sha256));
    const before = row.traced?.[key] ?? null;
    const traced = await withHeldTrials(store, (trials) =>
      whileWanted(stillThere(store, id), (signal) =>
        trace(
          { source, signal, made: row.measured?.setting, ...requestOf(store, row, trials) },
          asked,
          before,
        ),
      ),
    );
    await keepTraced(store.db, id, key, traced);
  } catch (error) {
    if (error instanceof UnwantedError) return;
    if (troubleOf(error) !== "photo") throw error;
    const measured = { ...NOT_MADE, error: sentence(error) };
    await store.db
      .update(assignments)
      .set({ measured, verdict: verdictOf({ ...measured, accepted: row.accepted }), trialsAsked: null })
      .where(eq(assignments.id, id));
  }
  await announce(store.db, row.batchId);
  if (!(await stillSharing(store.db, row.batchId, "trials"))) await touchShares(store.db, row.batchId);
}

/** The assignment may get another brief or frame, or lose its photo, while it is worked on. */
const stillThere = (store: Store, id: string) => async () => (await load(store, id)) !== null;

const requestOf = (store: Store, row: Row, trials: HeldTrials) => ({
  brief: row.brief,
  frame: row.frame,
  choice: row.choice ?? undefined,
  trials,
  planned: limited(row) ? keptPixels(store) : undefined,
  sha256: row.sha256,
});

async function fitted(store: Store, id: string, row: Row, trials: HeldTrials): Promise<Found> {
  const source = await readSource(await store.files.read(row.sha256));
  if (row.share?.kind === "cannot") return { measured: { ...NOT_MADE, error: row.share.why }, proof: null };
  if (row.brief.set) {
    const { brief, frame, sha256 } = row;
    const measured = await whileWanted(stillThere(store, id), (signal) =>
      measuredSet(store, { source, brief, frame, sha256, trials, signal }),
    );
    return { measured, proof: null };
  }
  const answer = await whileWanted(stillThere(store, id), (signal) =>
    fitPhoto({
      source,
      signal,
      ...requestOf(store, row, trials),
      share: row.share?.kind === "set" ? row.share : undefined,
      judging: "sample",
    }),
  );
  const { output, judge, error, ...told } = answer;
  const common = {
    ...told,
    frame: row.brief.ink ? row.frame : answer.frame,
    ...(source.facts.drawing && { drawn: true }),
  };
  if (!output) return { measured: { ...NOT_MADE, ...common, error }, proof: null };
  const [{ sha256, bytes }] = await Promise.all([keepBytes(store, output), trials.settle()]);
  const proof = await prove(row.brief, await store.files.read(sha256), {
    before: source.facts,
    frame: answer.frame,
    original: source.bytes,
    judge,
  });
  return {
    measured: {
      ...common,
      notes: [...answer.notes, ...proof.notes],
      difference: answer.difference ?? proof.difference,
      differenceAbout: answer.difference === null && proof.differenceAbout,
      outputSha256: sha256,
      bytes,
      facts: proof.facts,
      checks: proof.checks,
      error: null,
    },
    proof,
  };
}
