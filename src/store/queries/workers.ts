/** Which background workers are alive, and what dead ones have left locked in the queue. */
import { and, eq, inArray, type SQL, sql } from "drizzle-orm";
import { addJobs, PRIORITY, type Task } from "../queue";
import { deaths, workers } from "../schema";
import type { Database, Executor } from "../store";

export async function beat(db: Database, instance: string, ids: readonly string[]): Promise<void> {
  for (const id of ids)
    await db
      .insert(workers)
      .values({ id, instance })
      .onConflictDoUpdate({ target: workers.id, set: { beat: sql`${workers.beat} + 1` } });
}

/** A piece of work that ended the process that did it so often is not tried by itself again. */
export const MOST_DEATHS = 2;

/** Jobs that workers held are free again, and none of their attempts is used up. */
async function giveBack(db: Database, ids: readonly string[]): Promise<void> {
  if (!ids.length) return;
  await db.transaction(async (tx) => {
    await tx.execute(
      sql`update graphile_worker._private_jobs set attempts = greatest(0, attempts - 1) where locked_by in (select jsonb_array_elements_text(${JSON.stringify(ids)}::jsonb))`,
    );
    await tx.execute(
      sql`select graphile_worker.force_unlock_workers(array(select jsonb_array_elements_text(${JSON.stringify(ids)}::jsonb)))`,
    );
    await tx.delete(workers).where(inArray(workers.id, [...ids]));
  });
}

/** What a process holds goes back before it ends on purpose. */
export const signOff = (db: Database, ids: readonly string[]): Promise<void> => giveBack(db, ids);

/** The workers of a process that has ended: their jobs are free at once. */
export async function buryInstance(db: Database, instance: string): Promise<void> {
  const rows = await db.select({ id: workers.id }).from(workers).where(eq(workers.instance, instance));
  await giveBack(
    db,
    rows.map((row) => row.id),
  );
}

/** How often a piece of work has ended its process. */
export async function deathsOf(db: Executor, task: string, subject: string): Promise<number> {
  const [row] = await db
    .select({ count: deaths.count })
    .from(deaths)
    .where(and(eq(deaths.task, task), eq(deaths.subject, subject)));
  return row?.count ?? 0;
}

/** A piece of work has ended the process that did it. */
export async function countDeath(db: Executor, task: string, subject: string): Promise<void> {
  await db
    .insert(deaths)
    .values({ task, subject, count: 1 })
    .onConflictDoUpdate({ target: [deaths.task, deaths.subject], set: { count: sql`${deaths.count} + 1` } });
}

/** It was done after all, or somebody wants it tried again. */
export async function forgetDeaths(db: Executor, task: string, subjects: readonly string[]): Promise<void> {
  if (subjects.length)
    await db.delete(deaths).where(and(eq(deaths.task, task), inArray(deaths.subject, [...subjects])));
}

/** Workers that hold jobs or have signed on, with their beats; -1 for one that never signed on. */
async function beats(db: Database): Promise<Map<string, number>> {
  const { rows } = await db.execute<{ id: string; beat: string }>(sql`
    select l.id, coalesce(w.beat, -1) as beat
    from (select distinct locked_by as id from graphile_worker._private_jobs where locked_by is not null union select id from workers) l left join workers w on w.id = l.id`);
  return new Map(rows.map((row) => [row.id, Number(row.beat)]));
}

/**
 * Watches the beats of all workers: one whose count stands still for `patience` ms of this process's own
 * clock is dead,
 * and its jobs are free again. The time of day plays no part, so that a clock that is set back kills nobody.
 */
export class DeathWatch {
  private readonly seen = new Map<string, { beat: number; since: number }>();

  constructor(
    private readonly db: Database,
    private readonly patience: number,
    private readonly now: () => number = () => performance.now(),
  ) {}

  /** The workers that were found dead. */
  async look(): Promise<string[]> {
    const current = await beats(this.db);
    const dead: string[] = [];
    for (const [id, count] of current) {
      const known = this.seen.get(id);
      if (!known || known.beat !== count) this.seen.set(id, { beat: count, since: this.now() });
      else if (this.now() - known.since > this.patience) dead.push(id);
    }
    for (const id of this.seen.keys()) if (!current.has(id)) this.seen.delete(id);
    await giveBack(this.db, dead);
    return dead;
  }
}

