/**
 * The process that decodes one file: the kind, the word "pixels" or "facts", and the wish as its arguments, bytes on standard input;
 * the length of a description, the description as JSON, then the pixels on standard output.
 */
import { DECODERS, READERS, type Reading } from "./foreign-decoders";
import { isForeign, type Wish } from "./foreign-kinds";

const [, , kind, asked, wish] = process.argv;
const pieces: Buffer[] = [];
for await (const piece of process.stdin as AsyncIterable<Buffer>) pieces.push(piece);
try {
  if (!isForeign(kind)) throw new Error(`no decoder for ${kind}`);
  const bytes = Buffer.concat(pieces);
  const { data, ...rest } = asked === "facts" ? { ...(await READERS[kind as Reading](bytes)), data: new Uint8Array(0) } : await DECODERS[kind](bytes, JSON.parse(wish) as Wish);
  const text = Buffer.from(JSON.stringify({ ...rest, deep: data instanceof Uint16Array }));
  const head = Buffer.alloc(4);
  head.writeUInt32LE(text.length);
  process.stdout.write(head);
  process.stdout.write(text);
  process.stdout.write(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), () => process.exit(0));
} catch (error) {
  process.stderr.write(error instanceof Error ? error.message.split("\n")[0].slice(0, 400) : "unknown");
  process.exit(1);
}
