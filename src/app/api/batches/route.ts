import { z } from "zod";
import { readBody, route } from "@/app/server/answer";
import { getStore, getWorkspace } from "@/app/server/store";
import { createBatch, usualRevision } from "@/store/queries/batches";
import { announce } from "@/store/queue";

const body = z.strictObject({ name: z.string().trim().min(1).max(200) });

export const POST = route(async (request) => {
  const { name } = await readBody(request, body);
  const { db } = getStore();
  const workspaceId = await getWorkspace();
  const id = await createBatch(db, workspaceId, name, await usualRevision(db, workspaceId));
  await announce(db, null);
  return { id };
});
