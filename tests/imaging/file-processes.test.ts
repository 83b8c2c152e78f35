/** Processes that work on one file after the other: who is asked next, and what ends them. */
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { FileProcesses, type Framed, Frames, frameHead } from "@/imaging/workers";

let folder: string;
let bundle: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "zumbrel-files-"));
  bundle = join(folder, "child.mjs");
  // Written from what the line is said to carry, not with the code under test.
  await writeFile(
    bundle,
    `let early = Buffer.alloc(0);
     process.stdin.on("data", (piece) => {
       early = Buffer.concat([early, piece]);
       const to = early.length < 4 ? Infinity : 4 + early.readUInt32LE(0);
       if (early.length < to) return;
       const { what, length } = JSON.parse(early.subarray(4, to));
       if (early.length < to + length) return;
       const bytes = early.subarray(to, to + length);
       early = early.subarray(to + length);
       if (what === "hang") return;
       if (what === "spin") for (;;);
       if (what === "babble") return process.stdout.write(Buffer.from("\\x05\\0\\0\\0a few words of its own"));
       if (what === "die") { console.error("first"); console.error("why it died"); process.exit(3); }
       const words = { pid: process.pid, holds: what === "much" ? 500e6 : 1e6, length: bytes.length };
       if (what === "refuse") Object.assign(words, { refused: "it is torn" });
       const text = Buffer.from(JSON.stringify(words));
       const head = Buffer.alloc(4);
       head.writeUInt32LE(text.length);
       process.stdout.write(Buffer.concat([head, text, Buffer.from(bytes).reverse()]));
     });
     process.stdin.on("end", () => process.exit(0));`,
  );
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const bytes = Buffer.from(Array.from({ length: 300_000 }, (_, i) => (i * 31) % 251));
const processes = () => new FileProcesses({ bundle, heap: 256 });
const within = (ms: number) => ({ ms, late: () => new Error("late") });
const pid = async (all: FileProcesses, what = "fine") => {
  const done = await all.ask<{ pid: number }>({ what }, bytes, within(60_000));
  if (!done || !("words" in done)) throw new Error("it did not answer");
  expect(Buffer.compare(done.bytes, Buffer.from(bytes).reverse())).toBe(0);
  return done.words.pid;
};

describe("processes for files", () => {
  it("answer for one file after the other, and two at a time in two of them", async () => {
    const all = processes();
    const first = await pid(all);
    expect(await pid(all)).toBe(first);
    const both = await Promise.all([pid(all), pid(all)]);
    expect(both[0]).toBe(first);
    expect(both[1]).not.toBe(first);
  });

  it.each(["refuse", "much"])("are not kept after a file that made them %s", async (what) => {
    const all = processes();
    const first = await pid(all, what);
    expect(await pid(all)).not.toBe(first);
  });

  it("say how one ended, and the next file goes to another", async () => {
    const all = processes();
    const first = await pid(all);
    expect(await all.ask({ what: "die" }, bytes, within(60_000))).toEqual({ code: 3, said: "why it died" });
    expect(await pid(all)).not.toBe(first);
  });

  it("are ended where one answers in words that nobody understands", async () => {
    const all = processes();
    const first = await pid(all);
    expect(await all.ask({ what: "babble" }, bytes, within(60_000))).toMatchObject({ code: "SIGKILL" });
    expect(await pid(all)).not.toBe(first);
  });

  it("are ended where one takes too much of the processor, or gets none of it", async () => {
    const all = processes();
    for (const [what, ms] of [
      ["spin", 500],
      // A tenth of the processor is the least that counts.
      ["hang", 100],
    ] as const) {
      const first = await pid(all);
      const start = performance.now();
      await expect(all.ask({ what }, bytes, within(ms))).rejects.toThrow("late");
      expect(performance.now() - start).toBeGreaterThan(what === "hang" ? 10 * ms : ms);
      await expect.poll(() => isThere(first)).toBe(false);
      expect(await pid(all)).not.toBe(first);
    }
  });

  it("that end while they wait are not asked again", async () => {
    const all = processes();
    const first = await pid(all);
    process.kill(first, "SIGKILL");
    await expect.poll(() => isThere(first)).toBe(false);
    expect(await pid(all)).not.toBe(first);
  });
});

function isThere(pid: number): boolean {
  try {
    return process.kill(pid, 0);
  } catch {
    return false;
  }
}

describe("words and bytes on one line", () => {
  it("are put together from pieces of any length", () => {
    const bodies = [Buffer.from("one"), Buffer.alloc(0), Buffer.alloc(1000, 7), Buffer.from("é last")];
    const line = Buffer.concat(bodies.flatMap((body, i) => [frameHead({ i, says: "né" }, body), body]));
    for (const size of [1, 3, 5, 64, 1024, line.length]) {
      const got: { i: number; body: Buffer }[] = [];
      const frames = new Frames<Framed & { i: number }>(({ i }, body) => got.push({ i, body }));
      for (let at = 0; at < line.length; at += size) frames.add(line.subarray(at, at + size));
      expect(got.map(({ i }) => i)).toEqual([0, 1, 2, 3]);
      expect(got.map(({ body }) => body.toString())).toEqual(bodies.map(String));
    }
  });
});
