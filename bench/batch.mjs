// What a batch takes, end to end, against what a plain script takes on the same cores: node bench/batch.mjs
// [FOLDER OF PHOTOGRAPHS]
// Starts the application on data of its own; prints ratios measured in one run.
import { execFileSync, spawn } from "node:child_process";
import { createHash } from "node:crypto";
import {
  createReadStream,
  createWriteStream,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { Agent, request } from "node:http";
import { tmpdir } from "node:os";
import { basename, join } from "node:path";
import { pipeline } from "node:stream/promises";
import { root } from "./load.mjs";
import { originals } from "./pictures.mjs";

const work = mkdtempSync(join(tmpdir(), "zumbrel-batch-"));
const data = mkdtempSync(join(tmpdir(), "zumbrel-batch-data-"));
const kind = process.argv[2] ? "photos" : "demo";
const photos = await originals(
  join(tmpdir(), `zumbrel-bench-12mp-${kind}`),
  43,
  4000,
  3000,
  process.argv[2] ?? null,
);
const SMALL = Number(process.env.SMALL ?? 2000);
const INCOMING = Number(process.env.INCOMING ?? 200);
const ROUNDS = Number(process.env.ROUNDS ?? 5);

const app = spawn("bin/zumbrel", ["start", "--empty"], {
  cwd: root,
  env: { ...process.env, ZUMBREL_DATA: data, ZUMBREL_LOG: "error" },
  stdio: ["ignore", "pipe", "inherit"],
});
const address = await new Promise((resolve) => {
  let text = "";
  app.stdout.on("data", (piece) => {
    text += piece;
    const found = /Zumbrel is at (\S+)/.exec(text);
    if (found) resolve(found[1]);
  });
});
const call = async (method, path, body) => {
  const ask = () =>
    fetch(`${address}/api/${path}`, {
      method,
      headers: { "content-type": "application/json", origin: address },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  // A connection that was idle for long may be closed by the server at the very moment when it is used again.
  const response = await ask().catch(ask);
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
  return response.json();
};
const wait = (ms) => new Promise((done) => setTimeout(done, ms));
async function until(ready, pause = 250) {
  for (;;) {
    const value = await ready();
    if (value) return value;
    await wait(pause);
  }
}
async function lanes(list, n, job) {
  const waiting = [...list];
  await Promise.all(
    Array.from({ length: n }, async () => {
      for (let one = waiting.shift(); one !== undefined; one = waiting.shift()) await job(one);
    }),
  );
}
/** Peak memory of the worker in MB. */
function peak() {
  for (const pid of readdirSync("/proc").filter((name) => /^\d+$/.test(name))) {
    try {
      if (
        readFileSync(`/proc/${pid}/cmdline`, "utf8").includes(".build/worker.mjs") &&
        readFileSync(`/proc/${pid}/environ`, "utf8").includes(data)
      )
        return Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))[1]) / 1024;
    } catch {
      // It ended meanwhile.
    }
  }
  return 0;
}
const agent = new Agent({ keepAlive: true });
/** Streamed from the disk, as a browser does: whoever sends takes time of the same two cores. */
const send = (url, path) =>
  new Promise((done, failed) => {
    const headers = { origin: address, "content-length": statSync(path).size };
    const asked = request(url, { method: "POST", headers, agent }, (response) => {
      response.resume();
      response.once("end", () =>
        response.statusCode < 300 ? done() : failed(new Error(response.statusMessage)),
      );
    });
    asked.once("error", failed);
    createReadStream(path, { highWaterMark: 256 * 1024 }).pipe(asked);
  });
const bring = async (id, paths) =>
  lanes(
    paths.map((path, i) => ({ path, i })),
    4,
    async ({ path, i }) => {
      const name = encodeURIComponent(basename(path));
      await send(`${address}/api/batches/${id}/photos?name=${name}&at=${i}`, path);
    },
  );
// What it does for itself after its start is over.
await wait(Number(process.env.REST ?? 12_000));
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const seconds = (start) => (performance.now() - start) / 1000;

// 1. Coming in: facts and small pictures of all, against copying and hashing the same files.
const list = Array.from({ length: INCOMING }, (_, i) => join(work, `in-${i}.jpg`));
/** 5 MB each, every one another: what follows the end of a JPEG is carried along. */
function writeIncoming(round) {
  for (const [i, path] of list.entries()) {
    const bytes = readFileSync(photos[i % photos.length]);
    const rest = Buffer.alloc(Math.max(0, 5_000_000 - bytes.length - 8));
    writeFileSync(path, Buffer.concat([bytes, rest, Buffer.from(`${round}${String(i).padStart(7)}`)]));
  }
  execFileSync("sync");
}
async function copyAndHash() {
  const start = performance.now();
  await lanes(list, 2, async (path) => {
    const hash = createHash("sha256");
    const source = createReadStream(path);
    source.on("data", (piece) => hash.update(piece));
    await pipeline(source, createWriteStream(`${path}.copy`));
  });
  const copied = seconds(start);
  for (const path of list) rmSync(`${path}.copy`);
  return copied;
}
async function bringAll(round) {
  const { id } = await call("POST", "batches", { name: `in ${round}` });
  const start = performance.now();
  await bring(id, list);
  const arrived = seconds(start);
  await until(async () => (await call("GET", `batches/${id}`)).rows.every((row) => row.thumb));
  return { arrived, there: seconds(start) };
}
const rounds = [];
for (let round = 0; INCOMING && round < ROUNDS; round += 1) {
  writeIncoming(round);
  // By turns, so that neither always finds what the other left.
  const first = round % 2 ? null : await copyAndHash();
  const { arrived, there } = await bringAll(round);
  const copied = first ?? (await copyAndHash());
  rounds.push(copied / arrived);
  console.log(
    `${INCOMING} photos of 5 MB: copied and hashed in ${copied.toFixed(1)} s; in, with their facts, after ` +
      `${arrived.toFixed(1)} s: ${(copied / arrived).toFixed(2)} of the speed; every small picture after ` +
      `${there.toFixed(1)} s (${(copied / there).toFixed(2)})`,
  );
}
if (rounds.length) console.log(`in the median: ${median(rounds).toFixed(2)} of the speed`);
for (const path of list) rmSync(path, { force: true });

