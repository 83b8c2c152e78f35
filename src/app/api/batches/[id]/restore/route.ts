import { checkId, RequestError, route } from "@/app/server/answer";
import { getStore, getWorkspace } from "@/app/server/store";
import { restoreBatch } from "@/store/queries/batches";
import { announce } from "@/store/queue";

/** Brings a removed batch back. */
export const POST = route(async (_request, { id }) => {
  const { db } = getStore();
  const workspaceId = await getWorkspace();
  if (!(await db.transaction((tx) => restoreBatch(tx, workspaceId, checkId(id)))))
    throw new RequestError(404, "This batch is gone for good: its grace time is over.");
  await announce(db, null);
});
