import * as z from "zod";
import { changeBatch, readBody, route } from "@/app/server";
import { makeEdit } from "@/store/queries";

const body = z.strictObject({ ids: z.array(z.uuid()).min(1).max(5000), words: z.string().min(1).max(300) });

export const POST = route(async (request, { id }) => {
  const { ids, words } = await readBody(request, body);
  await changeBatch(id, (tx, batch) => makeEdit(tx, batch, words, { kind: "remove", batchPhotoIds: ids }));
});
