/** Runs and their items: what is begun, and what is finished. */

import { and, asc, desc, eq, inArray, isNull, ne, sql } from "drizzle-orm";
import { type Brief, limitsWhole, resolveBrief } from "@/core/brief";
import type { Limit } from "@/core/budget";
import { freeName, sameName } from "@/core/plan/names";
import { canonical } from "@/core/units";
import { addJobs, announce, PRIORITY } from "../queue";
import type { ItemSnapshot, ItemState, ShareTarget } from "../rows";
import { files, proofs, runItems, runs } from "../schema";
import type { Database, Executor } from "../store";
import { type BatchRow, listRows, type Version } from "./batch-rows";
import { getRevision } from "./briefs";
import { claimFiles } from "./files";
import { closeRun, lockRun } from "./run-control";
import { type MadeBefore, madeBefore, stillObeying, takeOverProofs } from "./taken-over";
import { numbersOf, partsOf, plannedNames, type ToMake } from "./to-make";

type Row = Awaited<ReturnType<typeof listRows>>[number];

/** Some photos' part of a limit on the whole is not settled yet. */
export class NotSharedError extends Error {
  constructor() {
    super(
      "The limit on the whole is still being shared out among the photos. It takes a moment; then " +
        "press again.",
    );
    this.name = "NotSharedError";
  }
}

/**
 * What a run takes over from earlier ones. same: what was made of the same photos in the same way. obeying: also what
 * obeys a brief that was changed since. nothing: everything is made anew.
 */
export type TakenOver = "same" | "obeying" | "nothing";

/** Starts a run over every photo of the batch that can meet the brief. Null where there is none. */
export async function startRun(
  db: Executor,
  batch: BatchRow,
  taken: TakenOver = "same",
): Promise<string | null> {
  const rows = (await listRows(db, batch.id)).filter((row) => row.assignmentId && !row.measured?.error);
  const bodies = await bodiesOf(db, rows);
  if (
    rows.some(
      (row) => limitsWhole(bodies.get(row.revisionId!)!) && (!row.share || row.share.kind === "cannot"),
    )
  )
    throw new NotSharedError();
  const toMake = rows.flatMap((row) =>
    partsOf(row, bodies.get(row.revisionId!)!).map((part) => ({
      row,
      assignmentId: row.assignmentId!,
      choice: row.choice ?? undefined,
      share: row.share ?? undefined,
      part,
    })),
  );
  const same = taken === "nothing" ? new Map<string, MadeBefore>() : await madeBefore(db, batch.id);
  if (taken !== "obeying") return begin({ db, batch, toMake, bodies, before: same });
  const obeying = await stillObeying(db, batch.id, rows, bodies);
  return begin({ db, batch, toMake, bodies, before: new Map([...obeying, ...same]) });
}

/** Starts a run over assignments; a photo may come several times, under several settings. */
export async function startItems(
  db: Executor,
  batch: BatchRow,
  toMake: readonly ToMake[],
): Promise<string | null> {
  return begin({
    db,
    batch,
    toMake,
    bodies: await bodiesOf(
      db,
      toMake.map(({ row }) => row),
    ),
    before: new Map(),
  });
}

async function bodiesOf(db: Executor, rows: readonly Row[]): Promise<Map<string, Brief>> {
  const bodies = new Map<string, Brief>();
  for (const id of new Set(rows.map((row) => row.revisionId!)))
    bodies.set(id, (await getRevision(db, id))!.body);
  return bodies;
}

