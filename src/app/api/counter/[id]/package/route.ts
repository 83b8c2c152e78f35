import { z } from "zod";
import { readBody, route } from "@/app/server/answer";
import { beginPackage, fillSlot } from "@/app/server/counter";

/** Begins the documents of a form anew. */
export const POST = route((_request, { id }) => beginPackage(id));

const body = z.union([
  z.strictObject({ slot: z.string().max(40), photoId: z.uuid() }),
  z.strictObject({ slot: z.string().max(40), rowId: z.uuid() }),
]);

/** Chooses the photo of one document. */
export const PUT = route(async (request, { id }) => {
  const { slot, ...from } = await readBody(request, body);
  await fillSlot(id, slot, from);
});
