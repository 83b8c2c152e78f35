import * as z from "zod";
import { getStore, RequestError, readBody, requireBatch, route } from "@/app/server";
import { announce } from "@/store";
import { setAlt } from "@/store/queries";

const body = z.strictObject({ rowId: z.uuid(), alt: z.string().max(500) });

/** What a photo shows, in words, for those who do not see it. */
export const PUT = route(async (request, { id }) => {
  const { rowId, alt } = await readBody(request, body);
  const batch = await requireBatch(id);
  const { db } = getStore();
  if (!(await setAlt(db, batch.id, rowId, alt.trim())))
    throw new RequestError(
      404,
      "This photo is no longer in the batch. Go back to the Desk and choose another.",
    );
  await announce(db, batch.id);
});
