import * as z from "zod";
import { changeBatch, RequestError, readBody, route } from "@/app/server";
import { type Frame, frameSchema, tidyFrame } from "@/core/photo";
import { frameKey, listRows, makeEdit } from "@/store/queries";

const body = z.strictObject({
  rowId: z.uuid(),
  frame: frameSchema,
  accepted: z.boolean(),
  /** The frame as it was seen: where it is another now, nothing is changed. */
  seen: frameSchema.optional(),
});

/** What of a photo is set beside where its frame lies, as undo calls it. */
const SETTINGS = [
  ["ink", "setting the ink of"],
  ["raw", "setting the development of"],
  ["layers", "choosing the layers of"],
  ["page", "choosing the page of"],
  ["light", "setting the lights of"],
  ["lighter", "setting how lighter to make"],
] as const;

function settingWords(before: Frame, after: Frame): string | null {
  for (const [key, words] of SETTINGS)
    if (frameKey({ ...before, [key]: undefined }) === frameKey({ ...after, [key]: undefined })) return words;
  return null;
}

/** Whether a frame is the one that is kept, or what was proposed for it. */
const isOf = (frame: Frame, kept: Frame): boolean =>
  frameKey(frame) === frameKey(kept) ||
  (frame.auto === true && frameKey({ ...frame, x: kept.x, y: kept.y }) === frameKey(kept));

/** Moves a photo's frame, or says that it is right. */
export const PUT = route(async (request, { id }) => {
  const { rowId, frame, accepted, seen } = await readBody(request, body);
  await changeBatch(id, async (tx, batch) => {
    const row = (await listRows(tx, batch.id)).find((r) => r.id === rowId);
    if (!row?.frame || !row.revisionId) throw new RequestError(404, "This photo is no longer in the batch.");
    if (seen && !isOf(seen, row.frame))
      throw new RequestError(409, "The frame was changed meanwhile; nothing was accepted. Look at it again.");
    const choice = row.choice ?? undefined;
    const before = { frame: row.frame, accepted: row.accepted === true, choice };
    // A proposal that is only said to be right stays the proposal, so that nothing has to be measured again.
    const proposal = frame.auto === true && isOf(frame, row.frame);
    const after = { frame: proposal ? row.frame : tidyFrame(frame), accepted, choice };
    const same = frameKey(before.frame) === frameKey(after.frame);
    if (same && before.accepted === accepted) return;
    const words =
      `${same ? "accepting" : (settingWords(before.frame, after.frame) ?? "moving the frame of")} ` +
      `${row.name}`;
    await makeEdit(tx, batch, words.slice(0, 300), {
      kind: "frame",
      batchPhotoId: rowId,
      revisionId: row.revisionId,
      before,
      after,
    });
  });
});
