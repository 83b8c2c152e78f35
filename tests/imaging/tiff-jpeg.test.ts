/** JPEG inside TIFF, held against libtiff (the colour library's) and TIFF 6.0 with technical note 2. */
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { jpegInTiff, readJpeg } from "@/core/containers";
import { findDisagreements } from "@/core/plan/disagreements";
import { fitPhoto } from "@/imaging";
import { Candidates } from "@/imaging/candidates";
import { planPhoto } from "@/imaging/planned";
import { readSource } from "@/imaging/source";
import { fit } from "../support/fit";
import { jpegPhoto } from "../support/photos";

const QUALITY = { format: ["tiff" as const], quality: { min: 60 } };

async function pixelsOf(file: Uint8Array) {
  return sharp(file).raw().toBuffer({ resolveWithObject: true });
}

describe("a TIFF whose brief speaks of a quality", () => {
  it("stays without loss where that fits", async () => {
    const { output, proof } = await fit(await jpegPhoto(300, 200, 3), {
      ...QUALITY,
      fileSize: { max: "2MB" },
    });
    expect(proof!.ok).toBe(true);
    expect(jpegInTiff(output!)).toBeNull();
  });

  it("is a JPEG in one strip under a ceiling that nothing without loss meets, and libtiff reads it as that JPEG", async () => {
    const photo = await jpegPhoto(700, 460, 8, 96);
    const { output, proof, steps, difference, error } = await fit(photo, {
      ...QUALITY,
      fileSize: { max: "120KB" },
      resolution: { exact: "300ppi" },
      width: { exact: 700 },
    });
    expect(error).toBeNull();
    expect(proof!.ok).toBe(true);
    expect(output!.length).toBeLessThanOrEqual(120_000);
    expect(output!.length).toBeGreaterThan(105_000);
    const words = steps.map((step) => step.do).join("; ");
    expect(words).toMatch(/TIFF with a JPEG 4:\d:\d inside, quality \d+/);
    expect(words).toContain("JPEG inside the TIFF");
    expect(difference!).toBeLessThan(4);
    expect(await sharp(output!).metadata()).toMatchObject({
      format: "tiff",
      width: 700,
      height: 460,
      channels: 3,
      density: 300,
      hasProfile: true,
    });
    // What libtiff decodes is what the JPEG library decodes of the strip alone, but for how chroma is spread.
    const strip = jpegInTiff(output!)!;
    expect(readJpeg(strip).frame.progressive).toBe(false);
    const [whole, alone] = [await pixelsOf(output!), await pixelsOf(strip)];
    const apart = whole.data.reduce((sum, value, i) => sum + Math.abs(value - alone.data[i]), 0);
    expect(apart / whole.data.length).toBeLessThan(1.5);
    expect(proof!.checks.find(({ clause }) => clause === "quality")!.found).toMatch(/^\d+$/);
    const { facts } = await readSource(Buffer.from(output!));
    expect(facts.quality).toBeGreaterThanOrEqual(60);
    expect(facts.qualityExact).toBe(true);
  });

  it("is grey in one part, and keeps what is seen through without loss", async () => {
    const photo = await jpegPhoto(500, 400, 12, 96);
    const grey = await fit(photo, { ...QUALITY, colour: { space: "gray" }, fileSize: { max: "60KB" } });
    expect(grey.proof!.ok).toBe(true);
    expect(await sharp(grey.output!).metadata()).toMatchObject({ format: "tiff", channels: 1 });
    expect(readJpeg(jpegInTiff(grey.output!)!).frame.components).toHaveLength(1);
    const clear = await sharp(photo).ensureAlpha(0.5).png().toBuffer();
    const kept = await fit(clear, { ...QUALITY, width: { exact: 500 }, fileSize: { max: "60KB" } });
    expect(kept.output).toBeNull();
    expect(kept.error).toMatch(/^Cannot: the smallest 500 × 400 TIFF/);
  });

  it("is handed on as it is where it obeys", async () => {
    const first = await fit(await jpegPhoto(500, 400, 12, 96), { ...QUALITY, fileSize: { max: "60KB" } });
    const again = await fit(Buffer.from(first.output!), { ...QUALITY, fileSize: { max: "60KB" } });
    expect(Buffer.from(again.output!).equals(Buffer.from(first.output!))).toBe(true);
  });

  it("is no disagreement, where without the quality it is one", () => {
    const of = (quality?: { min: number }) =>
      findDisagreements(
        parseBrief({
          zumbrelBrief: 1,
          name: "t",
          format: ["tiff"],
          width: { exact: 2000 },
          height: { exact: 1500 },
          fileSize: { max: "500KB" },
          ...(quality && { quality }),
        }),
      );
    expect(of()).toHaveLength(1);
    expect(of({ min: 40 })).toEqual([]);
  });
});

describe("bytes that are foretold of a TIFF", () => {
  it("are those of the file, whatever its packing, headers and odd lengths", async () => {
    for (const [width, clauses] of [
      [101, {}],
      [103, { resolution: { exact: "300ppi" } }],
      [106, { metadata: "none" as const, colour: { profile: "omit" as const } }],
      [200, { quality: { min: 40 }, fileSize: { max: "20KB" } }],
      [201, { quality: { min: 40 }, fileSize: { max: "20KB" }, colour: { space: "gray" as const } }],
    ] as const) {
      const photo = await jpegPhoto(400, 300, width, 96);
      const brief = parseBrief({
        zumbrelBrief: 1,
        name: "t",
        format: ["tiff"],
        width: { exact: width },
        ...clauses,
      });
      const { output, setting, geometry } = await fitPhoto({ source: await readSource(photo), brief });
      const planned = await planPhoto({ source: await readSource(photo), brief, sha256: "x" });
      const candidates = new Candidates(planned);
      const { bytes } = await candidates.trial(candidates.at(geometry!, "tiff"), setting!);
      expect(output!.length).toBe(bytes);
    }
  });
});
