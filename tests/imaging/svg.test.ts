/** Drawings as sources: shapes whose pixels are known, and what is refused. */
import fc from "fast-check";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { readSvg, sniff, svgAt } from "@/core/containers";
import { svgPixels } from "@/imaging/foreign/svg-pixels";
import { readSource } from "@/imaging/source";
import { fit } from "../support/fit";

const svg = (root: string, body = "") =>
  Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" ${root}>${body}</svg>`);

/** A red field in the left upper quarter, a green one whose edge lies half an inch from the left. */
const FIELDS =
  '<rect width="12" height="8" fill="#c80000"/><rect y="8" width="0.125in" height="8" fill="#00a050"/>';
const LOGO = svg('viewBox="0 0 24 16" width="24" height="16"', FIELDS);

async function pixels(file: Uint8Array) {
  const { data, info } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number) => [
    ...data.subarray((y * info.width + x) * 4, (y * info.width + x) * 4 + 4),
  ];
  return { at, width: info.width, height: info.height };
}

describe("a drawing", () => {
  it("is drawn at exactly the pixels that are asked, with edges where they belong", async () => {
    // Far above and below what its file says, and above what it is usually drawn at.
    for (const width of [30, 600, 3000]) {
      const { output, proof, steps, error } = await fit(LOGO, { format: ["png"], width: { exact: width } });
      expect(error).toBeNull();
      expect(proof!.ok).toBe(true);
      expect(steps.map((step) => step.do).join()).toContain("Draw it at");
      const { at, ...size } = await pixels(output!);
      expect(size).toEqual({ width, height: (width * 2) / 3 });
      // No blur from a picture that was made larger or smaller: both sides of an edge have their full colour.
      const half = width / 2;
      expect(at(half - 1, 0)).toEqual([200, 0, 0, 255]);
      expect(at(half, 0)[3]).toBe(0);
      expect(at(0, width / 3)).toEqual([0, 160, 80, 255]);
      // An inch is 96 CSS pixels (CSS Values 4, 6.2), so an eighth is half of the drawing's 24.
      expect(at(half - 1, width / 2)).toEqual([0, 160, 80, 255]);
      expect(at(half, width / 2)[3]).toBe(0);
    }
  });

  it("becomes any number of pixels, whatever its own size", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 900 }),
        fc.integer({ min: 1, max: 900 }),
        fc.constantFrom('width="31.7" height="12.3"', 'viewBox="-5 3 17 90"', 'width="40mm" height="2cm"'),
        async (width, height, root) => {
          const drawn = await svgPixels(svg(root, FIELDS), { size: { width, height } });
          expect([drawn.width, drawn.height]).toEqual([width, height]);
        },
      ),
      { numRuns: 40 },
    );
  });

  it("is cut, padded and given a background like any other picture", async () => {
    const square = { width: { exact: 300 }, height: { exact: 300 } };
    const cut = await pixels((await fit(LOGO, { format: ["jpeg"], ...square, frame: "pad" })).output!);
    expect([cut.width, cut.height]).toEqual([300, 300]);
    // Nothing is transparent in JPEG: the usual background is white.
    expect(cut.at(290, 150)[0]).toBeGreaterThan(250);
    const { output, proof } = await fit(LOGO, { format: ["webp"], ...square, frame: "fill" });
    expect(proof!.ok).toBe(true);
    expect((await pixels(output!)).width).toBe(300);
  });

  it("has the size that its file says in any unit, and is drawn large where nothing is asked", async () => {
    const sizeOf = (root: string) => {
      const { width, height } = readSvg(svg(root).toString());
      return [Number(width.toFixed(3)), Number(height.toFixed(3))];
    };
    // CSS Values 4, 6.2: 1in = 2.54cm = 96px, 1pt = 1/72in, 1pc = 12pt.
    expect(sizeOf('width="1in" height="2.54cm"')).toEqual([96, 96]);
    expect(sizeOf('width="72pt" height="6pc"')).toEqual([96, 96]);
    expect(sizeOf('width="100%" height="100%" viewBox="0 0 30 10"')).toEqual([30, 10]);
    expect(sizeOf('width="60" viewBox="0,0,30,10"')).toEqual([60, 20]);
    const { facts } = await readSource(LOGO);
    expect([facts.format, facts.width, facts.height]).toEqual(["svg", 2048, 1365]);
    expect((await readSource(svg('width="90000" height="45000"'))).facts.width).toBe(8192);
  });

  it("says that its lettering follows the machine's fonts", async () => {
    const text = '<text x="2" y="12" font-size="6">moth</text>';
    const { notes } = await fit(svg('viewBox="0 0 24 16"', text), { format: ["png"], width: { exact: 100 } });
    expect(notes.join()).toContain("set in the fonts of this machine");
  });

  it("keeps what stands in its root, with quotes and signs", () => {
    const text = `<?xml version="1.0"?><!-- a > b --><svg viewBox="0 0 4 4" style="fill:'a&amp;b'" />`;
    const at = svgAt(text, readSvg(text), { width: 8, height: 8 });
    expect(at).toBe(`<svg viewBox="0 0 4 4" style="fill:'a&amp;b'" width="8" height="8"/>`);
  });
});

