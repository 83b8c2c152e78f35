/** What becomes of work that could not be done although the photo is sound: states that people see, and can have tried again. */
import { eq, sql } from "drizzle-orm";
import { verdictOf } from "@/core/plan";
import { addJob, announce, PRIORITY, type Task } from "../queue";
import { NOT_MADE } from "../rows";
import { assignments, batchPhotos } from "../schema";
import type { Database, Executor } from "../store";
import { finishItem } from "./runs";
import { touchShares } from "./shares";
import { keepWeighError } from "./weigh";
import { countDeath, forgetDeaths } from "./workers";

/** Where a kind of work has a state that shows it, its failure is written there; elsewhere it is tried later. */
export async function keepFailure(
  db: Database,
  task: Task | "trial",
  id: string,
  words: string,
): Promise<void> {
  if (task === "measure") await failMeasurement(db, id, words);
  else if (task === "make") await finishItem(db, id, { error: words });
  else if (task === "weigh" || task === "trial") await keepWeighError(db, id, words);
  else if (task === "thumb") await countDeath(db, task, id);
}

async function failMeasurement(db: Database, id: string, words: string): Promise<void> {
  const measured = { ...NOT_MADE, error: words, passing: true };
  const verdict = verdictOf({ ...measured, accepted: false });
  await db.update(assignments).set({ measured, verdict, trialsAsked: null }).where(eq(assignments.id, id));
  const batchId = await batchOf(db, id);
  if (batchId === null) return;
  await touchShares(db, batchId);
  await announce(db, batchId);
}

async function batchOf(db: Executor, id: string): Promise<string | null> {
  const [row] = await db
    .select({ batchId: batchPhotos.batchId })
    .from(assignments)
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .where(eq(assignments.id, id));
  return row?.batchId ?? null;
}

/** Somebody wants a measurement tried again that failed for no fault of the photo. False where none did. */
export async function measureAgain(db: Executor, id: string): Promise<boolean> {
  const [row] = await db
    .update(assignments)
    .set({ measured: null, verdict: null })
    .where(sql`${assignments.id} = ${id} and ${assignments.measured} ->> 'passing' = 'true'`)
    .returning({ id: assignments.id });
  if (!row) return false;
  await forgetDeaths(db, "measure", [id]);
  await addJob(db, "measure", id, PRIORITY.inSight);
  const batchId = await batchOf(db, id);
  if (batchId !== null) await touchShares(db, batchId);
  return true;
}
