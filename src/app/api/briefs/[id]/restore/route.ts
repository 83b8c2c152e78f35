import { checkId, getStore, getWorkspace, RequestError, route } from "@/app/server";
import { setShelved } from "@/store/queries";

/** Puts a deleted brief back on the shelf. */
export const POST = route(async (_request, { id }) => {
  if (!(await setShelved(getStore().db, await getWorkspace(), checkId(id), true)))
    throw new RequestError(404, "This brief cannot be brought back; it was never on this shelf.");
});
