/** A watched folder through the real launcher: files that come, a kill, a restart, and folders that are not as they should be. */
import { type ChildProcess, spawn } from "node:child_process";
import { existsSync } from "node:fs";
import {
  appendFile,
  mkdir,
  mkdtemp,
  readdir,
  readFile,
  rename,
  rm,
  symlink,
  writeFile,
} from "node:fs/promises";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import sharp from "sharp";
import { afterAll, afterEach, beforeAll, describe, expect, it } from "vitest";
import { jpegPhoto } from "../support/photos";

const launcher = resolve("bin/zumbrel");
let folder: string;
let photos: Buffer[];
const running = new Set<ChildProcess>();

interface Watching {
  child: ChildProcess;
  said: () => string;
  ended: Promise<number | null>;
}

function watch(input: string, out: string, brief = "form.brief.json"): Watching {
  const child = spawn(launcher, ["watch", input, "--brief", brief, "--out", out], { cwd: folder });
  running.add(child);
  let text = "";
  for (const stream of [child.stdout, child.stderr])
    stream.on("data", (piece: Buffer) => {
      text += piece.toString();
    });
  const ended = new Promise<number | null>((done) => {
    child.on("exit", (code) => {
      running.delete(child);
      done(code);
    });
  });
  return { child, said: () => text, ended };
}

async function until(found: () => boolean | Promise<boolean>, what: () => string): Promise<void> {
  const start = Date.now();
  while (!(await found())) {
    if (Date.now() - start > 100_000) throw new Error(`never came: ${what()}`);
    await new Promise((done) => setTimeout(done, 50));
  }
}

const list = async (at: string) =>
  (await readdir(join(folder, at)).catch(() => []))
    .filter((name) => !name.startsWith(".zumbrel-watch"))
    .sort();
