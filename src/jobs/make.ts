/**
 * Makes one item of a run: the measured file if it is still there, else a fresh one; either way proved from
 * disk.
 */

import { eq } from "drizzle-orm";
import type { Brief } from "@/core/brief";
import { isDiskFull, troubleOf } from "@/core/photo";
import { outputName, type WrittenKind } from "@/core/plan/names";
import { partBrief } from "@/core/plan/set";
import { canonical } from "@/core/units";
import { fitPhoto } from "@/imaging";
import { type Made, type Proof, prove } from "@/imaging/proved";
import { readSource, type Source, sentence } from "@/imaging/source";
import type { Store } from "@/store";
import { announce, assignments, type ItemSnapshot, type Measured, runItems, runs } from "@/store";
import { type Finished, finishItem, itemBrief, keepBytes, pauseRun, waitingParts } from "@/store/queries";
import { withHeldTrials } from "./held-trials";
import { measureForRun } from "./measure";
import { measuredSet, provedFile } from "./set";

/** What an item asks for, with its brief. */
type Asked = ItemSnapshot & { brief: Brief };

/** Why a run pauses by itself; it goes on when there is space. */
export const DISK_FULL = "disk";

export async function make(store: Store, id: string): Promise<void> {
  const [item] = await store.db
    .select({
      state: runItems.state,
      kept: runItems.snapshot,
      brief: itemBrief,
      assignmentId: assignments.id,
      measured: assignments.measured,
      share: assignments.share,
      batchId: runs.batchId,
      runId: runs.id,
      pausedAt: runs.pausedAt,
    })
    .from(runItems)
    .innerJoin(assignments, eq(assignments.id, runItems.assignmentId))
    .innerJoin(runs, eq(runs.id, runItems.runId))
    .where(eq(runItems.id, id));
  // A paused run's items get their jobs back when it goes on.
  if (item?.state !== "waiting" || item.pausedAt) return;
  const snapshot: Asked = { ...item.kept, brief: item.brief };
  if (snapshot.brief.set) return makeSet(store, { ...item, id, snapshot });
  let done: Finished | { error: string };
  try {
    // A photo that nobody has measured yet is measured now: once for the Desk and for the run.
    const found = item.measured ? null : await measureForRun(store, item.assignmentId);
    const measured = found?.measured ?? item.measured;
    // What was measured is the file, unless the limit on the whole was shared out anew since the button was
    // pressed.
    const ready = canonical(item.share ?? null) === canonical(snapshot.share ?? null) ? measured : null;
    const kept =
      ready?.outputSha256 && (await store.files.has(ready.outputSha256))
        ? {
            sha256: ready.outputSha256,
            difference: ready.difference ?? null,
            differenceAbout: ready.differenceAbout ?? false,
          }
        : null;
    done =
      kept && found?.proof
        ? finished(snapshot, kept, found.proof)
        : await proved(store, snapshot, kept ?? (await makeAnew(store, snapshot)));
  } catch (error) {
    const failed = await failure(store, item, error);
    if (!failed) return;
    done = failed;
  }
  await finishItem(store.db, id, done);
}

/** What is the photo's own fault; null where the run pauses instead. Other trouble is thrown, and tried again. */
async function failure(
  store: Store,
  { runId, batchId }: { runId: string; batchId: string },
  error: unknown,
): Promise<{ error: string } | null> {
  if (isDiskFull(error)) {
    await pauseRun(store.db, runId, DISK_FULL);
    await announce(store.db, batchId);
    return null;
  }
  if (troubleOf(error) !== "photo") throw error;
  return { error: sentence(error) };
}

interface SetItem {
  id: string;
  runId: string;
  batchId: string;
  assignmentId: string;
  measured: Measured | null;
  snapshot: Asked;
}

