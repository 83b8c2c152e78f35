/** How much space is used, what can be freed, and whether rows and bytes agree. */
import { readdir, stat } from "node:fs/promises";
import { setTimeout } from "node:timers/promises";
import { and, eq, inArray, sql } from "drizzle-orm";
import { files } from "../schema";
import type { Executor, Store } from "../store";
import { trimTrials } from "./trials";

/** Files touched later than this are never collected: a job may be about to refer to them. */
const YOUNG = "1 hour";
/** A removed batch can come back for so long. */
export const BATCH_GRACE = "7 days";

/** What came to the counter can be looked at for so long; after that its record stays. */
const ARRIVALS_KEPT = "30 days";

/**
 * Originals and thumbnails of batches that are there, or were removed not long ago, and of runs that still
 * need them.
 */
const neededOriginals = (grace: string) => sql`
  select p.sha256, p.thumb_sha256 from photos p where exists (
    select 1 from batch_photos bp join batches b on b.id = bp.batch_id
    where bp.photo_id = p.id and (b.deleted_at is null or b.deleted_at > now() - ${grace}::interval))`;

/** The SHA-256 of every file that something needs. */
const needed = (grace: string) => sql`
  with kept as materialized (${neededOriginals(grace)})
  select sha256 from kept
  union select thumb_sha256 from kept where thumb_sha256 is not null
  union select i.snapshot->>'sourceSha256' from run_items i where i.state = 'waiting'
  union select t.sha256 from trials t where t.sha256 is not null
  union select i.output_sha256 from run_items i join runs r on r.id = i.run_id where i.output_sha256 is not null and r.files_deleted_at is null and r.deleted_at is null
  union select f->>'sha256' from arrivals a, jsonb_array_elements(a.files) f where a.created_at > now() - ${ARRIVALS_KEPT}::interval
  union select a.message->>'sha256' from arrivals a where a.message->>'sha256' is not null and a.created_at > now() - ${ARRIVALS_KEPT}::interval
  union select a.measured->>'outputSha256' from assignments a where a.measured->>'outputSha256' is not null
  union select f->>'outputSha256' from assignments a, jsonb_array_elements(a.measured->'set') f where a.measured ? 'set'`;

/**
 * Forgets measurements that nobody is going to look at: those of frames no longer in use, and of batches
 * removed long ago.
 */
async function forgetMeasured({ db }: Store, grace: string): Promise<void> {
  await db.execute(sql`
    update assignments a set measured = null, traced = null from batch_photos bp, batches b
    where bp.id = a.batch_photo_id and b.id = bp.batch_id and (a.measured is not null or a.traced is not null) and a.created_at < now() - ${grace}::interval
      and (b.deleted_at < now() - ${grace}::interval
        or (not a.current and not exists (select 1 from comparisons c where c.batch_id = b.id and c.deleted_at is null and c.choices @> jsonb_build_array(a.choice))))`);
}

export interface Collected {
  files: number;
  bytes: number;
}

/** How long what was found unneeded has to stay so before it goes. */
const PAUSE_MS = 1000;

export interface CollectTask {
  /** Removed batches can come back for so long; an interval of PostgreSQL. */
  grace?: string;
  /** Files touched later than so long ago are left. */
  young?: string;
  pauseMs?: number;
}

/**
 * Removes files that nothing needs any more: they are marked, looked at again after a pause, and unlinked once
 * that is committed. Rows that something still refers to stay, and say that their bytes are gone. Nobody who
 * stores or refers to other files waits for it.
 */
export async function collectFiles(store: Store, task: CollectTask = {}): Promise<Collected> {
  const { grace = BATCH_GRACE, young = YOUNG, pauseMs = PAUSE_MS } = task;
  await forgetMeasured(store, grace);
  // Rows that somebody holds are being stored or claimed: nobody waits for them, and they stay.
  const { rows: marked } = await store.db.execute<{ sha256: string }>(sql`
    with needed as materialized (${needed(grace)}),
    due as (select sha256 from files
      where not gone and touched_at < now() - ${young}::interval and sha256 not in (select sha256 from needed where sha256 is not null)
      order by sha256 for update skip locked)
    update files set marked_at = clock_timestamp() from due where files.sha256 = due.sha256
    returning files.sha256`);
  if (!marked.length) return { files: 0, bytes: 0 };
  await setTimeout(pauseMs);
  const out = { files: 0, bytes: 0 };
  for (const part of chunks(marked.map(({ sha256 }) => sha256).sort())) {
    const taken = await takeAway(store, part, grace);
    for (const { sha256, identity, bytes } of taken) {
      await store.files.discard(sha256, identity);
      out.files += 1;
      out.bytes += bytes;
    }
  }
  return out;
}

