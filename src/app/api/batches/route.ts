import * as z from "zod";
import { announce } from "@/store";
import { createBatch } from "@/store/queries";
import { getStore, getWorkspace, readBody, route } from "../../server";

const body = z.strictObject({ name: z.string().trim().min(1).max(200) });

export const POST = route(async (request) => {
  const { name } = await readBody(request, body);
  const { db } = getStore();
  // It begins without a brief: nothing sticks from the last job.
  const id = await createBatch(db, { workspaceId: await getWorkspace(), name, revisionId: null });
  await announce(db, null);
  return { id };
});
