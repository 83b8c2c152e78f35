/** Packing without loss: what decoders draw stays the same to the last bit, and the file is no larger than jpegtran's (Independent JPEG Group), where that is installed. */
import { execFileSync, spawnSync } from "node:child_process";
import fc from "fast-check";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { packJpeg } from "@/core/coding";
import { readJpeg } from "@/core/containers";

const [WIDTH, HEIGHT] = [213, 147];
const raw = { width: WIDTH, height: HEIGHT, channels: 3 as const };
const made = Buffer.alloc(WIDTH * HEIGHT * 3);
for (let i = 0; i < made.length; i += 1) {
  const p = Math.floor(i / 3);
  const [x, y, c] = [p % WIDTH, Math.floor(p / WIDTH), i % 3];
  made[i] = 128 + 70 * Math.sin(x / (6 + c)) * Math.cos(y / 9) + ((p * 7919 + c * 31) % 41) - 20;
}
const picture = () => sharp(made, { raw });
const pixels = (file: Uint8Array) => sharp(file, { failOn: "warning" }).raw().toBuffer();
const has = (program: string) => spawnSync(program, ["-version"]).error === undefined;

const FILES: [string, () => Promise<Buffer>][] = [
  ["4:2:0", () => picture().jpeg({ quality: 80, optimiseCoding: false }).toBuffer()],
  ["4:4:4", () => picture().jpeg({ quality: 90, chromaSubsampling: "4:4:4" }).toBuffer()],
  ["progressive", () => picture().jpeg({ quality: 85, progressive: true }).toBuffer()],
  ["finest", () => picture().jpeg({ quality: 100, chromaSubsampling: "4:4:4" }).toBuffer()],
  ["coarsest", () => picture().jpeg({ quality: 1 }).toBuffer()],
  ["grey", () => picture().toColourspace("b-w").jpeg({ quality: 75 }).toBuffer()],
  ["with headers", () => picture().withMetadata({ density: 300 }).jpeg({ quality: 75 }).toBuffer()],
];

describe("packing a JPEG tighter", () => {
  it.each(FILES)("keeps every pixel and grows no file: %s", async (_, make) => {
    const file = await make();
    const packed = packJpeg(file)!;
    expect(packed.length).toBeLessThanOrEqual(file.length);
    expect(await pixels(packed)).toEqual(await pixels(file));
    const kinds = (bytes: Uint8Array) =>
      readJpeg(bytes)
        .segments.map(({ marker }) => marker)
        .filter((marker) => marker >= 0xe0);
    expect(kinds(packed)).toEqual(kinds(file));
    // Packed once more nothing is left to be saved.
    expect(packJpeg(packed)).toEqual(packed);
  });

  it.runIf(has("jpegtran"))("takes no more than jpegtran's progressive order", async () => {
    for (const [, make] of FILES) {
      const file = await make();
      const theirs = execFileSync("jpegtran", ["-copy", "all", "-optimize", "-progressive"], { input: file });
      expect(packJpeg(file)!.length).toBeLessThanOrEqual(theirs.length);
    }
  });

  it.runIf(has("cjpeg"))("takes other samplings, restarts, and colours that are no YCbCr", async () => {
    const ppm = Buffer.concat([Buffer.from(`P6 ${WIDTH} ${HEIGHT} 255\n`), made]);
    for (const how of [
      ["-sample", "1x2"],
      ["-sample", "4x1"],
      ["-sample", "2x2,1x2,2x1"],
      ["-restart", "1"],
      ["-restart", "3B", "-progressive"],
      ["-rgb"],
    ]) {
      const file = execFileSync("cjpeg", ["-quality", "70", ...how], { input: ppm });
      expect(await pixels(packJpeg(file)!)).toEqual(await pixels(file));
    }
  });

  it("leaves alone what it cannot read, and never throws", async () => {
    const file = await picture().jpeg({ quality: 60 }).toBuffer();
    const cmyk = await picture().toColourspace("cmyk").jpeg().toBuffer();
    for (const bytes of [cmyk, file.subarray(0, 2000), Buffer.from("no picture"), new Uint8Array(0)])
      expect(packJpeg(bytes)).toBeNull();
    const progressive = await picture().jpeg({ quality: 60, progressive: true }).toBuffer();
    fc.assert(
      fc.property(
        fc.constantFrom(file, progressive),
        fc.array(fc.tuple(fc.nat(), fc.integer({ min: 0, max: 255 })), { minLength: 1, maxLength: 6 }),
        (from, changes) => {
          const bytes = Uint8Array.from(from);
          for (const [at, value] of changes) bytes[2 + (at % (bytes.length - 2))] = value;
          packJpeg(bytes);
        },
      ),
      { numRuns: 150 },
    );
  });
});
