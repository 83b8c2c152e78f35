/** Headers rewritten at byte level: every combination of what is asked, on JPEG and PNG, with the picture data untouched. */
import { deflateSync } from "node:zlib";
import jpegJs from "jpeg-js";
import { PNG } from "pngjs";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief, resolveBrief } from "@/core/brief";
import {
  ascii,
  asciiEntry,
  chunk,
  concat,
  type Exif,
  emptyExif,
  exifSegment,
  iccSegments,
  jfifSegment,
  MARKER,
  readJpeg,
  readPng,
  rebuildJpeg,
  rebuildPng,
  segment,
  TAG,
  withResolution,
  writeExif,
} from "@/core/containers";
import { writeProfile } from "@/core/pixels/colour";
import { destinationOf, plannedHeaders, resolutionToWrite, rewriteHeaders } from "@/imaging/headers";
import { preview } from "@/imaging/shown";
import { readSource, type Source } from "@/imaging/source";
import { jpegPhoto, pngPhoto } from "../support/photos";

function richExif(): Exif {
  const exif = withResolution(emptyExif(), 240);
  exif.ifd0.push(asciiEntry(TAG.Copyright, "The survey"), asciiEntry(TAG.Artist, "A Person"));
  exif.exif.push(
    asciiEntry(TAG.DateTimeOriginal, "2026:05:14 23:41:07"),
    asciiEntry(TAG.BodySerialNumber, "QM-17"),
    { tag: TAG.UserComment, type: 7, count: 12, value: ascii("ASCII\0\0\0note") },
  );
  exif.gps.push(asciiEntry(1, "N"));
  return exif;
}

async function richJpeg(): Promise<Buffer> {
  const xmp = segment(MARKER.APP1, ascii("http://ns.adobe.com/xap/1.0/\0<x:xmpmeta>somewhere</x:xmpmeta>"));
  const iptc = segment(MARKER.APP13, ascii("records\0by-line"));
  const comment = segment(MARKER.COM, ascii("made by hand"));
  const head = [
    jfifSegment(240),
    exifSegment(writeExif(richExif())),
    xmp,
    ...iccSegments(writeProfile("srgb")),
    iptc,
    comment,
  ];
  const file = rebuildJpeg(readJpeg(await jpegPhoto(90, 60)), head, (s) => s.marker !== MARKER.APP0);
  return Buffer.concat([file, Buffer.from("further pictures")]);
}

async function richPng(): Promise<Buffer> {
  const text = (type: string, key: string, value: string) => chunk(type, ascii(`${key}\0${value}`));
  const add = [
    text("tEXt", "Author", "A Person"),
    text("tEXt", "Copyright", "The survey"),
    chunk("eXIf", writeExif(richExif())),
    chunk("tIME", new Uint8Array([7, 234, 5, 14, 23, 41, 7])),
    chunk("iCCP", concat([ascii("sRGB\0\0"), deflateSync(writeProfile("srgb"))])),
  ];
  return Buffer.from(rebuildPng(readPng(await pngPhoto(90, 60)), add, (type) => type !== "pHYs"));
}

const makers = { jpeg: richJpeg, png: richPng };
const pixelsOf = { jpeg: (b: Buffer) => jpegJs.decode(b).data, png: (b: Buffer) => PNG.sync.read(b).data };
const resolutions: (Partial<Brief> | null)[] = [
  null,
  { resolution: { exact: "300ppi" } },
  { resolution: { min: "100ppi" } },
  { resolution: { max: "120ppcm" } },
];
const metadata: Partial<Brief>[] = [{}, { metadata: "private" }, { metadata: "none" }];
const profiles: Partial<Brief>[] = [{}, { colour: { profile: "omit" } }];

const cases = (["jpeg", "png"] as const).flatMap((kind) =>
  resolutions.flatMap((r) =>
    metadata.flatMap((m) =>
      profiles.map((p) => ({
        kind,
        clauses: { ...r, ...m, ...p } as Partial<Brief>,
        name: `${kind} ${JSON.stringify({ ...r, ...m, ...p })}`,
      })),
    ),
  ),
);

