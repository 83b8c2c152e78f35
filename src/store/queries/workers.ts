/** Which background workers are alive, and what dead ones have left locked in the queue. */
import { eq, inArray, sql } from "drizzle-orm";
import { addJobs, PRIORITY } from "../queue";
import { workers } from "../schema";
import type { Database } from "../store";

export async function beat(db: Database, instance: string, ids: readonly string[]): Promise<void> {
  for (const id of ids)
    await db
      .insert(workers)
      .values({ id, instance })
      .onConflictDoUpdate({ target: workers.id, set: { beat: sql`${workers.beat} + 1` } });
}

export async function signOff(db: Database, ids: readonly string[]): Promise<void> {
  if (ids.length) await db.delete(workers).where(inArray(workers.id, [...ids]));
}

async function unlock(db: Database, ids: readonly string[]): Promise<void> {
  if (!ids.length) return;
  await db.execute(
    sql`select graphile_worker.force_unlock_workers(array(select jsonb_array_elements_text(${JSON.stringify(ids)}::jsonb)))`,
  );
  await db.delete(workers).where(inArray(workers.id, [...ids]));
}

/**
 * The workers of an installation that is about to start its own: none of them lives any more. Their jobs are
 * free at once.
 */
export async function buryInstance(db: Database, instance: string): Promise<void> {
  const rows = await db.select({ id: workers.id }).from(workers).where(eq(workers.instance, instance));
  await unlock(
    db,
    rows.map((row) => row.id),
  );
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
    await unlock(this.db, dead);
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

/**
 * Photos that wait for a measurement, or for a trial that a limit on the whole asks for, and have no job:
 * theirs was
 * given up after several tries, as on a full disk. How many were added again.
 */
export async function addLostJobs(db: Database): Promise<number> {
  const { rows } = await db.execute<{ id: string }>(sql`
    select a.id from assignments a join batch_photos bp on bp.id = a.batch_photo_id join batches b on b.id = bp.batch_id join brief_revisions r on r.id = a.revision_id
    where a.current and bp.deleted_at is null and b.deleted_at is null and a.revision_id = coalesce(bp.revision_id, b.revision_id)
      and (a.trials_asked is not null or (a.measured is null and (a.share is not null or not r.body ? 'total')))
      and not exists (select 1 from graphile_worker._private_jobs j where j.key = 'measure:' || a.id and j.attempts < j.max_attempts)
      and not exists (select 1 from graphile_worker._private_jobs j where j.locked_at is not null and j.payload->>'id' = a.id::text)
    limit ${MOST_AGAIN}`);
  await addJobs(
    db,
    "measure",
    rows.map((row) => row.id),
    PRIORITY.measure,
  );
  return rows.length;
}
