import * as z from "zod";
import { checkId, getStore, getWorkspace, RequestError, readBody, route } from "@/app/server";
import { parseBrief } from "@/core/brief";
import { putOnShelf, setShelved, shelve } from "@/store/queries";

const GONE = "This brief is no longer on the shelf. Choose another.";
const body = z.union([z.strictObject({ brief: z.unknown() }), z.strictObject({ revisionId: z.uuid() })]);

/** What the shelf offers of a brief from now on; batches that use it keep theirs. */
export const PUT = route(async (request, { id }) => {
  const wanted = await readBody(request, body);
  const workspaceId = await getWorkspace();
  const { db } = getStore();
  if ("revisionId" in wanted) {
    if (!(await putOnShelf(db, workspaceId, checkId(id), wanted.revisionId)))
      throw new RequestError(404, GONE);
    return { revisionId: wanted.revisionId };
  }
  const brief = parseBrief(wanted.brief);
  const revision = await db.transaction((tx) => shelve(tx, workspaceId, checkId(id), brief));
  if (!revision) throw new RequestError(404, GONE);
  return { revisionId: revision.id };
});

/** Takes it off the shelf. */
export const DELETE = route(async (_request, { id }) => {
  if (!(await setShelved(getStore().db, await getWorkspace(), checkId(id), false)))
    throw new RequestError(404, GONE);
});
