/** Pixels and quality chosen together, on a made-up encoder whose best choice is known. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief, resolveBrief } from "@/core/brief";
import {
  differenceLog,
  FULL_CHROMA,
  fitFormats,
  type Picture,
  priorLog,
  type Setting,
  viewWords,
} from "@/core/coding";
import { CLEAN } from "@/core/difference";
import { type Geometry, pixelsOf, planGeometry, viewGeometry } from "@/core/geometry";
import { CENTRED } from "@/core/photo";

/** A photograph beside the usual one. */
interface Model {
  /** Bytes at any quality, over the usual. */
  rich: number;
  /** Differences at any quality, over the usual. */
  seen: number;
  /** How much steeper than usual differences fall with quality. */
  tilt: number;
  /** Difference of halving the sides of what is looked at. */
  blur: number;
}

const HEAD = 420;
/** Annex K's quality that looks like one of table 7. */
const annexK = (s: Setting) =>
  "quality" in s ? Math.min(100, s.quality! + ("table" in s && s.table === 7 ? 9 : 0)) : 100;

/**
 * Bytes rise and differences fall with quality; fewer pixels than the view's lose detail. `share`: sides over those
 * at which it is looked at.
 */
function encoder(model: Model, pixels: number, share: number, made?: Setting[]): Picture {
  const chroma = (s: Setting) => ("chroma" in s && s.chroma) || "4:2:0";
  const code = (s: Setting) =>
    model.seen * Math.exp(model.tilt * (differenceLog(chroma(s), annexK(s)) - 0.5) + 0.5);
  const lost = share >= 1 ? 0 : model.blur * (1 / share - 1);
  return {
    pixels,
    flat: false,
    opaque: true,
    overhead: 500,
    encode: async (s) => {
      made?.push(s);
      const full = chroma(s) === "4:4:4" ? FULL_CHROMA : 0;
      return Math.round(500 + HEAD + model.rich * pixels * Math.exp(priorLog(annexK(s)) + full));
    },
    difference: async (s) => Math.hypot(code(s), lost),
    sample: async () => null,
    reduced: async (less) => encoder(model, pixels * less * less, share * less),
  };
}

const photo = { width: 6000, height: 4000 };

async function fit(clauses: Partial<Brief>, model: Model) {
  const brief = resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b", format: ["jpeg"], ...clauses }));
  const geometry = planGeometry(brief, photo);
  const view = viewGeometry({ brief, photo }, geometry);
  const made: { geometry: Geometry; setting: Setting }[] = [];
  const fitted = await fitFormats({
    brief,
    photo,
    frame: CENTRED,
    geometry,
    view,
    formats: brief.formats!,
    softCeiling: null,
    picture: async (at) => {
      const settings: Setting[] = [];
      const picture = encoder(model, pixelsOf(at), at.width / view.width, settings);
      return {
        ...picture,
        encode: async (setting) => {
          made.push({ geometry: at, setting });
          return picture.encode(setting);
        },
      };
    },
  });
  if (!fitted.ok) throw new Error(fitted.why);
  return { ...fitted, view, full: geometry, made };
}

const usual: Model = { rich: 1, seen: 1, tilt: 1, blur: 2 };

