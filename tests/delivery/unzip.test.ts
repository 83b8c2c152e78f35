/** Packages from anywhere: what is not safe is refused by entry, the rest is taken. */
import { execFileSync } from "node:child_process";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { deflateRawSync } from "node:zlib";
import JSZip from "jszip";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { unzip, zipOf } from "@/delivery";
import { MOST_ENTRIES } from "@/delivery/unzip";

let folder: string;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), "zumbrel-zip-"))));
afterAll(() => rm(folder, { recursive: true, force: true }));

interface Raw {
  name: string;
  data?: Buffer;
  /** Unix mode. */
  mode?: number;
  flags?: number;
  /** What the directory says that it unpacks to. */
  claims?: number;
  deflated?: boolean;
}

const CRC = Uint32Array.from({ length: 256 }, (_, n) =>
  Array.from({ length: 8 }).reduce<number>((c) => (c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1), n),
);
const crc32 = (data: Buffer) =>
  (data.reduce((crc, byte) => CRC[(crc ^ byte) & 255] ^ (crc >>> 8), 0xffffffff) ^ 0xffffffff) >>> 0;

/** A package written byte by byte (APPNOTE 6.3.10), so that it can hold what no tool packs. */
function pack(entries: Raw[]): Buffer {
  const pieces: Buffer[] = [];
  const directory: Buffer[] = [];
  let at = 0;
  for (const {
    name,
    data = Buffer.from("x"),
    mode = 0o100644,
    flags = 0x800,
    claims,
    deflated = false,
  } of entries) {
    const packed = deflated ? deflateRawSync(data) : data;
    const file = Buffer.from(name);
    const common = Buffer.alloc(26);
    common.writeUInt16LE(20, 0);
    common.writeUInt16LE(flags, 2);
    common.writeUInt16LE(deflated ? 8 : 0, 4);
    common.writeUInt32LE(crc32(data), 10);
    common.writeUInt32LE(packed.length, 14);
    common.writeUInt32LE(claims ?? data.length, 18);
    common.writeUInt16LE(file.length, 22);
    const local = Buffer.concat([Buffer.from("PK\x03\x04", "latin1"), common, file, packed]);
    const central = Buffer.alloc(14);
    central.writeUInt32LE((mode << 16) >>> 0, 6);
    central.writeUInt32LE(at, 10);
    const versioned = Buffer.concat([Buffer.from([20, 3]), common]);
    directory.push(Buffer.concat([Buffer.from("PK\x01\x02", "latin1"), versioned, central, file]));
    pieces.push(local);
    at += local.length;
  }
  const list = Buffer.concat(directory);
  const end = Buffer.alloc(18);
  end.writeUInt16LE(entries.length, 4);
  end.writeUInt16LE(entries.length, 6);
  end.writeUInt32LE(list.length, 8);
  end.writeUInt32LE(at, 12);
  return Buffer.concat([...pieces, list, Buffer.from("PK\x05\x06", "latin1"), end]);
}

async function take(zip: Buffer, limit = 10_000_000) {
  const path = join(folder, "in.zip");
  await writeFile(path, zip);
  const taken: Record<string, Buffer> = {};
  const refused = await unzip({
    path,
    entryLimit: limit,
    words: (error) => String(error),
    take: async ({ name, folder: below, stream }) => {
      const pieces: Buffer[] = [];
      for await (const piece of stream) pieces.push(piece as Buffer);
      taken[below ? `${below}/${name}` : name] = Buffer.concat(pieces);
    },
  });
  return { taken, refused: Object.fromEntries(refused.map(({ name, why }) => [name, why])) };
}

