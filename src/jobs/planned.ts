/**
 * Planned pictures that are kept between the steps of sharing a limit: one place for all workers of a
 * machine.
 */
import { join } from "node:path";
import { PlannedCache } from "@/imaging/planned";
import type { Store } from "@/store";

/** Bytes that stay on disk. */
const CAP = 3 * 1024 ** 3;

const caches = new Map<string, PlannedCache>();

export function plannedPictures({ dataDir }: Pick<Store, "dataDir">): PlannedCache {
  let cache = caches.get(dataDir);
  if (!cache) caches.set(dataDir, (cache = new PlannedCache(join(dataDir, "planned"), CAP)));
  return cache;
}
