import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief, resolveBrief } from "@/core/brief";
import {
  askedPpi,
  comparedSizes,
  hasShape,
  holdsPaper,
  longSide,
  planGeometry,
  rescale,
  targetFor,
  withLongSide,
} from "@/core/geometry";

const brief = (clauses: Partial<Brief>) =>
  resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b", ...clauses }));
const WIDE = { width: 4000, height: 3000 };
const UPRIGHT = { width: 3000, height: 4000 };
const size = (clauses: Partial<Brief>, photo = WIDE) =>
  (({ width, height }) => [width, height])(planGeometry(brief(clauses), photo));
const side = fc.integer({ min: 40, max: 5000 });

describe("a long side of another length", () => {
  const clauses = fc.constantFrom<Partial<Brief>>(
    {},
    { shape: "3:2" },
    { shape: "1:1" },
    { border: { px: 12, colour: "#ffffff" } },
    { longSide: { max: 1800 } },
    { longSide: { min: 30 } },
  );
  it("comes out at the side that was named by it, so that a choice finds its pixels again", () => {
    fc.assert(
      fc.property(side, side, clauses, (width, height, rules) => {
        const viewing = { brief: brief(rules), photo: { width, height } };
        const full = planGeometry(viewing.brief, viewing.photo);
        const sizes = comparedSizes(viewing, full, full);
        for (const size of sizes) {
          expect(withLongSide(viewing, full, longSide(size))).toMatchObject({
            width: size.width,
            height: size.height,
          });
          expect(longSide(size)).toBeLessThan(longSide(full));
        }
        expect(withLongSide(viewing, full, longSide(full) + 1)).toBe(full);
      }),
    );
  });

  it("is not offered where the brief fixes the pixels", () => {
    const viewing = { brief: brief({ width: { exact: 400 }, height: { exact: 300 } }), photo: WIDE };
    const full = planGeometry(viewing.brief, viewing.photo);
    expect(comparedSizes(viewing, full, full)).toEqual([]);
  });
});

describe("sizes, box, shape and scale", () => {
  it("takes the size that the photo has already, else the first", () => {
    const sizes = [
      { width: 900, height: 500 },
      { width: 640, height: 360 },
    ];
    expect(size({ sizes }, { width: 640, height: 360 })).toEqual([640, 360]);
    expect(size({ sizes })).toEqual([900, 500]);
  });

  it("fits a box either way up, and never enlarges into it", () => {
    const box = { width: 1360, height: 768 };
    expect(size({ box })).toEqual([1024, 768]);
    expect(size({ box }, UPRIGHT)).toEqual([768, 1024]);
    expect(size({ box }, { width: 300, height: 200 })).toEqual([300, 200]);
  });

  it("cuts to a shape to within half a pixel, using as much of the photo as can be", () => {
    fc.assert(
      fc.property(
        side,
        side,
        fc.integer({ min: 1, max: 30 }),
        fc.integer({ min: 1, max: 30 }),
        (w, h, a, b) => {
          const g = planGeometry(brief({ shape: `${a}:${b}` }), { width: w, height: h });
          expect(hasShape(g.width, g.height, a / b)).toBe(true);
          expect(g.width <= w + 1 && g.height <= h + 1).toBe(true);
          expect(Math.abs(g.width - w) <= 1 || Math.abs(g.height - h) <= 1).toBe(true);
        },
      ),
    );
  });

  it("holds shape and a limit of pixels together", () => {
    expect(size({ shape: "16:9", longSide: { max: 1280 } })).toEqual([1280, 720]);
    expect(size({ shape: "1:1", width: { exact: 333 } }, UPRIGHT)).toEqual([333, 333]);
    expect(size({ shape: "4:5", frame: "pad" }, { width: 800, height: 500 })).toEqual([800, 1000]);
  });

  it("scales both sides, and enlarges only where the scale says so", () => {
    expect(size({ scale: "50%" }, { width: 1001, height: 501 })).toEqual([501, 251]);
    expect(size({ scale: "200 %" }, { width: 30, height: 20 })).toEqual([60, 40]);
  });
});

