import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief, resolveBrief } from "@/core/brief";
import { fitFormats, type Picture, type Setting, searchPng } from "@/core/coding";
import { searchJpeg } from "@/core/coding/jpeg-search";
import { MAX_ENCODES } from "@/core/coding/types";
import { planGeometry } from "@/core/geometry";
import { CENTRED } from "@/core/photo";

interface Model {
  /** Bytes at quality 75, 4:2:0. */
  at75: number;
  /** How steeply size grows with quality. */
  steep: number;
  pixels: number;
}

/** A made-up encoder whose sizes behave as JPEG sizes do, with a wobble from setting to setting. */
function encoder({ at75, steep, pixels }: Model): { picture: Picture; made: Setting[] } {
  const made: Setting[] = [];
  const size = (s: Setting): number => {
    if (s.format === "png")
      return s.colours === null
        ? Math.round(pixels * (2.9 - s.level * 0.12))
        : Math.round(pixels * 0.16 * Math.log2(s.colours));
    if (s.format !== "jpeg") return pixels;
    const scale = s.quality < 50 ? 5000 / s.quality : Math.max(1.2, 200 - 2 * s.quality);
    const wobble = 1 + 0.003 * Math.sin(s.quality * 7);
    const chroma = s.chroma === "4:4:4" ? 1.35 : 1;
    const effort = s.effort === "careful" ? 1 : s.effort === "quick" ? 1.12 : 1.25;
    const thrift = ((s.thrift ?? 0.12) / 0.12) ** -0.03;
    return Math.round(700 + at75 * (50 / scale) ** steep * chroma * effort * thrift * wobble);
  };
  // Full chroma looks better at one quality.
  const difference = async (s: Setting) =>
    s.format === "jpeg" ? 6 * Math.exp(-(s.quality + (s.chroma === "4:4:4" ? 3 : 0)) / 45) : 0;
  const picture: Picture = {
    pixels,
    flat: false,
    opaque: true,
    overhead: 700,
    encode: (s) => Promise.resolve((made.push(s), size(s))),
    difference,
    sample: async () => null,
    reduced: () => Promise.reject(new Error("pixels are given here")),
  };
  return { picture, made };
}

const model = fc.record({
  at75: fc.integer({ min: 2_000, max: 400_000 }),
  steep: fc.double({ min: 0.45, max: 0.85, noNaN: true }),
  pixels: fc.integer({ min: 40_000, max: 3_000_000 }),
});
const anyQuality = { quality: null, lowest: 10 };

/** A large picture, and a sample of a ninetieth that is by a tenth thriftier; sizes rise in jumps, as on whole steps. */
function sampled(m: Model, jump: number): { picture: Picture; made: Setting[] } {
  const { picture, made } = encoder({ ...m, pixels: 24_000_000 });
  const jumping = (share: number, of: Picture): Picture => ({
    ...of,
    encode: async (s) => {
      if (s.format !== "jpeg") throw new Error("not asked");
      const bytes = await of.encode({ ...s, quality: Math.floor(s.quality / jump) * jump });
      const thrift = ((s.thrift ?? 0.12) / 0.12) ** -0.07;
      return Math.round((bytes - of.overhead) * thrift * share) + of.overhead;
    },
  });
  const sample = { ...jumping(1 / 100, encoder(m).picture), pixels: 24_000_000 / 90 };
  return { picture: { ...jumping(1, picture), sample: async () => sample }, made };
}

describe("the search for a JPEG setting of a large picture", () => {
  it("tries few whole files, since a sample shows how they grow, and comes as near as they can", async () => {
    const large = model.map((m) => ({ ...m, at75: 1_000_000 + m.at75 * 10 }));
    const jumps = fc.constantFrom(0.05, 0.2, 0.35);
    const counts: number[] = [];
    const share = fc.double({ min: 0.4, max: 3, noNaN: true });
    await fc.assert(
      fc.asyncProperty(large, jumps, share, async (m, jump, part) => {
        const { picture, made } = sampled(m, jump);
        const max = Math.round(m.at75 * part);
        const result = await searchJpeg(picture, { min: null, max, aim: "best" }, anyQuality);
        if (result.outcome !== "met" || result.found.setting.format !== "jpeg") return;
        const { quality, chroma } = result.found.setting;
        expect(result.found.bytes).toBeLessThanOrEqual(max);
        // Beyond this quality both chromas are made.
        if (quality >= 94 || chroma === "4:4:4") return;
        expect(made.length).toBeLessThanOrEqual(7);
        counts.push(made.length);
        // A jump of this model is at most 2 %.
        expect(result.found.bytes).toBeGreaterThan(max * 0.965);
      }),
    );
    expect(counts.reduce((a, b) => a + b, 0) / counts.length).toBeLessThan(4);
  });
});

