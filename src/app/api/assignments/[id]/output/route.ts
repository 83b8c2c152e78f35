import { and, eq } from "drizzle-orm";
import { checkId, forScreen, getStore, getWorkspace, RequestError, route } from "@/app/server";
import { assignments, batches, batchPhotos } from "@/store";

/** The measured file of an assignment, to be looked at. */
export const GET = route(async (_request, { id }) => {
  const { db, files } = getStore();
  const [row] = await db
    .select({ measured: assignments.measured })
    .from(assignments)
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .where(and(eq(assignments.id, checkId(id)), eq(batches.workspaceId, await getWorkspace())));
  const { outputSha256 } = row?.measured ?? {};
  if (!outputSha256 || !(await files.has(outputSha256)))
    throw new RequestError(404, "This file is not there. Make it with the button below.");
  return forScreen(await files.read(outputSha256), {
    "cache-control": "private, max-age=31536000, immutable",
  });
});
