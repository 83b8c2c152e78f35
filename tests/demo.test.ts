import { createHash } from "node:crypto";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { DEMO_BATCHES } from "@demo/batches";
import { STARTER_BRIEFS } from "@demo/briefs";
import { HEAVY, writeHeavy } from "@demo/heavy";
import { PICTURES } from "@demo/pictures";
import { RECORDS } from "@demo/records";
import { makePicture } from "@demo/write";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { readWording } from "@/core/brief/read";
import { findDisagreements } from "@/core/plan/disagreements";
import { readSource } from "@/imaging/source";
import { jpegPhoto } from "./support/photos";

const small = PICTURES.filter((p) => p.width * p.height < 400_000);

const pictureOf = (name: string) => PICTURES.find((p) => p.name === name)!;
const kept = new Map<string, Promise<Buffer>>();
/** Drawn once. */
function made(name: string): Promise<Buffer> {
  const bytes = kept.get(name) ?? makePicture(pictureOf(name));
  kept.set(name, bytes);
  return bytes;
}

/** Stand-ins for what is drawn, by their widths: one is cut from, the others are brought to sizes of their own. */
const STAND_INS = {
  "moor-at-dusk.jpg": 600,
  "brindled-hooktip.jpg": 600,
  "copper-tussock.jpg": 600,
  "heath-emerald.jpg": 1920,
};

describe("the demo", () => {
  it.each(small.map((p) => p.name))("%s has the same bytes every time", async (name) => {
    const hash = (bytes: Buffer) => createHash("sha256").update(bytes).digest("hex");
    expect(hash(await made(name))).toBe(hash(await makePicture(pictureOf(name))));
  });

  it("writes pictures as they are described: turned by EXIF, in wide spaces, in 16 bits", async () => {
    const make = async (change: Partial<(typeof PICTURES)[number]>) =>
      (await readSource(await makePicture({ ...small[0], width: 80, height: 120, ...change }))).facts;
    expect(await make({ orientation: 6, place: true })).toMatchObject({
      width: 80,
      height: 120,
      orientation: 6,
      privateData: expect.arrayContaining(["place", "serial numbers"]),
    });
    expect(await make({ space: "display-p3" })).toMatchObject({ colourSpace: "display-p3", profile: true });
    expect(await make({ space: "oprgb" })).toMatchObject({ colourSpace: "oprgb" });
    expect(await make({ kind: "tiff16", ppi: 300 })).toMatchObject({
      format: "tiff",
      bits: 16,
      colourSpace: "srgb",
    });
  });

  it("looks and compresses like photographs: grain and texture, not flat colour", async () => {
    const { entropy } = await sharp(await made("small-crop.jpg")).stats();
    expect(entropy).toBeGreaterThan(6);
  });

  it("makes its heavy sources of what is drawn: a raw file, a phone's file, layers, a wide TIFF of 16 bits", async () => {
    const folder = await mkdtemp(join(tmpdir(), "zumbrel-demo-"));
    for (const [name, width] of Object.entries(STAND_INS))
      await writeFile(join(folder, name), await jpegPhoto(width, (width * 2) / 3, 600));
    expect(await writeHeavy(folder)).toEqual([]);
    const facts = async (name: string) => (await readSource(await readFile(join(folder, name)))).facts;
    expect(await facts("moor-at-last-light.dng")).toMatchObject({
      format: "raw",
      width: 3000,
      height: 2000,
      preview: { width: 1200, height: 800 },
    });
    expect(await facts("hooktip-on-the-sheet.heic")).toMatchObject({
      format: "heif",
      width: 1536,
      height: 2048,
    });
    expect(await facts("survey-poster.ora")).toMatchObject({ format: "ora", width: 2000, height: 1400 });
    expect(await facts("copper-tussock-wide.tif")).toMatchObject({
      format: "tiff",
      bits: 16,
      colourSpace: "romm-rgb",
      resolution: [300, 300],
    });
    await rm(folder, { recursive: true });
  });

  it("has sizes up to 24 megapixels and three kinds of file, in batches with briefs that can be carried out", () => {
    expect(PICTURES.length).toBeGreaterThanOrEqual(14);
    const megapixels = PICTURES.map((p) => (p.width * p.height) / 1e6);
    expect(Math.max(...megapixels)).toBe(24);
    expect(new Set(PICTURES.map((p) => p.kind))).toEqual(new Set(["jpeg", "png", "tiff16"]));
    const names = new Set([...[...PICTURES, ...RECORDS].map((p) => p.name), ...Object.keys(HEAVY)]);
    expect(names.size).toBe(PICTURES.length + RECORDS.length + Object.keys(HEAVY).length);
    for (const record of RECORDS) expect(PICTURES.map((p) => p.name)).toContain(record.of);
    for (const batch of DEMO_BATCHES) {
      for (const photo of batch.photos) expect(names, photo).toContain(photo);
      if (batch.brief !== null) expect(STARTER_BRIEFS.map((b) => b.name)).toContain(batch.brief);
    }
    expect(STARTER_BRIEFS).toHaveLength(10);
    for (const brief of STARTER_BRIEFS) {
      // What a receiver writes contradicts itself nowhere, and leaves nothing to ask.
      expect(findDisagreements(brief), brief.name).toEqual([]);
      expect(
        readWording(brief.wording!).unread.filter((part) => part.ask),
        brief.name,
      ).toEqual([]);
      expect(brief.read!.length, brief.name).toBeGreaterThan(2);
    }
    for (const brief of STARTER_BRIEFS) expect(parseBrief(brief), brief.name).toEqual(brief);
  });
});
