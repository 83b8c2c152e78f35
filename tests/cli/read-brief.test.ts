import { execFile } from "node:child_process";
import { resolve } from "node:path";
import { beforeAll, describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { BADGE } from "../core/brief/reader/corpus";

const root = resolve(import.meta.dirname, "../..");
const run = (args: string[], input = "") =>
  new Promise<{ code: number; out: string; err: string }>((done) => {
    const child = execFile(
      process.execPath,
      [resolve(root, ".build/cli.mjs"), ...args],
      { maxBuffer: 1e8 },
      (error, out, err) => done({ code: error ? Number(error.code) : 0, out, err }),
    );
    child.stdin!.end(input);
  });

beforeAll(async () => {
  await new Promise<void>((done, fail) =>
    execFile(process.execPath, ["scripts/build.mjs", "cli"], { cwd: root }, (error) =>
      error ? fail(error) : done(),
    ),
  );
});

describe("read-brief", () => {
  it("prints both briefs of a wording, and where the first contradicts itself", async () => {
    const { code, out } = await run(["read-brief", BADGE]);
    expect(code).toBe(0);
    expect(out).toMatch(/^Warden's badge\n {2}Format +PNG or JPEG +"PNG or JPEG"/);
    expect(out).toMatch(/\nConsent slip\n {2}Ink +black on white +"black pen"/);
    expect(out).toContain("! 330 × 420 px is 4 : 5.09, 28 × 35 mm is 4 : 5.");
    expect(out).toContain("Follow the paper: 336 × 420 px");
    expect(out.match(/ ! /g)).toHaveLength(1);
  });

  it("gives brief files, with clauses in the order of the wording, and conflicts by brief", async () => {
    const { out } = await run(["read-brief", "-", "--json"], BADGE);
    const { briefs, unread, conflicts, onlyYou } = JSON.parse(out);
    expect(briefs.map((b: { name: string }) => b.name)).toEqual(["Warden's badge", "Consent slip"]);
    for (const brief of briefs) expect(parseBrief(brief).wording).toBe(BADGE);
    expect(Object.keys(briefs[1]).slice(2, 6)).toEqual(["ink", "width", "height", "fileSize"]);
    expect(conflicts).toHaveLength(1);
    expect(conflicts[0]).toMatchObject({
      brief: 0,
      clauses: ["width", "height", "paper"],
      choices: [{ label: "Follow the pixels" }, { label: "Follow the paper" }],
    });
    expect([unread, onlyYou]).toEqual([[], []]);
  });

  it("feeds what it gives to fit as it is", async () => {
    const { out } = await run(["read-brief", "Portrait: 120 x 150 px, JPEG, at most 40 KB.", "--json"]);
    const { code, out: help } = await run(
      ["check", "nowhere.jpg", "--brief", "-", "--json"],
      JSON.stringify(JSON.parse(out).briefs[0]),
    );
    expect(code).toBe(1);
    expect(JSON.parse(help).results[0].error).toMatch(/no such file/);
  });

  it("finds no rules where there are none, and says so with exit status 0", async () => {
    expect(await run(["read-brief", "Lovely weather on the moor."])).toMatchObject({
      code: 0,
      out: expect.stringMatching(/^Found no rules here\.\nNot understood\n {2}Lovely weather/),
    });
    expect(JSON.parse((await run(["read-brief", "", "--json"])).out)).toEqual({
      briefs: [],
      unread: [],
      conflicts: [],
      onlyYou: [],
    });
  });

  it("refuses calls without a text, and more than a hundred thousand characters", async () => {
    expect(await run(["read-brief"])).toMatchObject({
      code: 2,
      err: expect.stringContaining("needs one text"),
    });
    const { code, out } = await run(["read-brief", "-", "--json"], "x".repeat(100_001));
    expect(code).toBe(2);
    expect(JSON.parse(out).error).toContain("over 100000 characters");
  });
});
