/** Kernels and resampling against their published formulas and facts of light. */
import fc from "fast-check";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { KERNELS, type KernelName } from "@/core/photo";
import { SPACES, SRGB_CURVE, toLinear } from "@/core/pixels/colour";
import { srgbFromLinear } from "@/core/pixels/colour/curve";
import { develop } from "@/core/pixels/develop";
import { isPixelArt } from "@/core/pixels/develop/art";
import { axis, type FloatImage, LANES, resample, sampleTurned, sharpen } from "@/core/pixels/resample";
import { kernels } from "@/core/pixels/resample/kernels";
import { ROWS_WASM } from "@/core/pixels/resample/rows-wasm";
import { sharpenRadius } from "@/core/pixels/resample/sharpen";
import { compile } from "../../../scripts/wasm.mjs";
import { filled, plan, samples } from "../../support/develop";
import { pixels } from "../../support/photos";

describe("kernels", () => {
  it("have the values of their formulas", () => {
    // Mitchell and Netravali (1988): B = C = 1/3 gives 8/9, 1/18 and 0 at whole distances.
    expect([0, 1, 2].map((x) => kernels.mitchell.weight(x))).toEqual([
      expect.closeTo(8 / 9, 12),
      expect.closeTo(1 / 18, 12),
      expect.closeTo(0, 12),
    ]);
    // Catmull-Rom is the member with B = 0, C = 1/2: it passes through its samples, and is -1/16 and 9/16 half way.
    expect([0, 1, 0.5, 1.5].map((x) => kernels["catmull-rom"].weight(x))).toEqual([
      1,
      expect.closeTo(0, 12),
      0.5625,
      -0.0625,
    ]);
    // Duchon (1979): sinc(x) sinc(x / a).
    expect(kernels.lanczos3.weight(1.5)).toBeCloseTo(
      (Math.sin(1.5 * Math.PI) / (1.5 * Math.PI)) * (Math.sin(0.5 * Math.PI) / (0.5 * Math.PI)),
      12,
    );
    expect([0, 1, 2, 3].map((x) => kernels.lanczos3.weight(x))).toEqual([
      1,
      expect.closeTo(0, 12),
      expect.closeTo(0, 12),
      0,
    ]);
    expect(kernels.lanczos2.weight(0.5)).toBeCloseTo(
      (2 / Math.PI) * (Math.sin(Math.PI / 4) / (Math.PI / 4)),
      12,
    );
  });

  it.each(KERNELS)("%s: weights of any axis add up to one and stay inside the picture", (name) => {
    const sizes = fc.record({
      size: fc.integer({ min: 1, max: 90 }),
      out: fc.integer({ min: 1, max: 90 }),
      start: fc.double({ min: 0, max: 0.7, noNaN: true }),
      part: fc.double({ min: 0.1, max: 1, noNaN: true }),
    });
    fc.assert(
      fc.property(sizes, ({ size, out, start, part }) => {
        const from = start * size;
        const x = axis(size, from, Math.max(0.01, Math.min(part * size, size - from)), out, name);
        for (let o = 0; o < out; o += 1) {
          const weights = x.weights.subarray(o * x.taps, (o + 1) * x.taps);
          expect(weights.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 5);
          expect(x.starts[o]).toBeGreaterThanOrEqual(0);
          expect(x.starts[o] + x.taps).toBeLessThanOrEqual(size);
        }
      }),
    );
  });

  it("are compiled from the text that stands beside them", async () =>
    expect(await compile("rows")).toBe(ROWS_WASM));
});

