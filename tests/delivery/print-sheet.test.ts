import { execFile } from "node:child_process";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { layOut, type SheetTask } from "@/core/delivery/print-sheet";
import { pagesOf, printSheets } from "@/delivery";
import { fitPhoto } from "@/imaging";
import { printSheetPicture } from "@/imaging/shown";
import { readSource } from "@/imaging/source";
import { jpegPhoto } from "../support/photos";

const run = promisify(execFile);
let folder: string;
let portrait: Buffer;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "zumbrel-sheet-"));
  // 35 × 45 mm at 300 ppi: 413 × 531 px, as a run makes it, with its profile.
  const brief = parseBrief({
    zumbrelBrief: 1,
    name: "p",
    format: ["jpeg"],
    width: { exact: 413 },
    height: { exact: 531 },
    paper: { width: "35mm", height: "45mm" },
  });
  portrait = Buffer.from(
    (await fitPhoto({ source: await readSource(await jpegPhoto(900, 1200, 31)), brief })).output!,
  );
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const task: SheetTask = {
  width: 100,
  height: 150,
  margin: 0,
  gap: 2,
  lines: "corners",
  mode: "fill",
  bleed: 0,
  copies: { a: 1 },
};
const file = { id: "a", name: "a.jpg", read: async () => portrait };
const piece = { id: "a", name: "a.jpg", width: (413 / 300) * 25.4, height: (531 / 300) * 25.4 };

/** By poppler's readers, which share nothing with the writer. */
async function independently(bytes: Uint8Array) {
  const path = join(folder, "sheet.pdf");
  await writeFile(path, bytes);
  const info = (await run("pdfinfo", ["-box", path])).stdout;
  const box = (name: string) =>
    new RegExp(`${name}:\\s+([\\d.]+)\\s+([\\d.]+)\\s+([\\d.]+)\\s+([\\d.]+)`)
      .exec(info)!
      .slice(1)
      .map((v) => (Number(v) * 25.4) / 72);
  const rows = (await run("pdfimages", ["-list", path])).stdout
    .trim()
    .split("\n")
    .slice(2)
    .map((line) => line.trim().split(/\s+/));
  await run("pdfimages", ["-j", path, join(folder, "on")]);
  return {
    info,
    box,
    pages: Number(/Pages:\s+(\d+)/.exec(info)![1]),
    images: rows.map((row) => ({
      width: Number(row[3]),
      height: Number(row[4]),
      colour: row[5],
      encoding: row[8],
      ppi: [Number(row[12]), Number(row[13])],
    })),
    first: await readFile(join(folder, "on-000.jpg")),
  };
}

describe("a print sheet as PDF", () => {
  it("holds eight portraits on 10 × 15 cm, each embedded as it is at its 300 ppi, the profile along, by an independent reader", async () => {
    const sheets = layOut(task, [piece]);
    const seen = await independently(await printSheets(sheets, task, [file]));
    expect(seen.pages).toBe(1);
    const media = seen.box("MediaBox");
    expect([media[2], media[3]].sort((a, b) => a - b).map((v) => Math.round(v * 10) / 10)).toEqual([
      100, 150,
    ]);
    expect(seen.images).toHaveLength(8);
    for (const image of seen.images) {
      expect(image).toMatchObject({ width: 413, height: 531, colour: "icc", encoding: "jpeg" });
      // pdfimages rounds to whole ppi.
      for (const ppi of image.ppi) expect(Math.abs(ppi - 300)).toBeLessThanOrEqual(1);
    }
    expect(seen.first.equals(portrait)).toBe(true);
  });

  it("with bleed has its boxes to a tenth of a millimetre", async () => {
    const single: SheetTask = { ...task, mode: "single", bleed: 3 };
    const seen = await independently(await printSheets(layOut(single, [piece]), single, [file]));
    const [bleed, trim] = [seen.box("BleedBox"), seen.box("TrimBox")];
    const size = (box: number[]) => [box[2] - box[0], box[3] - box[1]];
    size(bleed).forEach((side, i) =>
      expect(Math.abs(side - [piece.width, piece.height][i])).toBeLessThan(0.1),
    );
    size(trim).forEach((side, i) =>
      expect(Math.abs(side - ([piece.width, piece.height][i] - 6))).toBeLessThan(0.1),
    );
    expect(Math.abs(trim[0] - bleed[0] - 3)).toBeLessThan(0.1);
    expect(seen.images[0]).toMatchObject({ width: 413, height: 531 });
  });

  it("puts several pages into one PDF, in order, PDFs with their own pages", async () => {
    const page = Buffer.from(
      (
        await fitPhoto({
          source: await readSource(await jpegPhoto(600, 800, 33)),
          brief: parseBrief({
            zumbrelBrief: 1,
            name: "p",
            format: ["pdf"],
            paper: { width: "210mm", height: "297mm" },
          }),
        })
      ).output!,
    );
    const bytes = await pagesOf([
      { id: "1", name: "one.pdf", width: 210, height: 297, read: async () => page },
      { id: "2", name: "two.jpg", width: piece.width, height: piece.height, read: async () => portrait },
    ]);
    const path = join(folder, "pages.pdf");
    await writeFile(path, bytes);
    const { stdout } = await run("pdfinfo", ["-f", "1", "-l", "2", path]);
    const sizes = [...stdout.matchAll(/Page\s+\d+ size:\s+([\d.]+) x ([\d.]+)/g)].map((m) => [
      (Number(m[1]) * 25.4) / 72,
      (Number(m[2]) * 25.4) / 72,
    ]);
    expect(sizes.map(([w, h]) => [Math.round(w), Math.round(h)])).toEqual([
      [210, 297],
      [35, 45],
    ]);
  });

  it("says which file cannot lie on a page", async () => {
    const webp = await sharp({ create: { width: 10, height: 10, channels: 3, background: "#fff" } })
      .webp()
      .toBuffer();
    await expect(
      printSheets(layOut(task, [piece]), task, [{ ...file, name: "x.webp", read: async () => webp }]),
    ).rejects.toThrow(/x.webp is a WEBP/);
  });
});

describe("a print sheet as one picture", () => {
  it("has the sheet's pixels at the asked resolution, written into the file", async () => {
    const [sheet] = layOut(task, [piece]);
    for (const as of ["jpeg", "tiff"] as const) {
      const bytes = await printSheetPicture({ sheet, task, ppi: 300, as, read: async () => portrait });
      const { facts } = await readSource(bytes);
      const sides = [facts.width, facts.height].sort((a, b) => a - b);
      expect(sides).toEqual([1181, 1772]);
      expect(facts.format).toBe(as);
      for (const ppi of facts.resolution!) expect(Math.abs(ppi - 300)).toBeLessThan(0.05);
    }
  });

  it("of absurd resolution is refused", async () => {
    await expect(
      printSheetPicture({
        sheet: layOut(task, [piece])[0],
        task,
        ppi: 9000,
        as: "jpeg",
        read: async () => portrait,
      }),
    ).rejects.toThrow(/megapixels; at most/);
  });
});
