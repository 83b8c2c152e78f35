/** Receivers, what came to them, and what is on its way. */
import { and, asc, desc, eq, inArray, sql } from "drizzle-orm";
import {
  type ArrivedFile,
  type ArrivedMessage,
  arrivals,
  type HandoverState,
  handovers,
  packages,
  receivers,
} from "../counter-schema";
import type { Database, Executor } from "../store";
import { claimFiles } from "./files";

export type ReceiverRow = typeof receivers.$inferSelect;
export type ArrivalRow = typeof arrivals.$inferSelect;
export type HandoverRow = typeof handovers.$inferSelect;
export type PackageRow = typeof packages.$inferSelect;

/** In their order; `usual` are set up where there are none yet. */
export async function listReceivers(
  db: Database,
  workspaceId: string,
  usual: readonly unknown[],
): Promise<ReceiverRow[]> {
  const find = (tx: Executor) =>
    tx
      .select()
      .from(receivers)
      .where(eq(receivers.workspaceId, workspaceId))
      .orderBy(asc(receivers.position));
  const known = await find(db);
  if (known.length) return known;
  return db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${`receivers ${workspaceId}`}))`);
    const now = await find(tx);
    if (!now.length)
      await tx.insert(receivers).values(usual.map((rules, position) => ({ workspaceId, rules, position })));
    return now.length ? now : find(tx);
  });
}

export async function setRules(db: Executor, id: string, rules: unknown): Promise<void> {
  await db.update(receivers).set({ rules }).where(eq(receivers.id, id));
}

/** The arrival of that key, begun where it is new. */
export async function openArrival(db: Database, receiverId: string, key: string): Promise<ArrivalRow> {
  await db.insert(arrivals).values({ receiverId, key }).onConflictDoNothing();
  const [row] = await db
    .select()
    .from(arrivals)
    .where(and(eq(arrivals.receiverId, receiverId), eq(arrivals.key, key)));
  return row;
}

/** A file that came once already, under its name and slot, is not taken a second time. */
export async function addArrived(db: Database, arrivalId: string, file: ArrivedFile): Promise<void> {
  await db.transaction(async (tx) => {
    await claimFiles(tx, [file.sha256]);
    const [row] = await tx.select().from(arrivals).where(eq(arrivals.id, arrivalId)).for("update");
    if (!row || row.answer !== null) return;
    const others = row.files.filter((one) => one.name !== file.name || one.slot !== file.slot);
    await tx
      .update(arrivals)
      .set({ files: [...others, file] })
      .where(eq(arrivals.id, arrivalId));
  });
}

/** The first answer stays. */
export async function answerArrival(db: Executor, arrivalId: string, answer: unknown): Promise<unknown> {
  await db
    .update(arrivals)
    .set({ answer })
    .where(and(eq(arrivals.id, arrivalId), sql`${arrivals.answer} is null`));
  const [row] = await db.select({ answer: arrivals.answer }).from(arrivals).where(eq(arrivals.id, arrivalId));
  return row.answer;
}

/** A whole message; false where it is there already. */
export async function addMessage({
  db,
  receiverId,
  key,
  message,
  files,
  answer,
}: {
  db: Database;
  receiverId: string;
  key: string;
  message: ArrivedMessage;
  files: ArrivedFile[];
  answer: unknown;
}): Promise<boolean> {
  return db.transaction(async (tx) => {
    const stored = files.map(({ sha256 }) => sha256);
    await claimFiles(tx, message.sha256 ? [...stored, message.sha256] : stored);
    const rows = await tx
      .insert(arrivals)
      .values({ receiverId, key, message, files, answer })
      .onConflictDoNothing()
      .returning({ id: arrivals.id });
    return rows.length > 0;
  });
}

/** Newest first; only what is whole. */
export async function listArrivals(db: Executor, receiverId: string, limit = 50): Promise<ArrivalRow[]> {
  return db
    .select()
    .from(arrivals)
    .where(and(eq(arrivals.receiverId, receiverId), sql`${arrivals.answer} is not null`))
    .orderBy(desc(arrivals.createdAt))
    .limit(limit);
}

export async function getArrival(
  db: Executor,
  workspaceId: string,
  id: string,
): Promise<(ArrivalRow & { rules: unknown }) | null> {
  const [row] = await db
    .select({ arrival: arrivals, rules: receivers.rules })
    .from(arrivals)
    .innerJoin(receivers, eq(receivers.id, arrivals.receiverId))
    .where(and(eq(arrivals.id, id), eq(receivers.workspaceId, workspaceId)));
  return row ? { ...row.arrival, rules: row.rules } : null;
}

export async function createHandover(db: Executor, value: typeof handovers.$inferInsert): Promise<string> {
  const [row] = await db.insert(handovers).values(value).returning({ id: handovers.id });
  return row.id;
}

export async function getHandover(db: Executor, id: string): Promise<HandoverRow | null> {
  const [row] = await db.select().from(handovers).where(eq(handovers.id, id));
  return row ?? null;
}

/** Begins a try; null where one is under way or it was answered. */
export async function beginTry(db: Executor, id: string): Promise<HandoverRow | null> {
  const [row] = await db
    .update(handovers)
    .set({ state: "sending", error: null, tries: sql`${handovers.tries} + 1` })
    .where(and(eq(handovers.id, id), inArray(handovers.state, ["waiting", "failed"])))
    .returning();
  return row ?? null;
}

export async function endTry(
  db: Executor,
  id: string,
  end: { state: HandoverState; error?: string | null; answer?: unknown },
): Promise<void> {
  await db.update(handovers).set(end).where(eq(handovers.id, id));
}

export async function listHandovers(db: Executor, receiverId: string, limit = 20): Promise<HandoverRow[]> {
  return db
    .select()
    .from(handovers)
    .where(eq(handovers.receiverId, receiverId))
    .orderBy(desc(handovers.createdAt))
    .limit(limit);
}

/** What was under way when the process ended. */
export async function breakOff(db: Executor, words: string): Promise<void> {
  await db
    .update(handovers)
    .set({ state: "failed", error: words })
    .where(inArray(handovers.state, ["waiting", "sending"]));
}

/** The package that was begun last for a form; null before the first. */
export async function latestPackage(db: Executor, receiverId: string): Promise<PackageRow | null> {
  const [row] = await db
    .select()
    .from(packages)
    .where(eq(packages.receiverId, receiverId))
    .orderBy(desc(packages.createdAt))
    .limit(1);
  return row ?? null;
}

export async function createPackage(db: Executor, value: typeof packages.$inferInsert): Promise<void> {
  await db.insert(packages).values(value);
}
