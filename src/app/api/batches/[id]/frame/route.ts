import { z } from "zod";
import { changeBatch, RequestError, readBody, route } from "@/app/server";
import { type Frame, frameSchema, tidyFrame } from "@/core/photo";
import { frameKey, listRows, makeEdit } from "@/store/queries";

const body = z.strictObject({ rowId: z.uuid(), frame: frameSchema, accepted: z.boolean() });

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

/** Moves a photo's frame, or says that it is right. */
export const PUT = route(async (request, { id }) => {
  const { rowId, frame, accepted } = await readBody(request, body);
  await changeBatch(id, async (tx, batch) => {
    const row = (await listRows(tx, batch.id)).find((r) => r.id === rowId);
    if (!row?.frame || !row.revisionId) throw new RequestError(404, "This photo is no longer in the batch.");
    const choice = row.choice ?? undefined;
    const before = { frame: row.frame, accepted: row.accepted === true, choice };
    // A proposal that is only said to be right stays the proposal, so that nothing has to be measured again.
    const proposal =
      frame.auto === true && frameKey({ ...frame, x: row.frame.x, y: row.frame.y }) === frameKey(row.frame);
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
