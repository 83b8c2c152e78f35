/**
 * The process that works on one file: the kind, the word "pixels", "facts" or "lighter", and the wish as its
 * arguments, bytes on standard input;
 * the length of a description, the description as JSON, then the pixels or the file on standard output.
 */
import { DECODERS, type Layered, LIGHTENERS, READERS, type Reading } from "./decoders";
import { isForeign, type Wish } from "./kinds";

const [, , kind, asked, wish] = process.argv;
async function answer(bytes: Buffer, wish: Wish): Promise<{ data: Uint8Array | Uint16Array }> {
  if (asked === "facts") return { ...(await READERS[kind as Reading](bytes)), data: new Uint8Array(0) };
  if (asked === "lighter") {
    const { file, report } = await LIGHTENERS[kind as Layered](bytes, wish.lighter!, wish.size);
    return { ...report, data: file };
  }
  if (!isForeign(kind)) throw new Error(`no decoder for ${kind}`);
  return DECODERS[kind](bytes, wish);
}

const pieces: Buffer[] = [];
for await (const piece of process.stdin as AsyncIterable<Buffer>) pieces.push(piece);
try {
  const bytes = Buffer.concat(pieces);
  const { data, ...rest } = await answer(bytes, JSON.parse(wish) as Wish);
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
