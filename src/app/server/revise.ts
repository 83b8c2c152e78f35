/** The next revisions of briefs in use, for everything in the batch that uses them. */
import type { Brief } from "@/core/brief";
import type { EditChange, Executor, Slot } from "@/store";
import { type BatchRow, createBrief, getRevision, listRows, reviseBrief } from "@/store/queries";
import { RequestError } from "./answer";

export interface Revised {
  brief: Brief;
  /** The revision that it comes after; null for the first brief of a batch. */
  of: string | null;
}

type RowsChange = Extract<EditChange, { kind: "rows" }>;

/** One edit of them all. */
export async function revised(db: Executor, batch: BatchRow, list: readonly Revised[]): Promise<EditChange> {
  const rows = await listRows(db, batch.id);
  const change: RowsChange = { kind: "rows", batch: null, rows: {} };
  for (const { brief, of } of list) {
    const next = await following(db, batch, brief, of);
    const owners = of ? rows.filter((row) => row.own === of) : [];
    const slots = slotsWith(change.slots?.after ?? batch.slots, (slot) => slot.revisionId === of, next);
    if (!owners.length && !slots && of !== batch.revisionId)
      throw new RequestError(409, "No photo of this batch uses that brief any more. Choose it again.");
    if (of === batch.revisionId) change.batch = { before: batch.revisionId, after: next };
    if (slots) change.slots = { before: batch.slots, after: slots.after };
    for (const row of owners) change.rows[row.id] = { before: of, after: next };
  }
  if (change.batch && !change.slots && !Object.keys(change.rows).length)
    return { kind: "brief", ...change.batch };
  return change;
}

async function following(db: Executor, batch: BatchRow, brief: Brief, of: string | null): Promise<string> {
  const current = of ? await getRevision(db, of) : null;
  if (of && !current) throw new RequestError(404, "This brief is no longer there. Choose another.");
  const next = current
    ? await reviseBrief(db, current.briefId, brief)
    : await createBrief(db, batch.workspaceId, brief, { shelved: false });
  return next.id;
}

/** Documents whose brief becomes another one; undefined where there are none. */
export function slotsWith(slots: Slot[], which: (slot: Slot) => boolean, revisionId: string | null) {
  if (!revisionId || !slots.some(which)) return undefined;
  return { before: slots, after: slots.map((slot) => (which(slot) ? { ...slot, revisionId } : slot)) };
}
