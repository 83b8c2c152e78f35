/** Colour science against published tables and an independent library (culori). */
import { converter, differenceCiede2000, parse } from "culori";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  apply,
  between,
  encodeWith,
  encodingTable,
  invert,
  linearTable,
  multiply,
  type RgbName,
  readProfile,
  reportConversion,
  SPACES,
  SRGB_CURVE,
  type Triple,
  toLinear,
  writeGreyProfile,
  writeProfile,
} from "@/core/pixels/colour";
import { OPRGB_CURVE, ROMM_CURVE, srgbFromLinear } from "@/core/pixels/colour/curve";
import { deltaE2000, labFromXyz } from "@/core/pixels/colour/delta-e";
import { nameProfile } from "@/core/pixels/colour/profile";

/** Sharma, Wu and Dalal, "The CIEDE2000 Color-Difference Formula" (2005), table 1; typed from memory, all 34 pairs. */
const SHARMA: readonly (readonly [number, number, number, number, number, number, number])[] = [
  [50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425],
  [50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615],
  [50, 2.8361, -74.02, 50, 0, -82.7485, 3.4412],
  [50, -1.3802, -84.2814, 50, 0, -82.7485, 1],
  [50, -1.1848, -84.8006, 50, 0, -82.7485, 1],
  [50, -0.9009, -85.5211, 50, 0, -82.7485, 1],
  [50, 0, 0, 50, -1, 2, 2.3669],
  [50, -1, 2, 50, 0, 0, 2.3669],
  [50, 2.49, -0.001, 50, -2.49, 0.0009, 7.1792],
  [50, 2.49, -0.001, 50, -2.49, 0.001, 7.1792],
  [50, 2.49, -0.001, 50, -2.49, 0.0011, 7.2195],
  [50, 2.49, -0.001, 50, -2.49, 0.0012, 7.2195],
  [50, -0.001, 2.49, 50, 0.0009, -2.49, 4.8045],
  [50, -0.001, 2.49, 50, 0.001, -2.49, 4.8045],
  [50, -0.001, 2.49, 50, 0.0011, -2.49, 4.7461],
  [50, 2.5, 0, 50, 0, -2.5, 4.3065],
  [50, 2.5, 0, 73, 25, -18, 27.1492],
  [50, 2.5, 0, 61, -5, 29, 22.8977],
  [50, 2.5, 0, 56, -27, -3, 31.903],
  [50, 2.5, 0, 58, 24, 15, 19.4535],
  [50, 2.5, 0, 50, 3.1736, 0.5854, 1],
  [50, 2.5, 0, 50, 3.2972, 0, 1],
  [50, 2.5, 0, 50, 1.8634, 0.5757, 1],
  [50, 2.5, 0, 50, 3.2592, 0.335, 1],
  [60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644],
  [63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.263],
  [61.2901, 3.7196, -5.3901, 61.4292, 2.248, -4.962, 1.8731],
  [35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645],
  [22.7233, 20.0904, -46.694, 23.0331, 14.973, -42.5619, 2.0373],
  [36.4612, 47.858, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146],
  [90.8027, -2.0831, 1.441, 91.1528, -1.6435, 0.0447, 1.4441],
  [90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381],
  [6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377],
  [2.0776, 0.0795, -1.135, 0.9033, -0.0636, -0.5514, 0.9082],
];

describe("CIEDE2000", () => {
  it.each(SHARMA)("%d %d %d against %d %d %d is %d", (l1, a1, b1, l2, a2, b2, wanted) => {
    expect(deltaE2000([l1, a1, b1], [l2, a2, b2])).toBeCloseTo(wanted, 4);
    expect(deltaE2000([l2, a2, b2], [l1, a1, b1])).toBeCloseTo(wanted, 4);
  });

  it("is that of an independent library for any two colours", () => {
    const theirs = differenceCiede2000();
    const lab = fc.tuple(
      fc.double({ min: 0, max: 100, noNaN: true }),
      fc.double({ min: -110, max: 110, noNaN: true }),
      fc.double({ min: -110, max: 110, noNaN: true }),
    );
    fc.assert(
      fc.property(lab, lab, (one, two) => {
        // Opposite hues and no hue at all are where the formula jumps, and the last bit of a float decides.
        const turned = Math.atan2(one[2], one[1]) - Math.atan2(two[2], two[1]);
        fc.pre(
          Math.hypot(one[1], one[2]) > 0.01 &&
            Math.hypot(two[1], two[2]) > 0.01 &&
            Math.abs(Math.cos(turned) + 1) > 1e-4,
        );
        const reference = theirs(
          { mode: "lab65", l: one[0], a: one[1], b: one[2] },
          { mode: "lab65", l: two[0], a: two[1], b: two[2] },
        );
        expect(deltaE2000(one, two)).toBeCloseTo(reference, 5);
      }),
    );
  });
});

