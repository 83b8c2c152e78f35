/** Every kind of source through every kind of brief: always whole, always proved, always what an independent decoder sees. */
import jpegJs from "jpeg-js";
import { PNG } from "pngjs";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief } from "@/core/brief";
import { MAX_ENCODES } from "@/core/coding/types";
import { fitPhoto } from "@/imaging";
import { prove } from "@/imaging/proved";
import { readSource } from "@/imaging/source";
import { raw } from "../support/photos";

const photo = (width: number, height: number) => raw(width, height, 8);
const sources: Record<string, () => Promise<Buffer>> = {
  "baseline JPEG": () => photo(360, 240).jpeg({ quality: 88 }).toBuffer(),
  "progressive JPEG 4:4:4": () =>
    photo(240, 360).jpeg({ progressive: true, chromaSubsampling: "4:4:4" }).toBuffer(),
  "grey JPEG": () => photo(360, 240).toColourspace("b-w").jpeg().toBuffer(),
  "CMYK JPEG": () => photo(360, 240).toColourspace("cmyk").jpeg().toBuffer(),
  PNG: () => photo(360, 240).png().toBuffer(),
  "palette PNG": () => photo(360, 240).png({ palette: true, colours: 16 }).toBuffer(),
  "16-bit PNG": () => photo(360, 240).toColourspace("rgb16").png().toBuffer(),
  "grey PNG with alpha": () => photo(360, 240).toColourspace("b-w").ensureAlpha(0.5).png().toBuffer(),
  "interlaced PNG": () => photo(360, 240).png({ progressive: true }).toBuffer(),
  "WebP with alpha": () => photo(360, 240).ensureAlpha(0.7).webp({ lossless: true }).toBuffer(),
  "LZW TIFF": () => photo(360, 240).tiff({ compression: "lzw" }).toBuffer(),
  GIF: () => photo(360, 240).gif().toBuffer(),
  AVIF: () => photo(360, 240).avif({ effort: 0 }).toBuffer(),
  "a single pixel": () => photo(1, 1).png().toBuffer(),
  "a line of pixels": () => photo(400, 2).png().toBuffer(),
};
const briefs: Record<string, Partial<Brief>> = {
  "an exact portrait in a range": {
    format: ["jpeg"],
    width: { exact: 120 },
    height: { exact: 150 },
    fileSize: { min: "6KB", max: "12KB" },
  },
  "a long side, quality cap": {
    format: ["jpeg"],
    longSide: { max: 200 },
    quality: { max: 65 },
    metadata: "none",
  },
  "PNG with background": {
    format: ["png"],
    width: { exact: 100 },
    height: { exact: 100 },
    frame: "pad",
    background: "#203040",
    resolution: { exact: "300ppi" },
  },
  "under a ceiling": { format: ["png", "jpeg"], fileSize: { max: "30KB" } },
  "nothing at all": {},
};

describe.each(Object.entries(sources))("%s", (_kind, make) => {
  it.each(Object.entries(briefs))("through %s", async (_name, clauses) => {
    const brief = parseBrief({ zumbrelBrief: 1, name: "b", ...clauses });
    const source = await readSource(await make());
    const answer = await fitPhoto({ source, brief });
    expect(answer.error).toBeNull();
    const output = Buffer.from(answer.output!);
    const proof = await prove(brief, output, { before: source.facts });
    expect(proof.checks.filter((c) => c.ok === false)).toEqual([]);
    expect(answer.encodes).toBeLessThanOrEqual(MAX_ENCODES * 6);
    expect(answer.steps.length).toBeGreaterThan(0);
    if (answer.format !== "jpeg" && answer.format !== "png") return expect(answer.passedThrough).toBe(true);
    // The library that shares nothing with ours; it reads no CMYK, which only passes through.
    if (answer.passedThrough && source.facts.colourSpace === "cmyk") return;
    const theirs = answer.format === "jpeg" ? jpegJs.decode(output) : PNG.sync.read(output);
    expect([theirs.width, theirs.height]).toEqual([proof.facts.width, proof.facts.height]);
    if (!answer.passedThrough) expect(proof.facts.colourSpace).toBe("srgb");
  });
});
