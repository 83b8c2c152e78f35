import * as z from "zod";
import { changeBatch, RequestError, readBody, revised, route, slotsWith } from "@/app/server";
import { parseBrief } from "@/core/brief";
import type { EditChange, Executor } from "@/store";
import { type BatchRow, createBrief, getRevision, listRows, makeEdit } from "@/store/queries";

const rows = z.array(z.uuid()).min(1).max(2000).optional();
const words = z.string().min(1).max(300);
const body = z.union([
  /** A brief of the shelf, for the batch or for some rows; null: these rows follow the batch again. */
  z.strictObject({ revisionId: z.uuid().nullable(), rows }),
  /** Another value of a brief in use: all rows that have it get it. */
  z.strictObject({ brief: z.unknown(), words, of: z.uuid().nullable().optional() }),
  /** A brief that was just read from a wording or written by hand. */
  z.strictObject({ fresh: z.unknown(), words, rows }),
]);

/** Chooses another brief, revises one in use, or takes a new one; for the batch or for single rows. */
export const PUT = route(async (request, { id }) => {
  const wanted = await readBody(request, body);
  if ("fresh" in wanted) {
    const brief = parseBrief(wanted.fresh);
    return changeBatch(id, async (tx, batch) => {
      const revision = await createBrief(tx, batch.workspaceId, brief, { shelved: false });
      await makeEdit(tx, batch, wanted.words, await choice(tx, batch, revision.id, wanted.rows));
    });
  }
  if ("brief" in wanted) {
    const brief = parseBrief(wanted.brief);
    return changeBatch(id, async (tx, batch) =>
      makeEdit(
        tx,
        batch,
        wanted.words,
        await revised(tx, batch, [{ brief, of: wanted.of ?? batch.revisionId }]),
      ),
    );
  }
  return changeBatch(id, async (tx, batch) => {
    const chosen = wanted.revisionId ? await getRevision(tx, wanted.revisionId) : null;
    if (wanted.revisionId && !chosen)
      throw new RequestError(404, "This brief is no longer there. Choose another.");
    if (!chosen && !wanted.rows) throw new RequestError(400, "A batch needs a brief to follow; choose one.");
    const what = chosen ? `choosing ${chosen.body.name}` : "following the batch's brief";
    await makeEdit(
      tx,
      batch,
      wanted.rows
        ? `${what} for ${wanted.rows.length === 1 ? "a photo" : `${wanted.rows.length} photos`}`
        : what,
      await choice(tx, batch, chosen?.id ?? null, wanted.rows),
    );
  });
});

async function choice(
  tx: Executor,
  batch: BatchRow,
  revisionId: string | null,
  ids: string[] | undefined,
): Promise<EditChange> {
  if (!ids) return { kind: "brief", before: batch.revisionId, after: revisionId };
  const slots = slotsWith(
    batch.slots,
    (slot) => revisionId !== null && ids.includes(slot.row ?? ""),
    revisionId,
  );
  const own = new Map((await listRows(tx, batch.id)).map((row) => [row.id, row.own]));
  if (ids.some((id) => !own.has(id)))
    throw new RequestError(404, "One of these photos is no longer in the batch.");
  return {
    kind: "rows",
    batch: null,
    slots,
    rows: Object.fromEntries(ids.map((id) => [id, { before: own.get(id) ?? null, after: revisionId }])),
  };
}
