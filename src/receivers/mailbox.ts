/**
 * The mailbox: speaks SMTP on loopback (RFC 5321), announces its limit (SIZE, RFC 1870), and counts what
 * comes over the line.
 */
import type { Socket } from "node:net";
import PostalMime from "postal-mime";
import { SMTPServer, type SMTPServerDataStream } from "smtp-server";
import type { Answer } from "./answer";
import type { MailboxRules } from "./rules";

export interface Delivered {
  /** The sender's name for the message: sent twice, it is there once. */
  key: string;
  subject: string;
  from: string;
  /** As it came over the line. */
  bytes: number;
  raw: Buffer | null;
  files: { name: string; bytes: Buffer }[];
  answer: Answer;
}

export interface MailboxHost {
  rules(): Promise<MailboxRules>;
  /** False where the message was there already. */
  deliver(message: Delivered): Promise<boolean>;
}

export interface Mailbox {
  port: number;
  close(): Promise<void>;
}

/** RFC 5321, 4.5.3.1: a command is at most 512 bytes, a line of text 1000; senders are given some room. */
const LONGEST_COMMAND = 8192;
const IDLE_MS = 60_000;
const SLOW_MS = 4_000;

const refusal = (code: number, words: string) => Object.assign(new Error(words), { responseCode: code });
const mb = (bytes: number) => `${(bytes / 1_000_000).toFixed(2)} MB`;

export const tooLarge = (bytes: number, limit: number) =>
  `message too large: ${mb(bytes)}, and at most ${mb(limit)} are taken`;

/** Starts listening on a free port of loopback, `wanted` if it is free. */
export async function openMailbox(host: MailboxHost, wanted: number): Promise<Mailbox> {
  const server = new SMTPServer({
    banner: "Quillmoor mailbox, made up",
    disabledCommands: ["AUTH", "STARTTLS"],
    authOptional: true,
    size: (await host.rules()).limit,
    socketTimeout: IDLE_MS,
    closeTimeout: 1000,
    maxClients: 20,
    disableReverseLookup: true,
    logger: false,
    onConnect: (_session, done) => {
      // Rules may have been changed since the last call.
      host.rules().then(({ limit }) => {
        (server.options as { size?: number }).size = limit;
        done();
      }, done);
    },
    onRcptTo: ({ address }, _session, done) => {
      host
        .rules()
        .then(
          (rules) =>
            done(
              address.toLowerCase() === rules.address
                ? null
                : refusal(550, `no such mailbox here: ${address.slice(0, 100)}`),
            ),
          done,
        );
    },
    onData: (stream, session, done) => {
      const from = session.envelope.mailFrom ? session.envelope.mailFrom.address : "";
      take(host, stream, from).then((words) => done(null, words), done);
    },
  });
  server.on("error", () => undefined);
  server.server.on("connection", guardCommands);
  const listen = (port: number) =>
    new Promise<number>((resolve, reject) => {
      const failed = (error: Error) => reject(error);
      server.server.once("error", failed);
      server.listen(port, "127.0.0.1", () => {
        server.server.removeListener("error", failed);
        const address = server.server.address();
        resolve(typeof address === "object" && address ? address.port : port);
      });
    });
  const port = await listen(wanted).catch(() => listen(0));
  return { port, close: () => new Promise((resolve) => server.close(() => resolve())) };
}

/** A command without an end would be gathered for ever: such a line is answered and the call ended. */
function guardCommands(socket: Socket): void {
  let open = 0;
  let inData = false;
  socket.on("data", (piece: Buffer) => {
    const text = piece.toString("latin1");
    if (!inData && /(^|\n)data\r?\n/i.test(text)) inData = true;
    else if (inData && /\r\n\.\r\n$/.test(text)) inData = false;
    const end = text.lastIndexOf("\n");
    open = end < 0 ? open + piece.length : text.length - end - 1;
    if (!inData && open > LONGEST_COMMAND) {
      socket.write("500 5.5.2 line too long\r\n");
      socket.destroySoon();
    }
  });
}

/** The words of a message that was taken. Throws, with the code to answer, for one that was not. */
async function take(host: MailboxHost, stream: SMTPServerDataStream, from: string): Promise<string> {
  const rules = await host.rules();
  if (rules.mood === "slow") await new Promise((done) => setTimeout(done, SLOW_MS));
  const pieces: Buffer[] = [];
  let bytes = 0;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    bytes += piece.length;
    if (bytes <= rules.limit) pieces.push(piece);
    else pieces.length = 0;
  }
  if (rules.mood === "closes") throw refusal(421, "the mailbox closes now; try again later");
  const raw = bytes <= rules.limit ? Buffer.concat(pieces) : null;
  const mail =
    raw && (await PostalMime.parse(raw, { maxNestingDepth: 20, maxHeadersSize: 200_000 }).catch(() => null));
  if (raw && (!mail || (!mail.headers.length && !mail.attachments.length)))
    throw refusal(554, "this is no message: it has no headers");
  const words = raw ? `delivered, ${mb(bytes)} of ${mb(rules.limit)}` : tooLarge(bytes, rules.limit);
  const files = (mail?.attachments ?? []).map((part, i) => ({
    name: part.filename ?? `part-${i + 1}`,
    bytes: Buffer.from(part.content as ArrayBuffer),
  }));
  const lines = files.map((file) => ({
    about: file.name,
    ok: true,
    words: `arrived, ${(file.bytes.length / 1000).toFixed(1)} KB`,
  }));
  const answer: Answer = raw
    ? {
        accepted: true,
        words: `Delivered: ${mb(bytes)} over the line, ${mb(rules.limit)} are the limit.`,
        lines,
        receipt: null,
      }
    : { accepted: false, words: `Returned to the sender: ${words}.`, lines: [], receipt: null };
  const key = mail?.messageId ?? `${from} ${bytes} ${Date.now()}`;
  const fresh = await host.deliver({ key, subject: mail?.subject ?? "", from, bytes, raw, files, answer });
  if (!raw) throw refusal(552, words);
  return fresh ? words : "delivered before; it is there once";
}
