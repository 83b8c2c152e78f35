import { changeBatch, RequestError, route } from "@/app/server";
import { runAll } from "@/store/queries";

/** Makes every photo under every setting that is compared, each setting in a folder of its own. */
export const POST = route(async (_request, { id }) => {
  const runId = await changeBatch(id, (tx, batch) => runAll(tx, batch));
  if (!runId)
    throw new RequestError(409, "There is no setting to make files of yet. Add one, then make them.");
  return { runId };
});