describe("a package", () => {
  it("gives its pictures with their folders, and leaves the junk of file managers", async () => {
    const zip = new JSZip();
    zip
      .file("a.jpg", "1")
      .file("day 1/b.jpg", "22")
      .file("day 1/.DS_Store", "x")
      .file("__MACOSX/._a.jpg", "x")
      .file("Thumbs.db", "x")
      .folder("empty");
    const { taken, refused } = await take(await zip.generateAsync({ type: "nodebuffer" }));
    expect(Object.keys(taken)).toEqual(["a.jpg", "day 1/b.jpg"]);
    expect(taken["day 1/b.jpg"].toString()).toBe("22");
    expect(refused).toEqual({});
  });

  it("is refused by entry: paths that lead out, links, encryption, bombs and what is too large", async () => {
    const { taken, refused } = await take(
      pack([
        { name: "good.jpg", data: Buffer.from("ok") },
        { name: "../evil.jpg" },
        { name: "/absolute.jpg" },
        { name: "C:\\windows.jpg" },
        { name: "link.jpg", mode: 0o120777 },
        { name: "secret.jpg", flags: 0x801 },
        { name: "bomb.jpg", data: Buffer.alloc(5_000_000), deflated: true },
        { name: "large.jpg", data: Buffer.from("x".repeat(200_000)), deflated: true, claims: 20_000_000 },
        { name: "also good.jpg", data: Buffer.from("ok too") },
      ]),
    );
    expect(Object.keys(taken)).toEqual(["good.jpg", "also good.jpg"]);
    expect(refused["../evil.jpg"]).toMatch(/leads out/);
    expect(refused["/absolute.jpg"]).toMatch(/leads out/);
    expect(refused["C:\\windows.jpg"]).toMatch(/leads out/);
    expect(refused["link.jpg"]).toMatch(/is a link/);
    expect(refused["secret.jpg"]).toMatch(/encrypted/);
    expect(refused["bomb.jpg"]).toMatch(/times its size/);
    expect(refused["large.jpg"]).toMatch(/19 MiB, at most 10 MiB/);
  });

  it("that lies about the size of an entry does not get past the limit", async () => {
    const { taken, refused } = await take(
      pack([
        { name: "liar.jpg", data: Buffer.alloc(900_000, 1), deflated: true, claims: 10 },
        { name: "b.jpg" },
      ]),
    );
    expect(Object.keys(taken)).toEqual(["b.jpg"]);
    expect(Object.keys(refused)).toEqual(["liar.jpg"]);
  });

  it("of ten thousand files is taken up to the limit, and the rest is refused by entry", async () => {
    const { taken, refused } = await take(
      pack(Array.from({ length: 10_000 }, (_, i) => ({ name: `${i}.jpg` }))),
    );
    expect(Object.keys(taken)).toHaveLength(MOST_ENTRIES);
    expect(Object.keys(refused)).toHaveLength(10_000 - MOST_ENTRIES);
  });

  it("that is none says so in one sentence", async () => {
    await expect(take(Buffer.from("no zip at all"))).rejects.toThrow(/cannot be read/);
  });
});

describe("our own package", () => {
  it("is as long as was told, passes unzip -t, and opens in another library", async () => {
    const path = join(folder, "picture");
    await writeFile(path, Buffer.alloc(70_000, 7));
    const { bytes, stream } = await zipOf([
      { name: "day 1/ä.jpg", from: { path } },
      { name: "list.csv", from: { bytes: Buffer.from("a,b\r\n") } },
    ]);
    const pieces: Buffer[] = [];
    for await (const piece of stream) pieces.push(piece as Buffer);
    const zip = Buffer.concat(pieces);
    expect(zip.length).toBe(bytes);
    const file = join(folder, "out.zip");
    await writeFile(file, zip);
    expect(execFileSync("unzip", ["-t", file]).toString()).toContain("No errors detected");
    const opened = await JSZip.loadAsync(zip, { checkCRC32: true });
    expect(Object.keys(opened.files)).toContain("day 1/ä.jpg");
    expect((await opened.file("day 1/ä.jpg")!.async("nodebuffer")).length).toBe(70_000);
  });

  it("fails, rather than being short, where a file is not there", async () => {
    await expect(zipOf([{ name: "a.jpg", from: { path: join(folder, "nowhere") } }])).rejects.toThrow();
  });
});
