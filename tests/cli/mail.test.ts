/** `fit` with a limit on the whole, and `fit --mail`. */
import { spawnSync } from "node:child_process";
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { extract } from "letterparser";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { FitResult } from "@/cli/fit";
import { jpegPhoto } from "../support/photos";

let folder: string;
const names = Array.from({ length: 6 }, (_, i) =>
  i < 4 ? `Report photo ${i + 1}.JPG` : `annex/Report photo ${i + 1}.jpeg`,
);

interface Answer {
  error?: string;
  results: FitResult[];
  totals: { sourceBytes: number; outputBytes: number; mailBytes: number | null; messages: number };
}

function fit(out: string, brief: object, flags: string[] = []): { code: number | null; answer: Answer } {
  const input = JSON.stringify({ zumbrelBrief: 1, name: "Mailbox", ...brief });
  const { status, stdout } = spawnSync(
    resolve("bin/zumbrel"),
    ["fit", join(folder, "in"), "--brief", "-", "--out", join(folder, out), "--json", ...flags],
    { input, encoding: "utf8", maxBuffer: 50_000_000 },
  );
  return { code: status, answer: JSON.parse(stdout) as Answer };
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "zumbrel-mailed-"));
  await mkdir(join(folder, "in/annex"), { recursive: true });
  for (const [i, name] of names.entries())
    await writeFile(join(folder, "in", name), await jpegPhoto(1400, 1050, 700 + i, 99));
}, 120_000);
afterAll(() => rm(folder, { recursive: true, force: true }));

describe("six photos of about 1 MB for a mailbox of 2 MB (common practice)", () => {
  it("become one message under the limit, names kept, none too small to be read", async () => {
    const { code, answer } = fit(
      "one",
      { longSide: { min: 1000, max: 1200 }, total: { max: "2MB", counted: "mail" } },
      ["--mail"],
    );
    expect(code).toBe(0);
    expect(answer.totals.messages).toBe(1);
    expect(answer.totals.sourceBytes).toBeGreaterThan(4_500_000);
    const [eml] = (await readdir(join(folder, "one"))).filter((name) => name.endsWith(".eml"));
    const bytes = await readFile(join(folder, "one", eml));
    expect(bytes.length).toBe(answer.totals.mailBytes);
    expect(bytes.length).toBeLessThanOrEqual(2_000_000);
    const message = extract(bytes.toString("latin1"));
    expect(message.attachments!.map((one) => one.filename).sort()).toEqual(
      names.map((name) => name.split("/").pop()).sort(),
    );
    for (const { output, facts, difference, checks } of answer.results) {
      const attached = message.attachments!.find((one) => one.filename === output!.split("/").pop())!;
      expect(Buffer.from(attached.body as Uint8Array).equals(await readFile(output!))).toBe(true);
      expect(Math.max(facts!.width, facts!.height)).toBeGreaterThanOrEqual(1000);
      expect(difference).toBeLessThanOrEqual(2);
      expect(checks.find((check) => check.clause === "total")).toMatchObject({
        asked: "at most 2.00 MB as one message",
        ok: true,
      });
    }
  }, 240_000);
});

describe("a limit that one message cannot meet", () => {
  const brief = { width: { exact: 640 }, total: { max: "64KB", counted: "mail" } };

  it("is refused without --mail, with the ways out, and nothing is written", async () => {
    const { code, answer } = fit("none", brief);
    expect(code).toBe(1);
    for (const result of answer.results) expect(result).toMatchObject({ output: null, ok: false });
    expect(answer.results[0].error).toMatch(
      /^Cannot: together the photos take .* What would help: [2-9] messages; Leave out .*; Raise the limit to .* kB\.$/,
    );
    expect(await readdir(join(folder, "none")).catch(() => [])).toEqual([]);
  }, 240_000);

  it("is split with --mail into as few messages as hold, numbered, no photo divided", async () => {
    const { code, answer } = fit("split", brief, ["--mail"]);
    expect(code).toBe(0);
    const count = answer.totals.messages;
    expect(count).toBeGreaterThan(1);
    const seen: string[] = [];
    for (let n = 1; n <= count; n += 1) {
      const bytes = await readFile(join(folder, "split", `Mailbox ${n} of ${count}.eml`));
      expect(bytes.length).toBeLessThanOrEqual(64_000);
      const message = extract(bytes.toString("latin1"));
      expect(message.subject).toBe(`Mailbox (${n} of ${count})`);
      seen.push(...message.attachments!.map((one) => one.filename!));
    }
    expect(seen.sort()).toEqual(names.map((name) => name.split("/").pop()).sort());
  }, 240_000);
});

describe("a limit that leaves room", () => {
  it("changes nothing", async () => {
    const { code, answer } = fit("same", { total: { max: "40MB" } });
    expect(code).toBe(0);
    expect(answer.results.map((result) => result.passedThrough)).toEqual(names.map(() => true));
    expect(answer.totals).toMatchObject({ mailBytes: null, messages: 0 });
  }, 60_000);
});