interface Taken {
  sha256: string;
  bytes: number;
  /** Of the file that lay there then. */
  identity: string | null;
}

/** Rows that are still marked, not touched since, and needed by nothing: they say from now on that nothing lies there. */
function takeAway(store: Store, part: string[], grace: string): Promise<Taken[]> {
  return store.db.transaction(async (tx) => {
    const { rows } = await tx.execute<{ sha256: string; bytes: string }>(sql`
      select sha256, bytes from files
      where sha256 in (${list(part)}) and not gone and marked_at > touched_at and sha256 not in (select sha256 from (${needed(grace)}) n where sha256 is not null)
      order by sha256 for update skip locked`);
    if (!rows.length) return [];
    const names = rows.map(({ sha256 }) => sha256);
    const { rows: referred } = await tx.execute<{ sha256: string }>(sql`
      select sha256 from photos where sha256 in (${list(names)})
      union select thumb_sha256 from photos where thumb_sha256 in (${list(names)})
      union select output_sha256 from run_items where output_sha256 in (${list(names)})`);
    const kept = new Set(referred.map(({ sha256 }) => sha256));
    const taken: Taken[] = [];
    for (const { sha256, bytes } of rows)
      taken.push({ sha256, bytes: Number(bytes), identity: await store.files.identity(sha256) });
    if (kept.size)
      await tx
        .update(files)
        .set({ gone: true, markedAt: null })
        .where(inArray(files.sha256, [...kept]));
    const free = names.filter((name) => !kept.has(name));
    if (free.length) await tx.delete(files).where(inArray(files.sha256, free));
    return taken;
  });
}

const list = (names: readonly string[]) =>
  sql.join(
    names.map((name) => sql`${name}`),
    sql`, `,
  );

const chunks = <T>(list: readonly T[], size = 200): T[][] =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size));

/** Files without a row that are older than so many ms were left behind, not just stored. */
const LEFT_BEHIND_MS = 3_600_000;

/** What the worker does now and then. */
export async function tidy(store: Store): Promise<Collected> {
  await trimTrials(store);
  await removeStrays(store, await checkStore(store, LEFT_BEHIND_MS));
  return collectFiles(store);
}

/**
 * What a person asks for: everything that can be made again goes, and so does what belongs to removed
 * batches.
 */
export async function freeSpace(store: Store): Promise<Collected> {
  await trimTrials(store, 0);
  return collectFiles(store, { grace: "0 seconds", young: "1 minute" });
}

export interface Usage {
  /** Bytes by what they are for; a file that serves several counts once, under the first. */
  originals: number;
  runs: number;
  /** Files that are ready before a run. */
  ready: number;
  trials: number;
  /** Of batches that were removed, and of runs whose files were given up. */
  leftovers: number;
  total: number;
}

export async function usage({ db }: Store): Promise<Usage> {
  const { rows } = await db.execute<{ kind: string; bytes: string }>(sql`
    with kept as materialized (${neededOriginals("0 seconds")}),
    kinds as (
      select f.bytes, case
        when f.sha256 in (select sha256 from kept) or f.sha256 in (select thumb_sha256 from kept where thumb_sha256 is not null) then 'originals'
        when f.sha256 in (select i.output_sha256 from run_items i join runs r on r.id = i.run_id where i.output_sha256 is not null and r.files_deleted_at is null and r.deleted_at is null) then 'runs'
        when f.sha256 in (select a.measured->>'outputSha256' from assignments a where a.current and a.measured->>'outputSha256' is not null) then 'ready'
        when f.sha256 in (select s->>'outputSha256' from assignments a, jsonb_array_elements(a.measured->'set') s where a.current and a.measured ? 'set') then 'ready'
        when f.sha256 in (select t.sha256 from trials t where t.sha256 is not null) then 'trials'
        else 'leftovers' end as kind
      from files f where not f.gone)
    select kind, sum(bytes) as bytes from kinds group by kind`);
  const of = (kind: string) => Number(rows.find((row) => row.kind === kind)?.bytes ?? 0);
  const out = {
    originals: of("originals"),
    runs: of("runs"),
    ready: of("ready"),
    trials: of("trials"),
    leftovers: of("leftovers"),
  };
  return { ...out, total: Object.values(out).reduce((sum, bytes) => sum + bytes, 0) };
}

