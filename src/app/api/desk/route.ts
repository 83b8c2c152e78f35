import { sql } from "drizzle-orm";
import { listBatches, listBriefs } from "@/store/queries";
import type { DeskView } from "@/ui/api";
import { getStore, getWorkspace, route } from "../../server";

export const GET = route(async (): Promise<DeskView> => {
  const { db } = getStore();
  const workspaceId = await getWorkspace();
  const [batches, briefs] = await Promise.all([listBatches(db, workspaceId), listBriefs(db, workspaceId)]);
  const coming = await db.execute(
    sql`select 1 from graphile_worker.jobs where task_identifier = 'demo' and attempts < max_attempts`,
  );
  return {
    batches,
    briefs: briefs.map((brief) => ({ revisionId: brief.id, briefId: brief.briefId, name: brief.body.name })),
    demoComing: coming.rows.length > 0,
  };
});
