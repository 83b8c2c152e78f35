import * as z from "zod";
import { changeBatch, getStore, readBody, requireBatch, route } from "@/app/server";
import { choiceSchema } from "@/core/coding";
import { compare, MOST_CHOICES, totals } from "@/store/queries";

const body = z.strictObject({
  choices: z
    .array(choiceSchema)
    .max(MOST_CHOICES, `at most ${MOST_CHOICES} settings can be compared at once`),
});

/** The settings that are compared for a batch, with their totals so far. */
export const GET = route(async (_request, { id }) => {
  const batch = await requireBatch(id);
  return { totals: await totals(getStore().db, batch.id) };
});

export const PUT = route(async (request, { id }) => {
  const { choices } = await readBody(request, body);
  await changeBatch(id, (tx, batch) => compare(tx, batch, choices));
});
