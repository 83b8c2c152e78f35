/**
 * Messages with pictures, as `.eml` files: RFC 5322 headers, RFC 2045 and 2046 bodies, composed by a library
 * and streamed.
 */
import { randomBytes } from "node:crypto";
import { PassThrough, type Readable } from "node:stream";
import MailComposer from "nodemailer/lib/mail-composer/index.js";
import { base64Bytes, numbered } from "@/core/delivery/mail";
import { freeName, splitName } from "@/core/plan/names";
import { zipOf } from "./zip";

export interface MailFile {
  name: string;
  /** MIME type. */
  type: string;
  bytes: number;
  from: { path: string } | { bytes: Buffer };
}

const TYPES: Record<string, string> = { jpg: "jpeg", jpe: "jpeg", jfif: "jpeg", tif: "tiff", dib: "bmp" };

/** The MIME type that an ending means. */
export function typeOf(name: string): string {
  const ending = splitName(name).ending.toLowerCase();
  if (ending === "pdf") return "application/pdf";
  return ending ? `image/${TYPES[ending] ?? ending}` : "application/octet-stream";
}

export interface MailTask {
  subject: string;
  files: readonly MailFile[];
  /** One ZIP, or each picture on its own. */
  as: "separate" | "zip";
  /** Of several messages which one this is, from 1. */
  n: number;
  of: number;
  /**
   * Its own name, of letters, digits and hyphens; absent, one is made up. Sent twice under one name, it is
   * one message.
   */
  id?: string;
}

/**
 * Bytes that are left free for the addresses and for what mail servers write on top while a message travels.
 */
export const HEADERS_TO_COME = 1024;

const ZIP: Part = { filename: "pictures.zip", contentType: "application/zip" };

interface Part {
  filename: string;
  contentType: string;
  content?: Buffer | Readable;
  /** Opened when it is its turn. */
  path?: string;
}

function compose({ subject, files, n, of, id }: MailTask, attachments: Part[]) {
  const count = files.length === 1 ? "1 picture" : `${files.length} pictures`;
  // Short lines and CRLF: such a text needs no encoding of its own.
  const text = `${count}${of > 1 ? `, message ${n} of ${of}` : ""}.\r\n`;
  return new MailComposer({
    subject: numbered(subject, n, of),
    text,
    messageId: `<${id ?? randomBytes(12).toString("hex")}@zumbrel.invalid>`,
    // Mail programs open such a message ready to be addressed and sent.
    headers: { "X-Unsent": "1" },
    attachments,
    disableUrlAccess: true,
  }).compile();
}

const EMPTY = Buffer.alloc(0);
/** A file that is streamed into a ZIP is followed by its checksum and sizes (APPNOTE 4.3.9). */
const DESCRIPTOR = 16;
/** Files one after the other fill lines that each alone would leave unfinished. */
const LINE_END = 4;

/** Bytes that a message has beside the encoded files: measured by composing it around empty ones. */
async function bareBytes(task: MailTask, parts: readonly Part[]): Promise<number> {
  const built = await compose(
    task,
    parts.map(({ filename, contentType }) => ({ filename, contentType, content: EMPTY })),
  ).build();
  return built.length;
}

/** Attachments lie in no folders; where two would have one name, the second becomes name-2. */
function partsOf(files: readonly MailFile[]): Part[] {
  const taken = new Set<string>();
  return files.map(({ name, type, from }) => {
    const filename = freeName(name.split("/").pop()!, (one) => taken.has(one.toLowerCase()));
    taken.add(filename.toLowerCase());
    return {
      filename,
      contentType: type,
      ...("path" in from ? { path: from.path } : { content: from.bytes }),
    };
  });
}

/** Bytes that messages of these files have beside `base64Bytes` of each, whichever way they are attached. */
export async function mailOverhead(
  task: Omit<MailTask, "as" | "files"> & { files: readonly Omit<MailFile, "from">[] },
): Promise<number> {
  const files = task.files.map((file) => ({ ...file, from: { bytes: EMPTY } }));
  const whole = { ...task, files, as: "separate" as const };
  const separate = await bareBytes(whole, partsOf(files));
  const { bytes: zipped } = await discard(zipOf(files.map(({ name }) => ({ name, from: { bytes: EMPTY } }))));
  const zip =
    (await bareBytes(whole, [ZIP])) +
    base64Bytes(zipped + DESCRIPTOR * files.length) +
    LINE_END * files.length;
  return Math.max(separate, zip) + HEADERS_TO_COME;
}

async function discard(coming: ReturnType<typeof zipOf>) {
  const zip = await coming;
  zip.stream.destroy();
  return zip;
}

export interface MailStream {
  /** Of the message, to the byte. */
  bytes: number;
  stream: Readable;
}

/** One message, streamed. */
export async function composeMail(task: MailTask): Promise<MailStream> {
  const { files } = task;
  if (task.as === "zip") {
    const { bytes, stream } = await zipOf(files.map(({ name, from }) => ({ name, from })));
    return {
      bytes: (await bareBytes(task, [ZIP])) + base64Bytes(bytes),
      stream: streamed(compose(task, [{ ...ZIP, content: stream }])),
    };
  }
  const parts = partsOf(files);
  const bytes =
    (await bareBytes(task, parts)) + files.reduce((sum, file) => sum + base64Bytes(file.bytes), 0);
  return { bytes, stream: streamed(compose(task, parts)) };
}

const streamed = (node: { createReadStream(): Readable }): Readable =>
  node.createReadStream().pipe(new PassThrough());
