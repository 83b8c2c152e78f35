/**
 * Stored bytes and their rows. Bytes come first under a transaction that holds their row, then whatever refers
 * to them claims the row, and only what nothing has needed for a while is collected: at every point where a
 * process can end, a row has its bytes, and bytes without a row are strays that are found.
 */
import { and, eq, inArray, sql } from "drizzle-orm";
import type { Received, Stored } from "../file-store";
import { files } from "../schema";
import type { Executor, Store } from "../store";

/** Bytes that were just stored. */
export interface Kept extends Stored {
  /** Their row was made by this; null where it was there before. */
  made: string | null;
}

/** Stores bytes, and says so in a row that is not collected within the hour. */
export async function keepFile(
  store: Pick<Store, "db" | "files">,
  stream: Iterable<Uint8Array> | AsyncIterable<Uint8Array>,
  limit = Infinity,
): Promise<Kept> {
  return keepReceived(store, await store.files.receive(stream, limit));
}

/** The same for bytes that are on disk already and were hashed elsewhere; they are taken away where this fails. */
export async function keepReceived(store: Pick<Store, "db" | "files">, received: Received): Promise<Kept> {
  const { sha256, bytes } = received;
  try {
    const made = await store.db.transaction(async (tx) => {
      // The row is held until the bytes lie there: a collector that has it goes first, or sees it touched.
      const [row] = await tx
        .insert(files)
        .values({ sha256, bytes })
        .onConflictDoUpdate({
          target: files.sha256,
          set: { gone: false, touchedAt: sql`clock_timestamp()`, markedAt: null },
        })
        .returning({ fresh: sql<boolean>`xmax = 0`, at: sql<string>`${files.touchedAt}::text` });
      await store.files.place(received);
      return row.fresh ? row.at : null;
    });
    return { sha256, bytes, made };
  } catch (error) {
    await store.files.drop(received);
    throw error;
  }
}

export const keepBytes = (store: Pick<Store, "db" | "files">, bytes: Uint8Array): Promise<Kept> =>
  keepFile(store, [bytes]);

/** Takes bytes away again that this process has just stored, where nobody else has asked for them since. */
export async function releaseFile(store: Store, { sha256, made }: Kept): Promise<void> {
  if (made === null) return;
  const seen = await store.db.transaction(async (tx) => {
    const [row] = await tx
      .select({ at: sql<string>`${files.touchedAt}::text` })
      .from(files)
      .where(eq(files.sha256, sha256))
      .for("update");
    if (row?.at !== made) return null;
    const identity = await store.files.identity(sha256);
    await tx.delete(files).where(eq(files.sha256, sha256));
    return identity;
  });
  if (seen !== null) await store.files.discard(sha256, seen);
}

/** Bytes that somebody wants to refer to are not there any more. */
export class FileGoneError extends Error {
  constructor() {
    super("Its file was given up to free space meanwhile. Bring it in again.");
    this.name = "FileGoneError";
  }
}

/** Within the change that refers to files: they stay. Throws a {@link FileGoneError} where one is not there. */
export async function claimFiles(db: Executor, names: readonly string[]): Promise<void> {
  const wanted = [...new Set(names)].sort();
  if (!wanted.length) return;
  // All who take several rows take them in this order, so that none waits for one that waits for it.
  if (wanted.length > 1)
    await db
      .select({ gone: files.gone })
      .from(files)
      .where(inArray(files.sha256, wanted))
      .orderBy(files.sha256)
      .for("update");
  const claimed = await db
    .update(files)
    .set({ touchedAt: sql`clock_timestamp()`, markedAt: null })
    .where(and(inArray(files.sha256, wanted), eq(files.gone, false)))
    .returning({ sha256: files.sha256 });
  if (claimed.length < wanted.length) throw new FileGoneError();
}
