/** Files of earlier runs that a new one takes over: made in the same way, or obeying a brief that was changed since. */
import { and, asc, eq, inArray, isNull } from "drizzle-orm";
import { type Brief, type ClauseKey, resolveBrief } from "@/core/brief";
import { type Check, checkFacts, meets } from "@/core/proof";
import { canonical } from "@/core/units";
import { assignments, batchPhotos, briefRevisions, files, proofs, runItems, runs } from "../schema";
import type { Executor } from "../store";
import type { listRows } from "./batch-rows";

type Row = Awaited<ReturnType<typeof listRows>>[number];

export interface MadeBefore {
  itemId: string;
  sha256: string;
  difference: number | null;
  differenceAbout: boolean;
  snapshot: (typeof runItems.$inferSelect)["snapshot"];
  /** Under the brief as it is now; missing where the proof holds as it is. */
  checks?: Check[];
}

/** What was made of a batch's assignments last, where its bytes are still there. */
export async function madeBefore(db: Executor, batchId: string): Promise<Map<string, MadeBefore>> {
  const rows = await db
    .select({
      itemId: runItems.id,
      assignmentId: runItems.assignmentId,
      sha256: runItems.outputSha256,
      difference: runItems.difference,
      differenceAbout: runItems.differenceAbout,
      snapshot: runItems.snapshot,
    })
    .from(runItems)
    .innerJoin(runs, eq(runs.id, runItems.runId))
    .innerJoin(files, and(eq(files.sha256, runItems.outputSha256), eq(files.gone, false)))
    .where(and(eq(runs.batchId, batchId), eq(runItems.state, "done"), isNull(runs.deletedAt)))
    .orderBy(asc(runs.seq));
  return new Map(rows.map(({ assignmentId, sha256, ...row }) => [assignmentId, { ...row, sha256: sha256! }]));
}

/** By new item, the earlier one whose file it has: the proof goes along, with checks of the brief as it is now. */
export async function takeOverProofs(db: Executor, taken: ReadonlyMap<string, MadeBefore>): Promise<void> {
  if (!taken.size) return;
  const from = [...taken.values()].map(({ itemId }) => itemId);
  const known = new Map(
    (await db.select().from(proofs).where(inArray(proofs.runItemId, from))).map((proof) => [
      proof.runItemId,
      proof,
    ]),
  );
  await db.insert(proofs).values(
    [...taken].map(([runItemId, { itemId, checks }]) => {
      const proof = known.get(itemId)!;
      return { ...proof, runItemId, checks: checks ?? proof.checks, ok: checks ? true : proof.ok };
    }),
  );
}

/** What a file's facts alone can be held against; a change of any other clause has the file made again. */
const READ_OFF: ReadonlySet<ClauseKey> = new Set<ClauseKey>([
  "format",
  "width",
  "height",
  "longSide",
  "shortSide",
  "box",
  "sizes",
  "shape",
  "paper",
  "resolution",
  "fileSize",
  "quality",
]);

/** Clauses that facts say nothing of, in one spelling. */
const others = ({ read, wording, unread, onlyYou, overruled, ...brief }: Brief): string =>
  canonical(Object.fromEntries(Object.entries(brief).filter(([key]) => !READ_OFF.has(key as ClauseKey))));

/** By assignment, the newest file of the same photo under an earlier form of its brief that obeys the one of now. */
export async function stillObeying(
  db: Executor,
  batchId: string,
  rows: readonly Row[],
  bodies: ReadonlyMap<string, Brief>,
): Promise<Map<string, MadeBefore>> {
  const made = await db
    .select({
      itemId: runItems.id,
      sha256: runItems.outputSha256,
      difference: runItems.difference,
      differenceAbout: runItems.differenceAbout,
      snapshot: runItems.snapshot,
      row: assignments.batchPhotoId,
      briefId: briefRevisions.briefId,
      body: briefRevisions.body,
      facts: proofs.facts,
      checks: proofs.checks,
    })
    .from(runItems)
    .innerJoin(runs, eq(runs.id, runItems.runId))
    .innerJoin(assignments, eq(assignments.id, runItems.assignmentId))
    .innerJoin(batchPhotos, eq(batchPhotos.id, assignments.batchPhotoId))
    .innerJoin(briefRevisions, eq(briefRevisions.id, assignments.revisionId))
    .innerJoin(proofs, eq(proofs.runItemId, runItems.id))
    .innerJoin(files, and(eq(files.sha256, runItems.outputSha256), eq(files.gone, false)))
    .where(and(eq(runs.batchId, batchId), eq(runItems.state, "done"), isNull(runs.deletedAt)))
    .orderBy(asc(runs.seq));
  const newest = new Map(made.map((one) => [one.row, one]));
  const briefIds = await briefsOf(db, [...bodies.keys()]);
  const out = new Map<string, MadeBefore>();
  for (const row of rows) {
    const known = newest.get(row.id);
    const body = bodies.get(row.revisionId!)!;
    if (!known || known.briefId !== briefIds.get(row.revisionId!) || others(known.body) !== others(body))
      continue;
    const { itemId, sha256, difference, differenceAbout, snapshot, facts } = known;
    // A frame or a setting that was changed since asks for another file.
    if (canonical([snapshot.frame, snapshot.choice ?? null]) !== canonical([row.frame, row.choice ?? null]))
      continue;
    const held = checkFacts({
      brief: body,
      resolved: resolveBrief(body),
      facts,
      before: body.ink ? null : row.facts,
      frame: snapshot.frame,
    });
    if (!meets(held) || held.some((check) => check.gaveWay)) continue;
    const judged = new Set(held.map((check) => check.clause));
    const checks = [
      ...held,
      ...known.checks.filter((check) => !judged.has(check.clause) && body[check.clause]),
    ];
    out.set(row.assignmentId!, { itemId, sha256: sha256!, difference, differenceAbout, snapshot, checks });
  }
  return out;
}

async function briefsOf(db: Executor, revisionIds: readonly string[]): Promise<Map<string, string>> {
  if (!revisionIds.length) return new Map();
  const rows = await db
    .select({ id: briefRevisions.id, briefId: briefRevisions.briefId })
    .from(briefRevisions)
    .where(inArray(briefRevisions.id, [...revisionIds]));
  return new Map(rows.map(({ id, briefId }) => [id, briefId]));
}
