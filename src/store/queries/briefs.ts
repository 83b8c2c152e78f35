/** Briefs, their immutable revisions, and the shelf. */
import { and, asc, eq, inArray, isNull, sql } from "drizzle-orm";
import type { Brief } from "@/core/brief";
import { briefRevisions, briefs } from "../schema";
import type { Executor } from "../store";

export interface Revision {
  id: string;
  briefId: string;
  body: Brief;
}

/** A new brief. `shelved` puts it on the shelf; otherwise it lives in a batch only. */
export async function createBrief(
  db: Executor,
  workspaceId: string,
  body: Brief,
  { shipped = false, shelved = true } = {},
): Promise<Revision> {
  // Several kept at once stand in the order in which they were given: now() is the same for a whole
  // transaction.
  const [brief] = await db
    .insert(briefs)
    .values({ workspaceId, shipped, createdAt: sql`clock_timestamp()` })
    .returning({ id: briefs.id });
  const [revision] = await db
    .insert(briefRevisions)
    .values({ briefId: brief.id, number: 1, body })
    .returning();
  if (shelved) await db.update(briefs).set({ shelfRevisionId: revision.id }).where(eq(briefs.id, brief.id));
  return { id: revision.id, briefId: brief.id, body };
}

/** The next revision; two at once cannot take the same number. The shelf stays as it is. */
export async function reviseBrief(db: Executor, briefId: string, body: Brief): Promise<Revision> {
  const next = sql<number>`(select coalesce(max(number), 0) + 1 from brief_revisions where brief_id = ${briefId})`;
  const [revision] = await db.insert(briefRevisions).values({ briefId, number: next, body }).returning();
  return { id: revision.id, briefId, body };
}

export async function getRevision(db: Executor, id: string): Promise<Revision | null> {
  const [row] = await db.select().from(briefRevisions).where(eq(briefRevisions.id, id));
  return row ? { id: row.id, briefId: row.briefId, body: row.body } : null;
}

/** Revisions in the order given, each with whether the shelf offers just this one. */
export async function revisionsWithShelf(
  db: Executor,
  ids: readonly string[],
): Promise<(Revision & { onShelf: boolean })[]> {
  if (!ids.length) return [];
  const rows = await db
    .select({
      id: briefRevisions.id,
      briefId: briefs.id,
      body: briefRevisions.body,
      onShelf: sql<boolean>`${briefs.shelfRevisionId} = ${briefRevisions.id} and ${briefs.deletedAt} is null`,
    })
    .from(briefRevisions)
    .innerJoin(briefs, eq(briefs.id, briefRevisions.briefId))
    .where(inArray(briefRevisions.id, [...ids]));
  return rows
    .map((row) => ({ ...row, onShelf: row.onShelf === true }))
    .sort((a, b) => ids.indexOf(a.id) - ids.indexOf(b.id));
}

export interface Shelved extends Revision {
  shipped: boolean;
}

const onShelf = (workspaceId: string) => and(eq(briefs.workspaceId, workspaceId), isNull(briefs.deletedAt));

/** The shelf, oldest first. */
export async function listBriefs(db: Executor, workspaceId: string): Promise<Shelved[]> {
  return db
    .select({ id: briefRevisions.id, briefId: briefs.id, body: briefRevisions.body, shipped: briefs.shipped })
    .from(briefs)
    .innerJoin(briefRevisions, eq(briefRevisions.id, briefs.shelfRevisionId))
    .where(onShelf(workspaceId))
    .orderBy(asc(briefs.createdAt), asc(briefs.id));
}

/** What the shelf offers of a brief from now on. Null where there is no such brief in the workspace. */
export async function shelve(
  db: Executor,
  workspaceId: string,
  briefId: string,
  body: Brief,
): Promise<Revision | null> {
  const [brief] = await db
    .select({ id: briefs.id })
    .from(briefs)
    .where(and(eq(briefs.id, briefId), onShelf(workspaceId)));
  if (!brief) return null;
  const revision = await reviseBrief(db, briefId, body);
  await db.update(briefs).set({ shelfRevisionId: revision.id }).where(eq(briefs.id, briefId));
  return revision;
}

/** Puts a revision that there is already on the shelf: a brief that was made or changed on the Desk. */
export async function putOnShelf(
  db: Executor,
  workspaceId: string,
  briefId: string,
  revisionId: string,
): Promise<boolean> {
  const [revision] = await db
    .select({ id: briefRevisions.id })
    .from(briefRevisions)
    .where(and(eq(briefRevisions.id, revisionId), eq(briefRevisions.briefId, briefId)));
  if (!revision) return false;
  const rows = await db
    .update(briefs)
    .set({ shelfRevisionId: revisionId, deletedAt: null })
    .where(and(eq(briefs.id, briefId), eq(briefs.workspaceId, workspaceId)))
    .returning({ id: briefs.id });
  return rows.length > 0;
}

/** Takes a brief off the shelf, or puts it back. Batches that use it keep it. False where there is none. */
export async function setShelved(
  db: Executor,
  workspaceId: string,
  briefId: string,
  there: boolean,
): Promise<boolean> {
  const rows = await db
    .update(briefs)
    .set({ deletedAt: there ? null : new Date() })
    .where(and(eq(briefs.id, briefId), eq(briefs.workspaceId, workspaceId)))
    .returning({ id: briefs.id });
  return rows.length > 0;
}
