import { and, eq } from "drizzle-orm";
import { checkId, getStore, getWorkspace, RequestError, route } from "@/app/server";
import { overlayPicture } from "@/imaging/planned";
import { readSource } from "@/imaging/source";
import { assignments, batches, batchPhotos, briefRevisions, photos } from "@/store";

/** What is taken as ink, marked on the paled photo. */
export const GET = route(async (_request, { id }) => {
  const { db, files } = getStore();
  const [row] = await db
    .select({ frame: assignments.frame, brief: briefRevisions.body, sha256: photos.sha256 })
    .from(assignments)
    .innerJoin(briefRevisions, eq(briefRevisions.id, assignments.revisionId))
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .innerJoin(photos, eq(photos.id, batchPhotos.photoId))
    .innerJoin(batches, eq(batches.id, batchPhotos.batchId))
    .where(and(eq(assignments.id, checkId(id)), eq(batches.workspaceId, await getWorkspace())));
  if (!row) throw new RequestError(404, "This photo is no longer in the batch.");
  const picture = await overlayPicture(await readSource(await files.read(row.sha256)), row.brief, row.frame);
  return new Response(new Uint8Array(picture), {
    headers: { "content-type": "image/png", "cache-control": "private, max-age=3600" },
  });
});