describe("pixels and quality, chosen together", () => {
  it("keeps all pixels where they are clean at their own 100 %", async () => {
    const { geometry, full, difference, gaveUp, told } = await fit({ fileSize: { max: "9MB" } }, usual);
    expect(pixelsOf(geometry)).toBe(pixelsOf(full));
    expect(difference).toBeLessThanOrEqual(CLEAN);
    expect([gaveUp, told]).toEqual([null, []]);
  });

  it("else keeps as many as stay clean, more than are looked at", async () => {
    const { geometry, view, full, difference, gaveUp, cleanFrom, bytes } = await fit(
      { fileSize: { max: "1.2MB" } },
      usual,
    );
    expect(pixelsOf(geometry)).toBeGreaterThan(pixelsOf(view));
    expect(pixelsOf(geometry)).toBeLessThan(pixelsOf(full));
    expect(difference).toBeLessThanOrEqual(CLEAN);
    expect(gaveUp).toBe("more of them would not stay clean under the ceiling of 1.20 MB");
    expect(cleanFrom).toBeGreaterThan(1_200_000);
    expect(bytes).toBeLessThanOrEqual(1_200_000);
  });

  it("else no more than are looked at, and tries what is hopeless on none of the others", async () => {
    const { geometry, view, made, gaveUp, told, cleanFrom } = await fit(
      { fileSize: { max: "200KB" } },
      usual,
    );
    expect(pixelsOf(geometry)).toBeLessThanOrEqual(pixelsOf(view));
    expect(made.every((one) => pixelsOf(one.geometry) <= pixelsOf(view))).toBe(true);
    expect(gaveUp).toMatch(/^seen whole on a screen of 1920 × 1080 px, /);
    expect(told.join()).toMatch(
      /^visible loss \(difference .*, because the ceiling of 200 kB forces it; from about/,
    );
    expect(cleanFrom).toBeGreaterThan(1_000_000);
  });

  it("ends near the least difference that any pair of pixels and quality has", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          rich: fc.double({ min: 0.5, max: 2, noNaN: true }),
          seen: fc.double({ min: 0.6, max: 1.5, noNaN: true }),
          tilt: fc.double({ min: 0.8, max: 1.25, noNaN: true }),
          blur: fc.double({ min: 0.8, max: 4, noNaN: true }),
        }),
        fc.integer({ min: 15, max: 150 }),
        async (model, kilobytes) => {
          const max = kilobytes * 1000;
          const { view, difference, bytes, geometry } = await fit({ fileSize: { max } }, model);
          expect(bytes).toBeLessThanOrEqual(max);
          expect(geometry.width % 2 || geometry.height % 2).toBe(0);
          let least = Infinity;
          for (let share = 1; share > 0.1; share *= 0.97)
            for (const chroma of ["4:2:0", "4:4:4"] as const) {
              const picture = encoder(model, pixelsOf(view) * share ** 2, share);
              for (let quality = 10; quality <= 100; quality += 1) {
                const setting = { format: "jpeg", quality, chroma, table: 2, effort: "careful" } as const;
                if ((await picture.encode(setting)) <= max)
                  least = Math.min(least, await picture.difference(setting));
              }
            }
          // Foretold from two trials of each size: a wrong number of pixels would cost far more.
          if (difference! > CLEAN) expect(difference!).toBeLessThanOrEqual(least * 1.15);
        },
      ),
      { numRuns: 40, seed: 17 },
    );
  });

  it("codes the whole picture a few times", async () => {
    const { encodes } = await fit({ fileSize: { max: "120KB" } }, usual);
    expect(encodes).toBeGreaterThanOrEqual(1);
    expect(encodes).toBeLessThanOrEqual(6);
  });

  it("stays above a floor of pixels, of bytes and of quality", async () => {
    const wide = await fit({ width: { min: 3000 }, fileSize: { max: "400KB" } }, usual);
    expect(wide.geometry.width).toBe(3000);
    const heavy = await fit({ fileSize: { min: "90KB", max: "110KB" } }, usual);
    expect(heavy.bytes).toBeGreaterThanOrEqual(92_160);
    const fine = await fit({ quality: { min: 80 }, fileSize: { max: "100KB" } }, usual);
    expect(fine.setting).toMatchObject({ table: 0 });
    expect("quality" in fine.setting && fine.setting.quality).toBeGreaterThanOrEqual(80);
  });
});

describe("the view", () => {
  const at = (clauses: Partial<Brief>, of = photo) => {
    const brief = resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b", ...clauses }));
    const { width, height } = viewGeometry({ brief, photo: of }, planGeometry(brief, of));
    return `${width} × ${height}`;
  };

  it("is what the brief says, else what follows from what it fixes", () => {
    expect(at({})).toBe("1620 × 1080");
    expect(at({}, { width: 4000, height: 6000 })).toBe("1080 × 1620");
    expect(at({ view: { screen: { width: 800, height: 1280 } } })).toBe("1200 × 800");
    expect(at({ view: "pixels" })).toBe("6000 × 4000");
    expect(at({ longSide: { exact: 3000 } })).toBe("3000 × 2000");
    expect(at({ longSide: { max: 3000 } })).toBe("1620 × 1080");
    expect(at({ sizes: [{ width: 2400, height: 1600 }] })).toBe("2400 × 1600");
    expect(at({ scale: "50%" })).toBe("3000 × 2000");
  });

  // 300 ppi at 29 cm is 60 px a degree, one minute of arc each: an eye of 20/20 (ISO 8596; common practice in print).
  it("of paper is its size at 300 ppi, unless its pixels are fixed", () => {
    expect(at({ paper: { width: "6in", height: "4in" } })).toBe("1800 × 1200");
    expect(at({ paper: { width: "4in", height: "6in" } })).toBe("1800 × 1200");
    expect(at({ paper: { width: "32mm", height: "42mm" } }, { width: 2560, height: 3837 })).toBe("378 × 496");
    expect(at({ paper: { width: "6in" }, resolution: { exact: "400ppi" } })).toBe("2400 × 1600");
    expect(at({ paper: { width: "6in" }, view: "screen" })).toBe("1620 × 1080");
    expect(at({ view: "paper" })).toBe("1620 × 1080");
  });

  it("is never larger than the photo, never under a floor, and bears the smallest and the largest paper", () => {
    expect(at({}, { width: 300, height: 200 })).toBe("300 × 200");
    expect(at({ view: { screen: { width: 8000, height: 8000 } } }, { width: 300, height: 200 })).toBe(
      "300 × 200",
    );
    expect(at({ shortSide: { min: 1500 } })).toBe("2250 × 1500");
    expect(at({ paper: { width: "1mm" } })).toBe("12 × 8");
    expect(at({ paper: { width: "1000cm" } })).toBe("6000 × 4000");
  });

  it("is refused by name where no screen is so small or so large", () => {
    for (const width of [0, 100_000])
      expect(() =>
        parseBrief({ zumbrelBrief: 1, name: "b", view: { screen: { width, height: 900 } } }),
      ).toThrow(/The brief's view.*found/);
  });

  it("is told in plain words", () => {
    expect(viewWords({ kind: "pixels" })).toBe("pixel by pixel, at 100 %");
    expect(viewWords({ kind: "paper" })).toBe("at its paper size, 300 ppi");
  });
});
