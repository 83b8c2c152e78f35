// What a person would call hard times, on the whole application: node bench/faults.mjs [KILLS] [PHOTOS] [DAMAGED]
// Kills each process and the database at random moments of runs, stops the database for a while, brings in damaged
// files of many kinds, and tells what was lost, doubled, stuck, not judged, how long healing took, and the memory.
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import sharp from "sharp";
import { begin, photo } from "./app.mjs";

const [kills = 12, photos = 40, damaged = 60] = process.argv.slice(2).map(Number);
const dataDir = mkdtempSync(join(tmpdir(), "zumbrel-hard-"));
let seed = 20261128;
const random = () => {
  seed = (seed * 1103515245 + 12345) % 2147483648;
  return seed / 2147483648;
};

const { call, insist, run, stop } = await begin(dataDir);
const read = (path) => {
  try {
    return readFileSync(path, "utf8").replaceAll("\0", " ");
  } catch {
    return "";
  }
};
const KINDS = {
  worker: /\.build\/worker\.mjs/,
  maker: /\.build\/maker\.mjs/,
  web: /\.build\/web\.mjs/,
  database: /bin\/postgres/,
  launcher: /\.build\/start\.mjs/,
  facts: /facts-child/,
};
const processes = () =>
  readdirSync("/proc")
    .filter((name) => /^\d+$/.test(name))
    .map((pid) => ({ pid: Number(pid), command: read(`/proc/${pid}/cmdline`) }))
    .filter(({ pid, command }) => command && `${command}${read(`/proc/${pid}/environ`)}`.includes(dataDir))
    .map((one) => ({
      ...one,
      kind: Object.keys(KINDS).find((kind) => KINDS[kind].test(one.command)) ?? "other",
    }));
const pidsOf = (kind) =>
  processes()
    .filter((one) => one.kind === kind)
    .map(({ pid }) => pid);

const most = {};
const watching = setInterval(() => {
  for (const { pid, kind } of processes()) {
    const bytes = Number(read(`/proc/${pid}/statm`).split(" ")[1] ?? 0) * 4096;
    most[kind] = Math.max(most[kind] ?? 0, bytes);
  }
}, 500);

const middle = (list) => [...list].sort((a, b) => a - b)[list.length >> 1] ?? 0;
const seconds = (ms) => `${(ms / 1000).toFixed(1)} s`;

// A batch under a limit on the whole, whose runs are disturbed.
const { id } = (await call("POST", "batches", { name: "Hard times" })).body;
for (let n = 0; n < photos; n += 1) await call("POST", `batches/${id}/photos?name=p${n}.jpg`, await photo(n));
const fresh = {
  zumbrelBrief: 1,
  name: "hard",
  format: ["jpeg"],
  longSide: { max: 1000 },
  total: { max: `${photos * 90}kB`, counted: "files" },
};
await call("PUT", `batches/${id}/brief`, { fresh, words: "a brief" });
await run(id);

const healing = { worker: [], maker: [], web: [], database: [] };
const there = async (kind, before) => {
  const start = performance.now();
  for (;;) {
    // A maker is started when there is work for it.
    const back = kind === "maker" || pidsOf(kind).some((pid) => !before.includes(pid));
    const answers =
      back &&
      (await call("GET", `batches/${id}`).then(
        (a) => a.status === 200,
        () => false,
      ));
    if (answers) return performance.now() - start;
    if (performance.now() - start > 60_000) return Infinity;
    await pause(100);
  }
};
for (let n = 0; n < kills; n += 1) {
  for (const kind of Object.keys(healing)) {
    await pause(200 + random() * 2500);
    const before = pidsOf(kind);
    for (const pid of before) process.kill(pid, "SIGKILL");
    healing[kind].push(await there(kind, before));
  }
  // And a database that stands still for a while.
  const still = pidsOf("database");
  for (const pid of still) process.kill(pid, "SIGSTOP");
  await pause(500 + random() * 4000);
  for (const pid of still)
    try {
      process.kill(pid, "SIGCONT");
    } catch {
      /* It had ended. */
    }
  const latest = (await insist("GET", `batches/${id}`)).body.run;
  if (latest?.finished) await run(id, { anew: true });
}
for (const [kind, list] of Object.entries(healing))
  console.log(
    `${kind} killed ${list.length} times: healed after ${seconds(middle(list))} in the middle, ${seconds(Math.max(...list))} at most`,
  );

