import { spawn } from "node:child_process";
import { mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import jpegJs from "jpeg-js";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { jpegPhoto, pngPhoto, saying } from "../support/photos";

const launcher = resolve("bin/zumbrel");
let folder: string;

interface Answer {
  code: number | null;
  out: string;
  err: string;
}

function zumbrel(
  args: string[],
  options: { input?: string; cwd?: string; limitKiB?: number } = {},
): Promise<Answer> {
  return new Promise((done, fail) => {
    // A file size limit stands in for a full disk: writing past it fails in the middle.
    const [command, all] = options.limitKiB
      ? ["bash", ["-c", `ulimit -f ${options.limitKiB}; trap '' XFSZ; exec "$0" "$@"`, launcher, ...args]]
      : [launcher, args];
    const child = spawn(command as string, all as string[], { cwd: options.cwd ?? folder });
    const answer: Answer = { code: null, out: "", err: "" };
    child.stdout.on("data", (piece: Buffer) => (answer.out += piece.toString()));
    child.stderr.on("data", (piece: Buffer) => (answer.err += piece.toString()));
    child.on("error", fail);
    child.on("close", (code) => done({ ...answer, code }));
    child.stdin.end(options.input ?? "");
  });
}

const brief = JSON.stringify({
  zumbrelBrief: 1,
  name: "form",
  format: ["jpeg"],
  width: { exact: 240 },
  height: { exact: 300 },
  fileSize: { min: "24KB", max: "60KB" },
  names: "{name}-permit",
});

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "zumbrel cli "));
  await mkdir(join(folder, "in/deep"), { recursive: true });
  await writeFile(join(folder, "in/b.jpg"), await saying(await jpegPhoto(900, 1200, 1)));
  await writeFile(join(folder, "in/a.PNG"), await pngPhoto(600, 800, 2));
  await writeFile(join(folder, "in/deep/c.JPG"), await jpegPhoto(700, 500, 3));
  await writeFile(join(folder, "in/notes.txt"), "no picture");
  await symlink("..", join(folder, "in/deep/loop"));
  await writeFile(join(folder, "text.jpg"), "Dear office");
  await writeFile(join(folder, "empty.jpg"), "");
  await writeFile(join(folder, "form.brief.json"), brief);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe("a set", () => {
  it("is written file by file, with the markup to paste beside it", async () => {
    const set = {
      zumbrelBrief: 1,
      name: "Page",
      set: { widths: [200, 400, 5000], formats: ["jpeg", "webp"] },
    };
    const args = ["fit", "in/b.jpg", "in/deep", "--brief", "-", "--out", "pages"];
    const { code, out } = await zumbrel([...args, "--json"], { input: JSON.stringify(set) });
    expect(code).toBe(0);
    const { results, totals } = JSON.parse(out);
    expect(results.map((one: { output: string }) => one.output)).toEqual([
      "pages/b-400.jpg",
      "pages/b-400.webp",
      "pages/b-200.jpg",
      "pages/b-200.webp",
      "pages/c-400.JPG",
      "pages/c-400.webp",
      "pages/c-200.JPG",
      "pages/c-200.webp",
    ]);
    expect(results[0]).toMatchObject({ source: "in/b.jpg", ok: true, facts: { width: 400 } });
    expect(results[0].notes[0]).toContain("5000 px was left out");
    expect(totals.sourceBytes).toBe(results[0].before.bytes + results[4].before.bytes);
    const markup = await readFile(join(folder, "pages/pictures.html"), "utf8");
    expect(markup.match(/<picture>/g)).toHaveLength(2);
    expect(markup).toContain('srcset="b-200.jpg 200w, b-400.jpg 400w"');
    // The words are those that the photo itself has for those who do not see it.
    expect(markup).toContain('alt="Bark with a moth, &quot;at rest&quot;"');
    expect(markup).toContain('alt=""');
    const small = JSON.stringify({ ...set, set: { widths: [200], formats: ["jpeg"] } });
    const again = await zumbrel(["fit", "in/deep", ...args.slice(3)], { input: small });
    expect(again.out).toContain("pages/pictures-2.html (1 alternative text is empty");
    expect(again.out).toContain("pages/c-200-2.JPG");
  });
});

