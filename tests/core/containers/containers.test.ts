import jpegJs from "jpeg-js";
import { PNG } from "pngjs";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import {
  asciiEntry,
  chromaOf,
  emptyExif,
  exifBlock,
  exifSegment,
  filterExif,
  iccProfile,
  iccSegments,
  jfifDensity,
  jfifSegment,
  longEntry,
  MARKER,
  numberAt,
  orientationOf,
  padJpeg,
  padPng,
  physChunk,
  physOf,
  qualityOf,
  readExif,
  readJpeg,
  readPng,
  rebuildJpeg,
  rebuildPng,
  resolutionOf,
  shortEntry,
  sniff,
  TAG,
  textAt,
  withResolution,
  writeExif,
} from "@/core/containers";
import { ANNEX_K_CHROMA, ANNEX_K_LUMA, scaleTable } from "@/core/containers/jpeg-quality";
import { crc32 } from "@/core/containers/png";
import { writeProfile } from "@/core/pixels/colour";
import { nameProfile } from "@/core/pixels/colour/profile";
import { jpegPhoto, pixels, pngPhoto, raw } from "../../support/photos";

describe("JPEG quality", () => {
  it("has the tables of ITU-T T.81, K.1 and K.2, at quality 50", () => {
    expect(scaleTable(ANNEX_K_LUMA, 50)).toEqual(ANNEX_K_LUMA);
    // First row and last entry of both tables as printed in annex K.
    expect(ANNEX_K_LUMA.slice(0, 8)).toEqual([16, 11, 10, 16, 24, 40, 51, 61]);
    expect(ANNEX_K_LUMA[63]).toBe(99);
    expect(ANNEX_K_CHROMA.slice(0, 8)).toEqual([17, 18, 24, 47, 99, 99, 99, 99]);
    expect(scaleTable(ANNEX_K_LUMA, 100).every((v) => v === 1)).toBe(true);
    // The usual scaling of the public JPEG library: quality 75 halves the entries, rounding half up.
    expect(scaleTable(ANNEX_K_LUMA, 75).slice(0, 4)).toEqual([8, 6, 5, 8]);
  });

  it("reads back every quality that two independent encoders wrote", async () => {
    const { data, info } = await raw(32, 32).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    for (let quality = 1; quality <= 100; quality += 1) {
      const theirs = jpegJs.encode({ data, width: info.width, height: info.height }, quality).data;
      const found = qualityOf(readJpeg(theirs))!;
      expect(found.exact).toBe(true);
      expect(scaleTable(ANNEX_K_LUMA, found.quality), `quality ${quality}`).toEqual(
        scaleTable(ANNEX_K_LUMA, quality),
      );
      expect(qualityOf(readJpeg(await raw(32, 32).jpeg({ quality }).toBuffer()))!.exact).toBe(true);
    }
  });

  it("names the nearest quality for tables of another make", async () => {
    const found = qualityOf(
      readJpeg(await raw(64, 64).jpeg({ quality: 80, quantisationTable: 3 }).toBuffer()),
    )!;
    expect(found.exact).toBe(false);
    expect(Math.abs(found.quality - 80)).toBeLessThan(8);
  });

  it("reads chroma subsampling from the sampling factors", async () => {
    for (const chromaSubsampling of ["4:4:4", "4:2:0"]) {
      expect(chromaOf(readJpeg(await raw(64, 64).jpeg({ chromaSubsampling }).toBuffer()).frame)).toBe(
        chromaSubsampling,
      );
    }
    const half = await jpegPhoto(64, 64);
    const at = readJpeg(half).segments.find((s) => s.marker === 0xc0)!.start;
    half[at + 11] = 0x21;
    expect(chromaOf(readJpeg(half).frame)).toBe("4:2:2");
    expect(chromaOf(readJpeg(await raw(64, 64).toColourspace("b-w").jpeg().toBuffer()).frame)).toBeNull();
  });
});

