/** Raw file: written after DNG 1.4, developed here and by Debian's libraw-bin, and through briefs like any photo. */
import { execFile } from "node:child_process";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { isRawTiff } from "@/core/containers";
import { CENTRED, DEFAULT_RAW } from "@/core/photo";
import { decodeForeign } from "@/imaging/foreign";
import { rawFacts, rawPixels } from "@/imaging/foreign/raw-pixels";
import { preview } from "@/imaging/shown";
import { readSource } from "@/imaging/source";
import { dng } from "../support/dng";
import { fit } from "../support/fit";
import { pixels } from "../support/photos";

const run = promisify(execFile);
let folder: string;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), "zumbrel-raw-"))));
afterAll(() => rm(folder, { recursive: true, force: true }));

/** A binary PPM of 16 bits (Netpbm's format): big-endian. */
function ppm(bytes: Buffer): { data: Uint16Array; width: number; height: number } {
  const head = /^P6\s+(?:#.*\s+)*(\d+)\s+(\d+)\s+65535\s/.exec(bytes.toString("latin1", 0, 200))!;
  const [width, height] = [Number(head[1]), Number(head[2])];
  return {
    data: Uint16Array.from({ length: width * height * 3 }, (_, i) =>
      bytes.readUInt16BE(head[0].length + i * 2),
    ),
    width,
    height,
  };
}

const meanDistance = (a: ArrayLike<number>, b: ArrayLike<number>) =>
  Array.from(a).reduce((sum, v, i) => sum + Math.abs(v - b[i]), 0) / a.length;

describe("a raw file", () => {
  it("is known by its directories, not by its name; other TIFFs are not taken for one", async () => {
    expect(isRawTiff(await dng(32, 24))).toBe(true);
    expect(
      isRawTiff(
        await sharp(pixels(32, 24), { raw: { width: 32, height: 24, channels: 3 } })
          .tiff()
          .toBuffer(),
      ),
    ).toBe(false);
    const { facts } = await readSource(await dng(60, 40));
    expect(facts).toMatchObject({
      format: "raw",
      width: 60,
      height: 40,
      bits: 16,
      preview: { width: 30, height: 20 },
      date: "2026-05-14",
      orientation: 1,
      fixedHeaders: true,
    });
  });

  it.each([2, 0] as const)(
    "is developed as libraw-bin develops it, highlights %s (2 recovered, 0 cut)",
    async (highlight) => {
      const bytes = await dng(120, 80, { light: 0.8 });
      const path = join(folder, "a.dng");
      await writeFile(path, bytes);
      // -4 linear 16 bits, -o 4 ROMM primaries, -W no brightening, -w white as shot, -q 3 the same interpolation.
      await run("dcraw_emu", ["-4", "-o", "4", "-W", "-w", "-q", "3", "-H", String(highlight), path]);
      const theirs = ppm(await readFile(`${path}.ppm`));
      const ours = await rawPixels(bytes, {
        raw: { way: "developed", brighten: false, recover: highlight === 2 },
      });
      expect([ours.width, ours.height]).toEqual([theirs.width, theirs.height]);
      // Two releases of one library: equal within rounding. At the rim of lights that are recovered they differ in under one value of a thousand.
      const apart = theirs.data.filter((v, i) => Math.abs(v - ours.data[i]) > 2).length / theirs.data.length;
      expect(apart).toBeLessThanOrEqual(highlight === 2 ? 0.001 : 0);
    },
  );

  it("gives back the colours that the sensor saw", async () => {
    const codes = new Uint8Array(64 * 48 * 3).map((_, i) => [180, 120, 70][i % 3]);
    const { output } = await fit(
      await dng(64, 48, { codes }),
      { format: ["png"] },
      { ...CENTRED, raw: { ...DEFAULT_RAW, brighten: false } },
    );
    const { data } = await sharp(output!).raw().toBuffer({ resolveWithObject: true });
    const middle = (24 * 64 + 32) * 3;
    // The matrices of the writer are rounded to six digits, and the sensor has 14,488 steps.
    for (let c = 0; c < 3; c += 1)
      expect(Math.abs(data[middle + c] - [180, 120, 70][c])).toBeLessThanOrEqual(2);
  });

  it("meets a brief, its plan saying how it was developed", async () => {
    const { proof, steps, error } = await fit(await dng(600, 400), {
      format: ["jpeg"],
      longSide: { max: 300 },
      fileSize: { max: "60KB" },
    });
    expect(error).toBeNull();
    expect(proof!.ok).toBe(true);
    expect(steps[0].do).toBe("Develop the sensor's values, white balance as shot");
    expect(steps[1].why).toContain("the sensor sees colours of its own");
  });

  it("stands as the sensor was held", async () => {
    const upright = await readSource(await dng(80, 50, { orientation: 6 }));
    expect(upright.facts).toMatchObject({ width: 50, height: 80, preview: { width: 25, height: 40 } });
    for (const way of ["developed", "camera"] as const) {
      const { output } = await fit(
        await dng(80, 50, { orientation: 6, seed: 3 }),
        { format: ["png"], width: { exact: 25 }, height: { exact: 40 } },
        { ...CENTRED, raw: { ...DEFAULT_RAW, way, brighten: false } },
      );
      const wanted = await sharp(pixels(80, 50, 3), { raw: { width: 80, height: 50, channels: 3 } })
        .rotate(90)
        .resize(25, 40)
        .raw()
        .toBuffer();
      const { data } = await sharp(output!).raw().toBuffer({ resolveWithObject: true });
      expect(meanDistance(data, wanted), way).toBeLessThan(9);
    }
  });

  it("can be the camera's own picture instead: its pixels are told, and that more are made up", async () => {
    const camera = { ...CENTRED, raw: { ...DEFAULT_RAW, way: "camera" as const } };
    const bytes = await dng(400, 300);
    const asked = { format: ["png" as const], width: { exact: 300 }, height: { exact: 225 } };
    const { steps, notes, output } = await fit(bytes, asked, camera);
    expect(steps[0].do).toBe("Take the camera's own picture, 200 × 150 px");
    expect(notes.join()).toContain("has only 200 × 150 px and was enlarged 1.5 times");
    const developed = await fit(bytes, asked, { ...CENTRED, raw: { ...DEFAULT_RAW, brighten: false } });
    const [a, b] = await Promise.all(
      [output!, developed.output!].map((file) => sharp(file).raw().toBuffer()),
    );
    expect(meanDistance(a, b)).toBeLessThan(8);
    expect(
      (await fit(bytes, { format: ["png"], width: { exact: 100 }, height: { exact: 75 } }, camera)).notes,
    ).toEqual([]);
  });

  it("is brightened so that one in a hundred pixels reaches white, and recovers lights that are above it", async () => {
    const dark = await dng(200, 150, { light: 0.25 });
    const plain = await rawPixels(dark, { raw: { way: "developed", brighten: false, recover: false } });
    const lifted = await rawPixels(dark, { raw: { way: "developed", brighten: true, recover: false } });
    expect(plain.light!.peak).toBe(1);
    expect(lifted.light!.peak).toBeGreaterThan(2);
    const strongest = Array.from(
      { length: 200 * 150 },
      (_, i) => Math.max(...lifted.data.subarray(i * 3, i * 3 + 3)) * lifted.light!.peak,
    );
    const above = strongest.filter((v) => v >= 65_535).length / strongest.length;
    expect(above).toBeGreaterThan(0.004);
    expect(above).toBeLessThan(0.02);
    const recovered = await rawPixels(await dng(200, 150, { light: 2.4 }), {
      raw: { way: "developed", brighten: false, recover: true },
    });
    expect(recovered.light!.peak).toBeGreaterThan(1.5);
    expect(recovered.light!.reach).toBeGreaterThan(1.2);
  });

  it("is read four places at a time where a quarter of its pixels is enough", async () => {
    const bytes = await dng(600, 400);
    const half = await decodeForeign("raw", bytes, { half: true });
    expect([half.width, half.height]).toEqual([300, 200]);
    expect((await decodeForeign("raw", bytes, {})).width).toBe(600);
    const { width } = await sharp(await preview(bytes, 100)).metadata();
    expect(width).toBe(100);
  });
});

describe("raw files that are wrong", () => {
  const sentence = /^The raw file cannot be developed: .*Bring in a sound copy, or save it/;
  it("are refused by name and reason, or still developed where only the camera's picture is broken", async () => {
    const bytes = await dng(80, 60);
    // Without pixels in the sensor: ImageWidth of the mosaic's directory.
    const zero = Buffer.from(bytes);
    for (let at = 0; at + 12 < zero.length; at += 2)
      if (zero.readUInt16LE(at) === 256 && zero.readUInt32LE(at + 8) === 80) zero.writeUInt32LE(0, at + 8);
    await expect(readSource(zero)).rejects.toThrow(sentence);
    await expect(
      readSource(bytes.subarray(0, 3000)).then((source) => fit(source.bytes, { format: ["jpeg"] })),
    ).rejects.toThrow(/damaged|cannot be developed|TIFF/);
    // The JPEG at the start of the file, overwritten.
    const broken = Buffer.from(bytes);
    broken.fill(0x41, 30, 400);
    const way = (one: "camera" | "developed") =>
      fit(broken, { format: ["jpeg"] }, { ...CENTRED, raw: { ...DEFAULT_RAW, way: one } });
    await expect(way("camera")).rejects.toThrow(
      /camera's own picture in it is (missing or )?damaged, choose the developed one/,
    );
    expect((await way("developed")).proof!.ok).toBe(true);
    await expect(rawFacts(Buffer.from("no raw file at all, and no picture either"))).rejects.toThrow(
      /not known/,
    );
    await expect(
      readSource(Buffer.from(Array.from({ length: 4000 }, (_, i) => (i * 97) % 251))),
    ).rejects.toThrow(/not a picture of a known kind/);
  });

  it("of a maker that nobody knows are developed by what the file itself says", async () => {
    const bytes = await dng(64, 48, { model: "Unheard Of 9" });
    expect((await fit(bytes, { format: ["jpeg"] })).proof!.ok).toBe(true);
  });
});
