/** The JPEG coder, read by decoders that are not ours (sharp's libjpeg-turbo, jpeg-js, djpeg) and held against the standard's arithmetic. */
import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import jpegJs from "jpeg-js";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { type Chroma, JpegCoder, type JpegSamples, type JpegSetting } from "@/core/coding";
import type { Heap } from "@/core/coding/jpeg/heap";
import { bitsOf, codesFor } from "@/core/coding/jpeg/huffman";
import { prepareJpeg } from "@/core/coding/jpeg/prepare";
import { annexKTables, ZIGZAG } from "@/core/coding/jpeg/tables";
import { qualityOf, readJpeg } from "@/core/containers";
import { bodyOf } from "@/core/containers/jpeg";

type Kind = "noise" | "flat" | "waves" | "dot";

function picture(width: number, height: number, channels: number, kind: Kind, seed = 1): JpegSamples {
  const data = new Uint8Array(width * height * channels);
  let state = seed;
  const random = () => (state = (Math.imul(state, 1103515245) + 12345) & 0x7fffffff) / 0x7fffffff;
  for (let i = 0; i < data.length; i += 1) {
    const p = Math.floor(i / channels);
    const [x, y, c] = [p % width, Math.floor(p / width), i % channels];
    if (kind === "noise") data[i] = random() * 256;
    else if (kind === "flat") data[i] = [200, 40, 90][c % 3];
    else if (kind === "dot") data[i] = p === 0 ? 0 : 255;
    else data[i] = 128 + 90 * Math.sin(x / (5 + 4 * c)) * Math.cos(y / (7 - c)) + random() * 12;
  }
  return { data, width, height, channels };
}

const setting = (quality: number, part: Partial<JpegSetting> = {}) => ({
  quality,
  table: 9,
  effort: "careful" as const,
  ...part,
});
const coded = (samples: JpegSamples, chroma: Chroma, quality: number, part?: Partial<JpegSetting>) =>
  new JpegCoder(samples, chroma).encode(setting(quality, part));

/** Read without a warning, or rejected. */
const decoded = async (file: Uint8Array, channels = 3) => {
  const image = sharp(file, { failOn: "warning" }).toColourspace(channels === 1 ? "b-w" : "srgb");
  const { data, info } = await image.raw().toBuffer({ resolveWithObject: true });
  return { data, ...info };
};

const chromas = fc.constantFrom<Chroma>("4:2:0", "4:2:2", "4:4:4");
const kinds = fc.constantFrom<Kind>("noise", "flat", "waves", "dot");

