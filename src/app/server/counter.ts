/** The counter as the page shows it, and the briefs and packages that are made from its rules. */
import { and, desc, eq, isNull } from "drizzle-orm";
import type { Brief } from "@/core/brief";
import { readWording } from "@/core/brief/read";
import type { Answer, FormRules, Rules } from "@/receivers";
import { effectivePpi, readHead, shownAt, slotWording, wordingOf } from "@/receivers";
import type { Executor, Slot } from "@/store";
import { announce, assignments, batches, batchPhotos, files, photos, runItems } from "@/store";
import {
  type ArrivalRow,
  addPhoto,
  type BatchRow,
  createBatch,
  createBrief,
  createPackage,
  getArrival,
  getSetting,
  latestPackage,
  listArrivals,
  listHandovers,
  listRows,
  outputsOf,
  startRun,
} from "@/store/queries";
import type { ArrivalView, ArrivedFileView, CounterView, ReceiverView } from "@/ui/api";
import { checkId, RequestError } from "./answer";
import { changeBatch, requireBatch } from "./batch";
import { type Receiver, receiversHere, requireReceiver } from "./counter-desk";
import { beginHandover, slotsFor } from "./hand-over";
import { requireRun } from "./runs";
import { fillIn } from "./slots";
import { getStore, getWorkspace } from "./store";

export async function counterView(): Promise<CounterView> {
  return {
    receivers: (await receiversHere()).map(({ id, rules }) => ({ id, rules })),
    smtpPort: Number(await getSetting(getStore().db, "smtpPort")) || null,
  };
}

export async function receiverView(id: string): Promise<ReceiverView> {
  const { db } = getStore();
  const receiver = await requireReceiver(id);
  const [came, under, pack] = await Promise.all([
    listArrivals(db, receiver.id),
    listHandovers(db, receiver.id),
    latestPackage(db, receiver.id),
  ]);
  const alive =
    pack &&
    (
      await db
        .select({ id: batches.id })
        .from(batches)
        .where(and(eq(batches.id, pack.batchId), isNull(batches.deletedAt)))
    ).length > 0;
  return {
    id: receiver.id,
    rules: receiver.rules,
    wording: wordingOf(receiver.rules),
    arrivals: came.map(arrivalView),
    handovers: under.map(({ id: own, runId, state, error, answer, tries, createdAt }) => ({
      id: own,
      runId,
      state,
      error,
      answer: (answer as Answer | null) ?? null,
      tries,
      at: createdAt.toISOString(),
    })),
    package: pack && alive ? { batchId: pack.batchId } : null,
  };
}

function arrivalView(row: ArrivalRow): ArrivalView {
  return {
    id: row.id,
    at: row.createdAt.toISOString(),
    answer: row.answer as Answer,
    message: row.message,
    files: row.files.map(({ slot, name, bytes }): ArrivedFileView => ({ slot, name, bytes })),
  };
}

/** Sizes of an arrival's files, and how the receiver shows or prints them. */
export async function arrivedSizes(id: string) {
  const { rules, arrival } = await requireArrival(id);
  const { files: disk } = getStore();
  return Promise.all(
    arrival.files.map(async (file) => {
      const head = await readHead(await disk.read(file.sha256).catch(() => Buffer.alloc(0)));
      return (
        head && {
          width: head.width,
          height: head.height,
          scale: rules.kind === "wall" ? shownAt(rules, head) : null,
          ppi: rules.kind === "print" ? effectivePpi(rules, head) : null,
        }
      );
    }),
  );
}

export async function requireArrival(id: string): Promise<{ rules: Rules; arrival: ArrivalRow }> {
  const found = await getArrival(getStore().db, await getWorkspace(), checkId(id));
  if (!found) throw new RequestError(404, "This is no longer at the counter.");
  return { rules: (await requireReceiver(found.receiverId)).rules, arrival: found };
}

/** The briefs that a receiver's published wording means: one, or one a document of a form. */
export function briefsOf({ rules }: Receiver): { briefs: Brief[]; slots: string[] } {
  const from = rules.name;
  if (rules.kind !== "form") {
    const { briefs } = readWording(wordingOf(rules));
    return { briefs: briefs.slice(0, 1).map((brief) => ({ ...brief, name: rules.name, from })), slots: [] };
  }
  const made = rules.slots.map((slot) => ({
    key: slot.key,
    brief: readWording(slotWording(slot)).briefs[0] as Brief | undefined,
    title: slot.title,
  }));
  const known = made.filter((one) => one.brief);
  return {
    briefs: known.map(({ brief, title }) => ({ ...brief!, name: `${rules.name}: ${title}`, from })),
    slots: known.map(({ key }) => key),
  };
}

/** Puts them on the shelf. */
export async function shelveBriefs(id: string): Promise<{ names: string[] }> {
  const { briefs } = briefsOf(await requireReceiver(id));
  if (!briefs.length)
    throw new RequestError(422, "No rule was found in this wording. Change the receiver's rules first.");
  const workspaceId = await getWorkspace();
  await getStore().db.transaction(async (tx) => {
    for (const brief of briefs) await createBrief(tx, workspaceId, brief);
    await announce(tx, null);
  });
  return { names: briefs.map((brief) => brief.name) };
}

async function requireForm(id: string): Promise<Receiver & { rules: FormRules }> {
  const receiver = await requireReceiver(id);
  if (receiver.rules.kind !== "form") throw new RequestError(400, "Only a form asks for several documents.");
  return receiver as Receiver & { rules: FormRules };
}