describe("resampling", () => {
  it("is the plain sum of weights, whatever the sizes and kernels", () => {
    const sizes = fc.record({
      w: fc.integer({ min: 1, max: 24 }),
      h: fc.integer({ min: 1, max: 24 }),
      ow: fc.integer({ min: 1, max: 30 }),
      oh: fc.integer({ min: 1, max: 30 }),
      name: fc.constantFrom<KernelName>(...KERNELS),
    });
    fc.assert(
      fc.property(sizes, ({ w, h, ow, oh, name }) => {
        const input = Float32Array.from(
          { length: w * h * LANES },
          (_, i) => Math.sin(i * 12.9898) * 0.5 + 0.5,
        );
        const [x, y] = [axis(w, 0, w, ow, name), axis(h, 0, h, oh, name)];
        const out = resample(
          (row, to) => to.set(input.subarray(row * w * LANES, (row + 1) * w * LANES)),
          w,
          x,
          y,
        );
        for (const [px, py] of [
          [0, 0],
          [ow - 1, oh - 1],
          [ow >> 1, oh >> 1],
        ]) {
          for (let c = 0; c < LANES; c += 1) {
            let sum = 0;
            for (let j = 0; j < y.taps; j += 1)
              for (let i = 0; i < x.taps; i += 1)
                sum +=
                  y.weights[py * y.taps + j] *
                  x.weights[px * x.taps + i] *
                  input[((y.starts[py] + j) * w + x.starts[px] + i) * LANES + c];
            expect(out.data[(py * ow + px) * LANES + c]).toBeCloseTo(sum, 4);
          }
        }
      }),
    );
  });

  it.each([
    [200, 150, 61, 47],
    [64, 64, 640, 480],
    [301, 7, 300, 7],
    [1, 1, 50, 20],
    [2048, 3, 13, 1],
  ])("keeps flat fields to the last bit: %d × %d to %d × %d", (w, h, ow, oh) => {
    for (const colour of [
      [0, 0, 0],
      [255, 255, 255],
      [1, 128, 254],
      [37, 201, 90],
    ]) {
      for (const kernel of [null, ...KERNELS]) {
        const { data } = develop(
          filled(w, h, 3, (_x, _y, c) => colour[c]),
          plan(w, h, { width: ow, height: oh }, { kernel }),
        );
        for (let i = 0; i < data.length; i += 1)
          if (data[i] !== colour[i % 3]) expect.fail(`${data[i]} for ${colour[i % 3]} with ${kernel}`);
      }
    }
    const deep = samples(new Uint16Array(w * h * 3).fill(31_007), w, h);
    expect(new Set(develop(deep, plan(w, h, { width: ow, height: oh }, { bits: 16 })).data)).toEqual(
      new Set([31_007]),
    );
  });

  // In deep shadows right beside white a step of the integers is more: 40 of 99,000 such pictures were beyond a quarter
  // of a code, the worst by 0.56.
  it("is within a quarter of a code in integers what it is in floats, rare shadows within one: any size, wide colours", () => {
    let beyond = 0;
    const sizes = fc.record({
      w: fc.integer({ min: 1, max: 70 }),
      h: fc.integer({ min: 1, max: 40 }),
      ow: fc.integer({ min: 1, max: 40 }),
      oh: fc.integer({ min: 1, max: 30 }),
      kernel: fc.constantFrom<KernelName>(...KERNELS),
      most: fc.constantFrom(12, 255),
    });
    fc.assert(
      fc.property(sizes, ({ w, h, ow, oh, kernel, most }) => {
        const photo = filled(w, h, 3, (x, y, c) =>
          Math.round((Math.sin(x * 12.9 + y * 78.2 + c) * 0.5 + 0.5) * most),
        );
        const of = (bits: 8 | 16) =>
          develop(photo, {
            ...plan(w, h, { width: Math.min(w, ow), height: Math.min(h, oh) }, { kernel, bits }),
            from: SPACES["display-p3"],
          }).data;
        const [bytes, exact] = [of(8), of(16)];
        let worst = 0;
        for (let i = 0; i < bytes.length; i += 1)
          worst = Math.max(worst, Math.abs(bytes[i] - exact[i] / 257));
        // Half a code is what rounding takes.
        expect(worst).toBeLessThan(1.5);
        if (worst > 0.75) beyond += 1;
      }),
    );
    expect(beyond).toBeLessThanOrEqual(2);
  });

  it("averages light, not code values: a checkerboard of single pixels becomes sRGB 188", () => {
    // IEC 61966-2-1: half of the light is code 188; the mean of the codes would be 128.
    const board = filled(256, 256, 3, (x, y) => ((x + y) % 2 ? 255 : 0));
    const { data, width } = develop(board, plan(256, 256, { width: 64, height: 64 }));
    for (let y = 8; y < 56; y += 1)
      for (let x = 8; x < 56; x += 1)
        expect(Math.abs(data[(y * width + x) * 3] - 188)).toBeLessThanOrEqual(1);
  });

  /** Fresnel's zone plate: rings whose frequency grows to the limit of the pixels at half the side. `code` puts its light into 8 bits. */
  const plate = (n: number, code: (light: number) => number) =>
    filled(n, n, 3, (x, y) =>
      Math.round(255 * code(0.5 + 0.4995 * Math.cos((Math.PI * ((x - n / 2) ** 2 + (y - n / 2) ** 2)) / n))),
    );
  /** Share of the rings' energy that is left where they were too fine for the smaller picture. */
  const moire = (data: ArrayLike<number>, n: number, light: (code: number) => number) => {
    const values: number[] = [];
    for (let y = 0; y < n; y += 1) {
      for (let x = 0; x < n; x += 1) {
        const r = Math.hypot(x + 0.5 - n / 2, y + 0.5 - n / 2) / n;
        // A quarter of the source's frequencies is left: 0.125 cycles a pixel lie at 0.125 of the side.
        if (r > 0.19 && r < 0.48) values.push(light(data[(y * n + x) * 3] / 255));
      }
    }
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    return values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length / 0.125;
  };

  it("leaves under 0.1 % of the energy above the new limit of a zone plate reduced 4 ×, no more than the library's default", async () => {
    const size = { width: 256, height: 256 };
    const ours = moire(develop(plate(1024, srgbFromLinear), plan(1024, 1024, size)).data, 256, (v) =>
      toLinear(SRGB_CURVE, v),
    );
    // The library averages code values, so its rings are drawn and measured in those.
    const codes = plate(1024, (v) => v);
    const theirs = moire(
      await sharp(codes.data, { raw: { width: 1024, height: 1024, channels: 3 } })
        .resize(256, 256)
        .raw()
        .toBuffer(),
      256,
      (v) => v,
    );
    console.log(
      `zone plate 4 ×: energy above the limit ${(ours * 100).toFixed(4)} % (library ${(theirs * 100).toFixed(4)} %)`,
    );
    expect(ours).toBeLessThan(0.001);
    expect(ours).toBeLessThan(theirs * 1.2);
  });

  it("has no halo beside an edge that is worse than the kernel's own", () => {
    const edge = filled(400, 8, 3, (x) => (x < 200 ? 40 : 200));
    const { data } = develop(edge, plan(400, 8, { width: 100, height: 2 }));
    // The step response of Lanczos 3 goes 6.5 % beyond each side (common practice); in light, so narrower in codes above.
    expect(Math.max(...data)).toBeLessThanOrEqual(200 + 0.075 * 160);
    expect(Math.min(...data)).toBeGreaterThanOrEqual(0);
  });

  it("enlarges without ringing: nothing lies outside its neighbours", () => {
    const edge = filled(20, 20, 3, (x, y) => (x < 10 === y < 10 ? 30 : 220));
    const { data, kernel } = develop(edge, plan(20, 20, { width: 137, height: 91 }, { kernel: null }));
    expect(kernel).toBe("nearest");
    const soft = samples(pixels(24, 24), 24, 24);
    const big = develop(soft, plan(24, 24, { width: 137, height: 91 }));
    expect(big.kernel).toBe("mitchell");
    expect(Math.max(...big.data)).toBeLessThanOrEqual(Math.max(...soft.data));
    expect(Math.min(...big.data)).toBeGreaterThanOrEqual(Math.min(...soft.data));
    expect(Math.max(...data)).toBe(220);
  });

  it("premultiplies alpha: what cannot be seen does not bleed in", () => {
    const half = filled(40, 40, 4, (x, _y, c) => (x < 20 ? [255, 0, 0, 255][c] : [0, 255, 0, 0][c]));
    for (const size of [
      { width: 11, height: 11 },
      { width: 90, height: 90 },
    ]) {
      const { data, channels } = develop(half, plan(40, 40, size));
      expect(channels).toBe(4);
      for (let i = 0; i < data.length; i += 4)
        if (data[i + 3] > 8)
          expect([data[i], data[i + 1]]).toEqual([
            expect.toSatisfy((v: number) => v >= 253),
            expect.toSatisfy((v: number) => v <= 2),
          ]);
    }
    const laid = develop(half, plan(40, 40, { width: 20, height: 20 }, { under: [0, 0, 1] }));
    expect([...laid.data.subarray(0, 3), ...laid.data.subarray(57, 60)]).toEqual([255, 0, 0, 0, 0, 255]);
  });
});

