/** The demo's pictures come one by one, as their generator tells of them: here a generator of another kind. */
import { spawn } from "node:child_process";
import { once } from "node:events";
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { build } from "esbuild";
import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import { demoPictures } from "@/launch/demo-pictures";

let root: string;
beforeAll(async () => {
  root = await mkdtemp(join(tmpdir(), "zumbrel-made-"));
  await mkdir(join(root, ".build"));
});
afterAll(() => rm(root, { recursive: true }));

/** Command lines of the processes of this machine, as the kernel tells them. */
const running = async (): Promise<string[]> => {
  const ids = (await readdir("/proc")).filter((name) => /^\d+$/.test(name));
  return Promise.all(ids.map((id) => readFile(`/proc/${id}/cmdline`, "utf8").catch(() => "")));
};

const generator = (body: string) => writeFile(join(root, ".build", "demo.mjs"), body);

describe("the demo's pictures", () => {
  it("are told of when each is there, before all are made; what cannot be made is left out", async () => {
    await generator(
      `process.stdout.write("first.jpg\\n"); setTimeout(() => process.stdout.write("second.jpg\\n-third.heic\\n"), 400);`,
    );
    const pictures = demoPictures(root, join(root, "none"));
    const told: string[] = [];
    const second = pictures.there("second.jpg").then((is) => (told.push("second"), is));
    const third = pictures.there("third.heic");
    expect(await pictures.there("first.jpg")).toBe(true);
    told.push("first");
    expect([await second, await third]).toEqual([true, false]);
    expect(told).toEqual(["first", "second"]);
    expect(await pictures.there("first.jpg")).toBe(true);
  });

  it("are made no longer where whoever asked for them ends", async () => {
    await generator(`process.stdout.write(process.pid + "\\n"); setInterval(() => {}, 1000);`);
    const asking = join(root, "asking.ts");
    const from = resolve("src/launch/demo-pictures.ts");
    await writeFile(
      asking,
      `import { demoPictures } from ${JSON.stringify(from)};
       demoPictures(${JSON.stringify(root)}, ${JSON.stringify(join(root, "none"))});
       process.stdin.resume().on("end", () => process.exit(0));`,
    );
    const bundle = join(root, "asking.mjs");
    await build({ entryPoints: [asking], bundle: true, platform: "node", format: "esm", outfile: bundle });
    const child = spawn(process.execPath, [bundle], { stdio: ["pipe", "ignore", "ignore"] });
    const alive = async () =>
      (await running()).filter((line) => line.includes(join(root, ".build/demo.mjs"))).length;
    await vi.waitFor(async () => expect(await alive()).toBe(1), { timeout: 60_000, interval: 50 });
    const ended = once(child, "close");
    child.stdin.end();
    await ended;
    await vi.waitFor(async () => expect(await alive()).toBe(0), { timeout: 30_000 });
  });

  it("fail in words where the generator ends badly", async () => {
    await generator(`process.stdout.write("first.jpg\\n"); process.exitCode = 3;`);
    const pictures = demoPictures(root, join(root, "none"));
    const second = pictures.there("second.jpg");
    expect(await pictures.there("first.jpg")).toBe(true);
    await expect(second).rejects.toThrow("the demo's generator ended with 3");
  });

  it("are all there where they were made before", async () => {
    await generator(`throw new Error("nothing is to be made");`);
    const folder = join(root, "made");
    await mkdir(folder);
    await writeFile(join(folder, "done"), "third.heic");
    const pictures = demoPictures(root, folder);
    expect([await pictures.there("first.jpg"), await pictures.there("third.heic")]).toEqual([true, false]);
  });
});