describe("files of the coder", () => {
  it("are read by two decoders without a warning, at any size, sampling and setting, and both see the same", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          width: fc.integer({ min: 1, max: 40 }),
          height: fc.integer({ min: 1, max: 40 }),
          channels: fc.constantFrom(1, 3, 4),
          kind: kinds,
          chroma: chromas,
          quality: fc.integer({ min: 100, max: 10_000 }).map((q) => q / 100),
          table: fc.constantFrom(0, 9),
          effort: fc.constantFrom("careful" as const, "quick" as const),
          seed: fc.integer({ min: 1, max: 1e6 }),
        }),
        async ({ width, height, channels, kind, chroma, quality, table, effort, seed }) => {
          const file = coded(picture(width, height, channels, kind, seed), chroma, quality, {
            table,
            effort,
          });
          const one = await decoded(file, channels);
          expect([one.width, one.height, one.channels]).toEqual([width, height, channels === 1 ? 1 : 3]);
          const two = jpegJs.decode(file, { useTArray: true, formatAsRGBA: false });
          expect([two.width, two.height]).toEqual([width, height]);
          // Only whole chroma is drawn alike everywhere: jpeg-js repeats halved chroma, others blend it.
          if (chroma !== "4:4:4" && channels !== 1) return;
          const step = channels === 1 ? 3 : 1;
          const apart = one.data.reduce((most, v, i) => Math.max(most, Math.abs(v - two.data[i * step])), 0);
          // jpeg-js transforms in short whole numbers.
          expect(apart).toBeLessThanOrEqual(6);
        },
      ),
      { numRuns: 1000 },
    );
  }, 120_000);

  it.runIf(spawnSync("djpeg", ["-version"]).status === 0)("are read by djpeg without a word", () => {
    const work = mkdtempSync(join(tmpdir(), "zumbrel-djpeg-"));
    for (const chroma of ["4:2:0", "4:2:2", "4:4:4"] as const)
      for (const quality of [5, 60, 97]) {
        const path = join(work, "one.jpg");
        writeFileSync(path, coded(picture(75, 53, 3, "waves"), chroma, quality));
        const ended = spawnSync("djpeg", ["-outfile", join(work, "one.ppm"), path]);
        expect([ended.status, String(ended.stderr)]).toEqual([0, ""]);
        // Repacked without loss it must come out no smaller than a hundredth: our tables are the best already.
        const packed = execFileSync("jpegtran", ["-optimize", path]);
        expect(packed.length).toBeGreaterThan(0);
      }
    rmSync(work, { recursive: true });
  });

  it("take the hardest sizes and pictures", async () => {
    const hard: [number, number][] = [
      [1, 1],
      // The most that libvips reads.
      [65_500, 1],
      [1, 65_500],
      [7, 9],
      [17, 33],
    ];
    for (const [width, height] of hard)
      for (const chroma of ["4:2:0", "4:4:4"] as const)
        for (const quality of [1, 100]) {
          const file = coded(picture(width, height, 3, "noise"), chroma, quality);
          const { width: w, height: h } = await decoded(file);
          expect([w, h]).toEqual([width, height]);
        }
    const most = jpegJs.decode(coded(picture(65_535, 1, 3, "waves"), "4:2:0", 50), { useTArray: true });
    expect([most.width, most.height]).toEqual([65_535, 1]);
    const flat = coded(picture(400, 300, 3, "flat"), "4:2:0", 80);
    expect(flat.length).toBeLessThan(1200);
    const { data } = await decoded(flat);
    for (const [i, v] of [200, 40, 90].entries()) expect(Math.abs(data[i] - v)).toBeLessThanOrEqual(3);
  });

  it("differ from a plain transform, quantisation and back by a level at most (ITU-T T.81, A.3.3 and A.3.4)", async () => {
    const samples = picture(24, 16, 1, "waves", 7);
    for (const quality of [30, 75, 95]) {
      const file = coded(samples, "4:4:4", quality, { table: 0, effort: "quick" });
      const { data } = await decoded(file, 1);
      const meant = byDefinition(samples, annexKTables(quality)[0].steps);
      for (let i = 0; i < data.length; i += 1)
        expect(Math.abs(data[i] - Math.round(meant[i]))).toBeLessThanOrEqual(1);
    }
  });

  it("have the tables of annex K at each quality, as the library writes them, and are read back as that quality", async () => {
    const samples = picture(16, 16, 3, "waves");
    const raw = { width: 16, height: 16, channels: 3 as const };
    for (let quality = 1; quality <= 100; quality += 1) {
      const own = readJpeg(coded(samples, "4:2:0", quality, { table: 0 }));
      const theirs = readJpeg(
        await sharp(samples.data, { raw }).jpeg({ quality, quantisationTable: 0 }).toBuffer(),
      );
      expect(tablesOf(own)).toEqual(tablesOf(theirs));
      expect(qualityOf(own)?.quality).toBe(qualityOf(theirs)?.quality);
    }
  });

  it("grow with quality, and with less thrift; the nearest levels are the largest", () => {
    const coder = new JpegCoder(picture(256, 192, 3, "waves"), "4:2:0");
    const size = (quality: number, part?: Partial<JpegSetting>) =>
      coder.encode(setting(quality, part)).length;
    const sizes = [5, 20, 40, 60, 80, 90, 96, 100].map((quality) => size(quality));
    expect(sizes).toEqual([...sizes].sort((a, b) => a - b));
    const thrifts = [0.3, 0.2, 0.12, 0.05, 0.01].map((thrift) => size(70, { thrift }));
    expect(thrifts).toEqual([...thrifts].sort((a, b) => a - b));
    expect(size(70, { effort: "quick" })).toBeGreaterThan(size(70));
    // Neither what was coded before nor in which order changes a file.
    expect(coder.encode(setting(60))).toEqual(coded(picture(256, 192, 3, "waves"), "4:2:0", 60));
  });

  it("are smaller than the library's at the same mean error", async () => {
    const samples = picture(512, 384, 3, "waves", 3);
    const raw = { width: 512, height: 384, channels: 3 as const };
    const theirs = await sharp(samples.data, { raw }).jpeg({ quality: 75 }).toBuffer();
    const wrong = async (file: Uint8Array) => {
      const { data } = await decoded(file);
      return data.reduce((sum, v, i) => sum + (v - samples.data[i]) ** 2, 0);
    };
    const coder = new JpegCoder(samples, "4:2:0");
    const least = await wrong(theirs);
    let quality = 30;
    while (quality < 99 && (await wrong(coder.encode(setting(quality)))) > least) quality += 1;
    expect(coder.encode(setting(quality)).length).toBeLessThan(theirs.length);
  });

  it("keep lightness where chroma is halved: red lines on green lose less than without the correction", async () => {
    const samples = picture(64, 64, 3, "flat");
    for (let p = 0; p < 64 * 64; p += 1) samples.data.set(p % 3 === 0 ? [230, 20, 20] : [20, 150, 40], p * 3);
    const raw = { width: 64, height: 64, channels: 3 as const };
    const off = async (file: Uint8Array) => {
      const { data } = await decoded(file);
      let sum = 0;
      for (let i = 0; i < data.length; i += 3)
        sum += Math.abs(lightness(data, i) - lightness(samples.data as Uint8Array, i));
      return sum;
    };
    const theirs = await sharp(samples.data, { raw }).jpeg({ quality: 98 }).toBuffer();
    expect(await off(coded(samples, "4:2:0", 98))).toBeLessThan(0.7 * (await off(theirs)));
  });
});

