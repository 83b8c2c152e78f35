/** The searches of the other formats, on made-up encoders whose sizes behave as real ones do. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  type Brief,
  CAN,
  FORMATS,
  heldBy,
  holdsColours,
  lostToFormat,
  parseBrief,
  resolveBrief,
} from "@/core/brief";
import { avifEffort, type Picture, type Setting, settingKey, webpEffort } from "@/core/coding";
import { searchBmp, searchGif, searchTiff } from "@/core/coding/few";
import { searchQuality } from "@/core/coding/quality";
import { type Goal, MAX_ENCODES } from "@/core/coding/types";

interface Model {
  /** Bytes at setting 60. */
  at60: number;
  steep: number;
  lossless: number;
}

function encoder({ at60, steep, lossless }: Model): { picture: Picture; made: Setting[] } {
  const made: Setting[] = [];
  const size = (s: Setting): number => {
    if (s.format === "webp" && s.quality === null) return lossless;
    if (s.format === "webp" || s.format === "avif")
      return Math.round(
        400 +
          at60 * Math.exp(((s.quality as number) - 60) * steep * (1 + 0.02 * Math.sin(s.quality as number))),
      );
    if (s.format === "tiff")
      return Math.round(lossless * { deflate: 1, lzw: 1.2, none: 1.9, jpeg: 0.2 }[s.compression]);
    if (s.format === "gif") return Math.round(600 + (lossless / 8) * Math.log2(s.colours));
    return lossless * 2;
  };
  const difference = async (s: Setting) =>
    "quality" in s && s.quality !== null ? 5 * Math.exp(-s.quality / 45) : 0;
  const picture: Picture = {
    pixels: 200_000,
    flat: false,
    opaque: true,
    overhead: 400,
    encode: (s) => Promise.resolve((made.push(s), size(s))),
    difference,
    sample: async () => null,
    reduced: () => Promise.reject(new Error("pixels are given here")),
  };
  return { picture, made };
}

const model = fc.record({
  at60: fc.integer({ min: 3_000, max: 60_000 }),
  steep: fc.double({ min: 0.02, max: 0.05, noNaN: true }),
  lossless: fc.integer({ min: 80_000, max: 400_000 }),
});
const range = fc.record({
  max: fc.integer({ min: 2_000, max: 500_000 }),
  share: fc.double({ min: 0, max: 0.9, noNaN: true }),
});

describe.each(["webp", "avif"] as const)("the search for %s", (format) => {
  it("ends inside the range or says that it cannot, in few encodes, none made twice", async () => {
    await fc.assert(
      fc.asyncProperty(model, range, async (m, { max, share }) => {
        const goal: Goal = { min: share < 0.2 ? null : Math.round(max * share), max, aim: "best" };
        const { picture, made } = encoder(m);
        const { outcome, found, encodes } = await searchQuality(format, picture, goal, {
          quality: null,
          bits: 8,
        });
        expect(encodes).toBeLessThanOrEqual(MAX_ENCODES);
        expect(new Set(made.map(settingKey)).size).toBe(made.length);
        if (outcome === "met") expect(found.bytes >= (goal.min ?? 0) && found.bytes <= max).toBe(true);
        else if (outcome === "over") expect(found.bytes).toBeGreaterThan(max);
        else expect(found.bytes).toBeLessThan(goal.min!);
      }),
    );
  });

  it("comes near the ceiling from below", async () => {
    const { picture } = encoder({ at60: 20_000, steep: 0.03, lossless: 300_000 });
    const { found } = await searchQuality(
      format,
      picture,
      { min: null, max: 30_000, aim: "best" },
      { quality: null, bits: 8 },
    );
    expect(found.bytes).toBeGreaterThan(30_000 * 0.94);
    const middle = await searchQuality(
      format,
      encoder({ at60: 20_000, steep: 0.03, lossless: 300_000 }).picture,
      { min: 20_000, max: 30_000, aim: "middle" },
      { quality: null, bits: 8 },
    );
    expect(Math.abs(middle.found.bytes - 25_000)).toBeLessThan(1_500);
  });

  it("keeps to a quality clause, and takes no more effort than a picture of that size can bear", async () => {
    const { picture, made } = encoder({ at60: 20_000, steep: 0.03, lossless: 300_000 });
    await searchQuality(
      format,
      picture,
      { min: null, max: 200_000, aim: "best" },
      { quality: { min: 30, max: 65 }, bits: 8 },
    );
    for (const s of made as { quality: number }[]) expect(s.quality).toBeLessThanOrEqual(65);
    // AVIF of 24 megapixels: effort 1 takes 2.6 s, effort 2 7.6 s, effort 4 62 s (measured).
    expect([
      avifEffort(300_000),
      avifEffort(2_000_000),
      avifEffort(24_000_000),
      avifEffort(90_000_000),
    ]).toEqual([3, 2, 1, 0]);
    expect([webpEffort(2_000_000), webpEffort(24_000_000), webpEffort(90_000_000)]).toEqual([4, 2, 0]);
  });
});

