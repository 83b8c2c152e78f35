/** Runs that pause because the disk is full go on by themselves once there is space. */
import { statfs } from "node:fs/promises";
import type { Store } from "@/store";
import { announce } from "@/store";
import { pausedFor, resumeRun } from "@/store/queries";
import { DISK_FULL } from "./make";

/** So much has to be free before a run goes on, in bytes. */
export const ROOM = 256 * 1024 * 1024;

/** Bytes that may still be written where the files are. */
export async function freeBytes({ dataDir }: Pick<Store, "dataDir">): Promise<number> {
  const { bavail, bsize } = await statfs(dataDir);
  return bavail * bsize;
}

export async function resumeWhereSpace(
  store: Store,
  free: () => Promise<number> = () => freeBytes(store),
): Promise<void> {
  const paused = await pausedFor(store.db, DISK_FULL);
  if (!paused.length || (await free()) < ROOM) return;
  for (const id of paused) await resumeRun(store.db, id);
  await announce(store.db, null);
}