describe("fit", () => {
  it("takes a folder through a brief, keeps its structure, and proves each file", async () => {
    const { code, out, err } = await zumbrel([
      "fit",
      "in",
      "--brief",
      "form.brief.json",
      "--out",
      "out",
      "--json",
    ]);
    expect(err).toBe("");
    expect(code).toBe(0);
    const answer = JSON.parse(out);
    expect(answer.results.map((r: { source: string; output: string }) => [r.source, r.output])).toEqual([
      ["in/a.PNG", "out/a-permit.jpg"],
      ["in/b.jpg", "out/b-permit.jpg"],
      ["in/deep/c.JPG", "out/deep/c-permit.JPG"],
    ]);
    for (const result of answer.results) {
      const bytes = await readFile(join(folder, result.output));
      expect(bytes.length).toBe(result.facts.bytes);
      expect([jpegJs.decode(bytes).width, jpegJs.decode(bytes).height]).toEqual([240, 300]);
      expect(Object.keys(result.facts)).toEqual([
        "format",
        "width",
        "height",
        "bytes",
        "resolution",
        "bits",
        "colourSpace",
        "quality",
        "chroma",
      ]);
      expect(result).toMatchObject({
        ok: true,
        error: null,
        difference: expect.any(Number),
        passedThrough: false,
      });
      expect(result.steps.length).toBeGreaterThan(1);
      expect(result.checks.every((c: { ok: boolean }) => c.ok)).toBe(true);
    }
    expect(answer.totals).toMatchObject({ mailBytes: null, messages: 0 });
    expect(answer.conflicts).toEqual([]);
    expect(answer.brief.name).toBe("form");
  });

  it("never writes over a file that exists, and reads the brief from standard input", async () => {
    const args = ["fit", "in/b.jpg", "in/b.jpg", "--brief", "-", "--out", "again", "--json"];
    const first = JSON.parse((await zumbrel(args, { input: brief })).out);
    const second = JSON.parse((await zumbrel(args, { input: brief })).out);
    const names = [...first.results, ...second.results].map((r: { output: string }) => r.output);
    expect(names).toEqual([
      "again/b-permit.jpg",
      "again/b-permit-2.jpg",
      "again/b-permit-3.jpg",
      "again/b-permit-4.jpg",
    ]);
  });

  it("does not take its own outputs for sources when they lie inside the folder", async () => {
    await mkdir(join(folder, "nest"));
    await writeFile(join(folder, "nest/p.jpg"), await jpegPhoto(320, 400));
    const args = ["fit", "nest", "--brief", "form.brief.json", "--out", "nest/ready", "--json"];
    for (const name of ["nest/ready/p-permit.jpg", "nest/ready/p-permit-2.jpg"]) {
      const { code, out } = await zumbrel(args);
      expect(code).toBe(0);
      expect(JSON.parse(out).results.map((r: { output: string }) => r.output)).toEqual([name]);
    }
  });

  it("answers 1 with a row for each source that fails, and writes the others", async () => {
    const { code, out } = await zumbrel([
      "fit",
      "in/b.jpg",
      "text.jpg",
      "empty.jpg",
      "gone.jpg",
      "--brief",
      "form.brief.json",
      "--out",
      "mixed",
      "--json",
    ]);
    expect(code).toBe(1);
    const { results } = JSON.parse(out);
    expect(results.map((r: { ok: boolean }) => r.ok)).toEqual([true, false, false, false]);
    expect(results.slice(1).map((r: { error: string }) => r.error)).toEqual([
      expect.stringMatching(/text file/),
      expect.stringMatching(/empty/),
      expect.stringMatching(/no file or folder "gone.jpg"/),
    ]);
    expect(await readdir(join(folder, "mixed"))).toEqual(["b-permit.jpg"]);
  });

  it("answers 2 and writes nothing when call or brief are wrong", async () => {
    const bad = (change: object) => JSON.stringify({ ...JSON.parse(brief), ...change });
    const cases: [string[], string, RegExp][] = [
      [["fit", "in", "--out", "no", "--json"], "", /needs --brief/],
      [["fit", "--brief", "-", "--out", "no", "--json"], brief, /at least one file or folder/],
      [["fit", "in", "--brief", "-", "--out", "no", "--json", "--fast"], brief, /fast/],
      [["fit", "in", "--brief", "-", "--out", "no", "--json"], bad({ widht: 3 }), /unknown key "widht"/],
      [
        ["fit", "in", "--brief", "-", "--out", "no", "--json"],
        bad({ fileSize: { min: "9MB", max: "1MB" } }),
        /min 9MB above max 1MB/,
      ],
      [["fit", "in", "--brief", "nothing of the kind", "--out", "no", "--json"], "", /no brief of that name/],
      [["fit", "in/b.jpg", "--brief", "-", "--out", "in", "--json"], brief, /lies in the output folder/],
      [["fit", "in/deep/c.JPG", "--brief", "-", "--out", "in", "--json"], brief, /lies in the output folder/],
      [["dance", "--json"], "", /no command "dance"/],
    ];
    for (const [args, input, message] of cases) {
      const { code, out } = await zumbrel(args, { input });
      expect(code, args.join(" ")).toBe(2);
      expect(JSON.parse(out).error).toMatch(message);
    }
    expect(await readdir(folder)).not.toContain("no");
    expect(await readdir(join(folder, "in"))).toHaveLength(4);
  });

  it("does not write a file that cannot meet its brief, and says what would help", async () => {
    const tight = JSON.stringify({ ...JSON.parse(brief), fileSize: { max: "1KB" } });
    const { code, out } = await zumbrel(["fit", "in/b.jpg", "--brief", "-", "--out", "tight", "--json"], {
      input: tight,
    });
    expect(code).toBe(1);
    expect(JSON.parse(out).results[0]).toMatchObject({
      output: null,
      ok: false,
      error: expect.stringMatching(
        /^Cannot: the smallest 240 × 300 JPEG of this photo is .* Raise the ceiling/,
      ),
    });
    expect(await readdir(folder)).not.toContain("tight");
  });

  it("leaves nothing behind when the disk is full", async () => {
    const { code, out } = await zumbrel(
      ["fit", "in/b.jpg", "--brief", "form.brief.json", "--out", "full", "--json"],
      { limitKiB: 8 },
    );
    expect(code).toBe(1);
    expect(JSON.parse(out).results[0].output).toBeNull();
    expect(JSON.parse(out).results[0].error).toBeTruthy();
    expect(await readdir(join(folder, "full")).catch(() => [])).toEqual([]);
  });

  it("prints text for people, without a bar when piped", async () => {
    const { code, out, err } = await zumbrel([
      "fit",
      "in/b.jpg",
      "--brief",
      "Night-trapping permit: portrait",
      "--out",
      "people",
    ]);
    expect([code, err]).toEqual([0, ""]);
    expect(out).toMatch(/✓ in\/b\.jpg → people\/b-permit\.jpg\n.*✓ format: asked JPEG, found JPEG/);
    expect(out).toMatch(/1 of 1 meet the brief/);
  });

  it("takes names with emoji, control characters, 300 characters and no ending", async () => {
    const odd = join(folder, "odd");
    await mkdir(odd);
    const photo = await jpegPhoto(320, 400);
    const names = ["moth 🦋.jpg", "new\nline.jpg", "no ending", `${"x".repeat(250)}.jpg`];
    for (const name of names) await writeFile(join(odd, name), photo);
    const { code, out } = await zumbrel([
      "fit",
      ...names.map((n) => `odd/${n}`),
      "--brief",
      "form.brief.json",
      "--out",
      "odd out",
      "--json",
    ]);
    expect(code).toBe(0);
    const outputs = JSON.parse(out).results.map((r: { output: string }) => r.output.slice(8));
    expect(outputs[0]).toBe("moth 🦋-permit.jpg");
    expect(outputs[1]).toBe("newline-permit.jpg");
    expect(outputs[2]).toBe("no ending-permit.jpg");
    expect(outputs[3].length).toBeLessThanOrEqual(255);
  });
});

