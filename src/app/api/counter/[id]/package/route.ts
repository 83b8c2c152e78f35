import * as z from "zod";
import { beginPackage, fillSlot, readBody, route } from "@/app/server";

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