/** culori's names for the same standards: IEC 61966-2-5, ISO 22028-2, Display P3. */
const THEIRS = { oprgb: "a98", "romm-rgb": "prophoto", "display-p3": "p3" } as const;

describe("conversions", () => {
  it.each(Object.entries(THEIRS) as [keyof typeof THEIRS, "a98"][])(
    "from %s to sRGB are within 1 level of 8 bits of an independent library, inside the gamut",
    (name, mode) => {
      const toRgb = converter("rgb");
      const matrix = between(SPACES[name], SPACES.srgb);
      const table = encodingTable(SRGB_CURVE);
      let inside = 0;
      fc.assert(
        fc.property(
          fc.tuple(
            fc.integer({ min: 0, max: 255 }),
            fc.integer({ min: 0, max: 255 }),
            fc.integer({ min: 0, max: 255 }),
          ),
          (codes) => {
            const [r, g, b] = codes.map((v) => v / 255);
            const reference = toRgb({ mode, r, g, b });
            const linear = apply(
              matrix,
              codes.map((v, c) => toLinear(SPACES[name].curves[c], v / 255)) as unknown as Triple,
            );
            if ([reference.r, reference.g, reference.b].some((v) => v < 0 || v > 1)) return;
            inside += 1;
            const ours = linear.map((v) => Math.round(encodeWith(table, v) * 255));
            [reference.r, reference.g, reference.b].forEach((v, c) =>
              expect(Math.abs(ours[c] - v * 255)).toBeLessThanOrEqual(1),
            );
          },
        ),
        { numRuns: 2000 },
      );
      expect(inside).toBeGreaterThan(100);
    },
  );

  it("have white stay white and grey stay grey from every space to every other", () => {
    for (const from of Object.values(SPACES)) {
      for (const to of Object.values(SPACES)) {
        for (const level of [0.02, 0.18, 1])
          for (const v of apply(between(from, to), [level, level, level])) expect(v).toBeCloseTo(level, 4);
      }
    }
  });

  it("put the primaries of sRGB where CSS Color 4 has them in Lab under D50", () => {
    // An independent library's Lab is D50 as well (CSS Color 4, section 9.3).
    const toLab = converter("lab");
    for (const css of ["#ff0000", "#00ff00", "#0000ff", "#7a5c3e"]) {
      const rgb = parse(css) as { r: number; g: number; b: number };
      const reference = toLab(css)!;
      const lab = labFromXyz(
        apply(
          SPACES.srgb.toXyz,
          [rgb.r, rgb.g, rgb.b].map((v) => toLinear(SRGB_CURVE, v)) as unknown as Triple,
        ),
      );
      [reference.l, reference.a, reference.b].forEach((v, i) =>
        expect(Math.abs(lab[i] - v)).toBeLessThan(0.05),
      );
    }
  });
});

describe("curves", () => {
  it.each([
    ["sRGB", SRGB_CURVE],
    ["opRGB", OPRGB_CURVE],
    ["ROMM RGB", ROMM_CURVE],
  ] as const)("%s: each code of 8 and of 16 bits comes back", (_name, curve) => {
    const table = encodingTable(curve);
    for (const codes of [256, 65_536]) {
      const linear = linearTable(curve, codes);
      const changed = Array.from({ length: codes }, (_, i) => i).filter(
        (i) => Math.round(encodeWith(table, linear[i]) * (codes - 1)) !== i,
      );
      expect(changed).toEqual([]);
    }
  });

  it("follow IEC 61966-2-1: half of the light is code 188 of 255", () => {
    expect(Math.round(srgbFromLinear(0.5) * 255)).toBe(188);
    expect(toLinear(SRGB_CURVE, 0.04045)).toBeCloseTo(0.0031308, 6);
    expect(encodeWith(encodingTable(SRGB_CURVE), -1)).toBe(0);
    expect(encodeWith(encodingTable(SRGB_CURVE), Number.NaN)).toBe(0);
    expect(encodeWith(encodingTable(SRGB_CURVE), 7)).toBe(1);
  });

  it("are read from tables as well", () => {
    const table = { kind: "table" as const, values: [0, 0.25, 1] };
    expect([toLinear(table, 0), toLinear(table, 0.5), toLinear(table, 0.75), toLinear(table, 2)]).toEqual([
      0, 0.25, 0.625, 1,
    ]);
    const type4 = {
      kind: "parametric" as const,
      type: 4 as const,
      parameters: [2, 1, 0, 0.5, 0.25, 0.1, 0.05],
    };
    expect(toLinear(type4, 0.5)).toBeCloseTo(0.35, 9);
    expect(toLinear(type4, 0.1)).toBeCloseTo(0.1, 9);
  });
});

