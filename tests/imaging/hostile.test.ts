/** Small files that would take minutes, or all memory: each is judged within seconds, in a sentence. */
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { chunk } from "@/core/containers/png";
import { flatten } from "@/core/pixels/layers";
import type { Artwork, Group } from "@/core/pixels/layers/types";
import { factsAside } from "@/imaging";
import { readSource } from "@/imaging/source";
import { jpegPhoto } from "../support/photos";

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "zumbrel-hostile-"));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

async function judged(name: string, bytes: Uint8Array): Promise<{ why: string; ms: number }> {
  const path = join(folder, name);
  await writeFile(path, bytes);
  const start = performance.now();
  const why = await factsAside(path).then(
    () => "taken",
    (error: Error) => error.message,
  );
  return { why, ms: performance.now() - start };
}

/** A TIFF whose strips all lie at the same place. */
function overlapping(strips: number): Buffer {
  const data = 60_000;
  const [width, height] = [20_000, strips];
  const entries: [number, number, number, number][] = [
    [256, 4, 1, width],
    [257, 4, 1, height],
    [258, 3, 1, 8],
    [259, 3, 1, 1],
    [262, 3, 1, 1],
    [273, 4, strips, 8 + data],
    [277, 3, 1, 1],
    [278, 4, 1, 1],
    [279, 4, strips, 8 + data + strips * 4],
  ];
  const ifd = 8 + data + strips * 8;
  const out = Buffer.alloc(ifd + 2 + entries.length * 12 + 4);
  out.write("II*\0", 0, "latin1");
  out.writeUInt32LE(ifd, 4);
  for (let i = 0; i < strips; i += 1) {
    out.writeUInt32LE(8, 8 + data + i * 4);
    out.writeUInt32LE(width, 8 + data + strips * 4 + i * 4);
  }
  out.writeUInt16LE(entries.length, ifd);
  entries.forEach(([tag, type, count, value], i) => {
    const at = ifd + 2 + i * 12;
    out.writeUInt16LE(tag, at);
    out.writeUInt16LE(type, at + 2);
    out.writeUInt32LE(count, at + 4);
    if (type === 3) out.writeUInt16LE(value, at + 8);
    else out.writeUInt32LE(value, at + 8);
  });
  return out;
}

describe("a hostile file", () => {
  it("of millions of empty JPEG segments is refused at once", async () => {
    const jpeg = await jpegPhoto(64, 48, 1);
    const parts = Buffer.alloc(4 * 5_000_000);
    for (let at = 0; at < parts.length; at += 4) parts.set([0xff, 0xe5, 0, 2], at);
    const { why, ms } = await judged(
      "segments.jpg",
      Buffer.concat([jpeg.subarray(0, 2), parts, jpeg.subarray(2)]),
    );
    expect(why).toMatch(/more than 10000 parts before its picture/);
    expect(ms).toBeLessThan(2000);
  });

  it("of thousands of JPEG scans is refused at once", async () => {
    const jpeg = await sharp({ create: { width: 64, height: 48, channels: 3, background: "#678" } })
      .jpeg({ progressive: true })
      .toBuffer();
    const scan = jpeg.lastIndexOf(Buffer.from([0xff, 0xda]));
    const last = jpeg.subarray(scan, jpeg.length - 2);
    const many = Buffer.concat([
      jpeg.subarray(0, -2),
      ...Array.from({ length: 10_000 }, () => last),
      jpeg.subarray(-2),
    ]);
    const { why, ms } = await judged("scans.jpg", many);
    expect(why).toMatch(/goes over its picture more than 300 times/);
    expect(ms).toBeLessThan(2000);
  });

  it("of a million PNG chunks is refused at once", async () => {
    const png = await sharp({ create: { width: 8, height: 8, channels: 3, background: "#678" } })
      .png()
      .toBuffer();
    const empty = Buffer.from(chunk("teSt", new Uint8Array(0)));
    const many = Buffer.alloc(empty.length * 1_000_000);
    for (let at = 0; at < many.length; at += empty.length) many.set(empty, at);
    const { why, ms } = await judged(
      "chunks.png",
      Buffer.concat([png.subarray(0, 33), many, png.subarray(33)]),
    );
    expect(why).toMatch(/more than 100000 parts/);
    expect(ms).toBeLessThan(2000);
  });

  it("whose TIFF strips lie over each other is refused", async () => {
    const { why } = await judged("strips.tiff", overlapping(20_000));
    expect(why).toMatch(/its strips lie over each other/);
  });

  it("of groups in groups is refused before its canvases take all memory", async () => {
    const group = (children: Group["children"]): Group =>
      ({
        kind: "group",
        name: "g",
        visible: true,
        isolated: true,
        opacity: 0.9,
        operator: "normal",
        children,
      }) as never;
    const artwork: Artwork = {
      width: 6000,
      height: 6000,
      resolution: null,
      root: Array.from({ length: 8 }).reduce<Group>((inner) => group([inner]), group([])),
    } as never;
    await expect(flatten(artwork, () => Promise.reject(new Error("never read")))).rejects.toThrow(
      /groups lie 8 deep in each other/,
    );
  });

  it("leaves ordinary files with many parts alone", async () => {
    const jpeg = await sharp(await jpegPhoto(400, 300, 2))
      .jpeg({ progressive: true, quality: 90 })
      .toBuffer();
    expect((await readSource(jpeg)).facts.width).toBe(400);
    const tiff = await sharp(await jpegPhoto(400, 300, 2))
      .tiff({ compression: "lzw", tile: true })
      .toBuffer();
    expect((await readSource(tiff)).facts.width).toBe(400);
  });
});
