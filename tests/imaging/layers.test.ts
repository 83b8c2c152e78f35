/** Layered artwork: OpenRaster packages, made here by another ZIP library, flattened into briefs. */
import JSZip from "jszip";
import sharp, { type Blend } from "sharp";
import { describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { eightBit, flatten, readStack } from "@/core/pixels/layers";
import { blend } from "@/core/pixels/layers/blend";
import { OPERATORS, type Operator } from "@/core/pixels/layers/types";
import { fitPhoto } from "@/imaging";
import { prove } from "@/imaging/proved";
import { preview } from "@/imaging/shown";
import { readSource } from "@/imaging/source";
import { jpegPhoto } from "../support/photos";

/** A package as the format lays it out: its type first, not packed. */
async function ora(stack: string, layers: Record<string, Buffer>): Promise<Buffer> {
  const zip = new JSZip();
  zip.file("mimetype", "image/openraster", { compression: "STORE" });
  zip.file("stack.xml", `<?xml version="1.0" encoding="UTF-8"?>\n${stack}`);
  for (const [name, bytes] of Object.entries(layers)) zip.file(name, bytes);
  return zip.generateAsync({ type: "nodebuffer", compression: "DEFLATE" });
}
const flat = (
  width: number,
  height: number,
  background: { r: number; g: number; b: number; alpha?: number },
) =>
  sharp({ create: { width, height, channels: 4, background: { alpha: 1, ...background } } })
    .png()
    .toBuffer();
const soft = async (width: number, height: number, seed: number) => {
  const alpha = Buffer.from(Array.from({ length: width * height }, (_, i) => (i * 37) % 256));
  return sharp(await jpegPhoto(width, height, seed))
    .joinChannel(alpha, { raw: { width, height, channels: 1 } })
    .png()
    .toBuffer();
};
const layer = (src: string, more = "") => `<layer name="${src}" src="data/${src}" ${more}/>`;
const image = (inner: string, w = 60, h = 40) =>
  `<image version="0.0.6" w="${w}" h="${h}" xres="150" yres="150"><stack>${inner}</stack></image>`;

async function pixelsOf(bytes: Buffer): Promise<{ data: Buffer; width: number; height: number }> {
  const answer = await fitPhoto({
    source: await readSource(bytes),
    brief: parseBrief({ zumbrelBrief: 1, name: "b", format: ["png"] }),
  });
  const { data, info } = await sharp(Buffer.from(answer.output!))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}
const at = ({ data, width }: { data: Buffer; width: number }, x: number, y: number) => [
  ...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4),
];