describe("coefficients", () => {
  it("lie within a sixteenth of the transform by its definition (ITU-T T.81, A.3.3)", () => {
    const samples = picture(32, 24, 1, "noise", 5);
    const { heap, planes } = prepareJpeg(samples, "4:4:4");
    const [{ coefficients, stride, rows }] = planes;
    const found = heap.shorts(coefficients, stride * rows * 64);
    for (let block = 0; block < stride * rows; block += 1) {
      const meant = transform(samples, (block % stride) * 8, Math.floor(block / stride) * 8);
      for (let k = 0; k < 64; k += 1)
        expect(Math.abs(found[block * 64 + k] / 16 - meant[ZIGZAG[k]])).toBeLessThan(0.04);
    }
  });
});

describe("Huffman codes", () => {
  it("are prefix codes of at most 16 bits without the code of all ones (ITU-T T.81, C.2), near the entropy", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 1_000_000 }), { minLength: 1, maxLength: 256 }),
        (counts) => {
          const codes = codesFor(counts);
          const room = codes.lengths.reduce((sum, n, i) => sum + n / 2 ** (i + 1), 0);
          expect(room).toBeLessThan(1);
          const total = counts.reduce((a, b) => a + b, 0);
          if (!total) return;
          const entropy = counts.reduce((sum, n) => sum + (n ? n * Math.log2(total / n) : 0), 0);
          const all = Uint32Array.from({ length: 256 }, (_, symbol) => counts[symbol] ?? 0);
          expect(bitsOf(all, codes)).toBeGreaterThanOrEqual(Math.floor(entropy));
          expect(bitsOf(all, codes)).toBeLessThanOrEqual(entropy + 1.1 * total);
        },
      ),
    );
  });

  it("stay within 16 bits where the best would be longer", () => {
    const fibonacci = [1, 1];
    while (fibonacci.length < 30) fibonacci.push(fibonacci.at(-1)! + fibonacci.at(-2)!);
    const { lengths, symbols } = codesFor(fibonacci);
    expect(lengths.length).toBe(16);
    expect(lengths.reduce((a, b) => a + b, 0)).toBe(30);
    expect(symbols[0]).toBe(29);
  });
});

