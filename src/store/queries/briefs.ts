/** Briefs and their immutable revisions. */
import { and, asc, desc, eq, isNull, sql } from "drizzle-orm";
import type { Brief } from "@/core/brief";
import { briefRevisions, briefs } from "../schema";
import type { Executor } from "../store";

export interface Revision {
  id: string;
  briefId: string;
  body: Brief;
}

export async function createBrief(db: Executor, workspaceId: string, body: Brief, shipped = false): Promise<Revision> {
  const [brief] = await db.insert(briefs).values({ workspaceId, shipped }).returning({ id: briefs.id });
  const [revision] = await db.insert(briefRevisions).values({ briefId: brief.id, number: 1, body }).returning();
  return { id: revision.id, briefId: brief.id, body };
}

/** The next revision; two at once cannot take the same number. */
export async function reviseBrief(db: Executor, briefId: string, body: Brief): Promise<Revision> {
  const next = sql<number>`(select coalesce(max(number), 0) + 1 from brief_revisions where brief_id = ${briefId})`;
  const [revision] = await db.insert(briefRevisions).values({ briefId, number: next, body }).returning();
  return { id: revision.id, briefId, body };
}

export async function getRevision(db: Executor, id: string): Promise<Revision | null> {
  const [row] = await db.select().from(briefRevisions).where(eq(briefRevisions.id, id));
  return row ? { id: row.id, briefId: row.briefId, body: row.body } : null;
}

/** The first revision of each brief that ships with Zumbrel is what "another brief" offers; of own ones the newest. */
export async function listBriefs(db: Executor, workspaceId: string): Promise<Revision[]> {
  const rows = await db
    .select({ id: briefRevisions.id, briefId: briefs.id, body: briefRevisions.body, shipped: briefs.shipped, number: briefRevisions.number })
    .from(briefs)
    .innerJoin(briefRevisions, eq(briefRevisions.briefId, briefs.id))
    .where(and(eq(briefs.workspaceId, workspaceId), isNull(briefs.deletedAt)))
    .orderBy(asc(briefs.createdAt), desc(briefRevisions.number));
  const out = new Map<string, Revision>();
  for (const row of rows) if (row.shipped ? row.number === 1 : !out.has(row.briefId)) out.set(row.briefId, row);
  return [...out.values()];
}