/** All files of a set that the run still waits for; the item whose job this is comes last, so that none is lost. */
async function makeSet(store: Store, item: SetItem): Promise<void> {
  const { id, runId, assignmentId, snapshot } = item;
  const waiting = (await waitingParts(store.db, runId, assignmentId)).sort(
    (a, b) => Number(a.id === id) - Number(b.id === id),
  );
  try {
    const source = await readSource(await store.files.read(snapshot.sourceSha256));
    const measured = await setOf(store, item, source);
    const frame = measured.frame ?? snapshot.frame;
    for (const one of waiting) {
      const { part } = one.snapshot;
      const file = measured.set?.find(
        (made) => made.part.width === part?.width && made.part.format === part?.format,
      );
      const asked: Asked = {
        ...one.snapshot,
        brief: part ? partBrief(snapshot.brief, part) : snapshot.brief,
      };
      const done = file
        ? finished(
            asked,
            {
              sha256: file.outputSha256,
              difference: file.difference,
              differenceAbout: file.differenceAbout,
            },
            await provedFile(store, { brief: snapshot.brief, source, frame }, file),
          )
        : { error: measured.error ?? "It is no part of the set any more. Make the files again." };
      await finishItem(store.db, one.id, done);
    }
  } catch (error) {
    const failed = await failure(store, item, error);
    if (failed) for (const one of waiting) await finishItem(store.db, one.id, failed);
  }
}

/** What was measured, where its files are still there; else all of it made now. */
async function setOf(
  store: Store,
  { measured, assignmentId, snapshot }: SetItem,
  source: Source,
): Promise<Measured> {
  const known = measured ?? (await measureForRun(store, assignmentId))?.measured ?? null;
  const there = known?.set
    ? await Promise.all(known.set.map(({ outputSha256 }) => store.files.has(outputSha256)))
    : [];
  if (known && (known.error || there.every(Boolean))) return known;
  const { brief, frame, sourceSha256: sha256 } = snapshot;
  return withHeldTrials(store, (trials) => measuredSet(store, { source, brief, frame, sha256, trials }));
}

interface MadeFile {
  sha256: string;
  difference: number | null;
  differenceAbout: boolean;
  judge?: Made["judge"];
}

async function makeAnew(
  store: Store,
  { brief, frame, choice, share, sourceSha256 }: Asked,
): Promise<MadeFile> {
  const source = await readSource(await store.files.read(sourceSha256));
  const answer = await withHeldTrials(store, (trials) =>
    fitPhoto({
      source,
      brief,
      frame,
      choice,
      share: share?.kind === "set" ? share : undefined,
      trials,
      sha256: sourceSha256,
      judging: "sample",
    }),
  );
  if (!answer.output)
    throw Object.assign(new Error(answer.error ?? "It cannot be made."), { name: "GeometryError" });
  return {
    sha256: (await keepBytes(store, answer.output)).sha256,
    difference: answer.difference,
    differenceAbout: false,
    judge: answer.judge,
  };
}

async function proved(store: Store, snapshot: Asked, made: MadeFile): Promise<Finished | { error: string }> {
  const { brief, frame, before, sourceSha256 } = snapshot;
  return finished(
    snapshot,
    made,
    await prove(brief, await store.files.read(made.sha256), {
      before,
      frame,
      original: await store.files.read(sourceSha256),
      judge: made.judge,
    }),
  );
}

function finished(
  { brief, before, sourceName, n, folder }: Asked,
  { sha256, difference, differenceAbout }: MadeFile,
  proof: Proof,
): Finished | { error: string } {
  if (!proof.ok) {
    const failed = proof.checks.find((check) => check.ok === false)!;
    return {
      error: `The made file failed its proof: ${failed.clause} asked ${failed.asked}, found ${failed.found}.`,
    };
  }
  const name = outputName(brief.names ?? "{name}", {
    source: sourceName,
    n,
    width: proof.facts.width,
    height: proof.facts.height,
    date: before.date,
    brief: brief.name,
    format: proof.facts.format as WrittenKind,
  });
  return {
    sha256,
    bytes: proof.facts.bytes,
    name: folder ? `${folder}/${name}` : name,
    difference: difference ?? proof.difference,
    differenceAbout: difference === null ? proof.differenceAbout : differenceAbout,
    proof,
  };
}
