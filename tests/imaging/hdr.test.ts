/** High dynamic range: AVIFs that say what their signals mean, read back here and by Debian's avifdec; gain maps; what gives way. */
import { execFile } from "node:child_process";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import sharp, { type Sharp } from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import {
  avifColour,
  avifLight,
  bodyOf,
  isXmp,
  latin1,
  readAvif,
  readGainMap,
  readJpeg,
  rebuildAvif,
  withGainMap,
} from "@/core/containers";
import { CENTRED, DEFAULT_LIGHT, DEFAULT_RAW } from "@/core/photo";
import { PQ_PEAK } from "@/core/pixels/colour";
import { pqToLight } from "@/core/pixels/colour/curve";
import { fitPhoto } from "@/imaging";
import { lightLevel, preview, regionOf } from "@/imaging/shown";
import { readSource } from "@/imaging/source";
import { dng } from "../support/dng";
import { fit } from "../support/fit";
import { jpegPhoto } from "../support/photos";

const run = promisify(execFile);
let folder: string;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), "zumbrel-hdr-"))));
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Dusk: a sky up to white with the sun in it, over dark ground. */
async function dusk(width = 240, height = 160): Promise<Buffer> {
  const data = new Uint8Array(width * height * 3);
  for (let y = 0, p = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, p += 3) {
      const sun = Math.hypot(x - width * 0.6, y - height * 0.4) < height * 0.12;
      const sky = y < height * 0.6;
      data.set(
        sun
          ? [255, 255, 255]
          : sky
            ? [90 + (110 * y) / height, 90 + (60 * y) / height, 130]
            : [40, 44 + (x % 7), 30],
        p,
      );
    }
  }
  return sharp(data, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 96, chromaSubsampling: "4:4:4" })
    .toBuffer();
}

async function avifdec(file: Buffer): Promise<string> {
  const path = join(folder, "a.avif");
  await writeFile(path, file);
  return (await run("avifdec", ["--info", path])).stdout;
}

