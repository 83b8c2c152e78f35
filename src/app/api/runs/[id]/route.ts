import { route } from "@/app/server/answer";
import { requireRun, runDetail } from "@/app/server/runs";
import { getStore } from "@/app/server/store";
import { giveUpFiles, keepFiles } from "@/store/queries/run-control";
import { announce } from "@/store/queue";

export const dynamic = "force-dynamic";

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
