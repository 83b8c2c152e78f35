/** Brings photos into a batch: a file, or every picture of a ZIP. */
import { unlink } from "node:fs/promises";
import type { Readable } from "node:stream";
import * as z from "zod";
import { safeFolder } from "@/core/plan/names";
import { unzip } from "@/delivery";
import { factsAside } from "@/imaging";
import { addPhoto, keepReceived, releaseFile } from "@/store/queries";
import type { BroughtIn } from "@/ui/api";
import { RequestError, wordsOf } from "./answer";
import { changeBatch, requireBatch } from "./batch";
import { getStore } from "./store";

/** The largest photo that is taken, in bytes, and the largest package. */
const LIMIT = 512 * 1024 * 1024;
const ZIP_LIMIT = 16 * 1024 ** 3;
/** Refused entries that are named. */
const MOST_NAMED = 200;

/** `query`: the file's name, the folder it lay in, and its place among others (at). */
export async function bring(
  batchId: string,
  query: URLSearchParams,
  stream: AsyncIterable<Uint8Array>,
): Promise<BroughtIn> {
  await requireBatch(batchId);
  const name = shownName(query.get("name") ?? "");
  const folder = safeFolder(query.get("folder") ?? "");
  const position = z.coerce
    .number()
    .min(0)
    .max(1e15)
    .catch(Date.now())
    .parse(query.get("at") ?? undefined);
  if (/[.]zip$/i.test(name)) return bringPackage(batchId, stream, folder, position);
  const { here, batchPhotoId } = await bringPhoto(batchId, stream, { name, folder, position });
  return { added: here ? 0 : 1, known: here ? 1 : 0, rows: [batchPhotoId], refused: [], refusedCount: 0 };
}

interface Place {
  name: string;
  folder: string;
  position: number;
}

/** `here`: the batch had it already. */
async function bringPhoto(
  batchId: string,
  stream: AsyncIterable<Uint8Array>,
  place: Place,
): Promise<{ here: boolean; batchPhotoId: string }> {
  const store = getStore();
  const { files } = store;
  const written = await files.temporary(stream, LIMIT);
  const { bytes } = written;
  // Looked at before it is kept: nothing has to be taken back where it is no photo.
  const { facts, sha256 } = await factsAside(written.path).catch(async (error: unknown) => {
    await files.drop(written);
    throw error;
  });
  const kept = await keepReceived(store, { ...written, sha256 });
  try {
    return await changeBatch(batchId, (tx, batch) => addPhoto(tx, batch, { ...place, sha256, bytes, facts }));
  } catch (error) {
    await releaseFile(store, kept).catch(() => undefined);
    throw error;
  }
}

async function bringPackage(
  batchId: string,
  stream: AsyncIterable<Uint8Array>,
  folder: string,
  position: number,
): Promise<BroughtIn> {
  const { path } = await getStore().files.passing(stream, ZIP_LIMIT);
  const counts = { added: 0, known: 0 };
  const rows: string[] = [];
  try {
    let n = 0;
    const take = async (file: { name: string; folder: string; stream: Readable }) => {
      // Between two files that were dropped together there is room for those of a package.
      n += 1;
      const { here: known, batchPhotoId } = await bringPhoto(batchId, file.stream, {
        name: shownName(file.name),
        folder: [folder, file.folder].filter(Boolean).join("/"),
        position: position + n / 1e7,
      });
      counts[known ? "known" : "added"] += 1;
      rows.push(batchPhotoId);
    };
    const refused = await unzip({ path, entryLimit: LIMIT, take, words: wordsOf });
    if (!counts.added && !counts.known && !refused.length)
      throw new RequestError(422, "There is no picture in this ZIP.");
    return { ...counts, rows, refused: refused.slice(0, MOST_NAMED), refusedCount: refused.length };
  } finally {
    await unlink(path).catch(() => undefined);
  }
}

/** The name as it is shown: the last part of a path, without control characters, not endlessly long. */
function shownName(name: string): string {
  const last = name.split(/[\\/]/).pop() ?? "";
  return (
    last
      .replace(/[\u0000-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069]/g, "")
      .trim()
      .slice(-255) || "photo"
  );
}
