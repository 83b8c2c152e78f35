/** The search for the smallest file without visible loss, choices of a person, and the lines of the chart: on made-up encoders. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief, resolveBrief } from "@/core/brief";
import {
  type Choice,
  choiceName,
  choiceSchema,
  expectedSeconds,
  fitFormats,
  forAll,
  ladder,
  lineChoice,
  type Picture,
  qualityFor,
  type Setting,
  settingKey,
  settingOf,
  type WebpSetting,
} from "@/core/coding";
import { type CleanArm, solveClean } from "@/core/coding/clean";
import { searchJpeg } from "@/core/coding/jpeg-search";
import { searchQuality } from "@/core/coding/quality";
import { CLEAN } from "@/core/difference";
import { planGeometry } from "@/core/geometry";
import { CENTRED } from "@/core/photo";

interface Model {
  /** ln(difference) falls by this much a step of quality. */
  fall: number;
  /** Difference at quality 50. */
  at50: number;
}

/** Sizes and differences as real ones behave: one rises, the other falls with quality; full chroma and other tables look different. */
function picture(
  { fall, at50 }: Model,
  sample: Picture | null = null,
): { picture: Picture; made: Setting[] } {
  const made: Setting[] = [];
  const look = (s: Setting): number => {
    if (!("quality" in s) || s.quality === null) return 0;
    const shift = s.format === "jpeg" && s.chroma === "4:4:4" ? 2 : 0;
    return at50 * Math.exp(-fall * (s.quality + shift - 50));
  };
  const size = (s: Setting): number => {
    if (!("quality" in s) || s.quality === null) return 400_000;
    const factor = s.format === "jpeg" && s.chroma === "4:4:4" ? 1.3 : 1;
    return Math.round(500 + 20_000 * Math.exp(0.035 * (s.quality - 50)) * factor);
  };
  const made1: Picture = {
    pixels: 300_000,
    flat: false,
    opaque: true,
    overhead: 500,
    encode: async (s) => (made.push(s), size(s)),
    difference: async (s) => look(s),
    sample: async () => sample,
    reduced: () => Promise.reject(new Error("pixels are given here")),
  };
  return { picture: made1, made };
}

const model = fc.record({
  fall: fc.double({ min: 0.012, max: 0.05, noNaN: true }),
  at50: fc.double({ min: 0.95, max: 4, noNaN: true }),
});
const free = { quality: null, lowest: 10 };

describe("solving for a difference", () => {
  it("ends at the lowest quality within the limit, or close below it", async () => {
    await fc.assert(
      fc.asyncProperty(model, async (m) => {
        const { picture: p } = picture(m);
        const arm: CleanArm<WebpSetting> = {
          setting: (quality) => ({ format: "webp", quality, effort: 4 }),
          lowest: 1,
          highest: 100,
          expect: (q) => 1 - q * 0.025,
        };
        const { found, made } = await solveClean({ picture: p, arm, limit: CLEAN, budget: 9 });
        const least = Math.ceil(50 + Math.log(m.at50 / CLEAN) / m.fall);
        if (least > 100) return void expect(found).toBeNull();
        expect(found!.difference).toBeLessThanOrEqual(CLEAN);
        const step = m.at50 * Math.exp(-m.fall * (found!.setting.quality! - 1 - 50));
        expect(step > CLEAN || found!.difference >= CLEAN * 0.97 || made.length === 9).toBe(true);
        expect(new Set(made.map((t) => t.setting.quality)).size).toBe(made.length);
      }),
    );
  });
});