describe("resolution", () => {
  it("writes JFIF 1.02 density in whole dots per inch and reads dots per cm", async () => {
    const file = readJpeg(await jpegPhoto(40, 30));
    const written = rebuildJpeg(file, [jfifSegment(152.4)], (s) => s.marker !== MARKER.APP0);
    // JFIF 1.02: APP0, length 16, "JFIF\0", 1.02, units 1 = dots per inch, X and Y density, no thumbnail.
    expect(Buffer.from(written.subarray(2, 20)).toString("hex")).toBe("ffe000104a46494600010201009800980000");
    expect(jfifDensity(readJpeg(written))).toEqual([152, 152]);
    written[13] = 2;
    expect(jfifDensity(readJpeg(written))![0]).toBeCloseTo(152 * 2.54, 9);
    expect(
      (await sharp(rebuildJpeg(file, [jfifSegment(300)], (s) => s.marker !== MARKER.APP0)).metadata())
        .density,
    ).toBe(300);
  });

  it("writes EXIF rationals exactly, readable by another parser", async () => {
    const block = writeExif(withResolution(emptyExif(), 152.4));
    const file = readJpeg(await jpegPhoto(40, 30));
    const written = rebuildJpeg(file, [exifSegment(block)], () => true);
    const back = readExif(exifBlock(readJpeg(written))!);
    expect(resolutionOf(back)).toEqual([152.4, 152.4]);
    const theirs = await sharp(written).metadata();
    expect(Math.round(theirs.density!)).toBe(152);
    for (const ppi of [72, 96, 300, 304.8, 1200.5])
      expect(resolutionOf(readExif(writeExif(withResolution(emptyExif(), ppi))))![0]).toBeCloseTo(ppi, 4);
  });

  it("writes pHYs in whole pixels per metre: 300 ppi is 11811", async () => {
    // PNG specification, pHYs; 300 / 0.0254 = 11811.02.
    const chunk = Buffer.from(physChunk(300));
    expect([
      chunk.readUInt32BE(0),
      chunk.toString("latin1", 4, 8),
      chunk.readUInt32BE(8),
      chunk.readUInt32BE(12),
      chunk[16],
    ]).toEqual([9, "pHYs", 11811, 11811, 1]);
    const written = rebuildPng(readPng(await pngPhoto(20, 20)), [physChunk(300)], (type) => type !== "pHYs");
    expect(physOf(readPng(written))![0]).toBeCloseTo(300, 2);
    expect((await sharp(written).metadata()).density).toBe(300);
  });
});

describe("padding", () => {
  it("fills a JPEG up with comments to the byte, and changes no pixel", async () => {
    const bytes = await jpegPhoto(60, 40);
    for (const more of [4, 5, 100, 65_537, 65_538, 65_540, 200_000]) {
      const padded = padJpeg(bytes, bytes.length + more);
      expect(padded.length).toBe(bytes.length + more);
      expect(jpegJs.decode(padded).data.equals(jpegJs.decode(bytes).data)).toBe(true);
      expect(readJpeg(padded).end).toBe(padded.length);
    }
    expect(padJpeg(bytes, bytes.length - 5)).toBe(bytes);
    expect(padJpeg(bytes, bytes.length + 1).length).toBe(bytes.length + 4);
  });

  it("fills a PNG up with a text chunk", async () => {
    const bytes = await pngPhoto(30, 20);
    const padded = padPng(bytes, bytes.length + 5000);
    expect(padded.length).toBe(bytes.length + 5000);
    expect(PNG.sync.read(Buffer.from(padded)).data.equals(PNG.sync.read(bytes).data)).toBe(true);
  });
});

describe("damage", () => {
  it("notices a missing end, a broken marker and a header that runs out", async () => {
    const bytes = await jpegPhoto(60, 40);
    expect(readJpeg(bytes).end).toBe(bytes.length);
    expect(readJpeg(bytes.subarray(0, bytes.length - 40)).end).toBeNull();
    expect(() => readJpeg(bytes.subarray(0, 30))).toThrow(/cut short/);
    const broken = Buffer.from(bytes);
    const { start } = readJpeg(bytes).segments[1];
    broken[start] = 0;
    expect(() => readJpeg(broken)).toThrow(`damaged at byte ${start}`);
  });

  it("finds the end of progressive files, which have many scans", async () => {
    const bytes = await raw(200, 160).jpeg({ progressive: true }).toBuffer();
    const file = readJpeg(bytes);
    expect(file.frame.progressive).toBe(true);
    expect(file.end).toBe(bytes.length);
  });

  it("checks every CRC of a PNG", async () => {
    // PNG specification, annex D: the CRC of an IEND chunk without data is AE 42 60 82.
    expect(crc32(Buffer.from("IEND"))).toBe(0xae426082);
    const bytes = await pngPhoto(30, 20);
    const at = readPng(bytes).chunks.find((c) => c.type === "IDAT")!.start + 20;
    bytes[at] ^= 1;
    expect(() => readPng(bytes)).toThrow(/check sum of its IDAT part/);
    expect(() => readPng(bytes.subarray(0, 40))).toThrow(/cut short/);
  });
});

