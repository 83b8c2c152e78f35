import * as z from "zod";
import { getStore, RequestError, readBody, requireRun, route } from "@/app/server";
import { announce } from "@/store";
import { cancelRun, pauseRun, resumeRun, retryRun } from "@/store/queries";

const body = z.strictObject({ to: z.enum(["pause", "resume", "cancel", "retry"]) });

/** Pauses a run, goes on with it, gives it up, or makes again what failed. */
export const POST = route(async (request, { id }) => {
  const { to } = await readBody(request, body);
  const run = await requireRun(id);
  const { db } = getStore();
  if (to === "pause") await pauseRun(db, run.id, null);
  else if (to === "resume") await resumeRun(db, run.id);
  else if (to === "cancel") await db.transaction((tx) => cancelRun(tx, run.id));
  else if (!(await retryRun(db, run.id)))
    throw new RequestError(409, "Nothing in this run failed, so there is nothing to make again.");
  await announce(db, run.batchId);
});