describe("aim clean", () => {
  it("gives a JPEG without visible loss, no larger than the first arm's own smallest, in at most 14 encodes", async () => {
    await fc.assert(
      fc.asyncProperty(model, async (m) => {
        const { picture: p, made } = picture(m);
        const { outcome, found, encodes } = await searchJpeg(p, { min: null, max: null, aim: "clean" }, free);
        expect(outcome).toBe("met");
        expect(encodes).toBe(made.length);
        expect(encodes).toBeLessThanOrEqual(14);
        if (m.at50 * Math.exp(-m.fall * 52) <= CLEAN)
          expect(await p.difference(found.setting)).toBeLessThanOrEqual(CLEAN);
      }),
    );
  });

  it("stays inside the range: just above a floor, best under a ceiling that is too low to be clean", async () => {
    const { picture: p } = picture({ fall: 0.03, at50: 2 });
    const floor = await searchJpeg(p, { min: 150_000, max: 400_000, aim: "clean" }, free);
    expect(floor.outcome).toBe("met");
    expect(floor.found.bytes).toBeGreaterThanOrEqual(150_000);
    expect(floor.found.bytes).toBeLessThanOrEqual(172_500);
    const low = await searchJpeg(p, { min: null, max: 24_000, aim: "clean" }, free);
    expect(low.found.bytes).toBeLessThanOrEqual(24_000);
    expect(low.found.bytes).toBeGreaterThan(20_000);
    for (const format of ["webp", "avif"] as const) {
      const { found, outcome } = await searchQuality(
        format,
        p,
        { min: 90_000, max: 400_000, aim: "clean" },
        { quality: null, bits: 8 },
      );
      expect([outcome, found.bytes >= 90_000, found.bytes <= 103_500]).toEqual(["met", true, true]);
    }
  });

  it("settles on the sample of a large picture and makes few trials of the whole", async () => {
    const small = picture({ fall: 0.03, at50: 2.1 });
    const { picture: p, made } = picture({ fall: 0.03, at50: 2 }, small.picture);
    const { found } = await searchJpeg(p, { min: null, max: null, aim: "clean" }, free);
    expect(made.length).toBeLessThanOrEqual(3);
    expect(small.made.length).toBeGreaterThan(0);
    expect(await p.difference(found.setting)).toBeLessThanOrEqual(CLEAN);
  });
});

describe("aim clean, foretold by levels that are only rounded", () => {
  /** As steep as photographs are. The whole differs by a tenth more than its sample has it; rounded levels differ by a twelfth less in both. */
  const whole = (known: boolean) => {
    const model = { fall: 0.05, at50: 4.5 };
    const small = picture({ ...model, at50: model.at50 / 1.03 / 1.1 });
    const large = picture(model, small.picture);
    for (const one of [small.picture, large.picture])
      one.rounded = async (s) => (known ? (await one.difference(s)) / 1.085 : null);
    return large;
  };

  it("takes one trial of the whole where its sample misleads", async () => {
    const { picture: p, made } = whole(true);
    const { found } = await searchJpeg(p, { min: null, max: null, aim: "clean" }, free);
    expect(made.length).toBe(1);
    expect(await p.difference(found.setting)).toBeLessThanOrEqual(CLEAN);
    expect(await p.difference(found.setting)).toBeGreaterThan(CLEAN * 0.97);
  });

  it("takes more of them where another coder writes it", async () => {
    const { picture: p, made } = whole(false);
    const { found } = await searchJpeg(p, { min: null, max: null, aim: "clean" }, free);
    expect(made.length).toBeGreaterThan(1);
    expect(await p.difference(found.setting)).toBeLessThanOrEqual(CLEAN);
  });
});

