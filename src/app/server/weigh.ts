/** The assignment that a route of Weigh is about. */
import { planGeometry, type Geometry } from "@/core/frame";
import { resolveBrief } from "@/core/brief";
import { loadWeighed } from "@/store/queries/weigh";
import { checkId, RequestError } from "./answer";
import { getStore, getWorkspace } from "./store";

export async function requireWeighed(id: string) {
  const row = await loadWeighed(getStore().db, checkId(id));
  if (!row || row.workspaceId !== (await getWorkspace())) throw new RequestError(404, "This photo is no longer there. Go back to the Desk and choose another.");
  return row;
}

/** The geometry that was measured, else the planned one. Throws a GeometryError where the photo cannot be framed. */
export const weighedGeometry = (row: Awaited<ReturnType<typeof requireWeighed>>): Geometry => row.measured?.geometry ?? planGeometry(resolveBrief(row.brief), row.facts, row.frame);
