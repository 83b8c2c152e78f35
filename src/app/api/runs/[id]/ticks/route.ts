import { and, eq } from "drizzle-orm";
import * as z from "zod";
import { getStore, RequestError, readBody, requireRun, route } from "@/app/server";
import { announce, runItems } from "@/store";
import { itemBrief } from "@/store/queries";

const body = z.strictObject({ itemId: z.uuid(), rule: z.string().min(1).max(1000), on: z.boolean() });

/** Somebody has checked a rule that no machine can, or takes that back. */
export const PUT = route(async (request, { id }) => {
  const run = await requireRun(id);
  const { itemId, rule, on } = await readBody(request, body);
  await getStore().db.transaction(async (tx) => {
    const [item] = await tx
      .select({ ticks: runItems.ticks, brief: itemBrief })
      .from(runItems)
      .where(and(eq(runItems.id, itemId), eq(runItems.runId, run.id)))
      .for("update");
    if (!item?.brief.onlyYou?.includes(rule))
      throw new RequestError(404, "This rule does not belong to this file.");
    const { [rule]: _, ...others } = item.ticks;
    await tx
      .update(runItems)
      .set({ ticks: on ? { ...others, [rule]: new Date().toISOString() } : others })
      .where(eq(runItems.id, itemId));
    await announce(tx, run.batchId);
  });
});