describe("headers of a file that passes through", () => {
  it.each(cases)("$name", async ({ kind, clauses }) => {
    const bytes = await makers[kind]();
    const brief = resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b", ...clauses }));
    const source = await readSource(bytes);
    const written = Buffer.from(rewriteHeaders(brief, source));
    const after = (await readSource(written)).facts;
    // The picture is the same, to the last bit.
    expect(pixelsOf[kind](written).equals(pixelsOf[kind](bytes))).toBe(true);
    // Nothing private is left, under any rule that can be asked.
    expect(after.privateData).toEqual([]);
    const text = written.toString("latin1");
    for (const secret of ["A Person", "QM-17", "somewhere", "by-line", "further pictures"])
      expect(text, secret).not.toContain(secret);
    // Copyright and date stay unless nothing may.
    const none = clauses.metadata === "none";
    expect(after.metadata).toBe(!none);
    expect(text.includes("The survey")).toBe(!none);
    expect(after.date).toBe(none ? null : "2026-05-14");
    // Resolution as asked, else as it was (240 ppi), in what the field can hold.
    const asked = clauses.resolution?.exact ? 300 : 240;
    expect(Math.abs((after.resolution?.[0] ?? 0) - asked)).toBeLessThanOrEqual(
      Math.max(0.05, after.resolutionStep),
    );
    expect(after.profile).toBe(clauses.colour === undefined);
    // Doing it again changes nothing any more.
    expect(Buffer.from(rewriteHeaders(brief, await readSource(written))).equals(written)).toBe(true);
    // Another library reads it without complaint.
    expect((await sharp(written, { failOn: "warning" }).stats()).channels).toHaveLength(3);
  });

  it("leaves a file alone that has nothing to change", async () => {
    for (const bytes of [await jpegPhoto(40, 30), await pngPhoto(40, 30)]) {
      const source = await readSource(bytes);
      expect(rewriteHeaders(resolveBrief({ zumbrelBrief: 1, name: "b" }), source)).toBe(source.bytes);
    }
  });
});

describe("the resolution to write", () => {
  it("is what is asked, the nearest of a range, the source's, or none", async () => {
    const plain = await readSource(await jpegPhoto(40, 30));
    const rich = await readSource(await richJpeg());
    const ppi = (clauses: Partial<Brief>, source = rich) =>
      resolutionToWrite(resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b", ...clauses })), source, {
        width: 40,
        height: 30,
      });
    expect([ppi({}), ppi({}, plain), ppi({ resolution: { exact: "96ppi" } }, plain)]).toEqual([
      240,
      null,
      96,
    ]);
    expect([
      ppi({ resolution: { min: "300ppi" } }),
      ppi({ resolution: { max: "200ppi" } }),
      ppi({ resolution: { min: "100ppi", max: "250ppi" } }),
    ]).toEqual([300, 200, 240]);
    expect([
      ppi({ resolution: { min: "300ppi" } }, plain),
      ppi({ resolution: { max: "72ppi" } }, plain),
    ]).toEqual([300, 72]);
  });

  it("plans what is dropped in words", async () => {
    const brief = (rule: "private" | "none") =>
      resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b", metadata: rule }));
    const rich = await readSource(await richJpeg());
    const headersOf = (rule: "private" | "none", source: Source) =>
      plannedHeaders({
        brief: brief(rule),
        source,
        to: destinationOf(brief(rule), source),
        out: source.facts,
      });
    expect(headersOf("private", rich).dropped).toEqual(
      expect.arrayContaining([
        "place",
        "serial numbers",
        "owner",
        "comments",
        "XMP data",
        "IPTC data",
        "data behind the picture",
      ]),
    );
    expect(headersOf("none", rich)).toMatchObject({ dropped: ["all metadata"], exif: null });
    expect(headersOf("none", await readSource(await jpegPhoto(40, 30))).dropped).toEqual([]);
  });
});

describe("previews", () => {
  it("are upright, small and opaque", async () => {
    const turned = await sharp(await jpegPhoto(400, 200))
      .withMetadata({ orientation: 6 })
      .toBuffer();
    const { width, height, data } = jpegJs.decode(await preview(turned, 100));
    expect([width, height]).toEqual([50, 100]);
    expect(data.length).toBe(50 * 100 * 4);
    const clear = await sharp({
      create: { width: 30, height: 30, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
    })
      .png()
      .toBuffer();
    expect(jpegJs.decode(await preview(clear, 100)).data[0]).toBeGreaterThan(250);
    expect(jpegJs.decode(await preview(await pngPhoto(20, 10), 100)).width).toBe(20);
  });
});