async function begin({
  db,
  batch,
  toMake,
  bodies,
  before,
}: {
  db: Executor;
  batch: BatchRow;
  toMake: readonly ToMake[];
  bodies: ReadonlyMap<string, Brief>;
  before: ReadonlyMap<string, MadeBefore>;
}): Promise<string | null> {
  if (!toMake.length) return null;
  const main = (batch.revisionId && bodies.get(batch.revisionId)) || bodies.values().next().value!;
  const { total } = resolveBrief(main);
  const limit: Limit | null = total && { ...total, messages: total.counted === "mail" ? batch.messages : 1 };
  const [run] = await db
    .insert(runs)
    .values({
      workspaceId: batch.workspaceId,
      batchId: batch.id,
      revisionId: batch.revisionId,
      title: `${batch.name} · ${main.name}`,
      limit,
    })
    .returning({ id: runs.id });
  const names = plannedNames(toMake, bodies);
  const numbers = numbersOf(toMake);
  const values = toMake.map(({ row, assignmentId, choice, share, folder, part }, i) => {
    const snapshot: ItemSnapshot = {
      frame: row.frame!,
      sourceSha256: row.sha256,
      sourceName: row.name,
      before: row.facts,
      n: numbers.get(row.id)!,
      choice,
      share,
      folder: names[i].folder || undefined,
      compared: folder !== undefined || undefined,
      plannedName: names[i].path,
      ...(part && {
        part: { width: part.width, format: part.format },
        alt: (row.alt ?? row.facts.shows) || undefined,
      }),
    };
    // The files of a set are there already, or are made together.
    const made = part ? undefined : before.get(assignmentId);
    const known = made && (made.checks ?? sameAsk(made.snapshot, snapshot)) ? made : null;
    const done = known
      ? {
          state: "done" as const,
          outputSha256: known.sha256,
          outputName: names[i].path,
          difference: known.difference,
          differenceAbout: known.differenceAbout,
          finishedAt: sql`now()`,
        }
      : {};
    return {
      known,
      value: { runId: run.id, assignmentId, position: i, part: part?.index ?? 0, snapshot, ...done },
    };
  });
  const items: { id: string; position: number; state: ItemState }[] = [];
  for (let from = 0; from < values.length; from += AT_ONCE) {
    const part = values.slice(from, from + AT_ONCE).map(({ value }) => value);
    items.push(
      ...(await db
        .insert(runItems)
        .values(part)
        .returning({ id: runItems.id, position: runItems.position, state: runItems.state })),
    );
  }
  await takeOverProofs(
    db,
    new Map(
      items.flatMap((item) =>
        values[item.position].known ? [[item.id, values[item.position].known!] as const] : [],
      ),
    ),
  );
  const waiting = items.filter((item) => item.state === "waiting");
  if (!waiting.length) await db.update(runs).set({ finishedAt: sql`now()` }).where(eq(runs.id, run.id));
  await db
    .update(runs)
    .set({ finishedThen: items.length - waiting.length })
    .where(eq(runs.id, run.id));
  await addJobs(
    db,
    "make",
    // One job a photo makes its whole set.
    waiting.filter((item) => values[item.position].value.part === 0).map((item) => item.id),
    PRIORITY.make,
  );
  return run.id;
}

/** Rows that one statement inserts. */
const AT_ONCE = 1000;

/** The same photo, frame and setting, of one assignment and so of one brief; the name may be another. */
function sameAsk(a: ItemSnapshot, b: ItemSnapshot): boolean {
  const of = ({ sourceSha256, frame, choice, share }: ItemSnapshot) => {
    const made = share?.kind === "set" ? [share.setting, share.geometry] : (share?.kind ?? "");
    return canonical([sourceSha256, frame, choice ?? null, made]);
  };
  return of(a) === of(b);
}

export interface Finished {
  sha256: string;
  bytes: number;
  /** With its folder. */
  name: string;
  difference: number | null;
  differenceAbout: boolean;
  proof: Omit<typeof proofs.$inferInsert, "runItemId" | "createdAt">;
}

/**
 * Marks an item done under a name that no other item of the run has or will have, and tells the pages. Doing it
 * twice changes nothing.
 */
