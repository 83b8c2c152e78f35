import * as z from "zod";
import {
  batchView,
  changeBatch,
  getStore,
  getWorkspace,
  RequestError,
  readBody,
  requireBatch,
  route,
} from "@/app/server";
import { announce } from "@/store";
import { removeBatch, renameBatch } from "@/store/queries";

/** What the page holds already, as it was told: `epoch stamp`. */
const held = z.object({
  have: z
    .string()
    .regex(/^\S+ \d+$/)
    .transform((text) => ({ epoch: text.split(" ")[0], stamp: Number(text.split(" ")[1]) }))
    .optional(),
});

export const GET = route(async (request, { id }) => {
  const { have } = held.parse(Object.fromEntries(new URL(request.url).searchParams));
  return batchView(getStore().db, await requireBatch(id), have ?? null);
});

const body = z.strictObject({ name: z.string().trim().min(1).max(200) });

export const PUT = route(async (request, { id }) => {
  const { name } = await readBody(request, body);
  await changeBatch(id, (tx, batch) => renameBatch(tx, batch, name));
});

/** Puts the batch away, and ends its runs; it can come back. */
export const DELETE = route(async (_request, { id }) => {
  await requireBatch(id);
  const { db } = getStore();
  const workspaceId = await getWorkspace();
  if (!(await db.transaction((tx) => removeBatch(tx, workspaceId, id))))
    throw new RequestError(404, "This batch is no longer there. Choose another on the left.");
  await announce(db, null);
});