export interface StoreCheck {
  files: number;
  /** Rows whose bytes are not on disk, or not as many as there should be. */
  missing: { sha256: string; bytes: number; found: number | null }[];
  /** Files on disk that no row names, written a while ago. */
  strays: { sha256: string; bytes: number }[];
}

/** Holds every row against the disk and every file on disk against the rows. */
export async function checkStore(store: Store, young = 60_000): Promise<StoreCheck> {
  const onDisk = new Map<string, { bytes: number; at: number }>();
  for (const { name, path } of await listFiles(store)) {
    const found = await stat(path).catch(() => null);
    if (found) onDisk.set(name, { bytes: found.size, at: found.mtimeMs });
  }
  const rows = await store.db
    .select({ sha256: files.sha256, bytes: files.bytes, gone: files.gone })
    .from(files);
  const doubtful = rows.filter((row) => !row.gone && onDisk.get(row.sha256)?.bytes !== row.bytes);
  const missing = await stillMissing(store, doubtful);
  const named = new Set(rows.filter((row) => !row.gone).map((row) => row.sha256));
  const strays = [...onDisk]
    .filter(([name, { at }]) => !named.has(name) && Math.abs(Date.now() - at) > young)
    .map(([sha256, { bytes }]) => ({ sha256, bytes }));
  return { files: rows.filter((row) => !row.gone).length, missing, strays };
}

/** What came after the disk was listed is there, and what went since is not missing: both are looked at once more. */
async function stillMissing(
  { db, files: disk }: Store,
  rows: readonly { sha256: string; bytes: number }[],
): Promise<StoreCheck["missing"]> {
  const missing: StoreCheck["missing"] = [];
  for (const { sha256, bytes } of rows) {
    const found = (await stat(disk.path(sha256)).catch(() => null))?.size ?? null;
    if (found === bytes) continue;
    const [now] = await db.select({ gone: files.gone }).from(files).where(eq(files.sha256, sha256));
    if (now && !now.gone) missing.push({ sha256, bytes, found });
  }
  return missing;
}

/** Takes strays away: files that a stop in the middle left behind. How many went. */
export async function removeStrays(store: Store, check: StoreCheck): Promise<number> {
  let removed = 0;
  for (const { sha256, bytes } of check.strays)
    removed += await store.db.transaction(async (tx) => {
      if (!(await holdStray(tx, sha256, bytes))) return 0;
      await store.files.discard(sha256, await store.files.identity(sha256));
      await tx.delete(files).where(and(eq(files.sha256, sha256), eq(files.gone, false)));
      return 1;
    });
  return removed;
}

/**
 * Holds the row of bytes that should not be there, so that whoever stores them waits: one made for that where
 * none names them, or the one that says they are gone (a collector ended before it had unlinked them). False
 * where somebody has stored them meanwhile.
 */
async function holdStray(tx: Executor, sha256: string, bytes: number): Promise<boolean> {
  const made = await tx
    .insert(files)
    .values({ sha256, bytes })
    .onConflictDoNothing()
    .returning({ sha256: files.sha256 });
  if (made.length) return true;
  const held = await tx
    .select({ sha256: files.sha256 })
    .from(files)
    .where(and(eq(files.sha256, sha256), files.gone))
    .for("update");
  return held.length > 0;
}

async function listFiles(store: Store): Promise<{ name: string; path: string }[]> {
  const root = store.files.root;
  const folders = (await readdir(root).catch(() => [])).filter((name) => /^[0-9a-f]{2}$/.test(name));
  const lists = await Promise.all(
    folders.map(async (folder) =>
      (await readdir(`${root}/${folder}`)).map((name) => ({ name, path: `${root}/${folder}/${name}` })),
    ),
  );
  return lists.flat().filter(({ name }) => /^[0-9a-f]{64}$/.test(name));
}
