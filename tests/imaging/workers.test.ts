/** Threads and child processes beside the process that uses them. */
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { SPACES } from "@/core/pixels/colour";
import { bundleBeside } from "@/imaging/workers";
import { Threads } from "@/imaging/workers/threads";
import type { Work } from "@/imaging/workers/work";
import { pixels } from "../support/photos";

const side = 64;
const grey = (value: number) => ({
  data: new Uint8Array(side * side * 3).fill(value),
  width: side,
  height: side,
  channels: 3,
});
const comparison = (id: string, value = 100): Work => ({
  kind: "difference",
  id,
  reference: { ...grey(value), space: SPACES.srgb },
  trial: { ...grey(value + 20), space: SPACES.srgb },
  asSeen: false,
});
const threads = (most = 1) => new Threads(bundleBeside("work-thread")!, most);

describe("bundles", () => {
  it("are those of the sources under test, never ones that lie about from an earlier build", () => {
    const { ZUMBREL_BUNDLES } = process.env;
    expect(bundleBeside("work-thread")).toBe(join(ZUMBREL_BUNDLES!, "work-thread.mjs"));
    process.env.ZUMBREL_BUNDLES = "";
    expect(bundleBeside("work-thread")).toBeNull();
    process.env.ZUMBREL_BUNDLES = ZUMBREL_BUNDLES;
    expect(bundleBeside("no-such-bundle")).toBeNull();
  });
});

describe("threads", () => {
  it("answer as the work done in place does, several at a time", async () => {
    const pool = threads(2);
    const picture = { ...grey(0), data: Uint8Array.from(pixels(side, side)) };
    const answers = await Promise.all([pool.run(comparison("a")), pool.run(comparison("b", 60))]);
    for (const answer of answers) expect(answer).toMatchObject({ difference: expect.any(Number) });
    expect(await pool.run({ ...comparison("c"), trial: picture, reference: picture } as Work)).toMatchObject({
      difference: 0,
    });
  });

  it("replace one that died while nothing was asked of it", async () => {
    const pool = threads();
    await pool.run(comparison("a"));
    await pool.kill();
    await expect(pool.run(comparison("a"))).resolves.toMatchObject({ difference: expect.any(Number) });
  });

  it("refuse work that cannot be sent, and go on with the next", async () => {
    const pool = threads();
    const unsendable = { ...comparison("a"), reference: { ...grey(1), space: () => 0 } } as unknown as Work;
    await expect(pool.run(unsendable)).rejects.toThrow(/could not be cloned/);
    await expect(pool.run(comparison("b"))).resolves.toMatchObject({ difference: expect.any(Number) });
  });

  it("keep the name of what went wrong", async () => {
    const wrong = { ...comparison("a"), trial: { ...grey(1), width: 32 } } as Work;
    await expect(threads().run(wrong)).rejects.toMatchObject({ name: "DifferenceError" });
  });
});
