import { Readable } from "node:stream";
import { attachment, checkId, forScreen, getStore, getWorkspace, RequestError, route } from "@/app/server";
import { outputsOf } from "@/store/queries";

/** One finished file, under its name; `?look=1` as a picture that every browser shows. */
export const GET = route(async (request, { id }) => {
  const { db, files } = getStore();
  const [file] = await outputsOf(db, await getWorkspace(), { itemIds: [checkId(id)] });
  if (!file)
    throw new RequestError(404, "This file is not made yet, or was given up. Make it again on the Desk.");
  if (new URL(request.url).searchParams.get("look"))
    return forScreen(await files.read(file.sha256), {
      "cache-control": "private, max-age=31536000, immutable",
    });
  const body = Readable.toWeb(files.stream(file.sha256)) as ReadableStream<Uint8Array>;
  return new Response(body, {
    headers: {
      "content-type": file.format === "pdf" ? "application/pdf" : `image/${file.format}`,
      "content-length": String(file.bytes),
      "content-disposition": attachment(file.name.split("/").pop()!),
    },
  });
});
