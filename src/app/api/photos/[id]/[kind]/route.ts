import { and, eq } from "drizzle-orm";
import { checkId, getStore, getWorkspace, RequestError, route } from "@/app/server";
import { preview } from "@/imaging/shown";
import { photos } from "@/store";

/** Longest side of the larger preview, in px. */
const VIEW_SIDE = 900;

/** `thumb`: the small picture, once it is there. `view`: a larger one, made when it is asked for. */
export const GET = route(async (_request, { id, kind }) => {
  const { db, files } = getStore();
  const [photo] = await db
    .select()
    .from(photos)
    .where(and(eq(photos.id, checkId(id)), eq(photos.workspaceId, await getWorkspace())));
  if (!photo || (kind !== "thumb" && kind !== "view"))
    throw new RequestError(404, "There is no such picture.");
  if (kind === "thumb" && !photo.thumbSha256) throw new RequestError(404, "This picture is not ready yet.");
  const bytes =
    kind === "thumb"
      ? await files.read(photo.thumbSha256!)
      : await preview(await files.read(photo.sha256), VIEW_SIDE);
  return new Response(new Uint8Array(bytes), {
    headers: { "content-type": "image/jpeg", "cache-control": "private, max-age=31536000, immutable" },
  });
});
