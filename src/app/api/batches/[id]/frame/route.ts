import { z } from "zod";
import { readBody, RequestError, route } from "@/app/server/answer";
import { changeBatch } from "@/app/server/batch";
import { listRows } from "@/store/queries/batches";
import { makeEdit } from "@/store/queries/edits";

const share = z.number().min(0).max(1);
const body = z.strictObject({ rowId: z.uuid(), frame: z.strictObject({ x: share, y: share }), accepted: z.boolean() });

/** Moves a photo's frame, or says that it is right. */
export const PUT = route(async (request, { id }) => {
  const { rowId, frame, accepted } = await readBody(request, body);
  await changeBatch(id, async (tx, batch) => {
    const row = (await listRows(tx, batch.id)).find((r) => r.id === rowId);
    if (!row?.frame || !row.revisionId) throw new RequestError(404, "This photo is no longer in the batch.");
    const before = { frame: row.frame, accepted: row.accepted === true };
    const moved = frame.x !== before.frame.x || frame.y !== before.frame.y;
    const words = `${moved ? "moving the frame of" : "accepting"} ${row.name}`;
    await makeEdit(tx, batch, words, { kind: "frame", batchPhotoId: rowId, revisionId: row.revisionId, before, after: { frame, accepted } });
  });
});
