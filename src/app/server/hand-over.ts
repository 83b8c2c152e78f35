/**
 * Hands a run's files to a receiver, as its sender would: over HTTP, or as messages over SMTP. Each can be
 * tried again; nothing is sent twice.
 */
import { createReadStream } from "node:fs";
import { stat } from "node:fs/promises";
import { Readable } from "node:stream";
import { setTimeout } from "node:timers/promises";
import nodemailer from "nodemailer";
import { composeMail, parcelsOf } from "@/delivery";
import type { Answer, FormRules, Line, MailboxRules } from "@/receivers";
import { announce, readEnvironment } from "@/store";
import {
  beginTry,
  createHandover,
  endTry,
  getHandover,
  getRun,
  getSetting,
  type HandoverRow,
  outputsOf,
} from "@/store/queries";
import { RequestError } from "./answer";
import { type Receiver, requireReceiver } from "./counter-desk";
import { mailFiles, requireRun } from "./runs";
import { getStore, getWorkspace } from "./store";

type Output = Awaited<ReturnType<typeof outputsOf>>[number];

const PATIENCE_MS = 60_000;
const LOOK_MS = 300;

/**
 * The item that each slot of a form gets, as far as briefs and slots bear the same names; `chosen` comes
 * first.
 */
export function slotsFor(
  rules: FormRules,
  outputs: readonly Output[],
  chosen: Record<string, string> = {},
): Record<string, string> {
  const taken = new Set(Object.values(chosen));
  const found: Record<string, string> = {};
  for (const slot of rules.slots) {
    const own = chosen[slot.key];
    const like = outputs.find(
      (item) => !taken.has(item.id) && item.brief.name.toLowerCase().endsWith(slot.title.toLowerCase()),
    );
    const id = own && outputs.some((item) => item.id === own) ? own : like?.id;
    if (!id) continue;
    found[slot.key] = id;
    taken.add(id);
  }
  return found;
}

/**
 * Begins handing a run over; it goes on by itself. Throws where it is not clear which file is for which
 * document.
 */
export async function beginHandover(
  receiverId: string,
  runId: string,
  chosen?: Record<string, string>,
): Promise<string> {
  const receiver = await requireReceiver(receiverId);
  const run = await requireRun(runId);
  const { db } = getStore();
  const workspaceId = await getWorkspace();
  // While a run is being made, only what was said of its items is known.
  let slots: Record<string, string> | null = chosen && !run.finishedAt ? chosen : null;
  if (receiver.rules.kind === "form" && run.finishedAt) {
    slots = slotsFor(receiver.rules, await outputsOf(db, workspaceId, { runId }), chosen);
    if (!Object.keys(slots).length)
      throw new RequestError(
        409,
        "It is not clear which of these files is for which document of the form. Choose them on the Counter.",
      );
  }
  const id = await createHandover(db, { workspaceId, receiverId: receiver.id, runId: run.id, slots });
  await begin(id);
  return id;
}

export async function tryAgain(id: string): Promise<void> {
  const row = await getHandover(getStore().db, id);
  if (!row || row.workspaceId !== (await getWorkspace()))
    throw new RequestError(404, "This hand-over is no longer there.");
  if (row.state !== "failed") throw new RequestError(409, "This hand-over is not waiting to be tried again.");
  await begin(id);
}

/** Marks a try as begun; it goes on by itself. */
async function begin(id: string): Promise<void> {
  const { db } = getStore();
  const row = await beginTry(db, id);
  await announce(db, null);
  if (row) void carry(row);
}

/** One try, from beginning to end; whatever goes wrong is written down. */
async function carry(row: HandoverRow): Promise<void> {
  const { db } = getStore();
  const { id } = row;
  try {
    const receiver = await requireReceiver(row.receiverId);
    const outputs = await finishedOutputs(row, receiver);
    const answer =
      receiver.rules.kind === "mailbox"
        ? await byMail(row, receiver.rules)
        : await byDoor(row, receiver, outputs);
    await endTry(db, id, { state: "answered", answer });
  } catch (error) {
    await endTry(db, id, { state: "failed", error: wordsFor(error) }).catch(() => undefined);
  }
  await announce(db, null).catch(() => undefined);
}

function wordsFor(error: unknown): string {
  if (error instanceof RequestError) return error.message;
  const code = (error as NodeJS.ErrnoException | null)?.code ?? "";
  const again = "Try again; what has arrived is not sent twice.";
  if (["ECONNRESET", "EPIPE", "ESOCKET", "ECONNECTION"].includes(code))
    return `The receiver closed the line in the middle. ${again}`;
  if (code === "ETIMEDOUT" || code === "ETIME")
    return `The receiver did not answer within ${PATIENCE_MS / 1000} seconds. ${again}`;
  if (code === "ECONNREFUSED") return `The receiver does not answer at all. ${again}`;
  return (
    "The hand-over broke off: " +
    `${error instanceof Error ? error.message.split("\n")[0].slice(0, 200) : "no reason given"}. ` +
    `${again}`
  );
}

