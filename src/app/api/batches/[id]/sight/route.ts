import * as z from "zod";
import { getStore, readBody, requireBatch, route } from "@/app/server";
import { addJobs, PRIORITY } from "@/store";
import { listRows } from "@/store/queries";

const body = z.strictObject({ ids: z.array(z.uuid()).max(200) });

/** The rows in sight are measured first. */
export const POST = route(async (request, { id }) => {
  const { ids } = await readBody(request, body);
  const batch = await requireBatch(id);
  const { db } = getStore();
  const seen = new Set(ids);
  const rows = (await listRows(db, batch.id)).filter(
    (row) => seen.has(row.id) && row.assignmentId && !row.measured,
  );
  await addJobs(
    db,
    "measure",
    rows.map((row) => row.assignmentId!),
    PRIORITY.inSight,
  );
});
