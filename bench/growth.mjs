// How time, memory and the page's stream of events grow with a batch, and what a second worker brings:
// node bench/growth.mjs [PHOTOS …]. Small photos, each another to every cache; prints ratios of one run.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { begin, photo } from "./app.mjs";

const asked = process.argv.slice(2).map(Number);
const SIZES = asked.length ? asked : [100, 1000, 5000];
const LANES = 4;
const LOOK_MS = 500;

/** Processes of an application, by what they run. */
function processesOf(data) {
  const found = [];
  for (const pid of readdirSync("/proc").filter((name) => /^\d+$/.test(name))) {
    try {
      const bundle = /\.build\/([\w-]+)\.mjs/.exec(readFileSync(`/proc/${pid}/cmdline`, "utf8"))?.[1];
      if (!bundle || !readFileSync(`/proc/${pid}/environ`, "utf8").includes(data)) continue;
      const most = /VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1];
      found.push({ pid, bundle, mb: Number(most ?? 0) / 1024 });
    } catch {
      // It ended meanwhile.
    }
  }
  return found;
}

const kinds = await Promise.all(Array.from({ length: 20 }, (_, n) => photo(n, 480)));
/** What follows the end of a JPEG is carried along, and makes it another file. */
const another = (n) => Buffer.concat([kinds[n % kinds.length], Buffer.from(`\n${n}`)]);
let made = 0;

async function bringIn(app, id, count) {
  const waiting = Array.from({ length: count }, (_, i) => i);
  const lane = async () => {
    for (let i = waiting.shift(); i !== undefined; i = waiting.shift()) {
      made += 1;
      const { status } = await app.call("POST", `batches/${id}/photos?name=p${i}.jpg&at=${i}`, another(made));
      if (status !== 200) throw new Error(`photo ${i}: ${status}`);
    }
  };
  await Promise.all(Array.from({ length: LANES }, lane));
}

const state = async (app, id) => (await app.insist("GET", `batches/${id}`)).body;

async function until(app, id, ready) {
  for (;;) {
    const view = await state(app, id);
    if (ready(view)) return;
    await pause(Math.max(LOOK_MS, view.rows.length));
  }
}

/** From a change to the event that tells of it, in ms; the slowest of some while all is busy. */
async function slowestEvent(app, id, times) {
  const stopped = new AbortController();
  const stream = (await fetch(`${app.address}/api/events`, { signal: stopped.signal })).body;
  let heard = () => undefined;
  const listening = (async () => {
    for await (const piece of stream) if (Buffer.from(piece).includes(id)) heard(performance.now());
  })().catch(() => undefined);
  let slowest = 0;
  for (let n = 0; n < times; n += 1) {
    const start = performance.now();
    const next = new Promise((done) => (heard = done));
    await app.call("PUT", `batches/${id}`, { name: `Growth ${n}` });
    slowest = Math.max(slowest, (await next) - start);
    await pause(1000);
  }
  stopped.abort();
  await listening;
  return slowest;
}

const fresh = (n) => ({
  zumbrelBrief: 1,
  name: `growth ${n}`,
  format: ["jpeg"],
  longSide: { exact: 320 },
  quality: { min: 75, max: 75 },
});

/** Seconds for bringing in and for a run of `count` photos. */
async function batch(app, count) {
  const { id } = (await app.call("POST", "batches", { name: `Growth ${count}` })).body;
  let start = performance.now();
  await bringIn(app, id, count);
  const came = (performance.now() - start) / 1000;
  await until(app, id, (view) => view.rows.every((row) => row.thumb));
  start = performance.now();
  await app.call("PUT", `batches/${id}/brief`, { fresh: fresh(count), words: "bench" });
  await app.run(id);
  const event = await slowestEvent(app, id, 5);
  await until(app, id, (view) => view.run?.finished);
  const ran = (performance.now() - start) / 1000;
  const asking = performance.now();
  const bytes = JSON.stringify(await state(app, id)).length;
  return { came, ran, event, asking: performance.now() - asking, bytes };
}

const data = mkdtempSync(join(tmpdir(), "zumbrel-growth-"));
const app = await begin(data);
// What starts with the first photo is not counted.
await batch(app, 20);
let first = null;
for (const count of SIZES) {
  const { came, ran, event, asking, bytes } = await batch(app, count);
  const each = { came: (came * 1000) / count, ran: (ran * 1000) / count };
  first ??= each;
  console.log(
    `${count} small photos: in ${each.came.toFixed(1)} ms each (${(each.came / first.came).toFixed(2)} × the first), ` +
      `made ${each.ran.toFixed(1)} ms each (${(each.ran / first.ran).toFixed(2)} ×); an event took ` +
      `${event.toFixed(0)} ms at most; the batch is ${(bytes / 1e6).toFixed(2)} MB of JSON in ${asking.toFixed(0)} ms`,
  );
  console.log(
    `  memory at most: ${processesOf(data)
      .map(({ bundle, mb }) => `${bundle} ${mb.toFixed(0)} MB`)
      .join(", ")}`,
  );
}
await app.stop();
rmSync(data, { recursive: true, force: true });

/** Seconds for a run by so many workers, each with everything that it starts on a core of its own. */
async function runBy(workers, count) {
  const place = mkdtempSync(join(tmpdir(), "zumbrel-growth-"));
  const one = await begin(place, undefined, ["--workers", String(workers)]);
  await batch(one, 20);
  const own = processesOf(place).filter(({ bundle }) => bundle === "worker");
  own.forEach(({ pid }, core) => {
    const family = [pid, ...childrenOf(pid)];
    for (const each of family)
      execFileSync("taskset", ["-a", "-p", "-c", String(core), each], { stdio: "ignore" });
  });
  const { ran } = await batch(one, count);
  await one.stop();
  rmSync(place, { recursive: true, force: true });
  return ran;
}

function childrenOf(pid) {
  const found = readFileSync(`/proc/${pid}/task/${pid}/children`, "utf8").split(" ").filter(Boolean);
  return found.flatMap((child) => [child, ...childrenOf(child)]);
}

const one = await runBy(1, 300);
const two = await runBy(2, 300);
console.log(
  `300 photos: one worker on one core ${one.toFixed(1)} s, two on a core each ${two.toFixed(1)} s: ${(one / two).toFixed(2)} ×`,
);
process.exit(0);