describe("the search for a JPEG setting", () => {
  it("ends inside the range or says that it cannot, in at most 14 encodes and without making one twice", async () => {
    await fc.assert(
      fc.asyncProperty(
        model,
        fc.integer({ min: 3_000, max: 900_000 }),
        fc.double({ min: 0, max: 0.9, noNaN: true }),
        async (m, max, share) => {
          const { picture, made } = encoder(m);
          const min = share < 0.2 ? null : Math.round(max * share);
          const result = await searchJpeg(picture, { min, max, aim: "best" }, anyQuality);
          expect(result.encodes).toBe(made.length);
          expect(made.length).toBeLessThanOrEqual(MAX_ENCODES);
          expect(new Set(made.map((s) => JSON.stringify(s))).size).toBe(made.length);
          if (result.outcome === "met") {
            expect(result.found.bytes).toBeLessThanOrEqual(max);
            expect(result.found.bytes).toBeGreaterThanOrEqual(min ?? 0);
          }
          if (result.outcome === "over") expect(result.found.bytes).toBeGreaterThan(max);
          if (result.outcome === "under") expect(result.found.bytes).toBeLessThan(min!);
        },
      ),
      { numRuns: 300 },
    );
  });

  it("comes within half a percent of the ceiling, typically in at most 4 encodes", async () => {
    const shares: number[] = [];
    const counts: number[] = [];
    for (let i = 0; i < 200; i += 1) {
      const m = { at75: 20_000 + i * 997, steep: 0.5 + (i % 30) / 100, pixels: 400_000 + i * 9_000 };
      const max = Math.round(m.at75 * (0.6 + (i % 17) / 10));
      const { picture, made } = encoder(m);
      const { found } = await searchJpeg(picture, { min: null, max, aim: "best" }, anyQuality);
      shares.push(found.bytes / max);
      counts.push(made.length);
    }
    const median = (list: number[]) => list.sort((a, b) => a - b)[list.length >> 1];
    expect(shares.filter((share) => share >= 0.995).length).toBeGreaterThan(180);
    expect(median(shares)).toBeGreaterThan(0.995);
    expect(median(counts)).toBeLessThanOrEqual(4);
  });

  it("climbs below the floor: full chroma, then a less thrifty encoding, and tells what was needed", async () => {
    const { picture } = encoder({ at75: 5_000, steep: 0.4, pixels: 100_000 });
    const told = async (min: number, max: number) => {
      const {
        outcome,
        told: words,
        found,
      } = await searchJpeg(picture, { min, max, aim: "best" }, anyQuality);
      return [outcome, words.map((t) => t.split(",")[0]), found.setting.chroma, found.setting.effort];
    };
    // Full chroma where the quality leaves room for it is a choice, not a need.
    expect(await told(20_000, 24_000)).toEqual(["met", [], "4:4:4", "careful"]);
    const needed = ["full chroma (4:4:4)", "a less thrifty encoding"];
    expect(await told(34_000, 60_000)).toEqual(["met", needed, "4:4:4", "plain"]);
    expect(await told(500_000, 600_000)).toEqual(["under", needed, "4:4:4", "plain"]);
  });

  it("keeps to a quality clause, with the Annex K tables only", async () => {
    const { picture, made } = encoder({ at75: 50_000, steep: 0.6, pixels: 800_000 });
    const result = await searchJpeg(
      picture,
      { min: null, max: 200_000, aim: "best" },
      { quality: { min: 1, max: 65 }, lowest: 10 },
    );
    expect(result.found.setting.quality).toBe(65);
    expect(made.every((s) => s.format === "jpeg" && s.table === 0 && s.quality <= 65)).toBe(true);
  });

  it("keeps to whole qualities where very many pixels are left to the library's encoder", async () => {
    const { picture, made } = encoder({ at75: 4_000_000, steep: 0.6, pixels: 60_000_000 });
    const { found } = await searchJpeg(picture, { min: null, max: 5_000_000, aim: "best" }, anyQuality);
    expect(found.bytes).toBeGreaterThan(4_800_000);
    expect(made.every((s) => s.format === "jpeg" && Number.isInteger(s.quality) && !s.thrift)).toBe(true);
  });

  it("aims at the middle of the range when asked", async () => {
    const { picture } = encoder({ at75: 50_000, steep: 0.6, pixels: 800_000 });
    const { found } = await searchJpeg(picture, { min: 40_000, max: 120_000, aim: "middle" }, anyQuality);
    expect(found.bytes).toBeGreaterThan(74_000);
    expect(found.bytes).toBeLessThanOrEqual(80_000);
  });
});