describe("inspect and check", () => {
  it("print the facts, and 1 where a file cannot be read", async () => {
    const { code, out } = await zumbrel(["inspect", "in/b.jpg", "text.jpg", "--json"]);
    expect(code).toBe(1);
    const { files } = JSON.parse(out);
    expect(files[0]).toMatchObject({
      path: "in/b.jpg",
      error: null,
      facts: { format: "jpeg", width: 900, height: 1200, quality: 92, chroma: "4:2:0", resolution: null },
    });
    expect(files[1]).toMatchObject({
      path: "text.jpg",
      facts: null,
      error: expect.stringMatching(/text file/),
    });
  });

  it("hold existing files against a brief", async () => {
    const { code, out } = await zumbrel(["check", "in/b.jpg", "--brief", "form.brief.json", "--json"]);
    expect(code).toBe(1);
    const [result] = JSON.parse(out).results;
    expect(result.ok).toBe(false);
    expect(result.checks.map((c: { clause: string; ok: boolean }) => [c.clause, c.ok])).toEqual([
      ["format", true],
      ["width", false],
      ["height", false],
      ["fileSize", false],
    ]);
    const made = await zumbrel([
      "fit",
      "in/b.jpg",
      "--brief",
      "form.brief.json",
      "--out",
      "proved",
      "--json",
    ]);
    expect(
      (await zumbrel(["check", JSON.parse(made.out).results[0].output, "--brief", "form.brief.json"])).code,
    ).toBe(0);
  });
});

describe("aim clean at the command line", () => {
  it("writes the smallest of the formats without visible loss and reports what is seen", async () => {
    await writeFile(join(folder, "clean.png"), await pngPhoto(320, 240, 61));
    await writeFile(
      join(folder, "clean.brief.json"),
      JSON.stringify({
        zumbrelBrief: 1,
        name: "clean",
        format: ["jpeg", "webp"],
        pick: "smallest",
        fileSize: { aim: "clean" },
      }),
    );
    const { code, out } = await zumbrel([
      "fit",
      "clean.png",
      "--brief",
      "clean.brief.json",
      "--out",
      "small",
      "--json",
    ]);
    expect(code).toBe(0);
    const { results } = JSON.parse(out) as {
      results: {
        ok: boolean;
        difference: number;
        facts: { format: string; bytes: number };
        steps: { do: string; why: string }[];
      }[];
    };
    expect(results[0].ok).toBe(true);
    expect(results[0].difference).toBeGreaterThan(0.3);
    expect(results[0].difference).toBeLessThanOrEqual(0.9);
    expect(["jpeg", "webp"]).toContain(results[0].facts.format);
    expect(results[0].steps.some((step) => /takes \d/.test(step.why))).toBe(true);
  });
});