describe("profiles", () => {
  it.each(["srgb", "display-p3", "oprgb", "romm-rgb", "bt2020"] as RgbName[])(
    "of %s come back with their matrix and curve",
    (name) => {
      const profile = readProfile(writeProfile(name))!;
      expect(profile.name).toBe(name);
      profile.rgb!.toXyz.forEach((v, i) => expect(v).toBeCloseTo(SPACES[name].toXyz[i], 4));
      for (const x of [0.01, 0.2, 0.7])
        expect(toLinear(profile.rgb!.curves[1], x)).toBeCloseTo(toLinear(SPACES[name].curves[1], x), 4);
    },
  );

  it("of grey are told apart, and what is broken is none", () => {
    expect(readProfile(writeGreyProfile())).toMatchObject({ name: "gray", channels: 1 });
    const p3 = writeProfile("display-p3");
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: p3.length - 1 }),
        fc.integer({ min: 0, max: 255 }),
        (at, value) => {
          const bent = p3.slice();
          bent[at] = value;
          expect(() => readProfile(bent)).not.toThrow();
        },
      ),
    );
    fc.assert(
      fc.property(fc.integer({ min: 0, max: p3.length - 12 }), (length) => {
        expect(nameProfile(p3.slice(0, length))).toBeNull();
      }),
    );
  });

  it("need a matrix that can be turned round", () => {
    expect(invert([1, 2, 3, 2, 4, 6, 0, 0, 1])).toBeNull();
    const m = SPACES.srgb.toXyz;
    multiply(m, invert(m)!).forEach((v, i) => expect(v).toBeCloseTo(i % 4 === 0 ? 1 : 0, 9));
  });
});

describe("the report of a conversion", () => {
  it("counts what falls outside and how far it moves", () => {
    const inside = reportConversion(
      Float32Array.from([0.2, 0.2, 0.2, 0.4, 0.3, 0.2]),
      SPACES["display-p3"],
      SPACES.srgb,
    );
    expect(inside).toMatchObject({ outside: 0 });
    expect(inside.maxDelta).toBeLessThan(0.01);
    const red = reportConversion(
      Float32Array.from([1, 0, 0, 0.5, 0.5, 0.5]),
      SPACES["display-p3"],
      SPACES.srgb,
    );
    expect(red.outside).toBe(0.5);
    // The same pair in an independent library: pure red of Display P3 against pure red of sRGB.
    // (That library measures under D65; the formula is the same, so the Lab values under D50 are handed to it.)
    const d50 = (colour: { l: number; a: number; b: number }) => ({ ...colour, mode: "lab65" as const });
    const reference = differenceCiede2000()(
      d50(converter("lab")({ mode: "p3", r: 1, g: 0, b: 0 })),
      d50(converter("lab")("#ff0000")!),
    );
    expect(red.maxDelta).toBeCloseTo(reference, 1);
    expect(red.meanDelta).toBeCloseTo(red.maxDelta / 2, 3);
  });

  it("takes all colour from grey, but no lightness", () => {
    const grey = reportConversion(Float32Array.from([0.3, 0.3, 0.3]), SPACES.srgb, "gray");
    expect(grey.maxDelta).toBeLessThan(0.01);
    expect(reportConversion(Float32Array.from([0, 1, 0]), SPACES.srgb, "gray").maxDelta).toBeGreaterThan(20);
    expect(reportConversion(new Float32Array(0), SPACES.srgb, "gray")).toEqual({
      outside: 0,
      meanDelta: 0,
      maxDelta: 0,
    });
  });
});
