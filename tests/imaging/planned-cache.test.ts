/** Planned pictures on disk: the same pixels come back, and no more stays than is allowed. */
import { mkdtemp, readdir, rm, truncate, utimes, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Prepared } from "@/imaging/planned";
import { PixelCache } from "@/imaging/planned";

let folder: string;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), "zumbrel-planned-"))));
afterAll(() => rm(folder, { recursive: true, force: true }));

const picture = (deep: boolean, seed: number): Prepared => {
  const values = Array.from(
    { length: 20 * 10 * 3 },
    (_, i) => (i * 7919 + seed * 104_729) % (deep ? 65_536 : 256),
  );
  return {
    data: deep ? Uint16Array.from(values) : Uint8Array.from(values),
    width: 20,
    height: 10,
    channels: 3,
    kernel: "lanczos3",
    conversion: null,
    dotScreen: 4.5,
  };
};

describe("the cache of planned pictures", () => {
  it.each([false, true])("gives back what was put in (16 bits: %s)", async (deep) => {
    const cache = new PixelCache(folder, 1e9);
    const made = picture(deep, 1);
    await cache.put(`same-${deep}`, made);
    expect(await cache.get(`same-${deep}`)).toEqual(
      expect.objectContaining({ width: 20, height: 10, channels: 3, kernel: "lanczos3", dotScreen: 4.5 }),
    );
    expect([...(await cache.get(`same-${deep}`))!.data]).toEqual([...made.data]);
    expect(await cache.get("nothing")).toBeNull();
  });

  it("lets go of what is taken, with whatever else is known of it", async () => {
    const cache = new PixelCache(folder, 1e9);
    const known = { ...picture(true, 3), top: 1023 };
    await cache.put("once", known);
    expect(await cache.take("once")).toMatchObject({ width: 20, top: 1023 });
    expect(await cache.take("once")).toBeNull();
  });

  it("takes no file that is not whole", async () => {
    const cache = new PixelCache(folder, 1e9);
    await cache.put("cut", picture(false, 2));
    await truncate(join(folder, "cut"), 300);
    expect(await cache.get("cut")).toBeNull();
  });

  it("lets those go that were used longest ago", async () => {
    const own = join(folder, "own");
    const cache = new PixelCache(own, 1e9);
    for (let i = 0; i < 6; i += 1) {
      await cache.put(`p${i}`, picture(false, i));
      await utimes(join(own, `p${i}`), i, i);
    }
    await cache.get("p0");
    const each = (await cache.bytes()) / 6;
    expect(await cache.trim(each * 3 + 1)).toBeCloseTo(each * 3, 0);
    expect((await readdir(own)).sort()).toEqual(["p0", "p4", "p5"]);
  });

  it("works on without a disk to write to", async () => {
    await writeFile(join(folder, "file"), "no folder");
    const nowhere = new PixelCache(join(folder, "file", "below"), 1e9);
    await expect(nowhere.put("a", picture(false, 3))).resolves.toBeUndefined();
    expect(await nowhere.get("a")).toBeNull();
    expect(await nowhere.bytes()).toBe(0);
  });
});
