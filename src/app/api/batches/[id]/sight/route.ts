import * as z from "zod";
import { getStore, readBody, requireBatch, route } from "@/app/server";
import { addJobs, PRIORITY } from "@/store";
import { listRows, measureFirst } from "@/store/queries";

const body = z.strictObject({ ids: z.array(z.uuid()).max(200) });

/** The rows in sight are measured, and get their small pictures, first. */
export const POST = route(async (request, { id }) => {
  const { ids } = await readBody(request, body);
  const batch = await requireBatch(id);
  const { db } = getStore();
  const seen = new Set(ids);
  const rows = (await listRows(db, batch.id)).filter((row) => seen.has(row.id));
  const bare = rows.filter((row) => !row.thumb);
  await addJobs(
    db,
    "thumb",
    bare.map((row) => row.photoId),
    PRIORITY.thumb,
  );
  await measureFirst(db, batch.id, ids);
});
