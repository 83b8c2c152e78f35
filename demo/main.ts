/** Makes the demo's pictures into a folder, two at a time: node demo.mjs FOLDER. */
import { mkdir, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { writeHeavy } from "./heavy";
import { PICTURES } from "./pictures";
import { RECORDS, writeRecord } from "./records";

const folder = process.argv[2];
if (!folder) throw new Error("the folder is missing");
await mkdir(folder, { recursive: true });

const waiting = PICTURES.map((_, i) => i);
const lane = async (): Promise<void> => {
  for (let i = waiting.shift(); i !== undefined; i = waiting.shift()) {
    const index = i;
    // A thread of its own for each picture: the drawing code is optimised anew for its own ground.
    await new Promise<void>((resolve, reject) => {
      const worker = new Worker(new URL("./demo-part.mjs", import.meta.url), {
        workerData: { index, folder },
      });
      worker.on("error", reject);
      worker.on("exit", (code) =>
        code === 0 ? resolve() : reject(new Error(`${PICTURES[index].name}: ended with ${code}`)),
      );
    });
  }
};
await Promise.all([lane(), lane()]);
const takes = [...RECORDS];
const taking = async (): Promise<void> => {
  for (let record = takes.shift(); record; record = takes.shift()) await writeRecord(folder, record);
};
await Promise.all([taking(), taking()]);
// What could not be made here stands in the mark, one a line.
await writeFile(join(folder, "done"), (await writeHeavy(folder)).join("\n"));
