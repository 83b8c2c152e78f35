/** Pixels that are kept from one step of work to the next: one place for all processes of a machine. */
import { createHash } from "node:crypto";
import { join } from "node:path";
import { PixelCache } from "@/imaging/planned";
import type { Store } from "@/store";

/** Bytes that stay on disk. */
const CAP = 3 * 1024 ** 3;

const caches = new Map<string, PixelCache>();

export function keptPixels({ dataDir }: Pick<Store, "dataDir">): PixelCache {
  let cache = caches.get(dataDir);
  if (!cache) caches.set(dataDir, (cache = new PixelCache(join(dataDir, "planned"), CAP)));
  return cache;
}

/**
 * The name under which a trial that was made behind a click lies decoded until the server shows it: it need not
 * decode it as well.
 */
export const shownKey = (pictureKey: string, setting: string): string =>
  `shown-${createHash("sha256").update(`${pictureKey} ${setting}`).digest("hex")}`;
