/** The visible difference: its parts against published definitions and an independent library, and its behaviour at the edges. */
import { converter } from "culori";
import fc from "fast-check";
import sharp from "sharp";
import ssim from "ssim.js";
import { describe, expect, it } from "vitest";
import { CLEAN, type Pixels, PLAIN, Reference, visibleDifference } from "@/core/difference";
import { Engine, type Plane } from "@/core/difference/engine";
import { KERNELS_WASM } from "@/core/difference/kernels-wasm";
import { OklabReader } from "@/core/difference/oklab";
import { worstSpot } from "@/core/difference/worst";
import { SPACES } from "@/core/pixels/colour";
import { compile } from "../../../scripts/wasm.mjs";
import { pixels as made } from "../../support/photos";

const rgb = (width: number, height: number, at: (x: number, y: number) => readonly number[]): Pixels => {
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) data.set(at(x, y), (y * width + x) * 3);
  return { data, width, height, channels: 3 };
};
const changed = (pixels: Pixels, change: (v: number, i: number) => number): Pixels => ({
  ...pixels,
  data: Uint8ClampedArray.from(pixels.data, change),
});

const photoPixels = async (width: number, height: number) => ({ data: made(width, height), width, height });

describe("Oklab", () => {
  // culori is an independent library; the reader adds 1 % of viewing flare, which is added here to linear light too.
  it("is that of its published matrices, within a quarter of a step of 8 bits", () => {
    const oklab = converter("oklab");
    const linear = converter("lrgb");
    const colours = [
      [255, 255, 255],
      [0, 0, 0],
      [255, 0, 0],
      [0, 255, 0],
      [0, 0, 255],
      [12, 200, 140],
      [90, 90, 90],
      [1, 2, 4],
      [250, 130, 20],
    ];
    const engine = new Engine();
    const planes = new OklabReader(rgb(colours.length, 1, (x) => colours[x]))
      .planes(engine, 0, 4, 1)
      .map((plane) => engine.view(plane));
    colours.forEach(([r, g, b], i) => {
      const light = linear({ mode: "rgb", r: r / 255, g: g / 255, b: b / 255 });
      const glare = (v: number) => (v + 0.01) / 1.01;
      const wanted = oklab({ mode: "lrgb", r: glare(light.r), g: glare(light.g), b: glare(light.b) });
      expect(planes[0][i]).toBeCloseTo(wanted.l, 3);
      expect(planes[1][i]).toBeCloseTo(wanted.a, 3);
      expect(planes[2][i]).toBeCloseTo(wanted.b, 3);
    });
  });

  it("is the same for one colour in another space and in 16 bits", () => {
    const p3 = converter("p3");
    const { r, g, b } = p3({ mode: "rgb", r: 0.8, g: 0.3, b: 0.2 });
    const deep: Pixels = {
      data: Uint16Array.from({ length: 48 }, (_, i) => Math.round([r, g, b][i % 3] * 65_535)),
      width: 4,
      height: 4,
      channels: 3,
      space: SPACES["display-p3"],
    };
    const engine = new Engine();
    const first = (pixels: Pixels) =>
      new OklabReader(pixels).planes(engine, 0, 4, 1).map((plane) => engine.view(plane)[0]);
    const plain = first(rgb(4, 4, () => [204, 76.5, 51]));
    first(deep).forEach((v, c) => expect(v).toBeCloseTo(plain[c], 2));
  });
});

