/** The batch a route is about, and edits of it. */
import type { Executor } from "@/store";
import { announce } from "@/store";
import { type BatchRow, followComparison, getBatch, holdBatch } from "@/store/queries";
import { checkId, RequestError } from "./answer";
import { getStore, getWorkspace } from "./store";

const there = (batch: BatchRow | null): BatchRow => {
  if (!batch) throw new RequestError(404, "This batch is no longer there. Choose another on the left.");
  return batch;
};

export const requireBatch = async (id: string): Promise<BatchRow> =>
  there(await getBatch(getStore().db, await getWorkspace(), checkId(id)));

/** Runs a change in one transaction, one at a time for a batch, and tells the open pages. */
export async function changeBatch<T>(
  id: string,
  change: (tx: Executor, batch: BatchRow) => Promise<T>,
): Promise<T> {
  const workspaceId = await getWorkspace();
  return getStore().db.transaction(async (tx) => {
    const result = await change(tx, there(await holdBatch(tx, workspaceId, checkId(id))));
    await followComparison(tx, id);
    await announce(tx, id);
    return result;
  });
}
