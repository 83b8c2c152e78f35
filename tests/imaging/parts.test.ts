/** What Weigh and the search rest on: samples of large pictures, scales for the screen, children that can be killed, judging at another size. */
import { describe, expect, it } from "vitest";
import { visibleDifference } from "@/core/difference";
import { Judge } from "@/imaging/candidates";
import { partsOf, SIDE, spread } from "@/imaging/candidates/sample";
import { eightBits, type Level, regionOf } from "@/imaging/shown";
import { pipeThrough } from "@/imaging/workers";
import { pixels } from "../support/photos";

const planned = (width: number, height: number, seed = 1) => ({
  data: pixels(width, height, seed),
  width,
  height,
  channels: 3,
});

describe("the sample of a large picture", () => {
  const picture = planned(1500, 1100, 71);
  const sample = partsOf(picture, spread(picture));

  it("is put together from whole parts of it, from the calmest to the busiest", () => {
    expect([sample.width, sample.height]).toEqual([512, 512]);
    const row = (data: Uint8Array | Uint16Array, width: number, x: number, y: number) =>
      Buffer.from(data.subarray((y * width + x) * 3, (y * width + x + SIDE) * 3) as Uint8Array).toString(
        "latin1",
      );
    const places = new Set<string>();
    for (let y = 0; y + SIDE <= picture.height; y += SIDE)
      for (let x = 0; x + SIDE <= picture.width; x += SIDE)
        places.add(row(picture.data, picture.width, x, y));
    for (let y = 0; y < 512; y += SIDE)
      for (let x = 0; x < 512; x += SIDE) expect(places.has(row(sample.data, 512, x, y))).toBe(true);
  });

  it("counts what lies beside its seams for far less", () => {
    const spoilt = {
      ...sample,
      data: Uint8Array.from(sample.data, (v, i) => ((Math.floor(i / 3) % 512) % SIDE < 3 ? 255 - v : v)),
    };
    expect(visibleDifference({ ...sample, parts: SIDE }, spoilt).difference).toBeLessThan(
      visibleDifference(sample, spoilt).difference / 2,
    );
  });
});

describe("pictures for the screen", () => {
  it("become 8 bits of RGB or RGBA from anything", () => {
    expect(eightBits({ data: new Uint8Array([7, 200]), width: 2, height: 1, channels: 1 })).toMatchObject({
      channels: 3,
      data: new Uint8Array([7, 7, 7, 200, 200, 200]),
    });
    expect(eightBits({ data: new Uint8Array([7, 90]), width: 1, height: 1, channels: 2 })).toMatchObject({
      channels: 4,
      data: new Uint8Array([7, 7, 7, 90]),
    });
    expect([
      ...eightBits({ data: new Uint16Array([65_535, 0, 32_896]), width: 1, height: 1, channels: 3 }).data,
    ]).toEqual([255, 0, 128]);
    // Ten bits in the upper ones of sixteen: white is 65472.
    expect([
      ...eightBits({
        data: new Uint16Array([65_472, 65_472, 65_472]),
        width: 1,
        height: 1,
        channels: 3,
        top: 65_472,
      }).data,
    ]).toEqual([255, 255, 255]);
  });

  it("come in squares of every level, smaller at the edges, none beyond", async () => {
    const { data, width, height } = planned(700, 530, 72);
    const levels: Promise<Level>[] = [Promise.resolve({ data, width, height, channels: 3 })];
    const corner = await regionOf(levels, { level: 0, x: 512, y: 512, side: 512 });
    expect([corner!.width, corner!.height, corner!.data.length]).toEqual([188, 18, 188 * 18 * 4]);
    expect([...corner!.data.subarray(0, 4)]).toEqual([
      ...data.subarray((512 * 700 + 512) * 3, (512 * 700 + 512) * 3 + 3),
      255,
    ]);
    const whole = await regionOf(levels, { level: 3, x: 0, y: 0, side: 512 });
    expect([whole!.width, whole!.height, levels.length]).toEqual([88, 67, 4]);
    expect(await regionOf(levels, { level: 3, x: 512, y: 0, side: 512 })).toBeNull();
    const last = await regionOf(levels, { level: 12, x: 0, y: 0, side: 512 });
    expect([last!.width, last!.height]).toEqual([1, 1]);
  });
});

describe("judging", () => {
  it("knows the same picture without comparing, and tells another from it", async () => {
    const picture = planned(200, 150, 73);
    const judge = new Judge("a", picture, undefined);
    expect(await judge.of({ ...picture, data: Uint8Array.from(picture.data) })).toEqual({
      difference: 0,
      worst: null,
      shift: { lightness: 0, colour: 0 },
    });
    const other = await judge.of({
      ...picture,
      data: Uint8Array.from(picture.data, (v) => Math.min(255, v + 9)),
    });
    expect(other.difference).toBeGreaterThan(0.5);
    expect(other.shift.lightness).toBeGreaterThan(1);
    await expect(judge.of(planned(100, 150))).rejects.toThrow("different size");
  });
});

describe("a child", () => {
  it("is given bytes and gives bytes back; its code and last words are told", async () => {
    const input = Buffer.from(pixels(300, 200));
    const echo = await pipeThrough("cat", [], input);
    expect([echo!.code, Buffer.compare(echo!.out, input)]).toEqual([0, 0]);
    expect(
      await pipeThrough("sh", ["-c", "echo first >&2; echo why it failed >&2; exit 3"], input),
    ).toMatchObject({ code: 3, words: "why it failed" });
    expect(await pipeThrough("no-such-program-here", [], input)).toBeNull();
  });

  it("is killed when nobody wants it any more", async () => {
    const start = performance.now();
    await expect(
      pipeThrough("sleep", ["30"], Buffer.alloc(0), AbortSignal.abort(new Error("left before"))),
    ).rejects.toThrow("left before");
    const controller = new AbortController();
    setTimeout(() => controller.abort(new Error("left")), 200);
    await expect(pipeThrough("sleep", ["30"], Buffer.alloc(0), controller.signal)).rejects.toThrow("left");
    expect(performance.now() - start).toBeLessThan(5_000);
  });
});
