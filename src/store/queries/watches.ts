/** Watched folders. */
import { and, asc, eq, isNull, sql } from "drizzle-orm";
import type { Brief } from "@/core/brief";
import { watches } from "../schema";
import type { Executor } from "../store";

export type WatchRow = typeof watches.$inferSelect;

export async function addWatch(
  db: Executor,
  workspaceId: string,
  watch: { folder: string; out: string; brief: Brief },
): Promise<string> {
  const [{ id }] = await db
    .insert(watches)
    .values({ workspaceId, ...watch })
    .returning({ id: watches.id });
  return id;
}

/** Those that are not stopped, in the order in which they were begun; of all workspaces where none is said. */
export const listWatches = (db: Executor, workspaceId?: string): Promise<WatchRow[]> =>
  db
    .select()
    .from(watches)
    .where(and(isNull(watches.stoppedAt), workspaceId ? eq(watches.workspaceId, workspaceId) : undefined))
    .orderBy(asc(watches.createdAt), asc(watches.id));

/** False where there is none of that id, or it was stopped already. */
export async function stopWatch(db: Executor, workspaceId: string, id: string): Promise<boolean> {
  const stopped = await db
    .update(watches)
    .set({ stoppedAt: sql`now()` })
    .where(and(eq(watches.id, id), eq(watches.workspaceId, workspaceId), isNull(watches.stoppedAt)))
    .returning({ id: watches.id });
  return stopped.length > 0;
}

/** One more file that is ready, or one more photo that waits for a person. */
export const countWatched = (db: Executor, id: string, what: "ready" | "needsYou", said: string) =>
  db
    .update(watches)
    .set({ [what]: sql`${watches[what]} + 1`, said, problem: null })
    .where(eq(watches.id, id));

/** What a watch says of itself: why it does not run, or null and that it does. */
export const tellWatch = (db: Executor, id: string, told: { said?: string; problem: string | null }) =>
  db.update(watches).set(told).where(eq(watches.id, id));