const drop = (at: string, bytes: Uint8Array) => writeFile(join(folder, at), bytes);

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "zumbrel watch "));
  photos = await Promise.all(Array.from({ length: 8 }, (_, i) => jpegPhoto(500 + 20 * i, 640, 60 + i)));
  const brief = {
    zumbrelBrief: 1,
    name: "form",
    format: ["jpeg"],
    width: { exact: 240 },
    height: { exact: 300 },
  };
  await writeFile(join(folder, "form.brief.json"), JSON.stringify({ ...brief, fileSize: { max: "40KB" } }));
  const total = JSON.stringify({ ...brief, total: { max: "1MB" } });
  await writeFile(join(folder, "total.brief.json"), total);
});
afterEach(() => {
  for (const child of running) child.kill("SIGKILL");
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe("a watched folder", () => {
  it("has whatever comes fitted once, through a kill and a restart", async () => {
    await mkdir(join(folder, "in/deep"), { recursive: true });
    await drop("in/a.jpg", photos[0]);
    const first = watch("in", "out");
    await until(async () => (await list("out")).includes("a.jpg"), first.said);
    // Several at once; killed as soon as the first of them is there.
    for (const [i, name] of ["b.jpg", "deep/c.jpg", "d.jpg", "e.jpg"].entries())
      await drop(`in/${name}`, photos[i + 1]);
    await until(async () => (await list("out")).length > 1, first.said);
    first.child.kill("SIGKILL");
    await first.ended;
    await drop("in/f.jpg", photos[5]);
    // As a kill leaves it that comes while a file is written.
    await drop("out/.zumbrel-0123456789abcdef.part", photos[5].subarray(0, 999));

    const second = watch("in", "out");
    const all = ["a.jpg", "b.jpg", "d.jpg", "deep", "e.jpg", "f.jpg"];
    await until(async () => (await list("out")).length === all.length, second.said);
    await until(() => existsSync(join(folder, "out/deep/c.jpg")), second.said);
    second.child.kill("SIGTERM");
    expect(await second.ended).toBe(0);
    expect(await list("out")).toEqual(all);
    expect(await list("out/deep")).toEqual(["c.jpg"]);
    for (const name of ["a.jpg", "b.jpg", "deep/c.jpg", "d.jpg", "e.jpg", "f.jpg"]) {
      const { width, height } = await sharp(join(folder, "out", name)).metadata();
      expect([width, height]).toEqual([240, 300]);
    }
    expect(second.said()).not.toContain("✓ a.jpg");
    // Originals are as they were.
    expect((await readFile(join(folder, "in/a.jpg"))).equals(photos[0])).toBe(true);

    const third = watch("in", "out");
    await drop("in/g.jpg", photos[6]);
    await until(async () => (await list("out")).includes("g.jpg"), third.said);
    third.child.kill("SIGTERM");
    await third.ended;
    expect((third.said().match(/✓/g) ?? []).length).toBe(1);
  }, 240_000);

  it("waits until a file is whole, and takes links and other files for what they are", async () => {
    await mkdir(join(folder, "slow"));
    const one = watch("slow", "slow-out");
    await until(() => one.said().includes("Looking at"), one.said);
    await drop("slow/notes.txt", Buffer.from("no picture"));
    await symlink(join(folder, "in/a.jpg"), join(folder, "slow/link.jpg"));
    // Longer than it has to lie still in all, with pauses that are far shorter than that.
    const piece = Math.ceil(photos[7].length / 10);
    for (let at = 0; at < photos[7].length; at += piece) {
      await appendFile(join(folder, "slow/h.jpg"), photos[7].subarray(at, at + piece));
      await new Promise((done) => setTimeout(done, 200));
    }
    await until(async () => (await list("slow-out")).length > 0, one.said);
    await until(() => one.said().includes("link.jpg is a link"), one.said);
    one.child.kill("SIGTERM");
    await one.ended;
    expect(await list("slow-out")).toEqual(["h.jpg"]);
  }, 120_000);

  it("puts what cannot be met aside with a text that says why", async () => {
    await mkdir(join(folder, "bad"));
    await drop("bad/broken.jpg", photos[0].subarray(0, 900));
    const one = watch("bad", "bad-out");
    await until(() => existsSync(join(folder, "bad-out/needs-you/broken.jpg.txt")), one.said);
    await until(() => one.said().includes("✗ broken.jpg"), one.said);
    one.child.kill("SIGTERM");
    await one.ended;
    expect(await list("bad-out")).toEqual(["needs-you"]);
    expect(await list("bad-out/needs-you")).toEqual(["broken.jpg", "broken.jpg.txt"]);
    const text = await readFile(join(folder, "bad-out/needs-you/broken.jpg.txt"), "utf8");
    expect(text).toContain('broken.jpg cannot meet the brief "form"');
    expect(text).toContain("was not changed");
    // It is not put aside a second time.
    const again = watch("bad", "bad-out");
    await drop("bad/fine.jpg", photos[1]);
    await until(async () => (await list("bad-out")).includes("fine.jpg"), again.said);
    again.child.kill("SIGTERM");
    await again.ended;
    expect(await list("bad-out/needs-you")).toHaveLength(2);
  }, 120_000);

  it("is waited for where it vanishes", async () => {
    await mkdir(join(folder, "gone"));
    const one = watch("gone", "gone-out");
    await until(() => one.said().includes("Looking at"), one.said);
    await rename(join(folder, "gone"), join(folder, "elsewhere"));
    await until(() => one.said().includes("is gone"), one.said);
    await mkdir(join(folder, "gone"));
    await until(() => one.said().includes("is back"), one.said);
    await drop("gone/late.jpg", photos[2]);
    await until(async () => (await list("gone-out")).includes("late.jpg"), one.said);
    one.child.kill("SIGTERM");
    expect(await one.ended).toBe(0);
  }, 120_000);

  it("is refused in one sentence where the call cannot work", async () => {
    const refused = async (input: string, out: string, brief?: string) => {
      const one = watch(input, out, brief);
      expect(await one.ended).toBe(2);
      return one.said();
    };
    expect(await refused("nowhere", "x")).toContain('There is no folder "nowhere"');
    expect(await refused("in", ".")).toContain("lies in the output folder");
    expect(await refused("in", "x", "total.brief.json")).toContain("limits all files together");
    const one = watch("in", "busy-out");
    await until(() => one.said().includes("Looking at"), one.said);
    expect(await refused("in", "busy-out")).toContain("Another watch writes");
    one.child.kill("SIGTERM");
    await one.ended;
  }, 120_000);
});