describe("what is no plain drawing", () => {
  const bad: [string, Buffer, RegExp][] = [
    [
      "entities",
      Buffer.from('<!DOCTYPE svg [<!ENTITY a "aa"><!ENTITY b "&a;&a;">]><svg viewBox="0 0 1 1">&b;</svg>'),
      /declares entities/,
    ],
    [
      "a picture from outside",
      svg('viewBox="0 0 9 9"', '<image href="../moth.png"/>'),
      /outside \(\.\.\/moth\.png\)/,
    ],
    ["a file of this machine", svg('viewBox="0 0 9 9"', '<image href="file:///etc/hosts"/>'), /from outside/],
    ["a part of another drawing", svg('viewBox="0 0 9 9"', '<use href="b.svg#a"/>'), /from outside/],
    [
      "a fill from outside",
      svg('viewBox="0 0 9 9"', '<rect fill="url(http://a.invalid/b#c)"/>'),
      /from outside/,
    ],
    [
      "styles from outside",
      svg('viewBox="0 0 9 9"', "<style>@import 'a.css';</style>"),
      /styles from outside/,
    ],
    ["1e9 units", svg('width="1e9" height="1e9"'), /1000000000 × 1000000000 px/],
    ["a thread", svg('width="9000" height="1"'), /times as long as wide/],
    ["a script", svg('viewBox="0 0 9 9"', "<script>0</script>"), /holds a script/],
    ["a web page", svg('viewBox="0 0 9 9"', "<foreignObject><p/></foreignObject>"), /piece of a web page/],
    ["no size", svg(""), /neither its width and height nor a view box/],
    ["torn XML", svg('viewBox="0 0 9 9"', "<g>"), /not well formed/],
    ["other XML", Buffer.from('<?xml version="1.0"?><kml/>'), /XML of another kind/],
    ["depth", svg('viewBox="0 0 9 9"', "<g>".repeat(500) + "</g>".repeat(500)), /inside each other/],
  ];

  it.each(bad)("is refused with a sentence: %s", async (_, bytes, why) => {
    expect(sniff(bytes.subarray(0, 64))).toBe("svg");
    await expect(readSource(bytes)).rejects.toThrow(why);
    await expect(readSource(bytes)).rejects.toThrow(/^The drawing .*\. [A-Z].*\.$/);
  });

  it("links, and pictures inside it, are let through", async () => {
    const dot = (
      await sharp({ create: { width: 2, height: 2, channels: 3, background: "#00f" } })
        .png()
        .toBuffer()
    ).toString("base64");
    const body = `<a href="https://moths.invalid"><image width="9" height="9" href="data:image/png;base64,${dot}"/></a>`;
    const { output } = await fit(svg('viewBox="0 0 9 9"', body), { format: ["png"], width: { exact: 90 } });
    expect((await pixels(output!)).at(45, 45)).toEqual([0, 0, 255, 255]);
  });

  it("HTML and prose are not taken for drawings", () => {
    for (const text of ["<!DOCTYPE html><svg/>", "<html>", "svg", "a <svg>"])
      expect(sniff(Buffer.from(text.padEnd(64)))).not.toBe("svg");
  });
});