describe("the structural part", () => {
  // Wang, Bovik, Sheikh, Simoncelli 2004: an 11-tap Gaussian of 1.5 px, K1 = 0.01, K2 = 0.03; ssim.js is an independent implementation.
  const gauss = Array.from({ length: 11 }, (_, i) => Math.exp(-((i - 5) ** 2) / 4.5));
  const window = gauss.map((v) => v / gauss.reduce((a, b) => a + b));

  it("rests on the same local statistics as the published index", async () => {
    const [width, height] = [96, 64];
    const { data } = await photoPixels(width, height);
    const coded = await sharp(
      await sharp(data, { raw: { width, height, channels: 3 } })
        .jpeg({ quality: 30 })
        .toBuffer(),
    )
      .raw()
      .toBuffer();
    const rgba = (bytes: Uint8Array) => ({
      data: Uint8ClampedArray.from({ length: width * height * 4 }, (_, i) =>
        i % 4 === 3 ? 255 : bytes[Math.floor(i / 4) * 3 + (i % 4)],
      ),
      width,
      height,
    });
    const theirs = ssim(rgba(data) as ImageData, rgba(coded) as ImageData, {
      ssim: "original",
      downsample: false,
      windowSize: 11,
      rgb2grayVersion: "integer",
    });
    // ssim.js rounds to whole greys with the weights of ITU-R BT.601 (77, 150, 29 of 256).
    const grey = (bytes: Uint8Array) =>
      Float32Array.from(
        { length: width * height },
        (_, i) => (77 * bytes[i * 3] + 150 * bytes[i * 3 + 1] + 29 * bytes[i * 3 + 2] + 128) >> 8,
      );
    const engine = new Engine();
    const plane = (values: Float32Array): Plane => ({ at: engine.put(values), width, height });
    const [x, y] = [plane(grey(data)), plane(grey(coded))];
    const [mx, my] = [engine.average(x, window), engine.average(y, window)];
    const [vx, vy] = [engine.variance(x, window), engine.variance(y, window)];
    const xy = engine.average(engine.product(x, y), window);
    const [c1, c2] = [(0.01 * 255) ** 2, (0.03 * 255) ** 2];
    const [MX, MY, VX, VY, XY] = [mx, my, vx, vy, xy].map((p) => engine.view(p));
    let sum = 0;
    let count = 0;
    // The published index leaves out where the window leaves the picture.
    for (let v = 5; v < height - 5; v += 1) {
      for (let u = 5; u < width - 5; u += 1, count += 1) {
        const i = v * width + u;
        const cov = XY[i] - MX[i] * MY[i];
        sum +=
          ((2 * MX[i] * MY[i] + c1) * (2 * cov + c2)) /
          ((MX[i] ** 2 + MY[i] ** 2 + c1) * (VX[i] + VY[i] + c2));
        // What is left of similarity is the variance of the difference over the activity of both (equations 13 and 14).
      }
    }
    expect(theirs.mssim).toBeLessThan(0.97);
    expect(sum / count).toBeCloseTo(theirs.mssim, 4);
  });

  it("averages, halves and spreads as plain sums do", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 1, max: 1000 }),
        (a, b, seed) => {
          const [width, height] = [a * 8, b * 4];
          const values = Float32Array.from(
            { length: width * height },
            (_, i) => (Math.sin(i * 12.9898 + seed) + 1) / 2,
          );
          const engine = new Engine();
          const plane: Plane = { at: engine.put(values), width, height };
          const held = (v: number, most: number) => Math.min(most - 1, Math.max(0, v));
          const at = (x: number, y: number) => values[held(y, height) * width + held(x, width)];
          const w = [1, 3, 6, 7, 6, 3, 1].map((v) => v / 27);
          const mean = (x: number, y: number) =>
            w.reduce(
              (sum, wy, j) => sum + wy * w.reduce((row, wx, k) => row + wx * at(x + k - 3, y + j - 3), 0),
              0,
            );
          const same = engine.view(engine.average(plane));
          const [x, y] = [(seed * 7) % width, (seed * 3) % height];
          expect(same[y * width + x]).toBeCloseTo(mean(x, y), 5);
          const half = engine.view(engine.averageHalved(plane));
          const [u, v] = [x >> 1, y >> 1];
          expect(half[v * (width / 2) + u]).toBeCloseTo(
            (mean(2 * u, 2 * v) +
              mean(2 * u + 1, 2 * v) +
              mean(2 * u, 2 * v + 1) +
              mean(2 * u + 1, 2 * v + 1)) /
              4,
            5,
          );
        },
      ),
      { numRuns: 60 },
    );
  });

  it("is compiled from the text that stands beside it", async () =>
    expect(await compile("kernels")).toBe(KERNELS_WASM));
});

