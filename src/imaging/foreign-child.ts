/** The process that decodes one file of a kind named as its argument: bytes on standard input; width, height and channels, then the pixels on standard output. */
import { DECODERS } from "./foreign-decoders";
import { isForeign } from "./foreign-kinds";

const kind = process.argv[2];
const pieces: Buffer[] = [];
for await (const piece of process.stdin as AsyncIterable<Buffer>) pieces.push(piece);
try {
  if (!isForeign(kind)) throw new Error(`no decoder for ${kind}`);
  const { data, width, height, channels } = await DECODERS[kind](Buffer.concat(pieces));
  const head = Buffer.alloc(12);
  [width, height, channels].forEach((value, i) => head.writeUInt32LE(value, i * 4));
  process.stdout.write(head);
  process.stdout.write(data, () => process.exit(0));
} catch (error) {
  process.stderr.write(error instanceof Error ? error.message.split("\n")[0].slice(0, 400) : "unknown");
  process.exit(1);
}
