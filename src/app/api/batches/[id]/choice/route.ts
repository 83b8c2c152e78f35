import * as z from "zod";
import { changeBatch, RequestError, readBody, route } from "@/app/server";
import { choiceName, choiceSchema, forAll } from "@/core/coding";
import { frameKey, listRows, makeEdit } from "@/store/queries";

const body = z.strictObject({
  /** Null: Zumbrel looks for a setting itself again. */
  choice: choiceSchema.nullable(),
  /** Rows of the batch; absent for all of them. */
  rows: z.array(z.uuid()).min(1).max(2000).optional(),
});

/** Takes a setting for some photos or for the whole batch; one edit, so that one undo takes it back. */
export const PUT = route(async (request, { id }) => {
  const { choice, rows } = await readBody(request, body);
  await changeBatch(id, async (tx, batch) => {
    const present = (await listRows(tx, batch.id)).filter(
      (row) => row.assignmentId && (!rows || rows.includes(row.id)),
    );
    if (!present.length)
      throw new RequestError(404, "No photo of this batch has a brief to choose a setting for.");
    const after = choice && (present.length > 1 ? forAll(choice) : choice);
    const changes = present
      .map((row) => {
        const state = { frame: row.frame!, accepted: row.accepted === true };
        return {
          batchPhotoId: row.id,
          revisionId: row.revisionId!,
          before: { ...state, choice: row.choice ?? undefined },
          after: { ...state, choice: after ?? undefined },
        };
      })
      .filter(
        ({ before, after: next }) =>
          frameKey(before.frame, before.choice) !== frameKey(next.frame, next.choice),
      );
    if (!changes.length) return;
    const what = choice ? `taking ${choiceName(choice)}` : "leaving the setting to Zumbrel";
    const one = changes.length === 1 && present.find((row) => row.id === changes[0].batchPhotoId);
    const words = `${what} for ${one ? one.name : `${changes.length} photos`}`.slice(0, 300);
    await makeEdit(tx, batch, words, { kind: "choice", rows: changes });
  });
});
