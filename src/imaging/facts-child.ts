/** The process that finds out what files are: a path comes, their facts or the reason against them go back. */
import { open } from "node:fs/promises";
import type { FactsAnswer, FactsQuestion } from "./facts-aside";
import { lookAt } from "./look-at";

/** Room for one file at a time: fresh memory takes ten times as long as reading into what is there. */
let room = Buffer.alloc(0);
/** A larger file has memory of its own. */
const MOST_ROOM = 64 * 1024 * 1024;

async function bytesOf(path: string): Promise<Buffer> {
  const file = await open(path);
  try {
    const { size } = await file.stat();
    if (size > MOST_ROOM) return await file.readFile();
    if (room.length < size) room = Buffer.allocUnsafeSlow(Math.min(MOST_ROOM, 2 * size));
    let at = 0;
    while (at < size) {
      const { bytesRead } = await file.read(room, at, size - at, at);
      if (!bytesRead) break;
      at += bytesRead;
    }
    return room.subarray(0, at);
  } finally {
    await file.close();
  }
}

async function answer({ n, path }: FactsQuestion): Promise<FactsAnswer> {
  try {
    return { n, ...(await lookAt(await bytesOf(path))) };
  } catch (error) {
    if (!(error instanceof Error)) return { n, name: "Error", message: String(error) };
    return { n, name: error.name, message: error.message };
  }
}

process.on(
  "message",
  (question: FactsQuestion) => void answer(question).then((value) => process.send?.(value)),
);
process.on("SIGINT", () => undefined);
process.on("disconnect", () => process.exit(0));
