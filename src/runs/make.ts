/** Makes one item of a run: the measured file if it is still there, else a fresh one; either way proved from disk. */
import { eq } from "drizzle-orm";
import { outputName } from "@/core/names";
import type { OutputFormat } from "@/core/brief";
import { sentence } from "@/imaging/error";
import { readSource } from "@/imaging/facts";
import { fitPhoto, prove } from "@/imaging/fit-photo";
import { finishItem, type Finished } from "@/store/queries/runs";
import { announce } from "@/store/queue";
import { assignments, runItems, runs, type ItemSnapshot } from "@/store/schema";
import type { Store } from "@/store/store";
import { trialStore } from "@/store/queries/trials";

export async function make(store: Store, id: string): Promise<void> {
  const [item] = await store.db
    .select({ state: runItems.state, snapshot: runItems.snapshot, measured: assignments.measured, batchId: runs.batchId })
    .from(runItems)
    .innerJoin(assignments, eq(assignments.id, runItems.assignmentId))
    .innerJoin(runs, eq(runs.id, runItems.runId))
    .where(eq(runItems.id, id));
  if (!item || item.state !== "waiting") return;
  let done: Finished | { error: string };
  try {
    const ready = item.measured?.outputSha256;
    const sha256 = ready && (await store.files.has(ready)) ? ready : await makeAnew(store, item.snapshot);
    done = await proved(store, item.snapshot, sha256);
  } catch (error) {
    done = { error: sentence(error) };
  }
  await finishItem(store.db, id, done);
  await announce(store.db, item.batchId);
}

async function makeAnew(store: Store, { brief, frame, choice, sourceSha256 }: ItemSnapshot): Promise<string> {
  const source = await readSource(await store.files.read(sourceSha256));
  const answer = await fitPhoto({ source, brief, frame, choice, trials: trialStore(store), sha256: sourceSha256 });
  if (!answer.output) throw Object.assign(new Error(answer.error ?? "It cannot be made."), { name: "GeometryError" });
  return (await store.files.put(answer.output)).sha256;
}

async function proved(store: Store, { brief, frame, before, sourceName, n, sourceSha256, folder }: ItemSnapshot, sha256: string): Promise<Finished | { error: string }> {
  const written = await store.files.read(sha256);
  const proof = await prove(brief, written, { before, frame, original: await store.files.read(sourceSha256) });
  if (!proof.ok) {
    const failed = proof.checks.find((check) => check.ok === false)!;
    return { error: `The made file failed its proof: ${failed.clause} asked ${failed.asked}, found ${failed.found}.` };
  }
  const name = outputName(brief.names ?? "{name}", {
    source: sourceName, n, width: proof.facts.width, height: proof.facts.height, date: before.date, brief: brief.name, format: proof.facts.format as OutputFormat,
  });
  return { sha256, bytes: written.length, name: folder ? `${folder}/${name}` : name, proof };
}
