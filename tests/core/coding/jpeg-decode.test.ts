/** What is made of levels without a file, held against libjpeg-turbo (of sharp, and Debian's djpeg) to the last code. */
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import fc from "fast-check";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { type Chroma, JpegCoder, type JpegSamples } from "@/core/coding";

const setting = (quality: number, table = 9, sequential = false) => ({
  quality,
  table,
  effort: "careful" as const,
  ...(sequential && { sequential: true as const }),
});

/** Noise, black beside white, a slope, or waves with some grain. */
function picture(width: number, height: number, channels: number, kind: number, seed: number): JpegSamples {
  const data = new Uint8Array(width * height * channels);
  let state = seed;
  const random = () => (state = (Math.imul(state, 1103515245) + 12345) & 0x7fffffff) / 0x7fffffff;
  for (let i = 0; i < data.length; i += 1) {
    const p = Math.floor(i / channels);
    const [x, y, c] = [p % width, Math.floor(p / width), i % channels];
    const wave = 128 + 120 * Math.sin(x / (3 + 2 * c)) * Math.cos(y / (5 - c));
    data[i] = [random() * 256, random() < 0.5 ? 0 : 255, 4 * x + 2 * y + 20 * c, wave + random() * 9][kind];
  }
  return { data, width, height, channels };
}

const byLibrary = async (file: Uint8Array, channels: number) =>
  new Uint8Array(
    await sharp(file)
      .toColourspace(channels === 1 ? "b-w" : "srgb")
      .raw()
      .toBuffer(),
  );

describe("levels decoded without a file", () => {
  it("are what libjpeg-turbo makes of the file, whatever the size, the chroma and the quality", async () => {
    let compared = 0;
    const shapes = fc.record({
      width: fc.integer({ min: 1, max: 70 }),
      height: fc.integer({ min: 1, max: 70 }),
      channels: fc.constantFrom(1, 3),
      kind: fc.integer({ min: 0, max: 3 }),
      seed: fc.integer({ min: 1, max: 1e6 }),
      chroma: fc.constantFrom<Chroma>("4:2:0", "4:4:4"),
      quality: fc.constantFrom(1, 4, 25, 60, 85.4, 93, 100),
      table: fc.constantFrom(9, 0),
      sequential: fc.boolean(),
    });
    await fc.assert(
      fc.asyncProperty(shapes, async ({ width, height, channels, kind, seed, chroma, ...how }) => {
        const coder = new JpegCoder(picture(width, height, channels, kind, seed), chroma);
        const asked = setting(how.quality, how.table, how.sequential);
        const file = coder.encode(asked);
        const own = coder.decoded(asked);
        coder.end();
        if (!own) {
          // Decoders do not draw out so little chroma.
          expect([chroma, channels, width <= 4]).toEqual(["4:2:0", 3, true]);
          return;
        }
        compared += 1;
        expect([own.width, own.height, own.channels]).toEqual([width, height, channels]);
        expect(Buffer.compare(own.data, await byLibrary(file, channels))).toBe(0);
      }),
      { numRuns: 250 },
    );
    expect(compared).toBeGreaterThan(150);
  });

  it("are what Debian's djpeg makes of a photograph-like picture of many rows of blocks", () => {
    const folder = mkdtempSync(join(tmpdir(), "zumbrel-levels-"));
    try {
      const coder = new JpegCoder(picture(333, 251, 3, 3, 5), "4:2:0");
      writeFileSync(join(folder, "one.jpg"), coder.encode(setting(88)));
      execFileSync("djpeg", ["-ppm", "-outfile", join(folder, "one.ppm"), join(folder, "one.jpg")]);
      const ppm = readFileSync(join(folder, "one.ppm"));
      const own = coder.decoded(setting(88))!;
      expect(ppm.subarray(0, 15).toString()).toContain("333 251");
      expect(Buffer.compare(own.data, ppm.subarray(ppm.length - own.data.length))).toBe(0);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it("are told of the file that was coded last only, and not of halved rows alone", () => {
    const samples = picture(64, 48, 3, 3, 2);
    const coder = new JpegCoder(samples, "4:2:0");
    expect(coder.decoded(setting(80))).toBeNull();
    coder.encode(setting(80));
    coder.encode(setting(70));
    expect(coder.decoded(setting(80))).toBeNull();
    expect(coder.decoded(setting(70))!.data).toHaveLength(64 * 48 * 3);
    // Decoding takes none of the levels away.
    expect(coder.decoded(setting(70))!.data).toEqual(coder.decoded(setting(70))!.data);
    const upright = new JpegCoder(samples, "4:2:2");
    upright.encode(setting(80));
    expect(upright.decoded(setting(80))).toBeNull();
  });

  it("are, where they are only rounded, those of a file in which no bits are weighed", async () => {
    const coder = new JpegCoder(picture(97, 65, 3, 3, 4), "4:2:0");
    const careful = coder.encode(setting(82));
    const rounded = coder.rounded(setting(82))!;
    // What was told of the file before holds no more: its levels are gone.
    expect(coder.decoded(setting(82))).toBeNull();
    expect(Buffer.compare(coder.encode(setting(82)), careful)).toBe(0);
    const quick = coder.encode({ ...setting(82), effort: "quick" });
    expect(quick.length).toBeGreaterThan(careful.length);
    expect(Buffer.compare(rounded.data, await byLibrary(quick, 3))).toBe(0);
  });
});
