// What happens when the disk is full, on a small one of its own (needs root): node bench/full-disk.mjs [PHOTOS]
// Fills it to the last byte in front of a run, then frees it: tells what was answered, and how long healing took.
import { execFileSync } from "node:child_process";
import { closeSync, mkdtempSync, openSync, rmSync, writeSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { begin, photo } from "./app.mjs";

const [photos = 8] = process.argv.slice(2).map(Number);
const dataDir = mkdtempSync(join(tmpdir(), "zumbrel-full-"));
execFileSync("mount", ["-t", "tmpfs", "-o", "size=420m,mode=755", "tmpfs", dataDir]);
const { call, insist, run, stop } = await begin(
  dataDir,
  (text) => /zumbrel:/.test(text) && console.log(`  ${text}`),
);

function fill() {
  const file = openSync(join(dataDir, "filler"), "w");
  const piece = Buffer.alloc(1 << 20);
  try {
    for (;;) writeSync(file, piece);
  } catch (error) {
    if (error.code !== "ENOSPC") throw error;
  } finally {
    closeSync(file);
  }
}

const { id } = (await call("POST", "batches", { name: "Full" })).body;
for (let n = 0; n < photos; n += 1) await call("POST", `batches/${id}/photos?name=p${n}.jpg`, await photo(n));
fill();
const fresh = { zumbrelBrief: 1, name: "full", format: ["jpeg"], longSide: { max: 900 } };
for (const [what, ...request] of [
  ["a brief", "PUT", `batches/${id}/brief`, { fresh, words: "a brief" }],
  ["a photo", "POST", `batches/${id}/photos?name=late.jpg`, await photo(99)],
]) {
  const { status, body } = await call(...request);
  console.log(`${what} on the full disk: ${status} ${body?.error ?? ""}`);
}
await pause(15_000);
console.log(`the Desk after 15 s of it: ${(await call("GET", `batches/${id}`)).status}`);
rmSync(join(dataDir, "filler"));
const start = performance.now();
await insist("PUT", `batches/${id}/brief`, { fresh, words: "a brief" });
await run(id);
for (;;) {
  const { body } = await insist("GET", `batches/${id}`);
  if (body.run?.finished) {
    console.log(
      `${body.run.done} of ${photos} made ${((performance.now() - start) / 1000).toFixed(1)} s after there was space`,
    );
    break;
  }
  await pause(500);
}
const check = (await insist("POST", "storage", { do: "check" })).body;
console.log(`${check.missing} lost, ${check.strays} strays`);
await stop();
execFileSync("umount", [dataDir]);
rmSync(dataDir, { recursive: true, force: true });
process.exit(0);