describe("an HDR AVIF", () => {
  it.each([
    ["display-p3", 12],
    ["bt2020", 9],
    ["srgb", 1],
  ] as const)("is signalled as avifdec (libavif) reads it: %s, PQ, ten bits", async (space, primaries) => {
    const { output, proof, error } = await fit(await dusk(), {
      colour: { light: "hdr", ...(space !== "display-p3" && { space }) },
    });
    expect(error).toBeNull();
    const info = await avifdec(output!);
    for (const line of [
      /Bit Depth\s*: 10/,
      new RegExp(`Color Primaries\\s*: ${primaries}`),
      /Transfer Char\.\s*: 16/,
      /Matrix Coeffs\.\s*: 6/,
      /Range\s*: Full/,
    ])
      expect(info).toMatch(line);
    expect(proof!.ok).toBe(true);
    expect(proof!.facts).toMatchObject({ format: "avif", bits: 10, colourSpace: space, profile: true });
    expect(proof!.checks.find((check) => check.clause === "colour")!.found).toContain("high dynamic range");
  });

  it("says how light it is, in the file and in the proof: the sun at the peak, the ground where it was", async () => {
    const { output, proof, steps } = await fit(
      await dusk(),
      { colour: { light: "hdr" } },
      { ...CENTRED, light: { ...DEFAULT_LIGHT, peak: 6 } },
    );
    const { peak, average } = avifLight(readAvif(output!))!;
    expect(peak / 203).toBeGreaterThan(4.5);
    expect(peak / 203).toBeLessThan(6.6);
    expect(average).toBeLessThan(120);
    expect(proof!.notes.join()).toMatch(
      /^Light: at most \d+ cd\/m² \([456]\.\d × white, 2\.\d stops above it\)/,
    );
    expect(steps.find((step) => step.do.startsWith("Take lights above white"))!.why).toContain("from 82 %");
    const { data, info } = await sharp(output!)
      .toColourspace("rgb16")
      .raw({ depth: "ushort" })
      .toBuffer({ resolveWithObject: true });
    const codes = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
    const light = (x: number, y: number) =>
      pqToLight(codes[(y * info.width + x) * info.channels + 1] / (1023 * 64)) * PQ_PEAK;
    expect(light(144, 64)).toBeGreaterThan(4);
    // The ground: code 44 to 50 is 0.025 to 0.032 of white (IEC 61966-2-1), now in Display P3.
    expect(light(60, 140)).toBeGreaterThan(0.02);
    expect(light(60, 140)).toBeLessThan(0.04);
  });

  it("tells what the same picture takes without light above white", async () => {
    const { notes } = await fit(await dusk(), { colour: { light: "hdr" } });
    expect(notes.join()).toMatch(
      /Without light above white the same picture takes [\d.]+ kB as AVIF at the same setting and [\d.]+ kB as a JPEG of quality 92\./,
    );
  });

  it("takes a setting that was chosen for eight bits in ten", async () => {
    const source = await readSource(await dusk());
    const answer = await fitPhoto({
      source,
      brief: parseBrief({ zumbrelBrief: 1, name: "b", colour: { light: "hdr" } }),
      choice: { format: "avif", quality: 60, bits: 8 },
    });
    expect(answer.setting).toMatchObject({ quality: 60, bits: 10 });
    expect(await avifdec(Buffer.from(answer.output!))).toMatch(/Bit Depth\s*: 10/);
  });

  it("meets a ceiling, and hands over pixels of an AVIF that is one already", async () => {
    const first = await fit(await dusk(), { colour: { light: "hdr" }, fileSize: { max: "6kB" } });
    expect(first.output!.length).toBeLessThanOrEqual(6000);
    expect(avifColour(readAvif(first.output!))).toEqual({
      primaries: 12,
      transfer: 16,
      matrix: 6,
      fullRange: true,
    });
    const again = await fit(first.output!, { colour: { light: "hdr" }, fileSize: { max: "20kB" } });
    expect(again.passedThrough).toBe(true);
    expect(again.proof!.ok).toBe(true);
  });

  it("comes back as an ordinary picture that looks like the one it was made of", async () => {
    const photo = await dusk();
    const { output } = await fit(photo, { colour: { light: "hdr" } });
    const back = await fit(output!, { format: ["png"] });
    expect(back.steps.map((step) => step.do)).toContain("Bring lights under white");
    const [a, b] = await Promise.all(
      [photo, back.output!].map((file) => sharp(file).removeAlpha().raw().toBuffer()),
    );
    const apart = a.reduce((sum, v, i) => sum + Math.abs(v - b[i]), 0) / a.length;
    expect(apart).toBeLessThan(4);
    const small = await sharp(await preview(output!, 60))
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect(small.info.width).toBe(60);
    const sun = (16 * 60 + 36) * 3;
    expect(small.data[sun]).toBeGreaterThan(240);
  });

  it("is refused where an ordinary picture is asked, and made one", async () => {
    const { output } = await fit(await dusk(), { colour: { light: "hdr" } });
    const sdr = await fit(output!, { format: ["avif"], colour: { light: "sdr", bits: 8 } });
    expect(sdr.passedThrough).toBe(false);
    expect(sdr.proof!.ok).toBe(true);
    expect(sdr.proof!.facts.light).toBeUndefined();
  });

  it("gives way in formats that hold no light above white, said", async () => {
    const { format, notes, proof } = await fit(await dusk(), { format: ["png"], colour: { light: "hdr" } });
    expect(format).toBe("png");
    expect(notes.join()).toContain("Colour gave way: PNG has no room for high dynamic range");
    expect(proof!.checks.find((check) => check.clause === "colour")).toMatchObject({
      ok: null,
      gaveWay: true,
    });
  });

  it("keeps its coded picture byte for byte when only its colour box is put in", async () => {
    const plain = await sharp(await dusk())
      .avif({ quality: 60 })
      .toBuffer();
    const file = rebuildAvif(readAvif(plain), {
      exif: null,
      xmp: null,
      colour: {
        primaries: 12,
        transfer: 16,
        matrix: 6,
        fullRange: true,
        light: { peak: 70_000, average: 12 },
      },
    });
    expect(avifLight(readAvif(file))).toEqual({ peak: 65_535, average: 12 });
    expect(Buffer.compare(await sharp(file).raw().toBuffer(), await sharp(plain).raw().toBuffer())).toBe(0);
  });
});

