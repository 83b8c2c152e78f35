/** One picture, in a thread of its own. */
import { rename, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { workerData } from "node:worker_threads";
import sharp from "sharp";
import { PICTURES } from "./pictures";
import { makePicture } from "./write";

const { index, folder } = workerData as { index: number; folder: string };
sharp.concurrency(1);
const picture = PICTURES[index];
const path = join(folder, picture.name);
await writeFile(`${path}.part`, await makePicture(picture));
await rename(`${path}.part`, path);
