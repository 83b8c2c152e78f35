import { eq } from "drizzle-orm";
import { z } from "zod";
import { route, RequestError } from "@/app/server/answer";
import { changeBatch, requireBatch } from "@/app/server/batch";
import { getStore } from "@/app/server/store";
import { readSource } from "@/imaging/facts";
import { addPhoto } from "@/store/queries/batches";
import { files } from "@/store/schema";

/** The largest photo that is taken, in bytes. */
const LIMIT = 512 * 1024 * 1024;

/** One photo as the body of the request, its name in the query: streamed to disk, then looked at. */
export const POST = route(async (request, { id }) => {
  await requireBatch(id);
  const { db, files: disk } = getStore();
  const query = new URL(request.url).searchParams;
  const name = shownName(query.get("name") ?? "");
  const position = z.coerce.number().min(0).max(1e15).catch(Date.now()).parse(query.get("at") ?? undefined);
  if (!request.body) throw new RequestError(422, "The file is empty (0 bytes). Bring in the photo once more.");
  const stored = await disk.putStream(pieces(request.body), LIMIT);
  try {
    const { facts } = await readSource(await disk.read(stored.sha256));
    const added = await changeBatch(id, (tx, batch) => addPhoto(tx, batch, { name, position, ...stored, facts }));
    return { ...added, name };
  } catch (error) {
    const known = await db.select({ sha: files.sha256 }).from(files).where(eq(files.sha256, stored.sha256));
    if (!known.length) await disk.remove(stored.sha256);
    throw error;
  }
});

async function* pieces(body: ReadableStream<Uint8Array>): AsyncGenerator<Uint8Array> {
  const reader = body.getReader();
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    yield value;
  }
}

/** The name as it is shown: the last part of a path, without control characters, not endlessly long. */
function shownName(name: string): string {
  const last = name.split(/[\\/]/).pop() ?? "";
  return last.replace(/[\u0000-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069]/g, "").trim().slice(-255) || "photo";
}