describe("the search for a PNG setting", () => {
  const { picture } = encoder({ at75: 1, steep: 1, pixels: 100_000 });
  it("keeps every colour where that fits, packs looser for a floor, and gives up colours only when told", async () => {
    expect(
      (await searchPng(picture, { min: null, max: 200_000, aim: "best" }, false)).found.setting,
    ).toMatchObject({ colours: null, level: 9 });
    expect(
      (await searchPng(picture, { min: 250_000, max: 300_000, aim: "best" }, false)).found.setting.level,
    ).toBeLessThan(9);
    expect((await searchPng(picture, { min: null, max: 100_000, aim: "best" }, false)).outcome).toBe("over");
    const palette = await searchPng(picture, { min: null, max: 100_000, aim: "best" }, true);
    expect(palette.outcome).toBe("met");
    expect(palette.found.bytes).toBeGreaterThan(90_000);
    expect(palette.encodes).toBeLessThanOrEqual(MAX_ENCODES);
  });
});

describe("what gives way, in order", () => {
  const fit = (clauses: Partial<Brief>, m: Omit<Model, "pixels">, photo = { width: 4000, height: 3000 }) => {
    const brief = resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b", format: ["jpeg"], ...clauses }));
    const geometry = planGeometry(brief, photo);
    return fitFormats({
      brief,
      photo,
      frame: CENTRED,
      geometry,
      view: geometry,
      formats: brief.formats!,
      softCeiling: null,
      // Size follows the number of pixels.
      picture: (g) =>
        Promise.resolve(
          encoder({
            at75: (m.at75 * g.width * g.height) / 100_000,
            steep: m.steep,
            pixels: g.width * g.height,
          }).picture,
        ),
    });
  };

  it("more pixels before padding where a wished size is too small for the floor", async () => {
    const result = await fit(
      {
        width: { exact: 200 },
        height: { exact: 150 },
        wishes: ["width", "height"],
        fileSize: { min: "60KB", max: "90KB" },
      },
      { at75: 12_000, steep: 0.5 },
    );
    expect(result).toMatchObject({ ok: true, padTo: null });
    if (result.ok) expect(result.told.join(" ")).toMatch(/more pixels.*wished size gave way/s);
  });

  it("padding, told, where the pixels are demanded, and never where it is ruled out", async () => {
    const clauses = {
      width: { exact: 200 },
      height: { exact: 150 },
      fileSize: { min: "60KB", max: "90KB" },
    } as Partial<Brief>;
    const padded = await fit(clauses, { at75: 3_000, steep: 0.3 });
    expect(padded).toMatchObject({ ok: true, padTo: 61_440 });
    if (padded.ok) expect(padded.told.join(" ")).toMatch(/filled up with a comment/);
    expect(await fit({ ...clauses, padding: "never" }, { at75: 3_000, steep: 0.3 })).toMatchObject({
      ok: false,
      why: expect.stringMatching(/the largest 200 × 150 JPEG of this photo is/),
    });
  });

  it("a plain cannot with the smallest size, where pixels are fixed", async () => {
    const fixed = await fit(
      { width: { exact: 2000 }, height: { exact: 1500 }, fileSize: { max: "20KB" } },
      { at75: 12_000, steep: 0.6 },
    );
    expect(fixed).toMatchObject({
      ok: false,
      why: expect.stringMatching(
        /^Cannot: the smallest 2000 × 1500 JPEG of this photo is .* the ceiling is 20\.0 kB/,
      ),
    });
  });

  it("another allowed format where the first cannot meet the brief", async () => {
    const result = await fit(
      { format: ["png", "jpeg"], width: { exact: 400 }, height: { exact: 300 }, fileSize: { max: "90KB" } },
      { at75: 12_000, steep: 0.5 },
    );
    expect(result).toMatchObject({ ok: true, setting: { format: "jpeg" } });
    if (result.ok) expect(result.told[0]).toMatch(/JPEG, because PNG cannot meet the range/);
  });
});