describe("flattening", () => {
  it("lays visible layers on each other, at their places, also beyond the canvas, with their opacity", async () => {
    const bytes = await ora(
      image(
        `${layer("top.png", 'x="-10" y="-5"')}${layer("hidden.png", 'visibility="hidden"')}${layer("half.png", 'x="30" y="0" opacity="0.5"')}${layer("ground.png")}`,
      ),
      {
        "data/top.png": await flat(20, 20, { r: 255, g: 0, b: 0 }),
        "data/hidden.png": await flat(60, 40, { r: 0, g: 255, b: 0 }),
        "data/half.png": await flat(100, 100, { r: 0, g: 0, b: 0 }),
        "data/ground.png": await flat(60, 40, { r: 200, g: 200, b: 200 }),
      },
    );
    const seen = await pixelsOf(bytes);
    expect([seen.width, seen.height]).toEqual([60, 40]);
    expect(at(seen, 0, 0)).toEqual([255, 0, 0, 255]);
    expect(at(seen, 9, 14)).toEqual([255, 0, 0, 255]);
    expect(at(seen, 10, 15)).toEqual([200, 200, 200, 255]);
    expect(at(seen, 50, 30)).toEqual([100, 100, 100, 255]);
  });

  it("equals the colour library's own compositing for every blend mode that it has", async () => {
    // libvips implements the blend modes of the PDF reference and of W3C by itself.
    const names: Partial<Record<Operator, Blend>> = {
      "src-over": "over",
      multiply: "multiply",
      screen: "screen",
      overlay: "overlay",
      darken: "darken",
      lighten: "lighten",
      "color-dodge": "colour-dodge",
      "color-burn": "colour-burn",
      "hard-light": "hard-light",
      difference: "difference",
    };
    // With transparency the library blends otherwise than W3C says (half a black multiplied is darker than half way), so blending is compared where nothing shows through.
    const solid = async (seed: number) =>
      sharp(await jpegPhoto(48, 32, seed))
        .ensureAlpha()
        .png()
        .toBuffer();
    const [softly, solidly] = [
      [await soft(48, 32, 81), await soft(48, 32, 82)],
      [await solid(81), await solid(82)],
    ];
    for (const [operator, name] of Object.entries(names)) {
      const [bottom, top] = operator === "src-over" ? softly : solidly;
      const bytes = await ora(
        image(`${layer("top.png", `composite-op="svg:${operator}"`)}${layer("bottom.png")}`, 48, 32),
        { "data/top.png": top, "data/bottom.png": bottom },
      );
      const ours = await pixelsOf(bytes);
      const theirs = await sharp(bottom)
        .composite([{ input: top, blend: name }])
        .raw()
        .toBuffer();
      let worst = 0;
      for (let p = 0; p < theirs.length; p += 4) {
        worst = Math.max(worst, Math.abs(theirs[p + 3] - ours.data[p + 3]));
        // Where little is left of a pixel its colour is rounded coarsely by both.
        if (theirs[p + 3] > 60)
          for (let c = 0; c < 3; c += 1) worst = Math.max(worst, Math.abs(theirs[p + c] - ours.data[p + c]));
      }
      expect(worst, operator).toBeLessThanOrEqual(4);
    }
  });

  it("blends with what shows through as section 5 of W3C Compositing and Blending Level 1 has it", async () => {
    // Multiply of (0.5, 0.25, 0.5) at α = 0.5 onto (0.8, 0.4, 0.2) at α = 0.5: Cs' = (1 − αb) Cs + αb Cb Cs; co = αs Cs' + αb (1 − αs) Cb; αo = αs + αb (1 − αs).
    const artwork = readStack(
      '<image w="1" h="1"><stack><layer src="t" composite-op="svg:multiply"/><layer src="b"/></stack></image>',
    );
    const colours = { t: [127.5, 63.75, 127.5, 127.5], b: [204, 102, 51, 127.5] } as Record<string, number[]>;
    const { data } = await flatten(artwork, async ({ source }) => ({
      data: colours[source] as unknown as Uint8Array,
      width: 1,
      height: 1,
    }));
    const expected = [0.8, 0.4, 0.2].map((cb, c) => {
      const cs = [0.5, 0.25, 0.5][c];
      return 0.5 * (0.5 * cs + 0.5 * cb * cs) + 0.5 * 0.5 * cb;
    });
    [...data].forEach((v, i) => expect(v).toBeCloseTo([...expected, 0.75][i], 6));
  });

  it("composites by the portions of Porter and Duff (W3C, section 9.1: co = αs Fa Cs + αb Fb Cb)", async () => {
    const [as, ab, cs, cb] = [0.6, 0.5, 0.8, 0.4];
    const portion: Partial<Record<Operator, [number, number]>> = {
      "src-over": [1, 1 - as],
      "src-atop": [ab, 1 - as],
      "dst-in": [0, as],
      "dst-out": [0, 1 - as],
      "dst-atop": [1 - ab, as],
      plus: [1, 1],
    };
    for (const [operator, [fa, fb]] of Object.entries(portion)) {
      const artwork = readStack(
        `<image w="1" h="1"><stack><layer src="t" composite-op="svg:${operator}"/><layer src="b"/></stack></image>`,
      );
      const one = (c: number, a: number) => ({
        data: [c, c, c, a].map((v) => v * 255) as unknown as Uint8Array,
        width: 1,
        height: 1,
      });
      const { data } = await flatten(artwork, async ({ source }) =>
        source === "t" ? one(cs, as) : one(cb, ab),
      );
      expect(data[0], operator).toBeCloseTo(as * fa * cs + ab * fb * cb, 6);
      expect(data[3], operator).toBeCloseTo(Math.min(1, as * fa + ab * fb), 6);
    }
  });

  it("follows the formulas of W3C Compositing and Blending Level 1 for the modes that the library lacks", () => {
    // Section 10: soft light at Cs = 0.5 leaves the backdrop; at Cs = 1, Cb = 0.25 it is sqrt(Cb).
    expect(blend("soft-light", [0.3, 0.6, 0.9], [0.5, 0.5, 0.5])).toEqual([0.3, 0.6, 0.9]);
    expect(blend("soft-light", [0.25, 0.25, 0.25], [1, 1, 1])[0]).toBeCloseTo(0.5, 9);
    const lum = ([r, g, b]: readonly number[]) => 0.3 * r + 0.59 * g + 0.11 * b;
    const sat = (c: readonly number[]) => Math.max(...c) - Math.min(...c);
    const [b, s] = [[0.2, 0.5, 0.4] as const, [0.5, 0.3, 0.45] as const];
    expect(lum(blend("color", b, s))).toBeCloseTo(lum(b), 9);
    expect(lum(blend("luminosity", b, s))).toBeCloseTo(lum(s), 9);
    expect(sat(blend("hue", b, s))).toBeCloseTo(sat(b), 2);
    expect(sat(blend("saturation", b, s))).toBeCloseTo(sat(s), 2);
    expect(lum(blend("saturation", b, s))).toBeCloseTo(lum(b), 9);
  });

  it("puts an isolated group together on its own, and lets others through", async () => {
    const parts = {
      "data/m.png": await flat(60, 40, { r: 128, g: 128, b: 128 }),
      "data/ground.png": await flat(60, 40, { r: 200, g: 100, b: 50 }),
    };
    const group = (more: string) =>
      ora(
        image(
          `<stack ${more}>${layer("m.png", 'composite-op="svg:multiply"')}</stack>${layer("ground.png")}`,
        ),
        parts,
      );
    // Through the group it multiplies what is below; alone there is nothing to multiply.
    expect(at(await pixelsOf(await group('isolation="auto"')), 5, 5)).toEqual([100, 50, 25, 255]);
    expect(at(await pixelsOf(await group('isolation="isolate"')), 5, 5)).toEqual([128, 128, 128, 255]);
    expect(at(await pixelsOf(await group('opacity="0.5"')), 5, 5)).toEqual([164, 114, 89, 255]);
  });

  it("goes into any brief; what is transparent lies on its background", async () => {
    const bytes = await ora(image(layer("a.png", 'x="20" y="10"'), 120, 80), {
      "data/a.png": await flat(40, 30, { r: 10, g: 20, b: 200 }),
    });
    const source = await readSource(bytes);
    expect(source.facts).toMatchObject({
      format: "ora",
      width: 120,
      height: 80,
      alpha: true,
      resolution: [150, 150],
    });
    const brief = parseBrief({
      zumbrelBrief: 1,
      name: "b",
      format: ["jpeg"],
      width: { exact: 60 },
      height: { exact: 40 },
      background: "#ffffff",
    });
    const answer = await fitPhoto({ source, brief });
    const proof = await prove(brief, Buffer.from(answer.output!), {
      before: source.facts,
      frame: answer.frame,
      original: bytes,
    });
    expect(proof.ok).toBe(true);
    expect(answer.steps[0].do).toBe("Flatten its layers");
    const { data } = await sharp(Buffer.from(answer.output!)).raw().toBuffer({ resolveWithObject: true });
    expect(data[0]).toBeGreaterThan(245);
    expect((await sharp(await preview(bytes, 50)).metadata()).width).toBe(50);
  });
});

