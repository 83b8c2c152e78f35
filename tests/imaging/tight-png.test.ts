/** PNG packed tighter: the same pixels, by an independent reader, in fewer bytes. */
import { createHash } from "node:crypto";
import { deflateSync } from "node:zlib";
import fc from "fast-check";
import { PNG } from "pngjs";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import {
  FILTER_WAYS,
  filtered,
  type Picture,
  type PngSetting,
  searchPng,
  TIGHTEST,
  unfiltered,
} from "@/core/coding";
import { chunk, readPng, rebuildPng } from "@/core/containers";
import { encodeAside } from "@/imaging/encode";
import { tightPng } from "@/imaging/encode/tight-png";

const idat = (file: Uint8Array) => {
  const png = readPng(file);
  return Buffer.concat(
    png.chunks.filter((c) => c.type === "IDAT").map((c) => file.subarray(c.start + 8, c.end - 4)),
  );
};

/** A drawing with lettering-like bars over a slow shade. */
async function drawing(channels: 1 | 3 | 4, colours?: number): Promise<Buffer> {
  const [width, height] = [120, 90];
  const data = Buffer.alloc(width * height * channels);
  for (let y = 0, p = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1, p += channels) {
      const bar = (x >> 3) % 5 === 0 && (y >> 4) % 3 !== 0;
      for (let c = 0; c < channels; c += 1)
        data[p + c] = bar ? 20 + 40 * c : Math.min(255, 140 + ((x + y * 2) >> 3));
    }
  const image = sharp(data, { raw: { width, height, channels } });
  return (colours ? image.png({ palette: true, colours }) : image.png({ compressionLevel: 9 })).toBuffer();
}

describe("filters of PNG rows", () => {
  it("are undone to the same samples, whatever way they were chosen", () => {
    const rows = fc.record({
      stride: fc.integer({ min: 1, max: 23 }),
      pixel: fc.integer({ min: 1, max: 8 }),
      seed: fc.uint8Array({ minLength: 200, maxLength: 200 }),
    });
    fc.assert(
      fc.property(rows, ({ stride, pixel, seed }) => {
        const samples = seed.subarray(0, Math.floor(200 / stride) * stride);
        for (const way of FILTER_WAYS) {
          const data = filtered(samples, stride, pixel, way);
          expect(unfiltered({ data, stride, pixel })).toEqual(Uint8Array.from(samples));
        }
      }),
    );
  });

  it("are those of the standard: pngjs reads each of them", async () => {
    const usual = await drawing(3);
    const samples = await sharp(usual).raw().toBuffer();
    for (const way of FILTER_WAYS) {
      const rows = filtered(samples, 120 * 3, 3, way);
      // Filter types stand before their rows: PNG, 9.2.
      if (typeof way === "number") expect(rows[361 * 5]).toBe(way);
      const file = rebuildPng(
        readPng(usual),
        [chunk("IDAT", deflateSync(rows)), chunk("IEND", new Uint8Array())],
        () => false,
      );
      const read = PNG.sync.read(Buffer.from(file)).data;
      expect(Buffer.from(read.filter((_, i) => i % 4 < 3)).equals(samples)).toBe(true);
    }
  });
});

describe("a PNG packed tighter", () => {
  it.each([
    ["grey", 1, undefined],
    ["colour", 3, undefined],
    ["transparent", 4, undefined],
    ["256 colours", 3, 256],
    ["4 colours", 3, 4],
  ] as const)("has the same pixels in fewer bytes: %s", async (_, channels, colours) => {
    const usual = await drawing(channels, colours);
    const tight = Buffer.from(await tightPng(usual));
    expect(PNG.sync.read(tight).data.equals(PNG.sync.read(usual).data)).toBe(true);
    expect(idat(tight).length).toBeLessThanOrEqual(idat(usual).length);
  });

  it("is kept where it saves a fiftieth, and left where it does not", async () => {
    const setting: PngSetting = { format: "png", colours: null, level: TIGHTEST };
    const raw = async (file: Buffer) => {
      const { data, info } = await sharp(file).raw().toBuffer({ resolveWithObject: true });
      return { data: new Uint8Array(data), width: info.width, height: info.height, channels: info.channels };
    };
    const shapes = await raw(await drawing(3));
    const usual = await encodeAside(shapes as never, { ...setting, level: 9 }, false);
    const tight = await encodeAside(shapes as never, setting, false);
    expect(tight.length).toBeLessThanOrEqual(usual.length * 0.98);
    // Noise has nothing that can be packed.
    const random = (i: number) => createHash("sha256").update(String(i)).digest();
    const blocks = Array.from({ length: Math.ceil(shapes.data.length / 32) }, (_, i) => random(i));
    const noise = { ...shapes, data: new Uint8Array(Buffer.concat(blocks).subarray(0, shapes.data.length)) };
    const left = await encodeAside(noise as never, setting, false);
    expect(
      Buffer.from(left).equals(
        Buffer.from(await encodeAside(noise as never, { ...setting, level: 9 }, false)),
      ),
    ).toBe(true);
  });
});

describe("the search for PNG", () => {
  const picture = (flat: boolean): Picture => ({
    pixels: 90_000,
    flat,
    opaque: true,
    overhead: 100,
    encode: async (s) => {
      const { colours, level } = s as PngSetting;
      return Math.round((colours ? 20_000 + 120 * colours : 60_000) * (level === TIGHTEST ? 0.93 : 1));
    },
    difference: async (s) => ((s as PngSetting).colours ? 3 : 0),
    sample: async () => null,
    reduced: () => Promise.reject(new Error("pixels are given here")),
  });

  it("keeps every colour where packing tighter alone brings it under the ceiling", async () => {
    const { outcome, found, told } = await searchPng(
      picture(false),
      { min: null, max: 57_000, aim: "best" },
      true,
    );
    expect(outcome).toBe("met");
    expect(found).toEqual({ setting: { format: "png", colours: null, level: TIGHTEST }, bytes: 55_800 });
    expect(told.join()).toContain("packed tighter than usual");
    // Too far above it, colours are given up as before.
    const far = await searchPng(picture(false), { min: null, max: 45_000, aim: "best" }, true);
    expect(far.found.setting.colours).not.toBeNull();
  });

  it("takes that time for drawings as small as they can be, not for photographs", async () => {
    const goal = { min: null, max: null, aim: "clean" } as const;
    expect((await searchPng(picture(true), goal, false)).found.setting.level).toBe(TIGHTEST);
    expect((await searchPng(picture(false), goal, false)).found.setting.level).toBe(9);
  });
});
