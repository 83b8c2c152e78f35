/** The cache of trials: sizes stay in the database, bytes on disk up to a cap. */
import { and, asc, eq, inArray, isNotNull, sql } from "drizzle-orm";
import type { Shift } from "@/core/difference";
import type { Rect } from "@/core/frame";
import { settingKey, type Setting } from "@/core/search";
import { files, plannedPictures, trials } from "../schema";
import type { Store } from "../store";

/** Bytes of trials that are kept on disk. */
const CAP = 2 * 1024 ** 3;
/** Files younger than this are never collected: a job may be about to refer to them. */
const GRACE = "1 hour";

interface Judgement {
  difference: number;
  worst: Rect | null;
  shift: Shift;
}

const seen = { difference: trials.difference, worst: trials.worst, shift: trials.shift };
const judgedOf = ({ difference, worst, shift }: { difference: number | null; worst: Rect | null; shift: Shift | null }): Judgement | null => (difference === null || !shift ? null : { difference, worst, shift });

type Look = Omit<typeof plannedPictures.$inferSelect, "key" | "createdAt">;

export function trialStore({ db, files: disk }: Store) {
  const here = (picture: string, setting: string) => and(eq(trials.pictureKey, picture), eq(trials.settingKey, setting));
  return {
    async look(key: string): Promise<Look | null> {
      const { flat, kernel, conversion, screen } = plannedPictures;
      const [row] = await db.select({ flat, kernel, conversion, screen }).from(plannedPictures).where(eq(plannedPictures.key, key));
      return row ?? null;
    },
    async keepLook(key: string, look: Look) {
      await db.insert(plannedPictures).values({ key, ...look }).onConflictDoNothing();
    },
    async find(key: string, setting: string) {
      const [row] = await db.update(trials).set({ usedAt: new Date() }).where(here(key, setting)).returning({ bytes: trials.bytes, ...seen });
      return row ? { bytes: row.bytes, judged: judgedOf(row) } : null;
    },
    async read(key: string, setting: string) {
      const [row] = await db.select({ sha256: trials.sha256 }).from(trials).where(and(here(key, setting), isNotNull(trials.sha256)));
      return row?.sha256 ? disk.read(row.sha256).catch(() => null) : null;
    },
    async keep(key: string, setting: Setting, encoded: Uint8Array, ms: number) {
      const { sha256, bytes } = await disk.put(encoded);
      await db.insert(files).values({ sha256, bytes }).onConflictDoNothing();
      await db
        .insert(trials)
        .values({ pictureKey: key, settingKey: settingKey(setting), setting, bytes, sha256, ms })
        .onConflictDoUpdate({ target: [trials.pictureKey, trials.settingKey], set: { sha256, bytes, ms, usedAt: new Date() } });
    },
    async judge(key: string, setting: string, { difference, worst, shift }: Judgement) {
      await db.update(trials).set({ difference, worst, shift }).where(here(key, setting));
    },
  };
}

/** Gives up the bytes of the trials used longest ago until the cap is kept, then removes files that no row needs. */
export async function trimTrials(store: Store, cap = CAP, grace = GRACE): Promise<number> {
  const { db, files: disk } = store;
  const rows = await db.select({ key: trials.pictureKey, setting: trials.settingKey, bytes: trials.bytes }).from(trials).where(isNotNull(trials.sha256)).orderBy(asc(trials.usedAt));
  let kept = rows.reduce((sum, row) => sum + row.bytes, 0);
  for (const row of rows) {
    if (kept <= cap) break;
    await db.update(trials).set({ sha256: null }).where(and(eq(trials.pictureKey, row.key), eq(trials.settingKey, row.setting)));
    kept -= row.bytes;
  }
  return db.transaction(async (tx) => {
    // One collector at a time, and none while a row is being written that names a file.
    await tx.execute(sql`select pg_advisory_xact_lock(74201)`);
    await tx.execute(sql`lock table files in share row exclusive mode`);
    const unused = await tx.execute<{ sha256: string }>(sql`
      select sha256 from files f where f.created_at < now() - ${grace}::interval
        and not exists (select 1 from photos p where p.sha256 = f.sha256 or p.thumb_sha256 = f.sha256)
        and not exists (select 1 from trials t where t.sha256 = f.sha256)
        and not exists (select 1 from run_items i where i.output_sha256 = f.sha256)
        and not exists (select 1 from assignments a where a.measured->>'outputSha256' = f.sha256)`);
    const shas = unused.rows.map((row) => row.sha256);
    if (shas.length) await tx.delete(files).where(inArray(files.sha256, shas));
    for (const sha256 of shas) await disk.remove(sha256);
    return shas.length;
  });
}
