import * as z from "zod";
import { beginSlots, fillSlots, MOST_SLOTS, readBody, route } from "@/app/server";

const begin = z.strictObject({ briefs: z.array(z.unknown()).min(1).max(MOST_SLOTS) });

/** Asks for documents, one a brief, in place of those that were asked for. */
export const POST = route(async (request, { id }) => beginSlots(id, (await readBody(request, begin)).briefs));

const fill = z.strictObject({
  fill: z
    .record(z.string().max(100), z.uuid().nullable())
    .refine((value) => Object.keys(value).length > 0, { message: "wanted at least one document" }),
});

/** Puts photos of the batch into its documents. */
export const PUT = route(async (request, { id }) => fillSlots(id, (await readBody(request, fill)).fill));