// 2. A run at a fixed quality, from the button to the last proof, against a plain script.
const plain = join(root, ".build", "bench-plain.mjs");
writeFileSync(
  plain,
  `import sharp from "sharp"; import { basename } from "node:path"; sharp.concurrency(1); const [, , out, ...files] = process.argv; const waiting = [...files];
  const lane = async () => { for (let f = waiting.shift(); f; f = waiting.shift()) await sharp(f).autoOrient().resize(1600, 1600, { fit: "inside" }).jpeg({ quality: 80, mozjpeg: true }).toFile(out + "/" + basename(f)); };
  await Promise.all([lane(), lane()]);`,
);
mkdirSync(join(work, "plain"));
execFileSync("sync");
let start = performance.now();
execFileSync(process.execPath, [plain, join(work, "plain"), ...photos]);
const script = seconds(start);
const brief = {
  zumbrelBrief: 1,
  name: "fixed",
  format: ["jpeg"],
  longSide: { exact: 1600 },
  quality: { min: 80, max: 80 },
};
const { id: batch } = await call("POST", "batches", { name: "run" });
await bring(batch, photos);
await until(async () => (await call("GET", `batches/${batch}`)).rows.every((row) => row.thumb));
start = performance.now();
await call("PUT", `batches/${batch}/brief`, { fresh: brief, words: "bench" });
await call("POST", `batches/${batch}/runs`, {});
await until(async () => (await call("GET", `batches/${batch}`)).run?.finished, 500);
const run = seconds(start);
console.log(
  `43 photos of 12 megapixels to 1600 px at quality 80: plain script ${script.toFixed(1)} s, from ` +
    `the button to the last proof ${run.toFixed(1)} s: ${(script / run).toFixed(2)} of its throughput`,
);

if (process.env.ONLY_RUN) {
  app.kill("SIGTERM");
  await new Promise((done) => app.once("exit", done));
  process.exit(0);
}

// 3. The same with a limit on the whole.
const bytes = (await call("GET", `batches/${batch}`)).rows.reduce((sum, row) => sum + row.made.bytes, 0);
start = performance.now();
await call("PUT", `batches/${batch}/brief`, {
  fresh: { ...brief, quality: undefined, total: { max: Math.round(bytes * 1.5) } },
  words: "bench",
});
// The button is pressed as soon as it can be, as in the run before.
await until(async () => {
  const { totals } = await call("GET", `batches/${batch}`);
  return totals[0] && totals[0].state !== "settling";
}, 250);
await call("POST", `batches/${batch}/runs`, {});
const shared = await until(async () => {
  const view = await call("GET", `batches/${batch}`);
  return view.run?.finished ? view : null;
}, 500);
const whole = seconds(start);
console.log(
  `the same within ${((bytes * 1.5) / 1e6).toFixed(1)} MB in all: ${whole.toFixed(1)} s, ` +
    `${(whole / run).toFixed(2)} × as long; ${shared.totals[0].state}, difference ` +
    `${shared.totals[0].level?.toFixed(2)}, ` +
    `${((100 * shared.totals[0].bytes) / (bytes * 1.5)).toFixed(1)} % of the limit`,
);
console.log(`worker: ${peak().toFixed(0)} MB at most`);

// 4. Many small photos.
if (SMALL) {
  const small = await originals(
    join(tmpdir(), `zumbrel-bench-small-${kind}`),
    SMALL,
    480,
    360,
    process.argv[2] ?? null,
  );
  const time = async (count) => {
    const { id } = await call("POST", "batches", { name: `small ${count}` });
    await bring(id, small.slice(0, count));
    await until(async () => (await call("GET", `batches/${id}`)).rows.every((row) => row.thumb), 1000);
    start = performance.now();
    await call("PUT", `batches/${id}/brief`, {
      fresh: {
        zumbrelBrief: 1,
        name: `small ${count}`,
        format: ["jpeg"],
        longSide: { exact: 320 + (count > 100 ? 1 : 0) },
        quality: { min: 75, max: 75 },
      },
      words: "bench",
    });
    await call("POST", `batches/${id}/runs`, {});
    await until(async () => (await call("GET", `batches/${id}`)).run?.finished, 2000);
    return seconds(start) / count;
  };
  const few = await time(100);
  const many = await time(SMALL);
  console.log(
    `small photos: ${(few * 1000).toFixed(0)} ms each of 100, ${(many * 1000).toFixed(0)} ms each of ` +
      `${SMALL}: ${(many / few).toFixed(2)} × as long`,
  );
  console.log(`worker: ${peak().toFixed(0)} MB at most`);
}
app.kill("SIGTERM");
await new Promise((done) => app.once("exit", done));
for (const folder of [work, data]) rmSync(folder, { recursive: true, force: true });
process.exit(0);