/** The run's files, waited for while it is still being made. */
async function finishedOutputs(row: HandoverRow, receiver: Receiver): Promise<Output[]> {
  const { db } = getStore();
  for (;;) {
    const run = await getRun(db, row.workspaceId, row.runId);
    if (!run) throw new RequestError(404, "The run is no longer there.");
    if (run.finishedAt) break;
    if (run.pausedAt) throw new RequestError(409, "The run is paused. Let it go on, then try again.");
    await setTimeout(LOOK_MS);
  }
  const outputs = await outputsOf(db, row.workspaceId, { runId: row.runId });
  if (!outputs.length)
    throw new RequestError(
      409,
      "The run has made no file, so there is nothing to hand over. Look at it on Runs.",
    );
  if (receiver.rules.kind === "form" && !row.slots) row.slots = slotsFor(receiver.rules, outputs);
  return outputs;
}

/**
 * One file after the other, then the question for the answer. The key is that of the hand-over: a second try
 * goes on where the first ended.
 */
async function byDoor(row: HandoverRow, receiver: Receiver, outputs: readonly Output[]): Promise<Answer> {
  const { slots } = row;
  const of = new Map(Object.entries(slots ?? {}).map(([slot, item]) => [item, slot]));
  const given = slots ? outputs.filter((item) => of.has(item.id)) : outputs;
  const { files } = getStore();
  for (const item of given) {
    const query = new URLSearchParams({
      key: row.id,
      name: item.name.split("/").pop()!,
      ...(of.has(item.id) && { slot: of.get(item.id)! }),
    });
    await post(`/counter/${receiver.id}/files?${query}`, files.path(item.sha256));
  }
  return (await post(`/counter/${receiver.id}/done?key=${row.id}`, null)) as Answer;
}

async function post(path: string, file: string | null): Promise<unknown> {
  const { port } = readEnvironment();
  const bytes = file ? (await stat(file)).size : 0;
  const response = await fetch(`http://127.0.0.1:${port}${path}`, {
    method: "POST",
    headers: { "content-type": "application/octet-stream", "content-length": String(bytes) },
    body: file ? (Readable.toWeb(createReadStream(file)) as ReadableStream) : null,
    duplex: "half",
    signal: AbortSignal.timeout(PATIENCE_MS),
  } as RequestInit).catch((error: unknown) => {
    throw lineFault(error);
  });
  const body = await response.text().catch((error: unknown) => {
    throw lineFault(error);
  });
  if (response.status !== 200)
    throw new RequestError(response.status, `The receiver answered: ${errorIn(body)}`);
  return JSON.parse(body);
}

/** What happened on the line, by its code: `fetch` wraps it, and tells of patience in a way of its own. */
function lineFault(error: unknown): unknown {
  if (!(error instanceof Error)) return error;
  if (error.name === "TimeoutError") return Object.assign(new Error("no answer"), { code: "ETIMEDOUT" });
  const cause = error.cause as (Error & { code?: string }) | undefined;
  // The receiver has hung up: undici's own code for it.
  return cause?.code === "UND_ERR_SOCKET"
    ? Object.assign(new Error("hung up"), { code: "ECONNRESET" })
    : (cause ?? error);
}

function errorIn(body: string): string {
  try {
    return String((JSON.parse(body) as { error?: unknown }).error ?? body).slice(0, 300);
  } catch {
    return body.slice(0, 300);
  }
}

/**
 * As few messages as the run's own limit leaves, each with a name of its own that stays the same in every
 * try. Their size
 * is not announced: the mailbox counts what comes, and keeps a record of what it returns.
 */
async function byMail(row: HandoverRow, rules: MailboxRules): Promise<Answer> {
  const store = getStore();
  const run = await requireRun(row.runId);
  const files = await mailFiles(store, run.id);
  const subject = run.title.split(" · ")[0];
  const parcels = await parcelsOf(files, subject, run.limit?.counted === "mail" ? run.limit.max : Infinity);
  if (!parcels)
    throw new RequestError(
      409,
      "One of these files is larger than a message may be. Ask for smaller files on the Desk.",
    );
  const port = Number(await getSetting(store.db, "smtpPort"));
  const transport = nodemailer.createTransport({
    host: "127.0.0.1",
    port,
    secure: false,
    ignoreTLS: true,
    connectionTimeout: PATIENCE_MS,
    socketTimeout: PATIENCE_MS,
  });
  const lines: Line[] = [];
  try {
    for (const [i, parcel] of parcels.entries()) {
      const about = parcels.length > 1 ? `Message ${i + 1} of ${parcels.length}` : "The message";
      const { stream } = await composeMail({
        subject,
        files: parcel,
        as: "separate",
        n: i + 1,
        of: parcels.length,
        id: `${row.id}-${i + 1}`,
      });
      try {
        const { response } = await transport.sendMail({
          envelope: { from: "office@quillmoor.example", to: rules.address },
          raw: stream,
        });
        lines.push({
          about,
          ok: true,
          words: `${parcel.length} ${parcel.length === 1 ? "picture" : "pictures"}: ${response}`,
        });
      } catch (error) {
        stream.destroy();
        const { responseCode, response } = error as { responseCode?: number; response?: string };
        if (!responseCode || responseCode < 500) throw error;
        lines.push({ about, ok: false, words: response ?? String(responseCode) });
      }
    }
  } finally {
    transport.close();
  }
  const refused = lines.filter((line) => !line.ok).length;
  const words = refused
    ? `${refused} of ${lines.length} ${lines.length === 1 ? "message was" : "messages were"} returned.`
    : `${lines.length === 1 ? "The message was" : `All ${lines.length} messages were`} delivered.`;
  return { accepted: refused === 0, words, lines, receipt: null };
}
