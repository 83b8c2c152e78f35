import jpegJs from "jpeg-js";
import { PNG } from "pngjs";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief } from "@/core/brief";
import {
  asciiEntry,
  emptyExif,
  exifBlock,
  exifSegment,
  iccSegments,
  jfifSegment,
  MARKER,
  readExif,
  readJpeg,
  rebuildJpeg,
  resolutionOf,
  shortEntry,
  TAG,
  textAt,
  writeExif,
} from "@/core/containers";
import { writeProfile } from "@/core/pixels/colour";
import { fitPhoto } from "@/imaging";
import type { TrialStore } from "@/imaging/candidates";
import { memoryTrials } from "@/imaging/candidates";
import { prove } from "@/imaging/proved";
import { readSource } from "@/imaging/source";
import { jpegPhoto, pixels, pngPhoto, raw } from "../support/photos";

const brief = (clauses: Partial<Brief>): Brief => parseBrief({ zumbrelBrief: 1, name: "b", ...clauses });
const form: Partial<Brief> = {
  format: ["jpeg"],
  width: { exact: 240 },
  height: { exact: 300 },
  fileSize: { min: "24KB", max: "60KB" },
  resolution: { exact: "152.4ppi" },
};

async function fit(bytes: Buffer, clauses: Partial<Brief>, trials?: TrialStore) {
  const b = brief(clauses);
  const source = await readSource(bytes);
  const answer = await fitPhoto({ source, brief: b, trials });
  const output = answer.output && Buffer.from(answer.output);
  return { ...answer, output, proof: output ? await prove(b, output, { before: source.facts }) : null };
}

