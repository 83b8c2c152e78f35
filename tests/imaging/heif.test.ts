/** Phone files. They are made by Debian's heif-enc (libheif with x265) and compared with what they were made from. */
import { execFile } from "node:child_process";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { readHeif } from "@/core/containers";
import { writeProfile } from "@/core/pixels/colour";
import { fitPhoto } from "@/imaging";
import { prove } from "@/imaging/proved";
import { preview } from "@/imaging/shown";
import { readSource } from "@/imaging/source";
import { gridOf } from "../support/heic-grid";
import { jpegPhoto } from "../support/photos";

const run = promisify(execFile);
let folder: string;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), "zumbrel-heif-"))));
afterAll(() => rm(folder, { recursive: true, force: true }));

/** A HEIC of these pictures, the first the primary one. */
async function heic(files: Buffer[], ...options: string[]): Promise<Buffer> {
  const paths = files.map((_, i) => join(folder, `in${i}.png`));
  await Promise.all(files.map((bytes, i) => writeFile(paths[i], bytes)));
  const out = join(folder, "out.heic");
  await run("heif-enc", ["-q", "92", ...options, ...paths, "-o", out]);
  return readFile(out);
}
const png = async (width: number, height: number, seed: number) =>
  sharp(await jpegPhoto(width, height, seed))
    .png()
    .toBuffer();

/** Mean absolute difference in codes. */
async function distance(a: Buffer, b: Buffer, width: number, height: number): Promise<number> {
  const raw = (bytes: Buffer) =>
    sharp(bytes).resize(width, height, { fit: "fill" }).removeAlpha().toColourspace("srgb").raw().toBuffer();
  const [x, y] = await Promise.all([raw(a), raw(b)]);
  return x.reduce((sum, v, i) => sum + Math.abs(v - y[i]), 0) / x.length;
}

describe("HEIC", () => {
  it("is fitted like any photo, its colours those of its source, within the loss of its coding", async () => {
    const source = await png(640, 480, 51);
    const bytes = await heic([source]);
    const photo = await readSource(bytes);
    expect(photo.facts).toMatchObject({ format: "heif", width: 640, height: 480, pages: 1, orientation: 1 });
    const brief = parseBrief({
      zumbrelBrief: 1,
      name: "b",
      format: ["jpeg"],
      width: { exact: 320 },
      height: { exact: 240 },
      fileSize: { max: "60KB" },
    });
    const answer = await fitPhoto({ source: photo, brief });
    expect(answer.error).toBeNull();
    const proof = await prove(brief, Buffer.from(answer.output!), {
      before: photo.facts,
      frame: answer.frame,
      original: bytes,
    });
    expect(proof.ok).toBe(true);
    expect(await distance(Buffer.from(answer.output!), source, 320, 240)).toBeLessThan(4);
  });

  it("becomes a JPEG where no format is asked, since its own kind is not written", async () => {
    const answer = await fitPhoto({
      source: await readSource(await heic([await png(300, 200, 52)])),
      brief: parseBrief({ zumbrelBrief: 1, name: "b" }),
    });
    expect(answer.format).toBe("jpeg");
    expect(answer.passedThrough).toBe(false);
  });

  it("of several pictures gives the main one, and tells of the others", async () => {
    const first = await png(320, 200, 53);
    const photo = await readSource(await heic([first, await png(200, 320, 54)]));
    expect(photo.facts).toMatchObject({ width: 320, height: 200, pages: 2 });
    const answer = await fitPhoto({
      source: photo,
      brief: parseBrief({ zumbrelBrief: 1, name: "b", format: ["png"] }),
    });
    expect(await distance(Buffer.from(answer.output!), first, 320, 200)).toBeLessThan(5);
    expect(
      answer.steps.some((step) => step.do === "Use the main picture" && step.why.includes("2 pictures")),
    ).toBe(true);
  });

  it("with a thumbnail counts one picture", async () => {
    expect((await readSource(await heic([await png(640, 400, 55)], "-t", "160"))).facts.pages).toBe(1);
  });

  it("keeps its profile's colours: Display P3 is read from what the file carries", async () => {
    const p3 = join(folder, "p3.icc");
    await writeFile(p3, writeProfile("display-p3"));
    const tagged = await sharp({
      create: { width: 64, height: 64, channels: 3, background: { r: 200, g: 40, b: 40 } },
    })
      .withIccProfile(p3)
      .png()
      .toBuffer();
    const photo = await readSource(await heic([tagged]));
    expect(photo.facts.profile).toBe(true);
    expect(photo.facts.colourSpace).toBe("display-p3");
  });

  it("of tiles is one picture, put together; its tiles are not counted", async () => {
    const [left, right] = [await png(256, 192, 61), await png(256, 192, 62)];
    const photo = await readSource(gridOf(await heic([left, right]), { width: 256, height: 192 }));
    expect(photo.facts).toMatchObject({ width: 512, height: 192, pages: 1 });
    const answer = await fitPhoto({
      source: photo,
      brief: parseBrief({ zumbrelBrief: 1, name: "b", format: ["png"] }),
    });
    const half = (x: number) =>
      sharp(Buffer.from(answer.output!))
        .extract({ left: x, top: 0, width: 256, height: 192 })
        .png()
        .toBuffer();
    expect(await distance(await half(0), left, 256, 192)).toBeLessThan(5);
    expect(await distance(await half(256), right, 256, 192)).toBeLessThan(5);
  });

  it("of ten bits keeps its steps in between: a gentle ramp has more of them than eight bits hold", async () => {
    const width = 512;
    const ramp = Uint16Array.from({ length: width * 64 * 3 }, (_, i) =>
      Math.round((0.4 + 0.2 * ((Math.floor(i / 3) % width) / width)) * 65_535),
    );
    const bytes = await heic(
      [
        await sharp(ramp, { raw: { width, height: 64, channels: 3 } })
          .toColourspace("rgb16")
          .png()
          .toBuffer(),
      ],
      "-b",
      "10",
    );
    const photo = await readSource(bytes);
    expect(photo.facts.bits).toBe(10);
    const answer = await fitPhoto({
      source: photo,
      brief: parseBrief({ zumbrelBrief: 1, name: "b", format: ["png"], colour: { bits: 16 } }),
    });
    const { data } = await sharp(Buffer.from(answer.output!))
      .toColourspace("rgb16")
      .raw({ depth: "ushort" })
      .toBuffer({ resolveWithObject: true });
    const codes = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
    const row = Array.from({ length: width }, (_, x) => codes[(32 * width + x) * 3 + 1]);
    // A fifth of the scale is 51 steps of eight bits and 205 of ten.
    expect(new Set(row).size).toBeGreaterThan(100);
    const apart = row.map((v, x) => Math.abs(v - ramp[(32 * width + x) * 3 + 1]) / 257);
    expect(apart.reduce((a, b) => a + b) / width).toBeLessThan(1);
  });

  it("is shown small", async () => {
    const meta = await sharp(await preview(await heic([await png(640, 480, 56)]), 100)).metadata();
    expect([meta.width, meta.height]).toEqual([100, 75]);
  });
});