describe("light that the source has itself", () => {
  it("of raw files stays: what the sensor saw above white is in the file", async () => {
    const bytes = await dng(160, 120, { light: 2.2 });
    const raw = { ...CENTRED, raw: { ...DEFAULT_RAW, brighten: false } };
    const { steps, proof } = await fit(bytes, { colour: { light: "hdr" } }, raw);
    expect(steps.map((step) => step.do)).toContain("Keep the light above white");
    expect(Number(/at most (\d+)/.exec(proof!.notes.join())![1])).toBeGreaterThan(240);
  });

  it("of a gain map stays; a JPEG drops it or takes it along, and both are told", async () => {
    const gain = await sharp({ create: { width: 60, height: 40, channels: 3, background: "#ffffff" } })
      .greyscale()
      .jpeg()
      .toBuffer();
    const photo = Buffer.from(
      withGainMap(await jpegPhoto(240, 160, 41), {
        jpeg: gain,
        min: [0],
        max: [2],
        gamma: [1],
        offsetBase: [1 / 64],
        offsetLight: [1 / 64],
        capacity: 2,
      }),
    );
    // The colour library reads with libultrahdr.
    expect((await sharp(photo).metadata()).gainMap!.image.length).toBeGreaterThan(100);
    const { facts } = await readSource(photo);
    expect(facts).toMatchObject({ gainMap: 4, privateData: expect.arrayContaining(["the gain map"]) });
    const half = { format: ["jpeg" as const], width: { exact: 120 }, height: { exact: 80 } };
    const dropped = await fit(photo, half);
    expect(dropped.steps.map((step) => step.do).join()).toMatch(/Leave out .*the gain map/);
    expect((await sharp(dropped.output!).metadata()).gainMap).toBeUndefined();
    const kept = await fit(photo, { ...half, metadata: "keep" });
    expect(kept.notes.join()).toContain("The gain map, which holds the light above white, came along");
    const seen = (await sharp(kept.output!).metadata()).gainMap!.image;
    expect(await sharp(seen).metadata()).toMatchObject({ width: 60, height: 40 });
    expect(readGainMap(readJpeg(kept.output!))!.max).toEqual([2]);
    const tight = await fit(photo, {
      ...half,
      metadata: "keep",
      fileSize: { max: `${dropped.output!.length + 200}B` },
    });
    expect(tight.notes.join()).toMatch(/is left out: with it the file would take/);
    const bright = await fit(photo, { colour: { light: "hdr" } });
    expect(bright.steps.find((step) => step.do === "Keep the light above white")!.why).toContain("gain map");
    // Everywhere four times lighter than the base.
    expect(Number(/at most (\d+)/.exec(bright.proof!.notes.join())![1])).toBeGreaterThan(300);
  });

  it("of a gain map comes along beside what else the photo says, in one packet", async () => {
    const gain = await sharp({ create: { width: 30, height: 20, channels: 3, background: "#ffffff" } })
      .greyscale()
      .jpeg()
      .toBuffer();
    const says =
      '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>Moth $& lamp</dc:title></rdf:Description></rdf:RDF></x:xmpmeta>';
    const photo = Buffer.from(
      withGainMap(
        await sharp(await jpegPhoto(240, 160, 43))
          .withXmp(says)
          .jpeg()
          .toBuffer(),
        {
          jpeg: gain,
          min: [0],
          max: [2],
          gamma: [1],
          offsetBase: [1 / 64],
          offsetLight: [1 / 64],
          capacity: 2,
        },
      ),
    );
    const { output } = await fit(photo, {
      format: ["jpeg"],
      metadata: "keep",
      width: { exact: 120 },
      height: { exact: 80 },
    });
    const file = readJpeg(output!);
    const packets = file.segments
      .filter((s) => isXmp(file, s))
      .map((s) => new TextDecoder().decode(bodyOf(file, s)));
    expect(packets).toHaveLength(1);
    expect(packets[0]).toContain("Moth $& lamp");
    expect(packets[0].match(/Item:Length/g)).toHaveLength(1);
    expect((await sharp(output!).metadata()).gainMap!.image.length).toBeGreaterThan(100);
  });

  it("of a gain map that the colour library wrote is understood too", async () => {
    const gain = await sharp({ create: { width: 60, height: 40, channels: 3, background: "#808080" } })
      .greyscale()
      .jpeg()
      .toBuffer();
    const photo = Buffer.from(
      withGainMap(await jpegPhoto(240, 160, 42), {
        jpeg: gain,
        min: [-1],
        max: [3],
        gamma: [1.2],
        offsetBase: [1 / 64],
        offsetLight: [1 / 32],
        capacity: 3,
      }),
    );
    // The library reads our description after the standard: its own file says the same, and so does ours without XMP.
    const ours = readJpeg(photo);
    const second = readJpeg(photo.subarray(ours.end!));
    const iso = second.segments.find(
      (s) => latin1(bodyOf(second, s).subarray(0, 27)) === "urn:iso:std:iso:ts:21496:-1",
    );
    // Version 0, in the base's colours, one channel; headroom 0 and 3 stops as fractions (ISO 21496-1, annex C).
    const body = Buffer.from(bodyOf(second, iso!).subarray(28));
    expect([body.readUInt16BE(0), body.readUInt16BE(2), body[4], body.length]).toEqual([0, 0, 0x40, 61]);
    expect(body.readUInt32BE(5) / body.readUInt32BE(9)).toBe(0);
    expect(body.readUInt32BE(13) / body.readUInt32BE(17)).toBe(3);
    expect(body.readInt32BE(21) / body.readUInt32BE(25)).toBe(-1);
    expect(readGainMap(ours)).toMatchObject({ min: [-1], max: [3], gamma: [1.2], offsetLight: [1 / 32] });
    const theirs = readGainMap(
      readJpeg(
        await (sharp(photo) as unknown as { keepGainMap(): Sharp })
          .keepGainMap()
          .resize(120)
          .jpeg()
          .toBuffer(),
      ),
    )!;
    expect(theirs.min[0]).toBeCloseTo(-1, 4);
    expect(theirs.max[0]).toBeCloseTo(3, 4);
    expect(theirs.gamma[0]).toBeCloseTo(1.2, 4);
    expect(theirs.offsetLight[0]).toBeCloseTo(1 / 32, 4);
  });
});

