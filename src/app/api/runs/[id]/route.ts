import { getStore, requireRun, route, runDetail } from "@/app/server";
import { announce } from "@/store";
import { giveUpFiles, keepFiles } from "@/store/queries";

export const GET = route(async (_request, { id }) => runDetail(getStore().db, await requireRun(id)));

/** Gives the files up; the record of the run, with its proofs, stays. */
export const DELETE = route(async (_request, { id }) => {
  const run = await requireRun(id);
  await giveUpFiles(getStore().db, run.id);
  await announce(getStore().db, run.batchId);
});

/** Takes that back while the bytes are still there. */
export const PUT = route(async (_request, { id }) => {
  const run = await requireRun(id);
  await keepFiles(getStore().db, run.id);
  await announce(getStore().db, run.batchId);
});
