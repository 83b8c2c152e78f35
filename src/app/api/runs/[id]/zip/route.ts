import { PassThrough, Readable } from "node:stream";
import { ZipFile } from "yazl";
import { attachment, checkId, RequestError, route } from "@/app/server/answer";
import { getStore, getWorkspace } from "@/app/server/store";
import { outputsOf } from "@/store/queries/runs";

/** All finished files of a run, streamed; pictures are packed already, so they are only stored. */
export const GET = route(async (_request, { id }) => {
  const { db, files } = getStore();
  const outputs = await outputsOf(db, await getWorkspace(), { runId: checkId(id) });
  if (!outputs.length) throw new RequestError(404, "This run has no finished files yet.");
  const zip = new ZipFile();
  for (const { sha256, name } of outputs) zip.addFile(files.path(sha256!), name!, { compress: false });
  zip.end();
  const body = Readable.toWeb(zip.outputStream.pipe(new PassThrough())) as ReadableStream<Uint8Array>;
  return new Response(body, { headers: { "content-type": "application/zip", "content-disposition": attachment(`zumbrel-${outputs.length}-files.zip`) } });
});