describe("visible difference", () => {
  it("is exactly 0 for the same picture, of any kind", async () => {
    const { data, width, height } = await photoPixels(201, 133);
    expect(
      visibleDifference(
        { data, width, height, channels: 3 },
        { data: Uint8Array.from(data), width, height, channels: 3 },
      ),
    ).toMatchObject({ difference: 0, worst: null, shift: { lightness: 0, colour: 0 } });
    const clear = new Uint8Array(64 * 64 * 4);
    expect(
      visibleDifference(
        { data: clear, width: 64, height: 64, channels: 4 },
        { data: clear, width: 64, height: 64, channels: 4 },
      ).difference,
    ).toBe(0);
  });

  it("gives finite numbers for 1 × 1, black, transparent and single-coloured pictures", () => {
    const pairs: [Pixels, Pixels][] = [
      [rgb(1, 1, () => [0, 0, 0]), rgb(1, 1, () => [255, 255, 255])],
      [rgb(1, 300, () => [0, 0, 0]), rgb(1, 300, () => [9, 0, 0])],
      [rgb(40, 40, () => [0, 0, 0]), rgb(40, 40, () => [1, 1, 1])],
      [rgb(33, 17, () => [10, 200, 30]), rgb(33, 17, () => [12, 198, 33])],
      [
        { data: new Uint8Array(20 * 20 * 4), width: 20, height: 20, channels: 4 },
        { data: new Uint8Array(20 * 20 * 4).fill(255), width: 20, height: 20, channels: 4 },
      ],
      [
        { data: new Uint8Array(9), width: 3, height: 3, channels: 1 },
        { data: new Uint16Array(9).fill(65_535), width: 3, height: 3, channels: 1 },
      ],
    ];
    for (const [a, b] of pairs) {
      const { difference, shift, worst } = visibleDifference(a, b);
      expect(Number.isFinite(difference) && difference > 0, JSON.stringify([a.width, difference])).toBe(true);
      expect(Number.isFinite(shift.lightness) && Number.isFinite(shift.colour)).toBe(true);
      expect(worst!.x + worst!.width).toBeLessThanOrEqual(a.width);
      expect(worst!.y + worst!.height).toBeLessThanOrEqual(a.height);
    }
  });

  it("refuses pictures of different size with both sizes", () => {
    expect(() =>
      visibleDifference(
        rgb(8, 6, () => [0, 0, 0]),
        rgb(6, 8, () => [0, 0, 0]),
      ),
    ).toThrow("the reference has 8 × 6 px, the trial 6 × 8 px");
  });

  it("is the same in memory that another picture had", async () => {
    const { data, width, height } = await photoPixels(300, 200);
    const [own, trial] = [
      { data, width, height, channels: 3 },
      changed({ data, width, height, channels: 3 }, (v, i) => v + ((i * 7) % 5)),
    ];
    const wanted = new Reference(own).compare(trial);
    const old = new Reference(changed(own, (v) => 255 - v));
    old.compare(trial);
    // As the worst picture would have left it: every float in it is no number.
    const { engine } = old as unknown as {
      engine: Pick<Engine, "size" | "bytes"> & { start: number };
    };
    engine.bytes(engine.start, engine.size - engine.start).fill(0xff);
    old.end();
    const again = new Reference(own);
    expect((again as unknown as { engine: Engine }).engine).toBe(engine);
    expect(again.compare(trial)).toEqual(wanted);
  });

  it("grows with the damage, is small for one code and plain at quality 10 (common practice)", async () => {
    const { data, width, height } = await photoPixels(480, 320);
    const reference = new Reference({ data, width, height, channels: 3 });
    const at = async (quality: number) => {
      const bytes = await sharp(data, { raw: { width, height, channels: 3 } })
        .jpeg({ quality })
        .toBuffer();
      return {
        bytes: bytes.length,
        seen: reference.compare({ data: await sharp(bytes).raw().toBuffer(), width, height, channels: 3 })
          .difference,
      };
    };
    const steps = await Promise.all([100, 95, 88, 76, 50, 10].map(at));
    steps.slice(1).forEach(({ seen }, i) => expect(seen).toBeGreaterThan(steps[i].seen));
    expect(steps[0].seen).toBeLessThan(CLEAN);
    expect(steps[5].seen).toBeGreaterThan(PLAIN);
    // Common practice: quality 76 takes about a third of the bytes of 100 and its loss is not plain to see on a photograph.
    expect(steps[3].bytes / steps[0].bytes).toBeLessThan(0.4);
    expect(steps[3].seen).toBeLessThan(PLAIN);
    expect(
      reference.compare(changed({ data, width, height, channels: 3 }, (v, i) => v + (i % 3 === 1 ? 1 : 0)))
        .difference,
    ).toBeLessThan(1);
  });

  it("is more severe on a flat ground than in texture, for the same error", () => {
    const noise = (x: number, y: number) => ((Math.imul(x * 73 + y * 179, 2_654_435_761) >>> 8) % 7) - 3;
    const flat = rgb(160, 160, () => [128, 128, 128]);
    const busy = rgb(160, 160, (x, y) => Array(3).fill(128 + 45 * Math.sin(x * 1.9) * Math.sin(y * 2.3)));
    const error = (pixels: Pixels) =>
      changed(pixels, (v, i) => v + noise(Math.floor(i / 3) % 160, Math.floor(i / 480)));
    expect(visibleDifference(flat, error(flat)).difference).toBeGreaterThan(
      1.3 * visibleDifference(busy, error(busy)).difference,
    );
  });

  it("does not average one bad region away, and finds it", () => {
    const ground = rgb(640, 480, (x, y) => Array(3).fill(120 + ((x * 31 + y * 17) % 5)));
    const spoilt = changed(ground, (v, i) => {
      const [x, y] = [Math.floor(i / 3) % 640, Math.floor(i / 1920)];
      return x >= 400 && x < 440 && y >= 300 && y < 340 ? v + ((x ^ y) & 4 ? 12 : -12) : v;
    });
    const { difference, worst } = visibleDifference(ground, spoilt);
    // The place is half a percent of the picture; its mean alone would be next to nothing.
    expect(difference).toBeGreaterThan(CLEAN);
    expect(worst!.x).toBeGreaterThan(370);
    expect(worst!.x + worst!.width).toBeLessThan(470);
    expect(worst!.y).toBeGreaterThan(270);
    expect(worst!.y + worst!.height).toBeLessThan(370);
  });

  it("reports how the whole has moved", () => {
    const grey = rgb(64, 64, () => [120, 120, 120]);
    expect(
      visibleDifference(
        grey,
        rgb(64, 64, () => [124, 124, 124]),
      ).shift.lightness,
    ).toBeGreaterThan(0.9);
    const warm = visibleDifference(
      grey,
      rgb(64, 64, () => [128, 118, 112]),
    ).shift;
    expect(warm.colour).toBeGreaterThan(1);
    expect(Math.abs(warm.lightness)).toBeLessThan(1);
  });

  it("is the same in one piece and in bands, kept or not", async () => {
    // More pixels than a band, and more than are kept.
    const { data, width, height } = await photoPixels(3000, 2200);
    const trial = changed({ data, width, height, channels: 3 }, (v, i) => v + ((i * 7) % 5) - 2);
    const whole = new Reference({ data, width, height, channels: 3 }).compare(trial);
    // A cut whose edge lies far from the place that is looked at sees the same map there.
    const part = (pixels: Pixels): Pixels => ({
      ...pixels,
      data: pixels.data.slice(0, width * 1200 * 3),
      height: 1200,
    });
    const cut = new Reference(part({ data, width, height, channels: 3 })).compare(part(trial));
    const seen = cut.map.data.subarray(0, 250 * cut.map.width);
    const off = seen.reduce((most, value, i) => Math.max(most, Math.abs(value - whole.map.data[i])), 0);
    expect(off).toBeLessThan(1e-4);
    expect(seen.filter((value) => value > 0.1).length).toBeGreaterThan(seen.length / 2);
    expect(whole.map).toMatchObject({ width: 750, height: 550 });
  });

  it("counts transparency on the ground where it shows most", () => {
    const pixels = (alpha: number): Pixels => ({
      data: Uint8Array.from({ length: 48 * 48 * 4 }, (_, i) => (i % 4 === 3 ? alpha : 255)),
      width: 48,
      height: 48,
      channels: 4,
    });
    // White on white hides it, on black it does not.
    expect(visibleDifference(pixels(255), pixels(200)).difference).toBeGreaterThan(PLAIN);
  });

  it("keeps the worst spot inside the picture, whatever the map", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 60 }),
        fc.infiniteStream(fc.float({ min: 0, max: 4, noNaN: true })),
        (w, h, stream) => {
          const map = {
            data: Float32Array.from({ length: w * h }, () => stream.next().value as number),
            width: w,
            height: h,
          };
          const spot = worstSpot(map, w * 4 - 1, h * 4 - 2);
          if (spot)
            expect(
              spot.x >= 0 &&
                spot.y >= 0 &&
                spot.x + spot.width <= w * 4 - 1 &&
                spot.y + spot.height <= h * 4 - 2,
            ).toBe(true);
        },
      ),
      { numRuns: 80 },
    );
  });
});