describe("one photo through one brief", () => {
  it("meets an upload form's rules, proved by an independent decoder", async () => {
    const { output, proof, encodes } = await fit(await jpegPhoto(1500, 2000), form);
    expect(proof!.ok).toBe(true);
    const theirs = jpegJs.decode(output!, { formatAsRGBA: false });
    expect([theirs.width, theirs.height]).toEqual([240, 300]);
    expect(output!.length).toBeGreaterThanOrEqual(24_576);
    expect(output!.length).toBeLessThanOrEqual(60_000);
    expect(encodes).toBeLessThanOrEqual(14);
    // The picture is the photo, reduced: close to what a plain reduction by the library gives.
    const plain = await sharp(await jpegPhoto(1500, 2000))
      .resize(240, 300)
      .raw()
      .toBuffer();
    const off = theirs.data.reduce((sum, v, i) => sum + Math.abs(v - plain[i]), 0) / plain.length;
    expect(off).toBeLessThan(3);
  });

  it("writes the resolution exactly into EXIF, and the nearest whole number into JFIF", async () => {
    const { output } = await fit(await jpegPhoto(600, 800), form);
    expect(resolutionOf(readExif(exifBlock(readJpeg(output!))!))).toEqual([152.4, 152.4]);
    expect(output!.readUInt16BE(14)).toBe(152);
  });

  it("writes PNG that an independent decoder reads, alpha kept; JPEG gets the background", async () => {
    const data = pixels(64, 48);
    const rgba = Buffer.alloc(64 * 48 * 4);
    for (let i = 0; i < 64 * 48; i += 1)
      rgba.set([data[i * 3], data[i * 3 + 1], data[i * 3 + 2], i % 64 < 32 ? 0 : 255], i * 4);
    const clear = await sharp(rgba, { raw: { width: 64, height: 48, channels: 4 } })
      .png()
      .toBuffer();
    const png = await fit(clear, { format: ["png"], width: { exact: 32 } });
    const theirs = PNG.sync.read(png.output!);
    expect([theirs.width, theirs.height, theirs.data[3]]).toEqual([32, 24, 0]);
    const jpeg = await fit(clear, { format: ["jpeg"], background: "#00ff00" });
    const back = jpegJs.decode(jpeg.output!).data;
    expect(back[0]).toBeLessThan(8);
    expect(back[1]).toBeGreaterThan(245);
    expect(jpeg.steps.map((s) => s.do)).toContain("Lay it on #00ff00");
  });

  it.each([1, 2, 3, 4, 5, 6, 7, 8])("bakes EXIF orientation %i in", async (orientation) => {
    const upright = pixels(48, 32, 4);
    const plain = await sharp(upright, { raw: { width: 48, height: 32, channels: 3 } })
      .png()
      .toBuffer();
    // What a camera held that way stores: the inverse of the turn that EXIF asks for.
    const inverse = { 1: 1, 2: 2, 3: 3, 4: 4, 5: 5, 6: 8, 7: 7, 8: 6 }[orientation]!;
    const turned = await sharp(await sharp(plain).withMetadata({ orientation: inverse }).png().toBuffer())
      .autoOrient()
      .png()
      .toBuffer();
    const photo = await sharp(turned).withMetadata({ orientation }).png().toBuffer();
    const { output, proof } = await fit(photo, {
      format: ["png"],
      metadata: "none",
      fileSize: { max: "1MB" },
    });
    expect(proof!.facts).toMatchObject({ width: 48, height: 32, orientation: 1 });
    const theirs = PNG.sync.read(output!);
    for (let i = 0; i < 48 * 32; i += 1)
      expect([...theirs.data.subarray(i * 4, i * 4 + 3)]).toEqual([...upright.subarray(i * 3, i * 3 + 3)]);
  });

  it("converts from the embedded profile instead of relabelling", async () => {
    // Display P3 (200, 120, 60) in sRGB, by the published matrices of SMPTE EG 432-1 and IEC 61966-2-1.
    const lin = (v: number) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
    const enc = (v: number) =>
      Math.round(255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055));
    const [r, g, b] = [200, 120, 60].map((v) => lin(v / 255));
    const wanted = [
      1.2249 * r - 0.2249 * g,
      -0.0421 * r + 1.0421 * g,
      -0.0196 * r - 0.0786 * g + 1.0983 * b,
    ].map(enc);
    const flat = await sharp({
      create: { width: 80, height: 80, channels: 3, background: { r: 200, g: 120, b: 60 } },
    })
      .jpeg({ quality: 100, chromaSubsampling: "4:4:4" })
      .toBuffer();
    const p3 = Buffer.from(rebuildJpeg(readJpeg(flat), iccSegments(writeProfile("display-p3")), () => true));
    const { output, proof } = await fit(p3, { format: ["png"] });
    expect(proof!.facts.colourSpace).toBe("srgb");
    const theirs = PNG.sync.read(output!).data;
    for (let c = 0; c < 3; c += 1)
      expect(Math.abs(theirs[c] - wanted[c]), `channel ${c}`).toBeLessThanOrEqual(2);
  });

  it("reads 16-bit TIFF, WebP, AVIF and GIF", async () => {
    const sixteen = Uint16Array.from(pixels(60, 40), (v) => v * 257);
    const tiff = await sharp(sixteen, { raw: { width: 60, height: 40, channels: 3 } })
      .toColourspace("rgb16")
      .tiff({ compression: "lzw", xres: 300 / 25.4, yres: 300 / 25.4 })
      .toBuffer();
    const source = await readSource(tiff);
    expect(source.facts).toMatchObject({ format: "tiff", bits: 16, width: 60, height: 40 });
    expect(source.facts.resolution![0]).toBeCloseTo(300, 1);
    for (const bytes of [
      tiff,
      await raw(60, 40).webp().toBuffer(),
      await raw(60, 40).avif({ effort: 1 }).toBuffer(),
      await raw(60, 40).gif().toBuffer(),
    ]) {
      const { proof, output } = await fit(bytes, { format: ["jpeg"], width: { exact: 30 } });
      expect(proof!.ok).toBe(true);
      expect(jpegJs.decode(output!).height).toBe(20);
    }
  });

  it("pads instead of cutting when asked, and stretches only when told", async () => {
    const wide = await pngPhoto(90, 30);
    const { output } = await fit(wide, {
      format: ["png"],
      width: { exact: 60 },
      height: { exact: 60 },
      frame: "pad",
      background: "#102030",
    });
    const { data } = PNG.sync.read(output!);
    expect([...data.subarray(0, 3)]).toEqual([0x10, 0x20, 0x30]);
    expect([...data.subarray((30 * 60 + 30) * 4, (30 * 60 + 30) * 4 + 3)]).not.toEqual([0x10, 0x20, 0x30]);
    const stretched = await fit(wide, {
      format: ["png"],
      width: { exact: 60 },
      height: { exact: 60 },
      frame: "stretch",
    });
    expect(stretched.steps.map((s) => s.do)).toContain("Stretch it, so it is distorted");
  });

  it("cuts the same region whether it reduces a lot or a little", async () => {
    // A picture that is red left of x = 900 and blue right of it, framed at the far right.
    const half = await sharp({ create: { width: 1200, height: 400, channels: 3, background: "#ff0000" } })
      .composite([
        {
          input: { create: { width: 300, height: 400, channels: 3, background: "#0000ff" } },
          left: 900,
          top: 0,
        },
      ])
      .png()
      .toBuffer();
    for (const side of [60, 300]) {
      const source = await readSource(half);
      const b = brief({ format: ["png"], width: { exact: side }, height: { exact: side } });
      const { output } = await fitPhoto({ source, brief: b, frame: { x: 1, y: 0.5 } });
      const { data, width } = PNG.sync.read(Buffer.from(output!));
      const row = Math.floor(side / 2) * width * 4;
      const edge = Array.from({ length: width }, (_, x) => data[row + x * 4] < 128).indexOf(true) / width;
      // The frame shows x from 800 to 1200, so the edge lies at a quarter.
      expect(edge).toBeGreaterThan(0.22);
      expect(edge).toBeLessThan(0.28);
    }
  });
});