describe("straightening", () => {
  it("samples a leaning grid of a smooth picture where it lies", () => {
    const image: FloatImage = { data: new Float32Array(80 * 80 * LANES), width: 80, height: 80 };
    for (let y = 0, p = 0; y < 80; y += 1)
      for (let x = 0; x < 80; x += 1, p += LANES) image.data[p] = x * 0.01 + y * 0.003;
    const angle = (17 * Math.PI) / 180;
    const out = sampleTurned(image, { x: 40, y: 40, angle, step: 1, width: 30, height: 20 });
    for (const [u, v] of [
      [0, 0],
      [29, 19],
      [11, 3],
    ]) {
      const [dx, dy] = [u + 0.5 - 15, v + 0.5 - 10];
      const [sx, sy] = [
        40 + dx * Math.cos(angle) - dy * Math.sin(angle) - 0.5,
        40 + dx * Math.sin(angle) + dy * Math.cos(angle) - 0.5,
      ];
      expect(out.data[(v * 30 + u) * LANES]).toBeCloseTo(sx * 0.01 + sy * 0.003, 4);
    }
  });

  it("brings a leaning line upright", () => {
    const tilt = Math.tan((5 * Math.PI) / 180);
    const line = filled(400, 300, 3, (x, y) => (Math.abs(x - 200 + (y - 150) * tilt) < 6 ? 255 : 0));
    const { data, width, height } = develop(
      line,
      plan(
        400,
        300,
        { width: 100, height: 100 },
        { crop: { x: 125, y: 75, width: 150, height: 150 }, angle: 5 },
      ),
    );
    const middle = (row: number) => {
      let [sum, weight] = [0, 0];
      for (let x = 0; x < width; x += 1) {
        sum += x * data[(row * width + x) * 3];
        weight += data[(row * width + x) * 3];
      }
      return sum / weight;
    };
    expect(Math.abs(middle(5) - middle(height - 6))).toBeLessThan(0.3);
  });
});

