import * as z from "zod";
import { changeBatch, RequestError, readBody, route } from "@/app/server";
import { tidyFrame } from "@/core/photo";
import { frameKey, listRows, makeEdit } from "@/store/queries";

const body = z.strictObject({ rowId: z.uuid() });

/** Takes the lights of all photos under a photo's brief above white as it does; one edit. */
export const PUT = route(async (request, { id }) => {
  const { rowId } = await readBody(request, body);
  await changeBatch(id, async (tx, batch) => {
    const rows = await listRows(tx, batch.id);
    const like = rows.find((row) => row.id === rowId);
    if (!like?.frame) throw new RequestError(404, "This photo is no longer in the batch.");
    const { light } = like.frame;
    const changes = rows
      .filter((row) => row.frame && row.revisionId === like.revisionId)
      .map((row) => {
        const state = { accepted: row.accepted === true, choice: row.choice ?? undefined };
        return {
          batchPhotoId: row.id,
          revisionId: row.revisionId!,
          before: { ...state, frame: row.frame! },
          after: { ...state, frame: tidyFrame({ ...row.frame!, light }) },
        };
      })
      .filter(({ before, after }) => frameKey(before.frame) !== frameKey(after.frame));
    if (!changes.length) return;
    const photos = changes.length === 1 ? "1 photo" : `${changes.length} photos`;
    await makeEdit(tx, batch, `setting the lights of ${photos}`, { kind: "choice", rows: changes });
  });
});
