import { checkId, getStore, getWorkspace, RequestError, route } from "@/app/server";
import { announce } from "@/store";
import { restoreBatch } from "@/store/queries";

/** Brings a removed batch back. */
export const POST = route(async (_request, { id }) => {
  const { db } = getStore();
  const workspaceId = await getWorkspace();
  if (!(await db.transaction((tx) => restoreBatch(tx, workspaceId, checkId(id)))))
    throw new RequestError(404, "This batch is gone for good: its grace time is over.");
  await announce(db, null);
});