describe("HEIC that is wrong", () => {
  const sentence = /^The HEIC .*(sound copy|Save it)/;
  it("is refused by name and reason: cut short, without a picture, with thousands of parts, too many pixels", async () => {
    const bytes = await heic([await png(200, 160, 57)]);
    await expect(readSource(bytes.subarray(0, 200))).rejects.toThrow(sentence);
    const cut = await readSource(bytes).then((source) => ({
      ...source,
      bytes: Buffer.concat([bytes.subarray(0, bytes.length - 400), Buffer.alloc(400)]),
    }));
    await fitPhoto({ source: cut, brief: parseBrief({ zumbrelBrief: 1, name: "b", format: ["jpeg"] }) }).then(
      // A decoder may conceal what is missing at the very end; it never hangs or takes the process with it.
      (answer) => expect(answer.output).not.toBeNull(),
      (error: Error) => expect(error.message).toMatch(/HEIC/),
    );
    const noPicture = Buffer.from(bytes);
    for (let at = noPicture.indexOf("hvc1"); at >= 0; at = noPicture.indexOf("hvc1", at + 1))
      noPicture.write("xxxx", at, "latin1");
    await expect(readSource(noPicture)).rejects.toThrow(/holds no picture/);
    const large = Buffer.from(bytes);
    const size = large.indexOf("ispe") + 8;
    large.writeUInt32BE(60_000, size);
    large.writeUInt32BE(60_000, size + 4);
    await expect(readSource(large)).rejects.toThrow(/60000 × 60000 px; up to 120 megapixels/);
    // A table of ten thousand empty items: 4-byte sizes, as ISO/IEC 14496-12 writes boxes.
    const box = (type: string, body: Buffer) =>
      Buffer.concat([Buffer.from([0, 0, 0, 0]), Buffer.from(type, "latin1"), body]);
    const sized = (b: Buffer) => (b.writeUInt32BE(b.length, 0), b);
    const infe = (id: number) =>
      sized(
        box(
          "infe",
          Buffer.concat([
            Buffer.from([2, 0, 0, 0]),
            Buffer.from([id >> 8, id & 255, 0, 0]),
            Buffer.from("hvc1\0", "latin1"),
          ]),
        ),
      );
    const iinf = sized(
      box(
        "iinf",
        Buffer.concat([
          Buffer.from([0, 0, 0, 0, 0x27, 0x10]),
          ...Array.from({ length: 10_000 }, (_, i) => infe(i + 1)),
        ]),
      ),
    );
    const meta = sized(
      box(
        "meta",
        Buffer.concat([
          Buffer.alloc(4),
          sized(box("pitm", Buffer.from([0, 0, 0, 0, 0, 1]))),
          iinf,
          sized(box("iloc", Buffer.from([0, 0, 0, 0, 0x44, 0, 0, 0]))),
        ]),
      ),
    );
    const many = Buffer.concat([sized(box("ftyp", Buffer.from("heic\0\0\0\0heic", "latin1"))), meta]);
    expect(() => readHeif(many)).toThrow(/holds 10000 parts; at most 2000/);
  });
});
