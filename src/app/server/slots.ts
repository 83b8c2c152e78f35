/** The documents of a batch as the pages see them, and how they are begun and filled. */
import { randomUUID } from "node:crypto";
import { type Brief, parseBrief } from "@/core/brief";
import { proposeSlots } from "@/core/plan/documents";
import type { Executor, Slot } from "@/store";
import { type BatchRow, createBrief, filledSlots, listRows, makeEdit, newSlots } from "@/store/queries";
import type { SlotView } from "@/ui/api";
import { RequestError } from "./answer";
import { changeBatch } from "./batch";

/** A form with more documents than this is a mistake. */
export const MOST_SLOTS = 100;

/** `briefs`: one a document, each named after it. */
export const beginSlots = (batchId: string, briefs: readonly unknown[]): Promise<void> =>
  changeBatch(batchId, async (tx, batch) => {
    const slots: Slot[] = [];
    for (const value of briefs) {
      const brief = parseBrief(value);
      // Files are told apart by their documents where the receiver asks for no other names.
      const named = { ...brief, names: brief.names ?? "{brief}" };
      const revision = await createBrief(tx, batch.workspaceId, named, { shelved: false });
      slots.push({ id: randomUUID(), name: brief.name, revisionId: revision.id, row: null });
    }
    await makeEdit(
      tx,
      batch,
      slots.length === 1 ? "asking for a document" : `asking for ${slots.length} documents`,
      await newSlots(tx, batch, slots),
    );
  });

export type Fill = Readonly<Record<string, string | null>>;

/** By slot, the row that is put there; null empties it. */
export const fillSlots = (batchId: string, fill: Fill): Promise<void> =>
  changeBatch(batchId, (tx, batch) => fillIn(tx, batch, fill));

export async function fillIn(tx: Executor, batch: BatchRow, fill: Fill): Promise<void> {
  const names = new Map(batch.slots.map((slot) => [slot.id, slot.name]));
  if (Object.keys(fill).some((id) => !names.has(id)))
    throw new RequestError(
      404,
      "This batch asks for no such document any more. Look at its documents again.",
    );
  const rows = new Set((await listRows(tx, batch.id)).map((row) => row.id));
  if (Object.values(fill).some((row) => row !== null && !rows.has(row)))
    throw new RequestError(404, "This photo is no longer in the batch. Bring it in again.");
  const filled = Object.keys(fill).filter((id) => fill[id] !== null);
  const words =
    filled.length > 1
      ? `putting ${filled.length} photos in their places`
      : filled.length
        ? `choosing a photo for ${names.get(filled[0])}`
        : `emptying ${names.get(Object.keys(fill)[0])}`;
  await makeEdit(tx, batch, words.slice(0, 300), await filledSlots(tx, batch, fill));
}

/** The slots with what is in them, and what is proposed for those that are empty. */
export function slotViews(
  slots: readonly Slot[],
  rows: Awaited<ReturnType<typeof listRows>>,
  briefOf: (revisionId: string) => Brief | undefined,
): SlotView[] {
  const there = new Set(rows.map((row) => row.id));
  const here = slots.map((slot) => ({ ...slot, row: slot.row && there.has(slot.row) ? slot.row : null }));
  const taken = new Set(here.map((slot) => slot.row));
  const proposed = proposeSlots(
    here.flatMap(({ id, name, revisionId, row }) => {
      const brief = briefOf(revisionId);
      return row || !brief ? [] : [{ id, name, brief }];
    }),
    rows.flatMap(({ id, name, facts, kind }) =>
      taken.has(id) ? [] : [{ id, name, width: facts.width, height: facts.height, kind }],
    ),
  );
  return here.map((slot) => ({ ...slot, proposed: proposed.get(slot.id) ?? null }));
}