describe("paper, pixels and resolution", () => {
  it("agrees with published sizes", () => {
    // ISO 216: A4 is 210 × 297 mm; at 300 ppi 2480 × 3508 px (rounded, as published by print services: common practice).
    expect(
      size({ paper: { width: "210mm", height: "297mm" }, resolution: { exact: "300ppi" } }, UPRIGHT),
    ).toEqual([2480, 3508]);
    // ISO/IEC 19794-5 and ICAO Doc 9303: portraits of 35 × 45 mm; 413 × 531 px at 300 ppi (common practice).
    expect(
      size({ paper: { width: "35mm", height: "45mm" }, resolution: { exact: "300ppi" } }, UPRIGHT),
    ).toEqual([413, 531]);
    // Common practice: 10 in at 300 ppi is 3000 px, 17 × 11 in at 400 ppi is 6800 × 4400 px.
    expect(size({ paper: { width: "10in" }, resolution: { exact: "300ppi" } })[0]).toBe(3000);
    expect(size({ paper: { width: "17in", height: "11in" }, resolution: { exact: "400ppi" } })).toEqual([
      6800, 4400,
    ]);
  });

  it("turns the paper with the picture when no side is exact", () => {
    expect(
      size({ paper: { width: "60mm", height: "40mm" }, resolution: { exact: "254ppi" } }, UPRIGHT),
    ).toEqual([400, 600]);
    expect(size({ paper: { width: "60mm", height: "40mm" } }, UPRIGHT)).toEqual([2667, 4000]);
  });

  it("writes the density at which exact pixels are as long as the paper", () => {
    // The example of brief version 1: 240 × 300 px on 40 × 50 mm are 152.4 ppi.
    const portrait = brief({
      width: { exact: 240 },
      height: { exact: 300 },
      paper: { width: "40mm", height: "50mm" },
    });
    expect(askedPpi(portrait, UPRIGHT, { width: 240, height: 300 }, 72)).toBeCloseTo(152.4, 6);
    // Sides rounded to whole pixels always have a density that suits both.
    const mm = fc.integer({ min: 10, max: 400 });
    fc.assert(
      fc.property(mm, mm, fc.integer({ min: 72, max: 600 }), (a, b, ppi) => {
        const out = { width: Math.round((a / 25.4) * ppi), height: Math.round((b / 25.4) * ppi) };
        const asked = brief({
          width: { exact: out.width },
          height: { exact: out.height },
          paper: { width: `${a}mm`, height: `${b}mm` },
        });
        const { paper } = targetFor(asked, UPRIGHT);
        const written = askedPpi(asked, UPRIGHT, out, null)!;
        expect(holdsPaper(paper!, out, [written, written]), `${a} × ${b} mm at ${ppi}`).toBe(true);
      }),
    );
  });

  it("keeps to a range of resolutions, and is never far from the photo's own", () => {
    const b = brief({
      paper: { width: "100mm", height: "75mm" },
      resolution: { min: "200ppi", max: "400ppi" },
    });
    expect(planGeometry(b, WIDE).width).toBe(1575);
    expect(planGeometry(b, { width: 1200, height: 900 }).width).toBe(1200);
    // 787.4 × 590.6 px: the whole sides next to it that keep the shape.
    expect(planGeometry(b, { width: 400, height: 300 })).toMatchObject({ width: 788, height: 591 });
  });
});

describe("what gives way", () => {
  const lost = (clauses: Partial<Brief>, photo = WIDE) =>
    targetFor(brief(clauses), photo).lost.map(({ clause }) => clause);

  it("is the later clause of two demands, and the wish of two", () => {
    expect(lost({ width: { min: 500 }, longSide: { max: 400 } })).toEqual(["longSide"]);
    expect(lost({ width: { exact: 500 }, longSide: { max: 400 }, wishes: ["width"] })).toEqual(["width"]);
    // Common practice: 3.5 × 4.5 cm and 200 × 230 px are of different shape.
    expect(
      lost(
        { width: { exact: 200 }, height: { exact: 230 }, paper: { width: "3.5cm", height: "4.5cm" } },
        UPRIGHT,
      ),
    ).toEqual(["paper"]);
    expect(lost({ shape: "1:1", sizes: [{ width: 300, height: 200 }] })).toEqual(["shape"]);
    expect(
      lost({ width: { exact: 600 }, paper: { width: "50mm" }, resolution: { exact: "300ppi" } }),
    ).toEqual(["resolution"]);
  });

  it("lets wished pixels follow demanded paper", () => {
    const b = brief({
      width: { exact: 330 },
      height: { exact: 420 },
      paper: { width: "28mm", height: "35mm" },
      wishes: ["width", "height"],
    });
    const g = planGeometry(b, UPRIGHT);
    expect(g.width).toBe(330);
    expect(hasShape(g.width, g.height, 28 / 35)).toBe(true);
  });

  it("never breaks a demand that was accepted, whatever the brief", () => {
    const range = fc.oneof(
      side.map((exact) => ({ exact })),
      fc.tuple(side, side).map(([a, b]) => ({ min: Math.min(a, b), max: Math.max(a, b) })),
      side.map((max) => ({ max })),
      fc.constant(undefined),
    );
    const shape = fc.option(
      fc.tuple(fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: 20 })).map(([a, b]) => `${a}:${b}`),
      { nil: undefined },
    );
    fc.assert(
      fc.property(side, side, range, range, range, shape, (w, h, width, longSide, shortSide, form) => {
        const clauses = {
          ...(width && { width }),
          ...(longSide && { longSide }),
          ...(shortSide && { shortSide }),
          ...(form && { shape: form }),
          frame: "fill" as const,
          enlarge: "allow" as const,
        };
        const photo = { width: w, height: h };
        const target = targetFor(brief(clauses), photo);
        const g = planGeometry(brief(clauses), photo);
        expect(g.width).toBeGreaterThanOrEqual(Math.max(1, target.width.min));
        expect(g.width).toBeLessThanOrEqual(target.width.max);
        expect(g.height).toBeGreaterThanOrEqual(target.height.min);
        expect(g.height).toBeLessThanOrEqual(target.height.max);
        if (target.ratio !== null)
          expect(
            hasShape(g.width, g.height, target.ratio),
            JSON.stringify([clauses, photo, g.width, g.height]),
          ).toBe(true);
      }),
      { numRuns: 2000 },
    );
  });

  it("keeps the shape when pixels change for a file size", () => {
    const b = brief({ shape: "3:2" });
    const g = rescale({ brief: b, photo: WIDE, from: planGeometry(b, WIDE), area: 0.31 })!;
    expect(hasShape(g.width, g.height, 1.5)).toBe(true);
  });
});
