import { z } from "zod";
import { readBody, RequestError, route } from "@/app/server/answer";
import { changeBatch } from "@/app/server/batch";
import { frameSchema, tidyFrame } from "@/core/frame";
import { frameKey, listRows } from "@/store/queries/batches";
import { makeEdit } from "@/store/queries/edits";

const body = z.strictObject({ rowId: z.uuid(), frame: frameSchema, accepted: z.boolean() });

/** Moves a photo's frame, or says that it is right. */
export const PUT = route(async (request, { id }) => {
  const { rowId, frame, accepted } = await readBody(request, body);
  await changeBatch(id, async (tx, batch) => {
    const row = (await listRows(tx, batch.id)).find((r) => r.id === rowId);
    if (!row?.frame || !row.revisionId) throw new RequestError(404, "This photo is no longer in the batch.");
    const choice = row.choice ?? undefined;
    const before = { frame: row.frame, accepted: row.accepted === true, choice };
    // A proposal that is only said to be right stays the proposal, so that nothing has to be measured again.
    const proposal = frame.auto === true && frameKey({ ...frame, x: row.frame.x, y: row.frame.y }) === frameKey(row.frame);
    const after = { frame: proposal ? row.frame : tidyFrame(frame), accepted, choice };
    const same = frameKey(before.frame) === frameKey(after.frame);
    if (same && before.accepted === accepted) return;
    const { ink: _, ...moved } = after.frame;
    const { ink: __, ...stood } = before.frame;
    const words = `${same ? "accepting" : frameKey(moved) === frameKey(stood) ? "setting the ink of" : "moving the frame of"} ${row.name}`;
    await makeEdit(tx, batch, words.slice(0, 300), { kind: "frame", batchPhotoId: rowId, revisionId: row.revisionId, before, after });
  });
});