describe("artwork that is wrong", () => {
  const ground = { "data/a.png": Buffer.alloc(0) };
  const cases: [string, string, Record<string, Buffer>, RegExp][] = [
    ["names that lead out", image('<layer src="../../etc/passwd"/>'), ground, /outside of the file/],
    [
      "entities",
      `<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>${image(layer("a.png"))}`,
      ground,
      /declares entities/,
    ],
    [
      "2,000 layers",
      image(Array.from({ length: 2000 }, () => layer("a.png")).join("")),
      ground,
      /more than 1000 layers/,
    ],
    [
      "an unknown operator",
      image(layer("a.png", 'composite-op="svg:sparkle"')),
      ground,
      /"sparkle", which the format does not know/,
    ],
    ["a canvas of no size", image(layer("a.png"), 0, 10), ground, /w is "0"/],
    ["a huge canvas", image(layer("a.png"), 60_000, 60_000), ground, /up to 40 megapixels/],
    ["no layers said", "<nothing/>", ground, /no picture in their description/],
    [
      "a description that breaks off",
      '<image w="5" h="5"><stack><layer src="data/a',
      ground,
      /not well formed/,
    ],
  ];
  for (const [name, stack, layers, words] of cases)
    it(`is refused by reason: ${name}`, async () =>
      expect(readSource(await ora(stack, layers))).rejects.toThrow(words));

  it("that lacks a layer, or holds a damaged one, says which", async () => {
    const brief = parseBrief({ zumbrelBrief: 1, name: "b", format: ["png"] });
    await expect(
      fitPhoto({ source: await readSource(await ora(image(layer("gone.png")), ground)), brief }),
    ).rejects.toThrow(/lacks the layer "data\/gone.png"/);
    await expect(
      fitPhoto({
        source: await readSource(
          await ora(image(layer("a.png")), { "data/a.png": Buffer.from("no picture") }),
        ),
        brief,
      }),
    ).rejects.toThrow(/OpenRaster cannot be decoded/);
    const whole = await ora(image(layer("a.png")), ground);
    await expect(readSource(whole.subarray(0, 120))).rejects.toThrow(/damaged/);
  });

  it("of a closed kind is refused with the open ones", async () => {
    await expect(readSource(Buffer.concat([Buffer.from("8BPS\0\x01"), Buffer.alloc(60)]))).rejects.toThrow(
      /closed kind.*OpenRaster/,
    );
  });
});

