/** The batch a route is about, and edits of it. */
import { sql } from "drizzle-orm";
import type { Executor } from "@/store";
import { announce } from "@/store";
import { type BatchRow, followComparison, getBatch } from "@/store/queries";
import { checkId, RequestError } from "./answer";
import { getStore, getWorkspace } from "./store";

export async function requireBatch(id: string): Promise<BatchRow> {
  const batch = await getBatch(getStore().db, await getWorkspace(), checkId(id));
  if (!batch) throw new RequestError(404, "This batch is no longer there. Choose another on the left.");
  return batch;
}

/** Runs a change in one transaction, one at a time for a batch, and tells the open pages. */
export async function changeBatch<T>(
  id: string,
  change: (tx: Executor, batch: BatchRow) => Promise<T>,
): Promise<T> {
  const { db } = getStore();
  await requireBatch(id);
  const workspaceId = await getWorkspace();
  return db.transaction(async (tx) => {
    await tx.execute(sql`select 1 from batches where id = ${id} for update`);
    const batch = await getBatch(tx, workspaceId, id);
    if (!batch) throw new RequestError(404, "This batch is no longer there. Choose another on the left.");
    const result = await change(tx, batch);
    await followComparison(tx, id);
    await announce(tx, id);
    return result;
  });
}