const tablesOf = (file: ReturnType<typeof readJpeg>) => {
  const tables = new Map<number, number[]>();
  for (const segment of file.segments.filter(({ marker }) => marker === 0xdb)) {
    const data = bodyOf(file, segment);
    for (let at = 0; at < data.length; at += 65) tables.set(data[at], [...data.subarray(at + 1, at + 65)]);
  }
  return [...tables.values()];
};

/** Lightness after B. Ottosson (2020), of sRGB. */
function lightness(data: Uint8Array, i: number): number {
  const [r, g, b] = [0, 1, 2].map((c) => {
    const v = data[i + c] / 255;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  });
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s;
}

const scale = (k: number) => (k ? 1 : Math.SQRT1_2);
const wave = (x: number, u: number) => Math.cos(((2 * x + 1) * u * Math.PI) / 16);

function transform({ data, width, height }: JpegSamples, left: number, top: number): number[] {
  const out: number[] = [];
  for (let v = 0; v < 8; v += 1)
    for (let u = 0; u < 8; u += 1) {
      let sum = 0;
      for (let y = 0; y < 8; y += 1)
        for (let x = 0; x < 8; x += 1) {
          const [px, py] = [Math.min(width - 1, left + x), Math.min(height - 1, top + y)];
          sum += (data[py * width + px] - 128) * wave(x, u) * wave(y, v);
        }
      out.push((sum * scale(u) * scale(v)) / 4);
    }
  return out;
}

function byDefinition(samples: JpegSamples, steps: readonly number[]): Float64Array {
  const { width, height } = samples;
  const out = new Float64Array(width * height);
  for (let top = 0; top < height; top += 8)
    for (let left = 0; left < width; left += 8) {
      const levels = transform(samples, left, top);
      // Coefficients are kept in sixteenths: what lies halfway between two levels then may go either way.
      const sixteenths = (v: number) => Math.round(v * 16) / 16;
      ZIGZAG.forEach(
        (place, k) => (levels[place] = Math.round(sixteenths(levels[place]) / steps[k]) * steps[k]),
      );
      for (let y = 0; y < 8; y += 1)
        for (let x = 0; x < 8; x += 1) {
          let sum = 0;
          for (let v = 0; v < 8; v += 1)
            for (let u = 0; u < 8; u += 1)
              sum += scale(u) * scale(v) * levels[v * 8 + u] * wave(x, u) * wave(y, v);
          out[(top + y) * width + left + x] = Math.min(255, Math.max(0, sum / 4 + 128));
        }
    }
  return out;
}

describe("memory that another picture had", () => {
  /** As the worst picture would have left it: every float in it is no number. */
  const spoilt = (coder: JpegCoder) => {
    const { heap } = (coder as unknown as { picture: { heap: Heap } }).picture;
    heap.bytes(0, heap.size).fill(0xff);
    coder.end();
    return heap;
  };

  it("makes no difference to a file", () => {
    const sizes = fc.record({
      width: fc.integer({ min: 1, max: 70 }),
      height: fc.integer({ min: 1, max: 70 }),
      channels: fc.constantFrom(1, 3, 4),
      kind: kinds,
      chroma: chromas,
      quality: fc.integer({ min: 5, max: 98 }),
      table: fc.constantFrom(0, 9),
      effort: fc.constantFrom<"quick" | "careful">("quick", "careful"),
    });
    fc.assert(
      fc.property(sizes, sizes, (before, now) => {
        const { width, height, channels, kind, chroma, quality, ...part } = now;
        const samples = picture(width, height, channels, kind);
        const fresh = new JpegCoder(samples, chroma);
        const wanted = fresh.encode(setting(quality, part));
        const old = new JpegCoder(picture(before.width, before.height, 3, before.kind), before.chroma);
        old.encode(setting(before.quality));
        const heap = spoilt(old);
        const again = new JpegCoder(samples, chroma);
        expect((again as unknown as { picture: { heap: Heap } }).picture.heap).toBe(heap);
        expect(again.encode(setting(quality, part))).toEqual(wanted);
        again.end();
      }),
      { numRuns: 60 },
    );
  });
});
