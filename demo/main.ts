/**
 * Makes the demo's pictures into a folder, two at a time: node demo.mjs FOLDER. Each line on standard output names one
 * that is there, behind a minus one that cannot be made here.
 */
import { existsSync } from "node:fs";
import { mkdir, writeFile } from "node:fs/promises";
import { constants, setPriority } from "node:os";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { DEMO_BATCHES } from "./batches";
import { HEAVY, writeHeavy } from "./heavy";
import { PICTURES } from "./pictures";
import { RECORDS, writeRecord } from "./records";

const folder = process.argv[2];
if (!folder) throw new Error("the folder is missing");
await mkdir(folder, { recursive: true });
// Whoever works on the first batches meanwhile goes first.
setPriority(constants.priority.PRIORITY_LOW);

// Whoever waited for the pictures is gone: the next start goes on where this one was.
process.stdout.on("error", () => process.exit(1));
const tell = (name: string) => void process.stdout.write(`${name}\n`);
/** What an earlier start has made stays. */
const there = (name: string) => existsSync(join(folder, name));

/** Two at a time, in their order. */
async function each<T extends { name: string }>(all: readonly T[], make: (one: T) => Promise<void>) {
  const waiting = [...all];
  const lane = async (): Promise<void> => {
    for (let one = waiting.shift(); one; one = waiting.shift()) {
      if (!there(one.name)) await make(one);
      tell(one.name);
    }
  };
  await Promise.all([lane(), lane()]);
}

/** A thread of its own for each picture: the drawing code is optimised anew for its own ground. */
const draw = ({ name }: { name: string }) =>
  new Promise<void>((resolve, reject) => {
    const index = PICTURES.findIndex((picture) => picture.name === name);
    const worker = new Worker(new URL("./demo-part.mjs", import.meta.url), {
      workerData: { index, folder },
    });
    worker.on("error", reject);
    worker.on("exit", (code) => (code === 0 ? resolve() : reject(new Error(`${name}: ended with ${code}`))));
  });

// The first batch can be looked at while the others are drawn.
const isFirst = ({ name }: { name: string }) => DEMO_BATCHES[0].photos.includes(name);
await each([...PICTURES.filter(isFirst), ...PICTURES.filter((one) => !isFirst(one))], draw);
await each(RECORDS, (record) => writeRecord(folder, record));
const missing = await writeHeavy(folder);
for (const name of Object.keys(HEAVY)) tell(missing.includes(name) ? `-${name}` : name);
// What could not be made here stands in the mark, one a line.
await writeFile(join(folder, "done"), missing.join("\n"));
