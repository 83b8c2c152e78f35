/**
 * Jobs, added through the queue's own SQL functions, so that they share the transaction of the rows they
 * belong to.
 */
import { type SQL, sql } from "drizzle-orm";
import type { Choice } from "@/core/coding";
import type { Executor } from "./store";

export type Task = "measure" | "make" | "thumb" | "thumbs" | "demo" | "weigh" | "share" | "collect";

/** Lower runs first. */
export const PRIORITY = {
  make: 0,
  thumb: 5,
  thumbs: 4,
  laterThumb: 50,
  inSight: 20,
  measure: 60,
  demo: 10,
  weigh: 15,
  share: 3,
  collect: 90,
} as const;

export const addJob = (db: Executor, task: Task, id: string, priority: number): Promise<void> =>
  addJobs(db, task, [id], priority);

/** Pixels from which on a photo takes seconds to minutes whatever is done with it. */
const HEAVY = 150_000_000;
const pixels = sql`(p.facts ->> 'width')::float8 * (p.facts ->> 'height')::float8`;
/** Pixels of the photo that a job is about. */
const PIXELS: Partial<Record<Task, SQL>> = {
  thumb: sql`(select ${pixels} from photos p where p.id = t.id::uuid)`,
  measure: sql`(select ${pixels} from assignments a join batch_photos bp on bp.id = a.batch_photo_id join photos p on p.id = bp.photo_id where a.id = t.id::uuid)`,
  make: sql`(select ${pixels} from run_items i join assignments a on a.id = i.assignment_id join batch_photos bp on bp.id = a.batch_photo_id join photos p on p.id = bp.photo_id where i.id = t.id::uuid)`,
};
PIXELS.weigh = PIXELS.measure;

/** Such photos are worked on one at a time, so that the others always have room beside them. */
function laneOf(task: Task): SQL {
  const size = PIXELS[task];
  return size ? sql`case when ${size} > ${HEAVY} then 'heavy' end` : sql`null::text`;
}

/** How often a job is offered that a worker takes at the very moment when it is replaced. */
const TRIES = 8;

/**
 * One job an id; what waits already is moved to the new priority and time, what is under way is followed by
 * another. `delayMs`: it is not begun before.
 */
export async function addJobs(
  db: Executor,
  task: Task,
  ids: readonly string[],
  priority: number,
  delayMs = 0,
): Promise<void> {
  let left = [...ids];
  for (let n = 0; left.length && n < TRIES; n += 1) {
    const { rows } = await db.execute<{ id: string; job: string | null }>(
      sql`select t.id, (graphile_worker.add_job(${task}, payload := json_build_object('id', t.id), job_key := ${`${task}:`} || t.id, queue_name := ${laneOf(task)}, priority := ${priority}::int, run_at := now() + ${delayMs} * interval '1 millisecond', max_attempts := 5)).id as job
          from jsonb_array_elements_text(${JSON.stringify(left)}::jsonb) as t(id)`,
    );
    // A job that was taken between the queue's two looks at it is neither replaced nor followed: no job
    // comes back, so it is added again.
    left = rows.filter((row) => row.job === null).map((row) => row.id);
  }
  if (left.length) throw new Error(`the queue did not take ${left.length} jobs`);
}

/**
 * A trial that somebody has asked for; these have workers of their own, so that a long encode does not hold
 * them up.
 */
export async function addTrial(db: Executor, id: string, choice: Choice): Promise<void> {
  await db.execute(
    sql`select graphile_worker.add_job('trial', payload := ${JSON.stringify({ id, choice })}::json, job_key := ${`trial:${id}:${JSON.stringify(choice)}`}, priority := 0, max_attempts := 2)`,
  );
}

/** No photo came into a batch for so long: none is on its way. */
const ARRIVED_MS = 1500;

/**
 * Small pictures of a batch are made when all its photos are there, since both at once would take each other's
 * time; those in sight are asked for by the page.
 */
export const addThumbs = (db: Executor, batchId: string): Promise<void> =>
  addJobs(db, "thumbs", [batchId], PRIORITY.thumbs, ARRIVED_MS);

/** Takes jobs back that nobody has begun. */
export async function removeJobs(db: Executor, task: Task, ids: readonly string[]): Promise<void> {
  if (!ids.length) return;
  await db.execute(
    sql`select graphile_worker.remove_job(${`${task}:`} || t.id) from jsonb_array_elements_text(${JSON.stringify(ids)}::jsonb) as t(id)`,
  );
}

/** Tells every open page that something of a batch has changed. */
export async function announce(db: Executor, batchId: string | null): Promise<void> {
  await db.execute(sql`select pg_notify('zumbrel', ${JSON.stringify({ batchId })})`);
}
