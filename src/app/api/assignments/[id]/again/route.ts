import { and, eq } from "drizzle-orm";
import { changeBatch, checkId, getStore, getWorkspace, RequestError, route } from "@/app/server";
import { assignments, batches, batchPhotos } from "@/store";
import { measureAgain } from "@/store/queries";

/** Has a photo worked on again that could not be, for no fault of its own. */
export const POST = route(async (_request, { id }) => {
  const { db } = getStore();
  const [row] = await db
    .select({ batchId: batchPhotos.batchId })
    .from(assignments)
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .where(and(eq(assignments.id, checkId(id)), eq(batches.workspaceId, await getWorkspace())));
  if (!row) throw new RequestError(404, "This photo is no longer there. Choose another on the Desk.");
  if (!(await changeBatch(row.batchId, (tx) => measureAgain(tx, id))))
    throw new RequestError(409, "Nothing has failed here that trying again could mend.");
});
