/** Headers rewritten at byte level in every format: the picture data stay what they are, byte for byte, and other readers agree. */
import fc from "fast-check";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import {
  ascii,
  asciiEntry,
  concat,
  correctXmp,
  type Exif,
  emptyExif,
  exifSegment,
  iptcRights,
  patchResolution,
  rationalEntry,
  readAvif,
  readExif,
  readJpeg,
  readTiff,
  readWebp,
  rebuildAvif,
  rebuildJpeg,
  rebuildTiff,
  rebuildWebp,
  resolutionOf,
  segment,
  shortEntry,
  TAG,
  textAt,
  writeExif,
  xmpRights,
} from "@/core/containers";
import { pictureParts, samePicture } from "@/imaging/proved/picture-bytes";
import { readSource } from "@/imaging/source";
import { fit } from "../support/fit";
import { jpegPhoto, raw } from "../support/photos";

const XMP = (inner: string) =>
  new TextEncoder().encode(
    `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" xmlns:tiff="http://ns.adobe.com/tiff/1.0/" ${inner}</rdf:Description></rdf:RDF></x:xmpmeta>`,
  );
const PACKET = XMP(
  'tiff:Orientation="6" tiff:XResolution="72/1"><tiff:YResolution>72/1</tiff:YResolution><dc:rights xmlns:dc="http://purl.org/dc/elements/1.1/"><rdf:Alt><rdf:li xml:lang="x-default">Made up &amp; free</rdf:li></rdf:Alt></dc:rights>',
);

const exif: Exif = {
  ...emptyExif(),
  ifd0: [
    asciiEntry(TAG.Make, "Hillside"),
    asciiEntry(TAG.Copyright, "Nobody"),
    rationalEntry(TAG.XResolution, 72, false),
    rationalEntry(TAG.YResolution, 72, false),
    shortEntry(TAG.ResolutionUnit, 2, false),
  ],
  exif: [
    asciiEntry(TAG.DateTimeOriginal, "2026:05:14 22:10:00"),
    asciiEntry(TAG.BodySerialNumber, "SN-12345"),
  ],
  gps: [asciiEntry(1, "N")],
};
const block = writeExif(exif);
const photo = () => raw(160, 120, 5);
const kinds: Record<string, () => Promise<Buffer>> = {
  jpeg: async () =>
    Buffer.from(
      rebuildJpeg(
        readJpeg(await photo().jpeg({ quality: 80 }).toBuffer()),
        [exifSegment(block), segment(0xe1, concat([ascii("http://ns.adobe.com/xap/1.0/\0"), PACKET]))],
        () => true,
      ),
    ),
  webp: async () =>
    Buffer.from(
      rebuildWebp(readWebp(await photo().webp({ quality: 80 }).toBuffer()), {
        icc: null,
        exif: block,
        xmp: PACKET,
      }),
    ),
  "lossless webp": async () =>
    Buffer.from(
      rebuildWebp(readWebp(await photo().ensureAlpha(0.5).webp({ lossless: true }).toBuffer()), {
        icc: null,
        exif: block,
        xmp: PACKET,
      }),
    ),
  avif: async () =>
    Buffer.from(
      rebuildAvif(readAvif(await photo().avif({ effort: 0 }).toBuffer()), { exif: block, xmp: PACKET }),
    ),
  "avif of the library": async () =>
    photo()
      .withExif({ IFD0: { Make: "Hillside", Copyright: "Nobody" }, IFD3: { GPSLatitudeRef: "N" } })
      .avif({ effort: 0 })
      .toBuffer(),
  tiff: async () => {
    const bare = await photo()
      .tiff({ compression: "lzw", tile: true, tileWidth: 64, tileHeight: 64 })
      .toBuffer();
    const { ifd0 } = readTiff(bare);
    const own = readExif(
      writeExif({
        ...exif,
        littleEndian: true,
        ifd0: [asciiEntry(TAG.Copyright, "Nobody"), asciiEntry(TAG.Artist, "Wren Alder")],
      }),
    );
    return Buffer.from(
      rebuildTiff(bare, {
        ifd0: [...ifd0, ...own.ifd0, { tag: 700, type: 1, count: PACKET.length, value: PACKET }],
        exif: own.exif,
        gps: own.gps,
      }),
    );
  },
  png: async () =>
    photo()
      .withExif({ IFD0: { Copyright: "Nobody", Artist: "Wren Alder" } })
      .png()
      .toBuffer(),
  bmp: async () => Buffer.from((await fit(await photo().png().toBuffer(), { format: ["bmp"] })).output!),
};