describe("halved colour in AVIF", () => {
  const colourful = (costs: number, flat = false): Picture => {
    const { picture } = encoder({ at60: 20_000, steep: 0.03, lossless: 300_000 });
    const halved = (s: Setting) => s.format === "avif" && s.chroma === "4:2:0";
    return {
      ...picture,
      flat,
      encode: async (s) => Math.round((await picture.encode(s)) * (halved(s) ? 0.9 : 1)),
      difference: async (s) => (await picture.difference(s)) * (halved(s) ? costs : 1),
    };
  };
  const chromaOf = async (picture: Picture, max: number) => {
    const goal: Goal = { min: null, max, aim: "best" };
    const { found } = await searchQuality("avif", picture, goal, { quality: null, bits: 8 });
    expect(found.bytes).toBeLessThanOrEqual(max);
    return (found.setting as { chroma?: string }).chroma ?? "4:4:4";
  };

  it("is taken where it differs less at the same bytes, and only there", async () => {
    expect(await chromaOf(colourful(1.01), 18_000)).toBe("4:2:0");
    expect(await chromaOf(colourful(1.3), 18_000)).toBe("4:4:4");
    // Lettering has hard edges of colour; and where nearly all is kept, halving costs more than it saves.
    expect(await chromaOf(colourful(1.01, true), 18_000)).toBe("4:4:4");
    expect(await chromaOf(colourful(1.01), 45_000)).toBe("4:4:4");
  });
});

describe("formats with few settings", () => {
  it("pack TIFF as tightly as the floor lets them", async () => {
    const { picture } = encoder({ at60: 1, steep: 0.03, lossless: 100_000 });
    const packing = async (goal: Goal) => {
      const { outcome, found } = await searchTiff(picture, goal);
      return [outcome, found.setting.compression];
    };
    expect(await packing({ min: null, max: null, aim: "best" })).toEqual(["met", "deflate"]);
    expect(await packing({ min: 110_000, max: 130_000, aim: "best" })).toEqual(["met", "lzw"]);
    expect(await packing({ min: 150_000, max: null, aim: "best" })).toEqual(["met", "none"]);
    expect(await packing({ min: 195_000, max: null, aim: "best" })).toEqual(["under", "none"]);
    expect(await packing({ min: null, max: 90_000, aim: "best" })).toEqual(["over", "deflate"]);
  });

  it("give up colours of GIF only where that is allowed, and always say that there are few", async () => {
    const { picture } = encoder({ at60: 1, steep: 0.03, lossless: 80_000 });
    const all = await searchGif(picture, { min: null, max: null, aim: "best" }, true);
    expect([all.found.setting.colours, all.told[0]]).toEqual([
      256,
      "at most 256 colours, because GIF holds no more",
    ]);
    expect((await searchGif(picture, { min: null, max: 50_000, aim: "best" }, false)).outcome).toBe("over");
    const fewer = await searchGif(picture, { min: null, max: 50_000, aim: "best" }, true);
    expect(fewer.outcome).toBe("met");
    expect(fewer.found.bytes).toBeGreaterThan(48_000);
    expect((await searchGif(picture, { min: null, max: 5_000, aim: "best" }, true)).outcome).toBe("over");
    expect((await searchGif(picture, { min: 90_000, max: null, aim: "best" }, true)).outcome).toBe("under");
  });

  it("have one BMP", async () => {
    const { picture } = encoder({ at60: 1, steep: 0.03, lossless: 1_000 });
    const outcome = async (goal: Partial<Goal>) =>
      (await searchBmp(picture, { min: null, max: null, aim: "best", ...goal })).outcome;
    expect([await outcome({}), await outcome({ max: 1_999 }), await outcome({ min: 2_001 })]).toEqual([
      "met",
      "over",
      "under",
    ]);
  });
});

describe("what a format has room for", () => {
  const brief = (clauses: Partial<Brief>) =>
    resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b", ...clauses }));
  it("gives way by name, and only there", () => {
    const wide = brief({ colour: { space: "display-p3", bits: 16 }, resolution: { exact: "300ppi" } });
    expect(Object.fromEntries(FORMATS.map((f) => [f, lostToFormat(wide, f)]))).toEqual({
      jpeg: ["colour"],
      png: [],
      webp: ["colour"],
      avif: ["colour"],
      tiff: [],
      gif: ["colour", "resolution"],
      bmp: ["colour"],
      pdf: ["colour"],
    });
    expect(lostToFormat(brief({}), "gif")).toEqual([]);
    expect(lostToFormat(brief({ colour: { profile: "embed" } }), "bmp")).toEqual(["colour"]);
    expect(lostToFormat(brief({ colour: { profile: "omit" } }), "bmp")).toEqual([]);
  });

  it("leaves what can be carried out", () => {
    for (const format of FORMATS) {
      const held = heldBy(brief({ colour: { space: "cmyk", bits: 16, profile: "embed" } }), format);
      expect(holdsColours(held, format)).toBe(true);
      expect(CAN[format].bits).toContain(held.bits);
      if (!CAN[format].wide) expect(held.profile).toBe("omit");
    }
  });
});
