import * as z from "zod";
import { changeBatch, RequestError, readBody, route } from "@/app/server";
import { startRun } from "@/store/queries";

const body = z.strictObject({ anew: z.boolean().optional() });

/**
 * Makes the files. What the last run has made in the same way is taken over, unless all is to be made anew.
 */
export const POST = route(async (request, { id }) => {
  const { anew } = await readBody(request, body);
  const runId = await changeBatch(id, (tx, batch) => startRun(tx, batch, anew ? "nothing" : "same"));
  if (!runId)
    throw new RequestError(
      409,
      "There is no photo in this batch that can meet the brief, so there is nothing to make.",
    );
  return { runId };
});
