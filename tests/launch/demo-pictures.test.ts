/** The demo's pictures come one by one, as their generator tells of them: here a generator of another kind. */
import { mkdir, mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { demoPictures } from "@/launch/demo-pictures";

let root: string;
beforeAll(async () => {
  root = await mkdtemp(join(tmpdir(), "zumbrel-made-"));
  await mkdir(join(root, ".build"));
});
afterAll(() => rm(root, { recursive: true }));

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
