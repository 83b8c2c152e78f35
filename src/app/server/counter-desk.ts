/**
 * The receivers' own doors: files come one by one under the sender's key, then the receiver is asked for its
 * answer.
 */
import { createHash } from "node:crypto";
import type { IncomingMessage } from "node:http";
import { setTimeout } from "node:timers/promises";
import * as z from "zod";
import type { Answer, Received } from "@/receivers";
import {
  type Delivered,
  judgeForm,
  judgePrint,
  judgeWall,
  type Mailbox,
  type MailboxRules,
  openMailbox,
  RECEIVERS,
  type Rules,
  rulesSchema,
} from "@/receivers";
import { announce } from "@/store";
import {
  addArrived,
  addMessage,
  answerArrival,
  keepBytes,
  keepFile,
  listReceivers,
  openArrival,
  putSetting,
  type ReceiverRow,
} from "@/store/queries";
import { checkId, RequestError } from "./answer";
import { getStore, getWorkspace } from "./store";

export interface Receiver {
  id: string;
  rules: Rules;
}

const read = (row: ReceiverRow): Receiver => ({ id: row.id, rules: rulesSchema.parse(row.rules) });

export async function receiversHere(): Promise<Receiver[]> {
  return (await listReceivers(getStore().db, await getWorkspace(), RECEIVERS)).map(read);
}

export async function requireReceiver(id: string): Promise<Receiver> {
  const found = (await receiversHere()).find((one) => one.id === checkId(id));
  if (!found) throw new RequestError(404, "There is no such receiver at the counter. Choose another.");
  return found;
}

/** The largest file that any receiver takes in, in bytes. */
const LIMIT = 256 * 1024 * 1024;
const SLOW_MS = 3000;
/** A door that closes in the middle does so after this many bytes. */
const CLOSES_AFTER = 2048;

const key = z.string().regex(/^[\w.-]{8,100}$/);
const fileQuery = z.object({ key, name: z.string().min(1).max(255), slot: z.string().max(40).nullable() });

/** The line to the sender is cut. */
export class CutOff extends Error {}

/** `POST /counter/<id>/files?key=…&name=…&slot=…`, the file as the body. */
export async function takeFile(
  id: string,
  query: URLSearchParams,
  request: IncomingMessage,
): Promise<{ ok: true }> {
  const { rules, id: receiverId } = await requireReceiver(id);
  const asked = fileQuery.parse({ key: query.get("key"), name: query.get("name"), slot: query.get("slot") });
  const store = getStore();
  const { db } = store;
  const arrival = await openArrival(db, receiverId, asked.key);
  if (rules.mood === "slow") await setTimeout(SLOW_MS / 3);
  const { sha256, bytes } = await keepFile(
    store,
    rules.mood === "closes" ? closing(request) : request,
    LIMIT,
  );
  await addArrived(db, arrival.id, { slot: asked.slot, name: asked.name, sha256, bytes });
  return { ok: true };
}

/** Takes the beginning, then hangs up: at once, before anything answers for it. */
async function* closing(request: IncomingMessage): AsyncGenerator<Buffer> {
  const { socket } = request;
  let bytes = 0;
  for await (const piece of request as AsyncIterable<Buffer>) {
    bytes += piece.length;
    if (bytes > CLOSES_AFTER) socket.destroy();
    if (socket.destroyed) throw new CutOff();
    yield piece;
  }
  socket.destroy();
  throw new CutOff();
}

/** `POST /counter/<id>/done?key=…`: asked again, the answer is the same. */
export async function answerTo(id: string, query: URLSearchParams): Promise<Answer> {
  const { rules, id: receiverId } = await requireReceiver(id);
  if (rules.mood === "closes") throw new CutOff();
  const { db, files } = getStore();
  const arrival = await openArrival(db, receiverId, key.parse(query.get("key")));
  if (arrival.answer) return arrival.answer as Answer;
  if (rules.mood === "slow") await setTimeout(SLOW_MS);
  if (!arrival.files.length) throw new RequestError(422, "Nothing has come under this key.");
  const received: Received[] = [];
  for (const file of arrival.files)
    received.push({ slot: file.slot, name: file.name, bytes: await files.read(file.sha256) });
  const receipt = `QM-${createHash("sha256").update(arrival.id).digest("hex").slice(0, 6).toUpperCase()}`;
  const answer = await judge(rules, received, receipt);
  const said = (await answerArrival(db, arrival.id, answer)) as Answer;
  await announce(db, null);
  return said;
}

function judge(rules: Rules, files: readonly Received[], receipt: string): Promise<Answer> {
  switch (rules.kind) {
    case "form":
      return judgeForm(rules, files, receipt);
    case "print":
      return judgePrint(rules, files, receipt);
    case "wall":
      return judgeWall(rules, files, receipt);
    default:
      throw new RequestError(400, "This receiver takes mail: send it a message.");
  }
}

/** Starts the mailbox; its port is kept for the screen and for senders. */
export async function startMailbox(webPort: number): Promise<Mailbox> {
  const { db } = getStore();
  const mailbox = async () =>
    (await receiversHere()).find(
      (one): one is Receiver & { rules: MailboxRules } => one.rules.kind === "mailbox",
    )!;
  const opened = await openMailbox(
    {
      rules: async () => (await mailbox()).rules,
      deliver: async (message) => keep((await mailbox()).id, message),
    },
    webPort + 1,
  );
  await putSetting(db, "smtpPort", opened.port);
  return opened;
}

async function keep(
  receiverId: string,
  { key: name, subject, from, bytes, raw, files, answer }: Delivered,
): Promise<boolean> {
  const store = getStore();
  const { db } = store;
  const message = {
    subject: subject.slice(0, 300),
    from: from.slice(0, 200),
    bytes,
    sha256: raw && (await keepBytes(store, raw)).sha256,
  };
  const kept = [];
  for (const file of files) {
    const { sha256, bytes: size } = await keepBytes(store, file.bytes);
    kept.push({ slot: null, name: file.name.slice(0, 255), sha256, bytes: size });
  }
  const fresh = await addMessage({ db, receiverId, key: name.slice(0, 300), message, files: kept, answer });
  await announce(db, null);
  return fresh;
}
