import * as z from "zod";
import { changeBatch, readBody, revised, route } from "@/app/server";
import { limitsWhole, parseBrief } from "@/core/brief";
import { getBatch, latestRun, makeEdit, startRun } from "@/store/queries";
import type { Retaken } from "@/ui/api";

const body = z.strictObject({
  words: z.string().min(1).max(300),
  changes: z
    .array(z.strictObject({ brief: z.unknown(), of: z.uuid().nullable() }))
    .min(1)
    .max(100),
});

/**
 * Takes what a receiver asks after a refusal, as one edit. Where files were made before, those that no longer obey are
 * made again; the others stay as they are.
 */
export const POST = route(async (request, { id }): Promise<Retaken> => {
  const { words, changes } = await readBody(request, body);
  const list = changes.map(({ brief, of }) => ({ brief: parseBrief(brief), of }));
  return changeBatch(id, async (tx, batch) => {
    await makeEdit(tx, batch, words, await revised(tx, batch, list));
    const before = await latestRun(tx, batch.id);
    const shared = list.some(({ brief }) => limitsWhole(brief));
    if (!before?.items.some((item) => item.state === "done") || shared)
      return { runId: null, again: 0, kept: 0 };
    const runId = await startRun(tx, (await getBatch(tx, batch.workspaceId, batch.id))!, "obeying");
    const run = runId ? await latestRun(tx, batch.id) : null;
    const kept = run?.items.filter((item) => item.state === "done").length ?? 0;
    return { runId, again: (run?.items.length ?? 0) - kept, kept };
  });
});