describe("best under a ceiling", () => {
  const brief = (clauses: Partial<Brief>) =>
    resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b", ...clauses }));
  const task = (b: ReturnType<typeof brief>, of: () => Picture) => ({
    brief: b,
    photo: { width: 2000, height: 1500 },
    frame: CENTRED,
    geometry: planGeometry(b, { width: 2000, height: 1500 }),
    view: planGeometry(b, { width: 2000, height: 1500 }),
    formats: b.formats ?? ["jpeg" as const],
    softCeiling: null,
    picture: async () => of(),
  });

  it("takes the least difference where either chroma may look better, not the highest quality number", async () => {
    const base = picture({ fall: 0.03, at50: 2 }).picture;
    // Full chroma takes more bytes but looks far better here.
    const looks: Picture = {
      ...base,
      difference: async (s) =>
        (await base.difference(s)) * (s.format === "jpeg" && s.chroma === "4:4:4" ? 0.4 : 1),
    };
    const { found } = await searchJpeg(looks, { min: null, max: 140_000, aim: "best" }, free);
    expect(found.setting.chroma).toBe("4:4:4");
    expect(found.bytes).toBeLessThanOrEqual(140_000);
  });

  it("picks the smallest of several formats where that is asked", async () => {
    const b = brief({ format: ["jpeg", "webp"], pick: "smallest", fileSize: { aim: "clean" } });
    const base = picture({ fall: 0.03, at50: 2 }).picture;
    const sized: Picture = {
      ...base,
      encode: async (s) => Math.round((await base.encode(s)) * (s.format === "webp" ? 0.5 : 1)),
    };
    const fitted = await fitFormats(task(b, () => sized));
    expect(fitted.ok && [fitted.setting.format, fitted.told[0]]).toEqual([
      "webp",
      expect.stringMatching(/^WebP, because JPEG takes/),
    ]);
  });
});

describe("choices", () => {
  const all: Choice[] = [
    { aim: "clean" },
    { packed: true },
    { format: "jpeg", quality: 80, chroma: "4:2:0", table: 0 },
    { format: "png", colours: null, level: 9 },
    { format: "webp", quality: null },
    { format: "avif", quality: 60, bits: 10 },
    { format: "tiff", compression: "lzw" },
    { format: "gif", colours: 64 },
    { format: "bmp" },
  ];
  it("have a name each, survive being written, and take the effort that suits the pixels", () => {
    expect(new Set(all.map(choiceName)).size).toBe(all.length);
    for (const choice of all) expect(choiceSchema.parse(JSON.parse(JSON.stringify(choice)))).toEqual(choice);
    expect(settingOf(all[2], 1e6)).toMatchObject({ effort: "careful" });
    expect(settingOf(all[0], 1e6)).toBeNull();
    expect(forAll({ format: "avif", quality: 60, bits: 8, effort: 2 })).toEqual({
      format: "avif",
      quality: 60,
      bits: 8,
    });
    expect(choiceSchema.safeParse({ format: "jpeg", quality: 0, chroma: "4:2:0", table: 0 }).success).toBe(
      false,
    );
    expect(choiceSchema.safeParse({ format: "pdf" }).success).toBe(false);
  });
});

describe("the ladder", () => {
  it("weighs the brief's formats and the usual ones, each setting once, the cheapest first", () => {
    for (const pixels of [1e5, 2e6, 24e6]) {
      const choices = ladder(["tiff", "jpeg"], pixels, "4:2:0");
      const settings = choices.map((choice) => settingOf(choice, pixels)!);
      expect(new Set(settings.map(settingKey)).size).toBe(settings.length);
      expect(new Set(settings.map((s) => s.format))).toEqual(
        new Set(["tiff", "jpeg", "webp", "avif", "png"]),
      );
      const costs = settings.map((s) => expectedSeconds(s, pixels));
      expect(costs).toEqual([...costs].sort((a, b) => a - b));
      expect(Math.max(...costs)).toBeLessThan(15);
    }
  });

  it("leads from a size to the quality whose file is near it", () => {
    const size = (quality: number) => Math.exp(9 + quality * 0.03);
    const points = [50, 70, 82, 92, 97].map((quality) => ({ quality, bytes: size(quality) }));
    for (const quality of [50, 60, 75, 88, 95])
      expect(Math.abs(qualityFor("jpeg", points, size(quality), 1e6) - quality)).toBeLessThanOrEqual(4);
    for (const { quality, bytes } of points) expect(qualityFor("jpeg", points, bytes, 1e6)).toBe(quality);
    expect(qualityFor("avif", [], 50_000, 5e5)).toBeGreaterThan(1);
    expect(lineChoice("jpeg", 80, "4:4:4")).toMatchObject({ chroma: "4:4:4", table: 9 });
  });
});
