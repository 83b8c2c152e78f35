import { RequestError, route } from "@/app/server/answer";
import { changeBatch } from "@/app/server/batch";
import { startRun } from "@/store/queries/runs";

export const POST = route(async (_request, { id }) => {
  const runId = await changeBatch(id, (tx, batch) => startRun(tx, batch));
  if (!runId) throw new RequestError(409, "There is no photo in this batch that can meet the brief, so there is nothing to make.");
  return { runId };
});