describe("sharpening", () => {
  const image = (values: number[]): FloatImage => ({
    data: Float32Array.from(values.flatMap((v) => [v, v * 0.5, v * 0.2, 1])),
    width: values.length,
    height: 1,
  });
  const light = [0.2126, 0.7152, 0.0722];

  it("steepens an edge, on lightness only, without a seam or clipping", () => {
    const before = [0.2, 0.2, 0.2, 0.3, 0.6, 0.8, 0.8, 0.8];
    const picture = image(before);
    sharpen(picture, light, { for: "screen", amount: 100 }, null);
    const red = before.map((_, i) => picture.data[i * LANES]);
    expect(red[4] - red[3]).toBeGreaterThan(0.3);
    before.forEach((_, i) =>
      expect(picture.data[i * LANES + 1] / picture.data[i * LANES]).toBeCloseTo(0.5, 5),
    );
    // At most 3 % of the lightness scale beyond what the neighbours show.
    expect(Math.max(...red)).toBeLessThan(0.8 * (1 + 0.03 * 3.4));
    const white = image([0.4, 0.4, 1, 1]);
    sharpen(white, light, { for: "print", amount: 100 }, 300);
    expect(Math.max(...white.data)).toBeLessThanOrEqual(1);
  });

  it("leaves flat fields and amount 0 alone", () => {
    const flat = image([0.3, 0.3, 0.3, 0.3]);
    sharpen(flat, light, { for: "print", amount: 80 }, 400);
    expect(flat.data[4]).toBeCloseTo(0.3, 6);
    const edge = image([0.1, 0.9]);
    sharpen(edge, light, { for: "screen", amount: 0 }, null);
    expect([...edge.data]).toEqual([...image([0.1, 0.9]).data]);
  });

  it("takes its radius from the output's resolution in print", () => {
    // Common practice: 1.5 px at 300 ppi.
    expect([
      sharpenRadius("print", 300),
      sharpenRadius("print", null),
      sharpenRadius("print", 60),
      sharpenRadius("screen", 300),
    ]).toEqual([1.5, 1.5, 0.6, 0.6]);
  });
});