describe("EXIF", () => {
  const rich = () => {
    const exif = withResolution(emptyExif(), 240);
    exif.ifd0.push(
      asciiEntry(TAG.Make, "Quillmoor"),
      asciiEntry(TAG.Copyright, "The survey"),
      asciiEntry(TAG.Artist, "A. Person"),
      shortEntry(TAG.Orientation, 6, false),
    );
    exif.exif.push(
      asciiEntry(TAG.DateTimeOriginal, "2026:05:14 23:41:07"),
      asciiEntry(TAG.BodySerialNumber, "17"),
      asciiEntry(TAG.CameraOwnerName, "Someone"),
    );
    exif.exif.push(
      { tag: TAG.MakerNote, type: 7, count: 12, value: new Uint8Array(12) },
      longEntry(TAG.PixelXDimension, 4000, false),
    );
    exif.gps.push(asciiEntry(1, "N"));
    return readExif(writeExif(exif));
  };

  it("goes through writing and reading unharmed", () => {
    const exif = rich();
    expect(textAt(exif.ifd0, TAG.Make)).toBe("Quillmoor");
    expect(orientationOf(exif)).toBe(6);
    expect(textAt(exif.exif, TAG.DateTimeOriginal)).toBe("2026:05:14 23:41:07");
    expect(numberAt(exif.exif, TAG.PixelXDimension, exif.littleEndian)).toBe(4000);
    expect(exif.gps).toHaveLength(1);
  });

  it("drops place, serial numbers, owner and maker notes for private, and keeps date, camera, copyright", () => {
    const { exif, dropped } = filterExif(rich(), "private");
    expect([...dropped].sort()).toEqual(["maker notes", "owner", "place", "serial numbers"]);
    expect(textAt(exif!.ifd0, TAG.Copyright)).toBe("The survey");
    expect(textAt(exif!.exif, TAG.DateTimeOriginal)).toBe("2026:05:14 23:41:07");
    const again = filterExif(readExif(writeExif(exif!)), "private");
    expect(again.dropped).toEqual([]);
    const text = Buffer.from(writeExif(exif!)).toString("latin1");
    for (const secret of ["Someone", "A. Person"]) expect(text).not.toContain(secret);
  });

  it("survives directories that point outside, or at themselves", () => {
    const block = writeExif(rich());
    for (let i = 0; i < block.length; i += 1) {
      const bent = block.slice();
      bent[i] ^= 0xff;
      try {
        readExif(bent);
      } catch (error) {
        expect((error as Error).name).toBe("ContainerError");
      }
    }
  });
});

describe("profiles and kinds", () => {
  it("names spaces by their colorants, and writes profiles that the colour engine takes", async () => {
    expect(nameProfile(writeProfile("oprgb"))).toBe("oprgb");
    const p3 = writeProfile("display-p3");
    expect(nameProfile(p3)).toBe("display-p3");
    const file = readJpeg(await jpegPhoto(16, 16));
    const tagged = rebuildJpeg(file, iccSegments(p3), () => true);
    expect(Buffer.from(iccProfile(readJpeg(tagged))!).equals(p3)).toBe(true);
    const theirs = (await sharp(Buffer.from(tagged)).metadata()).icc!;
    expect(nameProfile(theirs)).toBe("display-p3");
    // The library's own P3 profile has the same colorants.
    expect(
      nameProfile((await sharp(await raw(8, 8).withIccProfile("p3").jpeg().toBuffer()).metadata()).icc!),
    ).toBe("display-p3");
    expect(
      nameProfile((await sharp(await raw(8, 8).withIccProfile("srgb").jpeg().toBuffer()).metadata()).icc!),
    ).toBe("srgb");
    expect(nameProfile(new Uint8Array(200))).toBeNull();
  });

  it("tells kinds by content", async () => {
    const small = () => sharp(pixels(16, 16), { raw: { width: 16, height: 16, channels: 3 } });
    for (const format of ["jpeg", "png", "webp", "tiff", "gif", "avif"] as const)
      expect(sniff((await small().toFormat(format).toBuffer()).subarray(0, 64))).toBe(format);
    expect(sniff(Buffer.from("hello, this is text"))).toBeNull();
    expect(sniff(Buffer.alloc(0))).toBeNull();
  });
});
