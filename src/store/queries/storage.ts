/** How much space is used, what can be freed, and whether rows and bytes agree. */
import { readdir, stat } from "node:fs/promises";
import { inArray, sql } from "drizzle-orm";
import { files } from "../schema";
import type { Store } from "../store";
import { trimTrials } from "./trials";

/** Files younger than this are never collected: a job may be about to refer to them. */
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
  union select a.measured->>'outputSha256' from assignments a where a.measured->>'outputSha256' is not null`;

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

/**
 * Removes files that nothing needs any more. Rows that something still refers to stay, and say that their
 * bytes are gone.
 */
export async function collectFiles(store: Store, grace = BATCH_GRACE, young = YOUNG): Promise<Collected> {
  await forgetMeasured(store, grace);
  return store.db.transaction(async (tx) => {
    // One collector at a time, and none while a row is being written that names a file.
    await tx.execute(sql`select pg_advisory_xact_lock(74201)`);
    await tx.execute(sql`lock table files in share row exclusive mode`);
    const { rows } = await tx.execute<{ sha256: string; bytes: string; referred: boolean }>(sql`
      select f.sha256, f.bytes, (exists (select 1 from photos p where p.sha256 = f.sha256 or p.thumb_sha256 = f.sha256) or exists (select 1 from run_items i where i.output_sha256 = f.sha256)) as referred
      from files f where not f.gone and f.created_at < now() - ${young}::interval and f.sha256 not in (${needed(grace)})`);
    const of = (referred: boolean) =>
      rows.filter((row) => row.referred === referred).map((row) => row.sha256);
    for (const part of chunks(of(true)))
      await tx.update(files).set({ gone: true }).where(inArray(files.sha256, part));
    for (const part of chunks(of(false))) await tx.delete(files).where(inArray(files.sha256, part));
    for (const { sha256 } of rows) await store.files.remove(sha256);
    return { files: rows.length, bytes: rows.reduce((sum, row) => sum + Number(row.bytes), 0) };
  });
}

const chunks = <T>(list: readonly T[], size = 1000): T[][] =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size));

/** What the worker does now and then. */
export async function tidy(store: Store): Promise<Collected> {
  await trimTrials(store);
  return collectFiles(store);
}

/**
 * What a person asks for: everything that can be made again goes, and so does what belongs to removed
 * batches.
 */
export async function freeSpace(store: Store): Promise<Collected> {
  await trimTrials(store, 0);
  return collectFiles(store, "0 seconds", "1 minute");
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
  const missing = rows
    .filter((row) => !row.gone && onDisk.get(row.sha256)?.bytes !== row.bytes)
    .map(({ sha256, bytes }) => ({ sha256, bytes, found: onDisk.get(sha256)?.bytes ?? null }));
  const named = new Set(rows.filter((row) => !row.gone).map((row) => row.sha256));
  const strays = [...onDisk]
    .filter(([name, { at }]) => !named.has(name) && Math.abs(Date.now() - at) > young)
    .map(([sha256, { bytes }]) => ({ sha256, bytes }));
  return { files: rows.filter((row) => !row.gone).length, missing, strays };
}

/** Takes strays away: files that a stop in the middle left behind. */
export async function removeStrays(store: Store, check: StoreCheck): Promise<number> {
  for (const { sha256 } of check.strays) await store.files.remove(sha256);
  return check.strays.length;
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