describe("pixel art", () => {
  const art = filled(
    48,
    32,
    3,
    (x, y, c) =>
      [
        [20, 20, 60],
        [240, 200, 40],
        [200, 40, 40],
      ][(Math.floor(x / 6) + Math.floor(y / 6)) % 3][c],
  );

  it("is noticed by few colours and hard edges, and enlarged by repeating pixels", () => {
    expect(isPixelArt(art)).toBe(true);
    const { data, kernel, width } = develop(art, plan(48, 32, { width: 144, height: 96 }));
    expect(kernel).toBe("nearest");
    for (let i = 0; i < 400; i += 1) {
      const [x, y] = [(i * 37) % 144, (i * 53) % 96];
      const from = (Math.floor(y / 3) * 48 + Math.floor(x / 3)) * 3;
      expect([...data.subarray((y * width + x) * 3, (y * width + x) * 3 + 3)]).toEqual([
        ...art.data.subarray(from, from + 3),
      ]);
    }
    // Reducing and an overruled choice never repeat pixels.
    expect(develop(art, plan(48, 32, { width: 20, height: 13 })).kernel).toBe("lanczos3");
    expect(develop(art, plan(48, 32, { width: 144, height: 96 }, { kernel: "catmull-rom" })).kernel).toBe(
      "catmull-rom",
    );
  });

  it("is not seen in photographs, soft drawings, gradients and flat fields", async () => {
    const soft = await sharp(art.data, { raw: { width: 48, height: 32, channels: 3 } })
      .blur(1)
      .raw()
      .toBuffer();
    expect(isPixelArt(samples(new Uint8Array(soft), 48, 32))).toBe(false);
    expect(isPixelArt(samples(pixels(60, 40), 60, 40))).toBe(false);
    expect(isPixelArt(filled(40, 40, 3, (x) => x >> 2))).toBe(false);
    expect(isPixelArt(filled(40, 40, 3, () => 9))).toBe(false);
  });
});

describe("bits", () => {
  it("are reduced last, with noise on gradients that hides bands and none on flat fields", () => {
    const ramp = new Uint16Array(1024 * 8 * 3);
    for (let i = 0; i < ramp.length; i += 1) ramp[i] = 20_000 + ((Math.floor(i / 3) % 1024) / 1024) * 1500;
    const { data } = develop(samples(ramp, 1024, 8), plan(1024, 8, { width: 1024, height: 8 }));
    // Without noise a row would have about 6 steps; with it each level is spread over its neighbours.
    let changes = 0;
    for (let x = 1; x < 1024; x += 1) if (data[x * 3] !== data[(x - 1) * 3]) changes += 1;
    expect(changes).toBeGreaterThan(100);
    let sum = 0;
    for (let i = 0; i < data.length; i += 3) sum += data[i];
    expect(sum / (data.length / 3)).toBeCloseTo(20_750 / 257, 0);
    const flat = develop(
      samples(new Uint16Array(64 * 8 * 3).fill(20_050), 64, 8),
      plan(64, 8, { width: 64, height: 8 }),
    );
    expect(new Set(flat.data)).toEqual(new Set([78]));
  });
});

describe("memory that another picture had", () => {
  it("makes no difference to a picture", () => {
    const [w, h] = [60, 44];
    const made = (light: number, width: number, height: number) =>
      develop(
        samples(
          pixels(w, h).map((v) => v * light),
          w,
          h,
        ),
        plan(w, h, { width, height }),
      ).data;
    const wanted = Uint8Array.from(made(1, 20, 15));
    for (const [width, height] of [
      [59, 43],
      [7, 40],
      [31, 3],
    ]) {
      made(0.3, width, height);
      expect(made(1, 20, 15)).toEqual(wanted);
    }
  });
});

describe("orientation", () => {
  it.each([1, 2, 3, 4, 5, 6, 7, 8])(
    "%d: a part cut and resized upright is that of the upright picture",
    async (orientation) => {
      const [w, h] = [36, 24];
      const stored = samples(pixels(w, h), w, h);
      const upright = await sharp(stored.data, { raw: { width: w, height: h, channels: 3 } })
        .withMetadata({ orientation })
        .png()
        .toBuffer();
      const reference = await sharp(upright).autoOrient().raw().toBuffer({ resolveWithObject: true });
      const size = { width: reference.info.width, height: reference.info.height };
      const crop = { x: 5, y: 3, width: 12, height: 16 };
      const cut = develop(stored, {
        ...plan(w, h, { width: 12, height: 16 }),
        orientation,
        photo: size,
        crop,
      });
      for (let y = 0; y < 16; y += 1) {
        const from = ((y + 3) * size.width + 5) * 3;
        expect([...cut.data.subarray(y * 36, (y + 1) * 36)]).toEqual([
          ...reference.data.subarray(from, from + 36),
        ]);
      }
    },
  );
});
