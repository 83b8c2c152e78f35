import { checkId, getStore, getWorkspace, RequestError, route } from "@/app/server";
import { stopWatch } from "@/store/queries";

/** Stops it; what was made stays. */
export const DELETE = route(async (_request, { id }) => {
  if (!(await stopWatch(getStore().db, await getWorkspace(), checkId(id))))
    throw new RequestError(404, "This folder is not watched any more.");
});