describe("passing through", () => {
  const obeying: Partial<Brief> = { format: ["jpeg"], longSide: { max: 1000 }, fileSize: { max: "1MB" } };

  it("hands over a file that obeys byte for byte", async () => {
    const photo = await jpegPhoto(400, 300);
    const { output, passedThrough, encodes, steps } = await fit(photo, obeying);
    expect([passedThrough, encodes]).toEqual([true, 0]);
    expect(output!.equals(photo)).toBe(true);
    expect(steps).toHaveLength(1);
  });

  it("rewrites resolution without touching the picture data", async () => {
    const photo = await jpegPhoto(400, 300);
    const { output, passedThrough } = await fit(photo, { ...obeying, resolution: { exact: "304.8ppi" } });
    expect(passedThrough).toBe(true);
    const [a, b] = [readJpeg(photo), readJpeg(output!)];
    expect(output!.subarray(b.scan).equals(photo.subarray(a.scan))).toBe(true);
    const png = await fit(await pngPhoto(40, 30), { resolution: { exact: "300ppi" } });
    expect(png.passedThrough).toBe(true);
    expect(png.proof!.facts.resolution![0]).toBeCloseTo(300, 1);
  });

  it("takes private data out on the way, and leaves the rest", async () => {
    const exif = emptyExif();
    exif.ifd0.push(asciiEntry(TAG.Copyright, "The survey"), shortEntry(TAG.Orientation, 6, false));
    exif.exif.push(
      asciiEntry(TAG.DateTimeOriginal, "2026:05:14 23:41:07"),
      asciiEntry(TAG.BodySerialNumber, "QM-17"),
    );
    exif.gps.push(asciiEntry(1, "N"));
    const photo = Buffer.from(
      rebuildJpeg(
        readJpeg(await jpegPhoto(400, 300)),
        [jfifSegment(72), exifSegment(writeExif(exif))],
        (s) => s.marker !== MARKER.APP0,
      ),
    );
    const { output, proof, passedThrough, steps } = await fit(photo, obeying);
    expect(passedThrough).toBe(true);
    expect(output!.includes("QM-17")).toBe(false);
    expect(proof!.facts).toMatchObject({
      privateData: [],
      orientation: 6,
      width: 300,
      height: 400,
      date: "2026-05-14",
    });
    expect(textAt(readExif(exifBlock(readJpeg(output!))!).ifd0, TAG.Copyright)).toBe("The survey");
    expect(steps.map((s) => s.do).join()).toMatch(/Leave out place, serial numbers/);
    // None drops all of it, so the turn has to go into the pixels.
    const none = await fit(photo, { ...obeying, metadata: "none" });
    expect(none.passedThrough).toBe(false);
    expect(none.proof!.facts).toMatchObject({ metadata: false, orientation: 1, width: 300, height: 400 });
  });

  it("encodes anew where a floor asks for more, and says that the file grew", async () => {
    const photo = await jpegPhoto(200, 150, 3, 40);
    const { output, passedThrough, notes, proof } = await fit(photo, {
      format: ["jpeg"],
      fileSize: { min: "10KB", max: "20KB" },
    });
    expect(photo.length).toBeLessThan(10_240);
    expect(passedThrough).toBe(false);
    expect(proof!.ok).toBe(true);
    expect(output!.length).toBeGreaterThanOrEqual(10_240);
    expect(notes.join()).toMatch(/larger than the photo was/);
  });

  it("makes no JPEG larger than it came where nothing asks for that", async () => {
    const photo = await jpegPhoto(800, 600, 5, 45);
    const { output, passedThrough } = await fit(photo, { longSide: { max: 700 } });
    expect(passedThrough).toBe(false);
    expect(output!.length).toBeLessThanOrEqual(photo.length);
  });
});

describe("trials", () => {
  it("serve again when only the file size is asked differently", async () => {
    let made = 0;
    const memory = memoryTrials();
    const trials: TrialStore = {
      ...memory,
      keep: async (key, setting, encoded, ms) => ((made += 1), memory.keep(key, setting, encoded, ms)),
    };
    const photo = await jpegPhoto(900, 1200);
    const first = await fit(photo, form, trials);
    const after = made;
    const again = await fit(photo, form, trials);
    expect(made).toBe(after);
    expect(again.output!.equals(first.output!)).toBe(true);
    const moved = await fit(photo, { ...form, fileSize: { min: "24KB", max: "58KB" } }, trials);
    expect(moved.proof!.ok).toBe(true);
    expect(made - after).toBeLessThan(moved.encodes);
  });
});