const runs = (await insist("GET", "runs")).body.runs;
let stuck = 0;
let doubled = 0;
let failed = 0;
for (const run of runs) {
  const until = performance.now() + 180_000;
  let items = [];
  for (;;) {
    ({ items } = (await insist("GET", `runs/${run.id}`)).body);
    if (!items.some((item) => item.state === "waiting") || performance.now() > until) break;
    await pause(1000);
  }
  stuck += items.filter((item) => item.state === "waiting").length;
  failed += items.filter((item) => item.state === "failed").length;
  const names = items.flatMap((item) => item.name ?? []);
  doubled += names.length - new Set(names).size;
}
const check = (await insist("POST", "storage", { do: "check" })).body;
console.log(
  `${runs.length} runs of ${photos}: ${check.missing} lost, ${doubled} doubled, ${stuck} stuck, ${failed} failed; ${check.strays} strays`,
);

// Damaged files of many kinds, each judged in time, and an ordinary photo never behind them for long.
const picture = sharp(await photo(1, 900));
const sound = {
  jpg: await picture.clone().jpeg().toBuffer(),
  "progressive.jpg": await picture.clone().jpeg({ progressive: true }).toBuffer(),
  "grey.jpg": await picture.clone().greyscale().jpeg().toBuffer(),
  png: await picture.clone().png().toBuffer(),
  "palette.png": await picture.clone().png({ palette: true }).toBuffer(),
  webp: await picture.clone().webp().toBuffer(),
  "lossless.webp": await picture.clone().resize(200).webp({ lossless: true }).toBuffer(),
  avif: await picture.clone().avif({ effort: 0 }).toBuffer(),
  tiff: await picture.clone().tiff({ compression: "lzw" }).toBuffer(),
  "tiled.tiff": await picture.clone().tiff({ tile: true, compression: "deflate" }).toBuffer(),
  gif: await picture.clone().resize(300).gif().toBuffer(),
  "cmyk.jpg": await picture.clone().toColourspace("cmyk").jpeg().toBuffer(),
};
const { id: bad } = (await call("POST", "batches", { name: "Damaged" })).body;
await call("PUT", `batches/${bad}/brief`, {
  fresh: { zumbrelBrief: 1, name: "any", format: ["jpeg"], longSide: { max: 400 } },
  words: "a brief",
});
const judged = [];
const ordinary = [];
let unjudged = 0;
let slowest = 0;
const desk = setInterval(async () => {
  const start = performance.now();
  await call("GET", "desk").catch(() => undefined);
  slowest = Math.max(slowest, performance.now() - start);
}, 250);
for (let n = 0; n < damaged; n += 1) {
  const [name, bytes] = Object.entries(sound)[n % Object.keys(sound).length];
  const broken = Buffer.from(bytes);
  for (let k = 0; k < 1 + (n % 40); k += 1)
    broken[Math.floor(20 + random() * (broken.length - 20))] = Math.floor(random() * 256);
  const cut = n % 3 === 0 ? broken.subarray(0, Math.floor(broken.length * (0.2 + random() * 0.8))) : broken;
  const good = n % 5 === 0;
  const file = good ? await photo(1000 + n, 700) : cut;
  const start = performance.now();
  const { status, body } = await call("POST", `batches/${bad}/photos?name=${n}.${name}`, file);
  if (status === 200 && body.rows?.[0]) {
    for (;;) {
      const row = (await call("GET", `batches/${bad}`)).body.rows.find((one) => one.id === body.rows[0]);
      if (row?.verdict || performance.now() - start > 100_000) {
        if (!row?.verdict) unjudged += 1;
        break;
      }
      await pause(50);
    }
  }
  (good ? ordinary : judged).push(performance.now() - start);
}
clearInterval(desk);
console.log(
  `${judged.length} damaged files: judged after ${seconds(middle(judged))} in the middle, ${seconds(Math.max(...judged))} at most, ${unjudged} not judged; ` +
    `ordinary photos between them after ${seconds(Math.max(...ordinary))} at most; slowest answer meanwhile ${seconds(slowest)}`,
);
clearInterval(watching);
console.log(
  `memory at its highest: ${Object.entries(most)
    .map(([kind, bytes]) => `${kind} ${Math.round(bytes / 1e6)} MB`)
    .join(", ")}`,
);
await stop();
rmSync(dataDir, { recursive: true, force: true });
process.exit(0);
