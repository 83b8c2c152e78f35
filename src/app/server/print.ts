/** A run's files on print sheets and pages. */

import type { Piece } from "@/core/delivery/print-sheet";
import { paperSize } from "@/core/proof";
import type { PageFile } from "@/delivery";
import { outputsOf } from "@/store/queries";
import { RequestError } from "./answer";
import { getStore, getWorkspace } from "./store";

/** The finished files of a run with the size at which each is printed. */
export async function printable(runId: string): Promise<{ pieces: Piece[]; files: PageFile[] }> {
  const { db, files: disk } = getStore();
  const outputs = await outputsOf(db, await getWorkspace(), { runId });
  if (!outputs.length)
    throw new RequestError(404, "This run has no files now: none is finished yet, or they were given up.");
  const files = outputs.map(({ id, name, sha256, facts }) => ({
    id,
    name: name.split("/").pop()!,
    ...paperSize(facts),
    read: () => disk.read(sha256),
  }));
  return { pieces: files.map(({ id, name, width, height }) => ({ id, name, width, height })), files };
}