/** Jobs are due within minutes; one that is due later was added, or failed, before the clock was set back. */
export async function healClock(db: Database): Promise<void> {
  await db.execute(
    sql`update graphile_worker._private_jobs set run_at = now() where locked_at is null and run_at > now() + interval '10 minutes'`,
  );
}

/** Jobs added again at most at a time. */
const MOST_AGAIN = 500;

/** Ids of one kind of work that waits. */
interface Waiting {
  task: Task;
  ids: SQL;
  priority: number;
}

const noJob = (task: Task, id: SQL) => sql`
  not exists (select 1 from graphile_worker._private_jobs j where j.key = ${`${task}:`} || ${id} and j.attempts < j.max_attempts)
  and not exists (select 1 from graphile_worker._private_jobs j where j.locked_at is not null and j.payload->>'id' = ${id}::text)`;

/** Every kind of work that rows show to be waiting, where no job is on its way to it. */
const WAITING: readonly Waiting[] = [
  {
    task: "measure",
    priority: PRIORITY.measure,
    ids: sql`
      select a.id from assignments a join batch_photos bp on bp.id = a.batch_photo_id join batches b on b.id = bp.batch_id join brief_revisions r on r.id = a.revision_id
      where a.current and bp.deleted_at is null and b.deleted_at is null and a.revision_id = coalesce(bp.revision_id, b.revision_id)
        and (a.trials_asked is not null or (a.measured is null and (a.share is not null or not r.body ? 'total' or r.body ? 'set')))
        and ${noJob("measure", sql`a.id`)}`,
  },
  {
    task: "make",
    priority: PRIORITY.make,
    ids: sql`
      select i.id from run_items i join runs r on r.id = i.run_id
      where i.state = 'waiting' and not exists (select 1 from run_items o where o.run_id = i.run_id and o.assignment_id = i.assignment_id and o.state = 'waiting' and o.part < i.part) and r.finished_at is null and r.paused_at is null and r.deleted_at is null and ${noJob("make", sql`i.id`)}`,
  },
  {
    task: "share",
    priority: PRIORITY.share,
    ids: sql`
      select distinct b.id from batches b join batch_photos bp on bp.batch_id = b.id join brief_revisions r on r.id = coalesce(bp.revision_id, b.revision_id)
        join assignments a on a.batch_photo_id = bp.id and a.current and a.revision_id = r.id
      where b.deleted_at is null and bp.deleted_at is null and r.body ? 'total' and not r.body ? 'set' and a.measured is null and a.share is null and a.trials_asked is null
        and not exists (select 1 from assignments t join batch_photos tp on tp.id = t.batch_photo_id where tp.batch_id = b.id and tp.deleted_at is null and t.current and (t.trials_asked is not null or (t.share is not null and t.measured is null)))
        and ${noJob("share", sql`b.id`)}`,
  },
  {
    task: "thumb",
    priority: PRIORITY.thumb,
    ids: sql`
      select p.id from photos p
      where p.thumb_sha256 is null and not exists (select 1 from deaths d where d.task = 'thumb' and d.subject = p.id::text and d.count >= ${MOST_DEATHS})
        and exists (select 1 from batch_photos bp join batches b on b.id = bp.batch_id where bp.photo_id = p.id and bp.deleted_at is null and b.deleted_at is null and ${noJob("thumbs", sql`b.id`)})
        and ${noJob("thumb", sql`p.id`)}`,
  },
];

/**
 * Work that waits and has no job: its job was given up while the machine was in trouble. Jobs that were given up
 * and that nothing waits for go. How many were added again.
 */
export async function addLostJobs(db: Database): Promise<number> {
  let added = 0;
  for (const { task, ids, priority } of WAITING) {
    const { rows } = await db.execute<{ id: string }>(sql`${ids} limit ${MOST_AGAIN}`);
    await addJobs(
      db,
      task,
      rows.map((row) => row.id),
      priority,
    );
    added += rows.length;
  }
  await db.execute(
    sql`delete from graphile_worker._private_jobs where locked_at is null and attempts >= max_attempts`,
  );
  return added;
}