/** Begins the documents of a form anew: a batch whose slots bear the keys of the form's. */
export async function beginPackage(id: string): Promise<{ batchId: string }> {
  const receiver = await requireForm(id);
  const { briefs, slots } = briefsOf(receiver);
  const titles = new Map(receiver.rules.slots.map(({ key, title }) => [key, title]));
  const { db } = getStore();
  const workspaceId = await getWorkspace();
  return db.transaction(async (tx) => {
    const asked: Slot[] = [];
    for (const [i, brief] of briefs.entries()) {
      const revision = await createBrief(tx, workspaceId, brief, { shelved: false });
      asked.push({ id: slots[i], name: titles.get(slots[i])!, revisionId: revision.id, row: null });
    }
    const name = `${receiver.rules.name}: documents`;
    const batchId = await createBatch(tx, { workspaceId, name, revisionId: null, slots: asked });
    await createPackage(tx, { receiverId: receiver.id, batchId });
    await announce(tx, null);
    return { batchId };
  });
}

/** Puts a photo, brought in already, into a slot of the package. */
export async function fillSlot(
  id: string,
  slot: string,
  from: { photoId: string } | { rowId: string },
): Promise<void> {
  const receiver = await requireForm(id);
  const pack = await latestPackage(getStore().db, receiver.id);
  if (!pack) throw new RequestError(404, "The form asks for no such document now. Begin the documents anew.");
  await changeBatch(pack.batchId, async (tx, batch) => {
    const row = "rowId" in from ? from.rowId : await bringAgain(tx, batch, from.photoId);
    await fillIn(tx, batch, { [slot]: row });
  });
}

/** A photo of another batch comes into this one; its row. */
async function bringAgain(tx: Executor, batch: BatchRow, photoId: string): Promise<string> {
  const [photo] = await tx
    .select({ sha256: photos.sha256, facts: photos.facts, bytes: files.bytes, name: batchPhotos.name })
    .from(photos)
    .innerJoin(files, eq(files.sha256, photos.sha256))
    .innerJoin(batchPhotos, eq(batchPhotos.photoId, photos.id))
    .where(and(eq(photos.id, photoId), eq(photos.workspaceId, batch.workspaceId), eq(files.gone, false)))
    .limit(1);
  if (!photo) throw new RequestError(404, "This photo is no longer there. Choose another.");
  return (await addPhoto(tx, batch, photo)).batchPhotoId;
}

/** Makes the files of the package and hands them over: one press. */
export async function handOverPackage(id: string): Promise<{ id: string }> {
  const receiver = await requireForm(id);
  const { db } = getStore();
  const pack = await latestPackage(db, receiver.id);
  if (!pack) throw new RequestError(409, "Begin the documents first.");
  const rows = await listRows(db, pack.batchId);
  const { slots: asked } = await requireBatch(pack.batchId);
  const missing = receiver.rules.slots.filter(
    ({ key }) => !rows.some((row) => asked.some((slot) => slot.id === key && slot.row === row.id)),
  );
  if (missing.length)
    throw new RequestError(409, `Still missing: ${missing.map((slot) => slot.title).join(", ")}.`);
  const runId = await changeBatch(pack.batchId, (tx, batch) => startRun(tx, batch));
  if (!runId)
    throw new RequestError(
      409,
      "None of these photos can meet its rules, so there is nothing to hand over. Look at them on the Desk.",
    );
  const items = await db
    .select({ id: runItems.id, row: assignments.batchPhotoId })
    .from(runItems)
    .innerJoin(assignments, eq(assignments.id, runItems.assignmentId))
    .where(eq(runItems.runId, runId));
  const slots = Object.fromEntries(
    asked.flatMap((slot) => items.filter((item) => item.row === slot.row).map((item) => [slot.id, item.id])),
  );
  return { id: await beginHandover(receiver.id, runId, slots) };
}

/** Photos that a slot can be filled with: the newest of all batches, each once. */
export async function photosToChoose(): Promise<{ photoId: string; name: string; batch: string }[]> {
  const rows = await getStore()
    .db.select({ photoId: photos.id, name: batchPhotos.name, batch: batches.name, at: batchPhotos.createdAt })
    .from(batchPhotos)
    .innerJoin(photos, eq(photos.id, batchPhotos.photoId))
    .innerJoin(batches, and(eq(batches.id, batchPhotos.batchId), isNull(batches.deletedAt)))
    .innerJoin(files, and(eq(files.sha256, photos.sha256), eq(files.gone, false)))
    .where(and(isNull(batchPhotos.deletedAt), eq(batches.workspaceId, await getWorkspace())))
    .orderBy(desc(batchPhotos.createdAt))
    .limit(300);
  const seen = new Set<string>();
  return rows
    .filter(({ photoId }) => !seen.has(photoId) && seen.add(photoId))
    .map(({ photoId, name, batch }) => ({ photoId, name, batch }));
}

/** The finished files of a run, and which slot of a form each would get. */
export async function runForForm(
  id: string,
  runId: string,
): Promise<{ files: { itemId: string; name: string }[]; slots: Record<string, string> }> {
  const receiver = await requireForm(id);
  const run = await requireRun(runId);
  const outputs = await outputsOf(getStore().db, await getWorkspace(), { runId: run.id });
  return {
    files: outputs.map((item) => ({ itemId: item.id, name: item.name.split("/").pop()! })),
    slots: slotsFor(receiver.rules, outputs),
  };
}
