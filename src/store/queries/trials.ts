/** The cache of trials: sizes stay in the database, bytes on disk up to a cap. */
import { and, asc, eq, isNotNull } from "drizzle-orm";
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
    async keep(key: string, setting: Setting, encoded: Uint8Array, ms: number) {
      const { sha256, bytes } = await keepBytes(store, encoded);
      await db
        .insert(trials)
        .values({ pictureKey: key, settingKey: settingKey(setting), setting, bytes, sha256, ms })
        .onConflictDoUpdate({
          target: [trials.pictureKey, trials.settingKey],
          set: { sha256, bytes, ms, usedAt: new Date() },
        });
    },
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
