/**
 * The process that works on one file after the other: it is asked for pixels, facts or a lighter file, and answers
 * with a description and the pixels or the file.
 */
import { Frames, frameHead } from "../workers";
import { DECODERS, type Layered, LIGHTENERS, READERS, type Reading } from "./decoders";
import type { Question } from "./foreign";
import { isForeign } from "./kinds";

async function answer(
  { kind, what, wish }: Question,
  bytes: Buffer,
): Promise<{ data: Uint8Array | Uint16Array }> {
  if (what === "facts") return { ...(await READERS[kind as Reading](bytes)), data: new Uint8Array(0) };
  if (what === "lighter") {
    const { file, report } = await LIGHTENERS[kind as Layered](bytes, wish.lighter!, wish.size);
    return { ...report, data: file };
  }
  if (!isForeign(kind)) throw new Error(`no decoder for ${kind}`);
  return DECODERS[kind](bytes, wish);
}

async function work(question: Question, bytes: Buffer): Promise<void> {
  try {
    const { data, ...rest } = await answer(question, bytes);
    reply({ ...rest, deep: data instanceof Uint16Array }, data);
  } catch (error) {
    reply({ refused: error instanceof Error ? error.message.split("\n")[0].slice(0, 400) : "unknown" });
  }
}

function reply(words: object, data: Uint8Array | Uint16Array = new Uint8Array(0)): void {
  const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  process.stdout.write(frameHead({ ...words, holds: process.memoryUsage.rss() }, bytes));
  process.stdout.write(bytes);
}

// What a decoder's own library says does not come between answers.
console.log = console.error;
const frames = new Frames<Question>((question, bytes) => void work(question, bytes));
process.stdin.on("data", (piece: Buffer) => frames.add(piece));
// Whoever asked has ended.
process.stdin.on("end", () => process.exit(0));