describe("pictures of light for the screen", () => {
  it("are 16-bit signals at every scale, white at the highest code", async () => {
    const level = lightLevel({
      data: Uint16Array.from({ length: 64 * 64 * 3 }, () => 1023 * 64),
      width: 64,
      height: 64,
      channels: 3,
      top: 1023 * 64,
    });
    const levels = [Promise.resolve(level)];
    const part = (await regionOf(levels, { level: 2, x: 0, y: 0, side: 512 }))!;
    expect(part).toMatchObject({ width: 16, height: 16 });
    expect(part.data).toBeInstanceOf(Uint16Array);
    expect([...part.data.subarray(0, 4)]).toEqual([65_535, 65_535, 65_535, 65_535]);
  });
});

describe("AVIFs that are wrong", () => {
  it("with absurd dimensions are refused without being decoded", async () => {
    const bytes = Buffer.from(
      await sharp(await jpegPhoto(64, 48, 1))
        .avif()
        .toBuffer(),
    );
    const at = bytes.indexOf("ispe") + 8;
    bytes.writeUInt32BE(2_000_000, at);
    bytes.writeUInt32BE(2_000_000, at + 4);
    const start = Date.now();
    await expect(readSource(bytes).then((source) => fit(source.bytes, { format: ["jpeg"] }))).rejects.toThrow(
      /AVIF|px/,
    );
    expect(Date.now() - start).toBeLessThan(20_000);
  });
});
