/** The cache of trials: sizes stay in the database, bytes on disk up to a cap. */
import { and, asc, eq, isNotNull, sql } from "drizzle-orm";
import { type Setting, settingKey } from "@/core/coding";
import type { Shift } from "@/core/difference";
import type { Rect } from "@/core/photo";
import { plannedPictures, trials } from "../schema";
import type { Store } from "../store";
import { keepBytes } from "./files";

/** Bytes of trials that are kept on disk. */
const CAP = 2 * 1024 ** 3;
interface Judgement {
  difference: number;
  worst: Rect | null;
  shift: Shift;
}

const here = (picture: string, setting: string) =>
  and(eq(trials.pictureKey, picture), eq(trials.settingKey, setting));
const seen = { difference: trials.difference, worst: trials.worst, shift: trials.shift };
const judgedOf = ({
  difference,
  worst,
  shift,
}: {
  difference: number | null;
  worst: Rect | null;
  shift: Shift | null;
}): Judgement | null => (difference === null || !shift ? null : { difference, worst, shift });

type Look = Omit<typeof plannedPictures.$inferSelect, "key" | "createdAt">;

/** A trial that was made, and what was seen of it. */
export interface HeldTrial {
  pictureKey: string;
  setting: Setting;
  encoded: Uint8Array;
  /** How long the encode took. */
  ms: number;
  judged: Judgement | null;
}

/** Writes down several trials, and the looks of their pictures, at once. */
export async function keepTrials(
  store: Store,
  { looks, trials: made }: { looks: readonly [string, Look][]; trials: readonly HeldTrial[] },
): Promise<void> {
  if (!looks.length && !made.length) return;
  const kept = await Promise.all(made.map(({ encoded }) => keepBytes(store, encoded)));
  const rows = made.map(({ pictureKey, setting, ms, judged }, i) => ({
    pictureKey,
    settingKey: settingKey(setting),
    setting,
    ...kept[i],
    ms,
    ...judged,
  }));
  // All who write several write them in one order, so that none waits for one that waits for it.
  rows.sort((a, b) => (`${a.pictureKey} ${a.settingKey}` < `${b.pictureKey} ${b.settingKey}` ? -1 : 1));
  const planned = looks.map(([key, look]) => ({ key, ...look })).sort((a, b) => (a.key < b.key ? -1 : 1));
  await store.db.transaction(async (tx) => {
    if (planned.length) await tx.insert(plannedPictures).values(planned).onConflictDoNothing();
    if (rows.length)
      await tx
        .insert(trials)
        .values(rows)
        .onConflictDoUpdate({ target: [trials.pictureKey, trials.settingKey], set: fresh });
  });
}

const fresh = {
  sha256: sql`excluded.sha256`,
  bytes: sql`excluded.bytes`,
  ms: sql`excluded.ms`,
  difference: sql`coalesce(excluded.difference, ${trials.difference})`,
  worst: sql`coalesce(excluded.worst, ${trials.worst})`,
  shift: sql`coalesce(excluded.shift, ${trials.shift})`,
  usedAt: sql`clock_timestamp()`,
};

export function trialStore(store: Store) {
  const { db, files: disk } = store;
  return {
    async look(key: string): Promise<Look | null> {
      const { flat, kernel, conversion, dotScreen } = plannedPictures;
      const [row] = await db
        .select({ flat, kernel, conversion, dotScreen })
        .from(plannedPictures)
        .where(eq(plannedPictures.key, key));
      return row ?? null;
    },
    async keepLook(key: string, look: Look) {
      await db
        .insert(plannedPictures)
        .values({ key, ...look })
        .onConflictDoNothing();
    },
    async find(key: string, setting: string) {
      const [row] = await db
        .update(trials)
        .set({ usedAt: new Date() })
        .where(here(key, setting))
        .returning({ bytes: trials.bytes, ...seen });
      return row ? { bytes: row.bytes, judged: judgedOf(row) } : null;
    },
    async read(key: string, setting: string) {
      const [row] = await db
        .select({ sha256: trials.sha256 })
        .from(trials)
        .where(and(here(key, setting), isNotNull(trials.sha256)));
      return row?.sha256 ? disk.read(row.sha256).catch(() => null) : null;
    },
    keep: (pictureKey: string, setting: Setting, encoded: Uint8Array, ms: number) =>
      keepTrials(store, { looks: [], trials: [{ pictureKey, setting, encoded, ms, judged: null }] }),
    async judge(key: string, setting: string, { difference, worst, shift }: Judgement) {
      await db.update(trials).set({ difference, worst, shift }).where(here(key, setting));
    },
  };
}

/**
 * Gives up the bytes of the trials used longest ago until the cap is kept; the collector then finds their
 * files unused. Bytes given up.
 */
export async function trimTrials({ db }: Store, cap = CAP): Promise<number> {
  const rows = await db
    .select({ key: trials.pictureKey, setting: trials.settingKey, bytes: trials.bytes })
    .from(trials)
    .where(isNotNull(trials.sha256))
    .orderBy(asc(trials.usedAt));
  const all = rows.reduce((sum, row) => sum + row.bytes, 0);
  let kept = all;
  for (const row of rows) {
    if (kept <= cap) break;
    await db.update(trials).set({ sha256: null }).where(here(row.key, row.setting));
    kept -= row.bytes;
  }
  return all - kept;
}