describe.each(Object.entries(kinds))("%s", (kind, make) => {
  it("takes another resolution without a byte of the picture changing", async () => {
    const before = await make();
    const { output, passedThrough, proof, error } = await fit(before, {
      resolution: { exact: "203.2ppi" },
      metadata: "keep",
    });
    expect(error).toBeNull();
    expect(passedThrough).toBe(true);
    expect(proof!.ok).toBe(true);
    expect(proof!.unchanged[0]).toBe("the picture data, byte for byte");
    const step = kind === "png" || kind === "bmp" ? 0.0127 : 1e-3;
    proof!.facts.resolution!.forEach((v) => expect(Math.abs(v - 203.2)).toBeLessThanOrEqual(step));
    if (kind === "bmp") return;
    // A decoder of another make sees the same pixels.
    const [a, b] = await Promise.all([sharp(before).raw().toBuffer(), sharp(output!).raw().toBuffer()]);
    expect(b.equals(a)).toBe(true);
    const density = (await sharp(output!).metadata()).density;
    if (kind === "jpeg" || kind === "tiff") expect(Math.abs(density! - 203.2)).toBeLessThanOrEqual(0.5);
  });

  it("loses what is private, nothing else, and not a trace of it stays in the file", async () => {
    if (kind === "bmp") return;
    const before = await make();
    const { output, passedThrough, proof } = await fit(before, { metadata: "private" });
    expect(passedThrough).toBe(true);
    expect(proof!.facts.privateData).toEqual([]);
    expect(proof!.dropped.length).toBeGreaterThan(0);
    expect(proof!.unchanged[0]).toBe("the picture data, byte for byte");
    for (const secret of ["SN-12345", "Wren Alder", "tiff:Orientation"])
      expect(output!.includes(secret), secret).toBe(false);
    const source = await readSource(output!);
    expect(textAt(source.exif!.ifd0, TAG.Copyright)).toBe("Nobody");
    expect(source.exif!.gps).toEqual([]);
  });

  it("loses all of it where none is asked", async () => {
    const { output, proof } = await fit(await make(), { metadata: "none" });
    expect(proof!.facts.metadata).toBe(false);
    expect(proof!.ok).toBe(true);
    expect(output!.includes("Nobody")).toBe(false);
    expect((await fit(output!, { format: ["png"] })).error).toBeNull();
  });
});

describe("metadata that are kept", () => {
  it("say the truth about the new picture everywhere they say anything", async () => {
    for (const format of ["jpeg", "webp", "avif", "tiff", "png"] as const) {
      const { output, proof } = await fit(await kinds.jpeg(), {
        format: [format],
        longSide: { exact: 80 },
        resolution: { exact: "150ppi" },
        metadata: "keep",
      });
      expect(proof!.ok).toBe(true);
      const source = await readSource(output!);
      expect(textAt(source.exif!.exif, TAG.BodySerialNumber)).toBe("SN-12345");
      expect(resolutionOf(source.exif)![0]).toBeCloseTo(150, 3);
      const xmp = new TextDecoder().decode(source.xmp!);
      expect(xmp).toContain('tiff:Orientation="1"');
      expect(xmp).toContain('tiff:XResolution="1500000/10000"');
      expect(xmp).toContain("<tiff:YResolution>1500000/10000</tiff:YResolution>");
    }
  });

  it("keep a copyright that stood only in XMP or IPTC data when those go", async () => {
    const bare = Buffer.from(
      rebuildJpeg(
        readJpeg(await jpegPhoto(60, 40)),
        [segment(0xe1, concat([ascii("http://ns.adobe.com/xap/1.0/\0"), PACKET]))],
        () => true,
      ),
    );
    const { output, steps } = await fit(bare, { format: ["jpeg"], longSide: { exact: 30 } });
    const source = await readSource(output!);
    expect(textAt(source.exif!.ifd0, TAG.Copyright)).toBe("Made up & free");
    expect(source.xmp).toBeNull();
    expect(steps.map((s) => s.do).join()).toContain("Leave out XMP data");
    // IIM 4.2: record 2, data set 116.
    expect(iptcRights(concat([ascii("8BIM"), new Uint8Array([0x1c, 2, 116, 0, 6]), ascii("Nobody")]))).toBe(
      "Nobody",
    );
    expect([
      iptcRights(null),
      iptcRights(new Uint8Array([0x1c, 2, 116, 0xff, 0xff])),
      xmpRights(null),
      xmpRights(ascii("<dc:rights/>")),
    ]).toEqual([null, null, null, null]);
  });

  it("lose embedded thumbnails, which show the photo as it was", () => {
    const text = new TextDecoder().decode(
      correctXmp(XMP("><xmp:Thumbnails><rdf:Alt>abc</rdf:Alt></xmp:Thumbnails>"), {
        width: 3,
        height: 2,
        ppi: null,
      }),
    );
    expect(text).not.toContain("Thumbnails");
  });
});

describe("blocks", () => {
  it("are patched where they lie, every other byte as it was", () => {
    const patched = patchResolution(block, 203.2)!;
    expect(patched.length).toBe(block.length);
    expect(resolutionOf(readExif(patched))).toEqual([203.2, 203.2]);
    expect([...patched].filter((v, i) => v !== block[i]).length).toBeLessThanOrEqual(16);
    expect(patchResolution(writeExif({ ...emptyExif(), ifd0: [asciiEntry(TAG.Make, "x")] }), 300)).toBeNull();
  });

  it("never throw anything but a sentence, whatever the bytes are", async () => {
    const files = await Promise.all(["webp", "avif", "tiff", "bmp"].map((kind) => kinds[kind]()));
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...files),
        fc.array(fc.tuple(fc.nat(4000), fc.integer({ min: 0, max: 255 })), { minLength: 1, maxLength: 4 }),
        fc.option(fc.integer({ min: 1, max: 3000 })),
        async (file, edits, cut) => {
          const bent = Buffer.from(cut === null ? file : file.subarray(0, cut));
          for (const [at, value] of edits) if (at < bent.length) bent[at] = value;
          try {
            const source = await readSource(bent);
            pictureParts(source);
          } catch (error) {
            expect((error as Error).name).toMatch(/^(PhotoError|ContainerError)$/);
            expect((error as Error).message).toMatch(/^[A-Z].*\.$/);
          }
        },
      ),
      { numRuns: 300 },
    );
  });

  it("tell pictures apart", async () => {
    const [a, b] = await Promise.all([
      readSource(await jpegPhoto(40, 30, 1)),
      readSource(await jpegPhoto(40, 30, 2)),
    ]);
    expect([samePicture(a, a), samePicture(a, b)]).toEqual([true, false]);
  });
});