describe("the description of layers", () => {
  it("is read with its groups, defaults and signs", () => {
    const artwork = readStack(
      '<image w="9" h="8"><!-- a < b --><stack><layer name="A &amp; B" src="data/1.png" x="-3"/><stack name="G" composite-op="svg:screen"><layer src="2.png" opacity="0.25"/></stack></stack></image>',
    );
    expect(artwork).toMatchObject({ width: 9, height: 8, resolution: null });
    expect(artwork.root.children[0]).toMatchObject({
      name: "A & B",
      x: -3,
      y: 0,
      opacity: 1,
      visible: true,
      operator: "src-over",
    });
    expect(artwork.root.children[1]).toMatchObject({
      kind: "group",
      isolated: true,
      operator: "screen",
      children: [{ opacity: 0.25 }],
    });
  });

  it("gives sound pixels for every operator on half-transparent layers", async () => {
    for (const operator of OPERATORS) {
      const artwork = readStack(
        `<image w="4" h="1"><stack><layer src="t" composite-op="svg:${operator}" opacity="0.7"/><layer src="b" opacity="0.6"/></stack></image>`,
      );
      const { data } = eightBit(
        await flatten(artwork, async ({ source }) => ({
          data: new Uint8Array(
            source === "t"
              ? [255, 0, 128, 255, 9, 200, 7, 90, 0, 0, 0, 0, 255, 255, 255, 255]
              : [10, 20, 250, 255, 255, 255, 255, 200, 40, 50, 60, 255, 0, 0, 0, 0],
          ),
          width: 4,
          height: 1,
        })),
      );
      expect(data).toHaveLength(16);
      for (let p = 3; p < 16; p += 4) expect(data[p]).toBeLessThanOrEqual(255);
    }
  });
});