export async function finishItem(
  db: Database,
  itemId: string,
  done: Finished | { error: string },
): Promise<void> {
  await db.transaction(async (tx) => {
    const [item] = await tx
      .select({ runId: runItems.runId, batchId: runs.batchId })
      .from(runItems)
      .innerJoin(runs, eq(runs.id, runItems.runId))
      .where(eq(runItems.id, itemId));
    if (!item) return;
    await lockRun(tx, item.runId);
    const [now] = await tx
      .select({ state: runItems.state, snapshot: runItems.snapshot })
      .from(runItems)
      .where(eq(runItems.id, itemId));
    if (now.state !== "waiting") return;
    if ("error" in done) {
      await tx
        .update(runItems)
        .set({ state: "failed", error: done.error, finishedAt: sql`clock_timestamp()` })
        .where(eq(runItems.id, itemId));
    } else {
      await claimFiles(tx, [done.sha256]);
      await tx
        .insert(proofs)
        .values({ runItemId: itemId, ...done.proof })
        .onConflictDoNothing();
      const name =
        done.name === now.snapshot.plannedName
          ? done.name
          : await unplanned(tx, item.runId, itemId, done.name);
      await tx
        .update(runItems)
        .set({
          state: "done",
          error: null,
          outputSha256: done.sha256,
          outputName: name,
          difference: done.difference,
          differenceAbout: done.differenceAbout,
          finishedAt: sql`clock_timestamp()`,
        })
        .where(eq(runItems.id, itemId));
    }
    await closeRun(tx, item.runId);
    await announce(tx, item.batchId);
  });
}

/**
 * A file that turned out other than was shown before the run: its name keeps clear of those of all other
 * items.
 */
async function unplanned(db: Executor, runId: string, itemId: string, name: string): Promise<string> {
  const others = await db
    .select({ name: runItems.outputName, planned: sql<string | null>`${runItems.snapshot}->>'plannedName'` })
    .from(runItems)
    .where(and(eq(runItems.runId, runId), ne(runItems.id, itemId)));
  const taken = new Set(
    others
      .flatMap((other) => [other.name, other.planned])
      .filter((one) => one !== null)
      .map(sameName),
  );
  return freeName(name, (one) => taken.has(sameName(one)));
}

/** The files of a photo's set that a run still waits for, in their order. */
export const waitingParts = (db: Executor, runId: string, assignmentId: string) =>
  db
    .select({ id: runItems.id, snapshot: runItems.snapshot })
    .from(runItems)
    .where(
      and(eq(runItems.runId, runId), eq(runItems.assignmentId, assignmentId), eq(runItems.state, "waiting")),
    )
    .orderBy(runItems.part);

export interface ItemRow {
  id: string;
  runId: string;
  assignmentId: string;
  state: ItemState;
  error: string | null;
  outputSha256: string | null;
  outputName: string | null;
  difference: number | null;
  differenceAbout: boolean;
  bytes: number | null;
  gone: boolean | null;
  checks: (typeof proofs.$inferSelect)["checks"] | null;
  ok: boolean | null;
  facts: (typeof proofs.$inferSelect)["facts"] | null;
  unchanged: string[] | null;
  dropped: string[] | null;
  proofNotes: string[] | null;
  ticks: Record<string, string>;
  brief: Brief;
  sourceName: string;
  share: ShareTarget | null;
  /** Which file of a set; 0 for a single one. */
  part: number;
}

/** The brief that an item is made under: that of its assignment's revision. */
export const itemBrief = sql<Brief>`(select r.body from assignments a join brief_revisions r on r.id = a.revision_id where a.id = ${runItems.assignmentId})`;

