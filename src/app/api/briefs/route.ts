import * as z from "zod";
import { parseBrief } from "@/core/brief";
import { createBrief, listBriefs } from "@/store/queries";
import type { ShelfBrief } from "@/ui/api";
import { getStore, getWorkspace, readBody, route } from "../../server";

/** The shelf. */
export const GET = route(async (): Promise<{ briefs: ShelfBrief[] }> => {
  const rows = await listBriefs(getStore().db, await getWorkspace());
  return {
    briefs: rows.map((row) => ({
      id: row.briefId,
      revisionId: row.id,
      body: row.body,
      shipped: row.shipped,
    })),
  };
});

const body = z.strictObject({ briefs: z.array(z.unknown()).min(1).max(20) });

/** Puts new briefs on the shelf: all of them, or none where one is wrong. */
export const POST = route(async (request) => {
  const briefs = (await readBody(request, body)).briefs.map(parseBrief);
  const workspaceId = await getWorkspace();
  const ids = await getStore().db.transaction(async (tx) => {
    const made: string[] = [];
    for (const brief of briefs) made.push((await createBrief(tx, workspaceId, brief)).briefId);
    return made;
  });
  return { ids };
});
