import { attachment, checkId, getStore, getWorkspace, RequestError, route } from "@/app/server";
import { listBriefs } from "@/store/queries";

/** The brief as a file that can be kept or sent on. */
export const GET = route(async (_request, { id }) => {
  const found = (await listBriefs(getStore().db, await getWorkspace())).find(
    (brief) => brief.briefId === checkId(id),
  );
  if (!found) throw new RequestError(404, "This brief is no longer on the shelf. Choose another.");
  const name =
    found.body.name
      .replace(/[\\/:*?"<>|\x00-\x1f]+/g, " ")
      .replace(/\s+/g, " ")
      .trim()
      .slice(0, 80) || "brief";
  return new Response(`${JSON.stringify(found.body, null, 2)}\n`, {
    headers: {
      "content-type": "application/json; charset=utf-8",
      "content-disposition": attachment(`${name}.brief.json`),
      "x-content-type-options": "nosniff",
    },
  });
});
