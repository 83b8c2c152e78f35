import { execFile } from "node:child_process";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { type Brief, parseBrief } from "@/core/brief";
import { padPdf, writePdf } from "@/core/containers";
import { fitPhoto } from "@/imaging";
import { prove } from "@/imaging/proved";
import { readSource } from "@/imaging/source";
import { jpegPhoto } from "../support/photos";

const run = promisify(execFile);
const POINT = 25.4 / 72;

let folder: string;
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), "zumbrel-pdf-"))));
afterAll(() => rm(folder, { recursive: true, force: true }));

/** What an independent reader, poppler's pdfinfo and pdfimages, says of a file. */
async function independently(bytes: Uint8Array) {
  const path = join(folder, "file.pdf");
  await writeFile(path, bytes);
  const info = (await run("pdfinfo", [path])).stdout;
  const size = /Page size:\s+([\d.]+) x ([\d.]+) pts/.exec(info)!;
  const rows = (await run("pdfimages", ["-list", path])).stdout
    .trim()
    .split("\n")
    .slice(2)
    .map((line) => line.trim().split(/\s+/));
  await run("pdfimages", ["-all", path, join(folder, "image")]);
  return {
    pages: Number(/Pages:\s+(\d+)/.exec(info)![1]),
    mm: [Number(size[1]) * POINT, Number(size[2]) * POINT],
    images: rows.map((row) => ({
      type: row[2],
      width: Number(row[3]),
      height: Number(row[4]),
      colour: row[5],
      encoding: row[8],
      ppi: [Number(row[12]), Number(row[13])],
    })),
    jpeg: await readFile(join(folder, "image-000.jpg")),
  };
}

async function fit(brief: Brief, bytes: Buffer) {
  const source = await readSource(bytes);
  const answer = await fitPhoto({ source, brief });
  const output = answer.output && Buffer.from(answer.output);
  return {
    answer,
    output,
    proof:
      output && (await prove(brief, output, { before: source.facts, frame: answer.frame, original: bytes })),
  };
}

// ISO 216: A4 is 210 × 297 mm; ISO/IEC 7810: ID-1 is 85.60 × 53.98 mm.
const A4 = { width: "210mm", height: "297mm" };
const ID1 = { width: "85.60mm", height: "53.98mm" };
const page = (more: Partial<Brief>): Brief =>
  parseBrief({ zumbrelBrief: 1, name: "page", format: ["pdf"], ...more });

describe("PDF as a format", () => {
  it("is a page of the asked paper, to a tenth of a millimetre, with the picture embedded, by an independent reader", async () => {
    for (const [paper, mm, width, height] of [
      [A4, [210, 297], 900, 1200],
      [ID1, [85.6, 53.98], 1200, 800],
    ] as const) {
      const { output, proof } = await fit(
        page({ paper, fileSize: { min: "60KB", max: "200KB" } }),
        await jpegPhoto(width, height, 11),
      );
      expect(proof!.ok).toBe(true);
      expect(output!.length).toBeGreaterThanOrEqual(60 * 1024);
      expect(output!.length).toBeLessThanOrEqual(200_000);
      const seen = await independently(output!);
      expect(seen.pages).toBe(1);
      seen.mm.forEach((side, i) => expect(Math.abs(side - mm[i])).toBeLessThan(0.1));
      expect(seen.images).toHaveLength(1);
      expect(seen.images[0]).toMatchObject({ type: "image", encoding: "jpeg", colour: "icc" });
    }
  });

  it("keeps the photo's own JPEG data, byte for byte, where they fit", async () => {
    const photo = await jpegPhoto(800, 1000, 12);
    const { answer, output, proof } = await fit(page({ paper: A4, fileSize: { max: "2MB" } }), photo);
    expect(proof!.ok).toBe(true);
    expect(answer.passedThrough).toBe(true);
    const seen = await independently(output!);
    expect(seen.images[0]).toMatchObject({ width: 800, height: 1000 });
    const scan = (file: Buffer) => file.subarray(file.indexOf(Buffer.from([0xff, 0xda])));
    expect(scan(seen.jpeg).equals(scan(photo))).toBe(true);
  });

  it("fills the paper at an asked resolution, and carries it", async () => {
    const { output, proof } = await fit(
      page({ paper: { width: "100mm", height: "150mm" }, resolution: { exact: "200ppi" } }),
      await jpegPhoto(1600, 2400, 13),
    );
    expect(proof!.ok).toBe(true);
    const seen = await independently(output!);
    // 100 mm at 200 ppi: 787.4 px.
    expect(seen.images[0]).toMatchObject({ width: 787, height: 1181 });
    for (const ppi of seen.images[0].ppi) expect(Math.abs(ppi - 200)).toBeLessThanOrEqual(1);
  });

  it("turns the paper with the photo", async () => {
    const { output } = await fit(page({ paper: A4 }), await jpegPhoto(1200, 800, 14));
    const { mm } = await independently(output!);
    expect(Math.abs(mm[0] - 297)).toBeLessThan(0.1);
  });

  it("has a ceiling that is met and a floor that is filled up to the byte, still a sound file", async () => {
    const photo = await jpegPhoto(1200, 1600, 15);
    const small = await fit(page({ paper: A4, fileSize: { max: "40KB" } }), photo);
    expect(small.proof!.ok).toBe(true);
    expect(small.output!.length).toBeLessThanOrEqual(40_000);
    const large = await fit(
      page({ width: { exact: 120 }, height: { exact: 160 }, fileSize: { min: "90KB", max: "100KB" } }),
      photo,
    );
    expect(large.proof!.ok).toBe(true);
    expect(large.answer.told.join(" ")).toContain("filled up");
    expect((await independently(large.output!)).images[0]).toMatchObject({ width: 120, height: 160 });
  });

  it("is written in grey and in CMYK, as an independent reader sees", async () => {
    const photo = await jpegPhoto(600, 800, 16);
    for (const [space, colour] of [
      ["gray", /gray|icc/],
      ["cmyk", /cmyk|icc/],
    ] as const) {
      const { output, proof } = await fit(page({ paper: A4, colour: { space } }), photo);
      expect(proof!.ok).toBe(true);
      expect((await independently(output!)).images[0].colour).toMatch(colour);
    }
  });
});

describe("the container", () => {
  const jpeg = async () => jpegPhoto(64, 48, 17);
  it("has the same bytes beside its picture whatever the picture's size", async () => {
    const parts = {
      width: 64,
      height: 48,
      components: 3 as const,
      icc: null,
      page: { width: 200, height: 100 },
      place: { x: 0, y: 0, width: 200, height: 100 },
    };
    const one = await jpeg();
    const a = writePdf({ ...parts, jpeg: one });
    const b = writePdf({ ...parts, jpeg: Buffer.concat([one, Buffer.alloc(99_000)]), width: 12_345 });
    expect(b.length - a.length).toBe(99_000);
    expect(padPdf(a, a.length + 777).length).toBe(a.length + 777);
    expect((await independently(padPdf(a, a.length + 777))).images).toHaveLength(1);
  });
});