const itemColumns = {
  id: runItems.id,
  runId: runItems.runId,
  assignmentId: runItems.assignmentId,
  state: runItems.state,
  error: runItems.error,
  difference: runItems.difference,
  differenceAbout: runItems.differenceAbout,
  gone: files.gone,
  outputSha256: runItems.outputSha256,
  outputName: runItems.outputName,
  bytes: files.bytes,
  checks: proofs.checks,
  ok: proofs.ok,
  facts: proofs.facts,
  unchanged: proofs.unchanged,
  dropped: proofs.dropped,
  proofNotes: proofs.notes,
  ticks: runItems.ticks,
  brief: itemBrief,
  sourceName: sql<string>`${runItems.snapshot}->>'sourceName'`,
  share: sql<ShareTarget | null>`${runItems.snapshot}->'share'`,
  part: runItems.part,
};

export async function itemsOf(db: Executor, runId: string, ids?: readonly string[]): Promise<ItemRow[]> {
  return db
    .select(itemColumns)
    .from(runItems)
    .leftJoin(proofs, eq(proofs.runItemId, runItems.id))
    .leftJoin(files, eq(files.sha256, runItems.outputSha256))
    .where(and(eq(runItems.runId, runId), ids && inArray(runItems.id, [...ids])))
    .orderBy(asc(runItems.position));
}

export interface LatestRun {
  row: typeof runs.$inferSelect;
  /** It made several settings, each into a folder of its own. */
  folders: boolean;
}

/** The newest run of a batch, with its items in order; null before the first. */
export async function latestRun(
  db: Executor,
  batchId: string,
): Promise<(LatestRun & { items: ItemRow[] }) | null> {
  const run = await newestRun(db, batchId);
  return run && { ...run, items: await itemsOf(db, run.row.id) };
}

/** The same without them. */
export async function newestRun(db: Executor, batchId: string): Promise<LatestRun | null> {
  const [row] = await db
    .select()
    .from(runs)
    .where(and(eq(runs.batchId, batchId), isNull(runs.deletedAt)))
    .orderBy(desc(runs.seq))
    .limit(1);
  if (!row) return null;
  const [compared] = await db
    .select({ id: runItems.id })
    .from(runItems)
    .where(and(eq(runItems.runId, row.id), sql`${runItems.snapshot} ? 'compared'`))
    .limit(1);
  return { row, folders: compared !== undefined };
}

/** The items of a run in their order, each with what becomes another whenever something is written about it. */
export const itemVersions = (db: Executor, runId: string): Promise<Version[]> =>
  db
    .select({
      id: runItems.id,
      version: sql<string>`concat_ws(' ', ${runItems}.xmin, ${proofs}.xmin, ${files.gone})`,
    })
    .from(runItems)
    .leftJoin(proofs, eq(proofs.runItemId, runItems.id))
    .leftJoin(files, eq(files.sha256, runItems.outputSha256))
    .where(eq(runItems.runId, runId))
    .orderBy(asc(runItems.position));

/** Finished files of a run, or of one item, that belong to the workspace and are still there. */
export async function outputsOf(
  db: Executor,
  workspaceId: string,
  by: { runId: string } | { itemIds: string[] },
) {
  const where = "runId" in by ? eq(runItems.runId, by.runId) : inArray(runItems.id, by.itemIds);
  const rows = await db
    .select({
      id: runItems.id,
      name: runItems.outputName,
      sha256: runItems.outputSha256,
      bytes: files.bytes,
      format: sql<string>`${proofs.facts}->>'format'`,
      snapshot: runItems.snapshot,
      brief: itemBrief,
      checks: proofs.checks,
      facts: proofs.facts,
      difference: runItems.difference,
    })
    .from(runItems)
    .innerJoin(runs, eq(runs.id, runItems.runId))
    .innerJoin(files, eq(files.sha256, runItems.outputSha256))
    .innerJoin(proofs, eq(proofs.runItemId, runItems.id))
    .where(
      and(
        where,
        eq(runs.workspaceId, workspaceId),
        eq(runItems.state, "done"),
        eq(files.gone, false),
        isNull(runs.filesDeletedAt),
      ),
    )
    .orderBy(asc(runItems.position));
  return rows.map(({ name, sha256, ...row }) => ({ ...row, name: name!, sha256: sha256! }));
}
