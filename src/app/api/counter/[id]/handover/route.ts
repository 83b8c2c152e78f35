import * as z from "zod";
import { beginHandover, readBody, route } from "@/app/server";

const body = z.strictObject({ runId: z.uuid(), slots: z.record(z.string().max(40), z.uuid()).optional() });

/** Hands a run's files to the receiver; it goes on by itself. */
export const POST = route(async (request, { id }) => {
  const { runId, slots } = await readBody(request, body);
  return { id: await beginHandover(id, runId, slots) };
});
