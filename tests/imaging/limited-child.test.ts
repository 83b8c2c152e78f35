/** Processes with limits: what takes too long or too much ends alone, and the next question is answered. */
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { constants, getPriority, tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { LimitedChild } from "@/imaging/workers";

let folder: string;
let bundle: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "zumbrel-limits-"));
  bundle = join(folder, "child.mjs");
  await writeFile(
    bundle,
    `const held = [];
     process.on("message", async ({ n, what }) => {
       if (what === "hang") return;
       if (what === "spin") for (;;);
       if (what === "eat") for (;;) { held.push(Buffer.alloc(20e6, 1)); await new Promise((r) => setTimeout(r, 2)); }
       if (what === "throw") throw new Error("no");
       process.send({ n, pid: process.pid });
     });`,
  );
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const child = (ms = 60_000) => new LimitedChild({ bundle, limits: { ms, bytes: 300_000_000 } });
const why = (one: LimitedChild, what: string) =>
  one.ask({ what }).then(
    () => "answered",
    (error: { why: string }) => error.why,
  );

describe("a process with limits", () => {
  it("leaves the cores to others where it is told to, and only there", async () => {
    const limits = { ms: 60_000, bytes: 300_000_000 };
    for (const yields of [true, false]) {
      const one = new LimitedChild({ bundle, limits, yields });
      const { pid } = await one.ask<{ pid: number }>({});
      const { PRIORITY_BELOW_NORMAL } = constants.priority;
      expect(getPriority(pid)).toBe(yields ? PRIORITY_BELOW_NORMAL : getPriority());
      one.end();
    }
  });

  it.each([
    // The next question comes to a new process, whose start counts too.
    ["hang", "time", 6000],
    ["spin", "time", 6000],
    // A slow machine may need seconds for what it is to find out first.
    ["eat", "memory", 60_000],
    ["throw", "by itself", 60_000],
  ])("that would %s is ended: %s; the next is answered", async (what, cause, ms) => {
    const one = child(ms);
    expect(await why(one, what)).toBe(cause);
    expect(await why(one, "fine")).toBe("answered");
    one.end();
  });

  it("that somebody kills is told apart, and answers several at a time", async () => {
    const one = child();
    const [a, b] = await Promise.all([one.ask<{ pid: number }>({}), one.ask<{ pid: number }>({})]);
    expect(a.pid).toBe(b.pid);
    const hanging = why(one, "hang");
    process.kill(a.pid, "SIGKILL");
    expect(await hanging).toBe("from outside");
    expect((await one.ask<{ pid: number }>({})).pid).not.toBe(a.pid);
    one.end();
  });
});
