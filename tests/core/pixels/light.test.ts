/** Light above white: PQ against its standards, the way up and the way back, what stays untouched, what is measured and shown. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { visibleDifference } from "@/core/difference";
import { DEFAULT_LIGHT } from "@/core/photo";
import {
  encodeWith,
  encodingTable,
  PQ_CURVE,
  PQ_PEAK,
  PQ_SPACES,
  pqFromLight,
  SPACES,
  SRGB_CURVE,
  toLinear,
  WHITE_NITS,
} from "@/core/pixels/colour";
import { pqToLight } from "@/core/pixels/colour/curve";
import { type Development, develop } from "@/core/pixels/develop";
import {
  aboveWhite,
  applyGain,
  compressor,
  expandLights,
  expansionOf,
  lightOnScreen,
  lightWords,
  meterLight,
  readoutWords,
} from "@/core/pixels/light";
import { timesWords } from "@/core/pixels/light/meter";
import { underWhite } from "@/core/pixels/light/shoulder";

describe("PQ", () => {
  it("has the signals of ITU-R BT.2408 (table 1) and the end points of SMPTE ST 2084", () => {
    // BT.2408-4, table 1: reference white, 203 cd/m², is 58 % signal; 18 % grey card, 26 cd/m², is 38 %.
    expect(pqFromLight(203 / 10_000)).toBeCloseTo(0.58, 2);
    expect(pqFromLight(26 / 10_000)).toBeCloseTo(0.38, 2);
    expect(pqFromLight(1)).toBe(1);
    // ST 2084 (and BT.2100, table 4): 100 cd/m² is 0.508 of the signal, 1000 cd/m² 0.752, 4000 cd/m² 0.903 (from memory, to three places).
    expect(pqFromLight(0.01)).toBeCloseTo(0.508, 3);
    expect(pqFromLight(0.1)).toBeCloseTo(0.752, 3);
    expect(pqFromLight(0.4)).toBeCloseTo(0.903, 3);
    expect(pqFromLight(0)).toBeLessThan(1e-5);
  });

  it("goes there and back, and through the table that pictures are written with, within a tenth of a ten-bit step", () => {
    const table = encodingTable(PQ_CURVE);
    fc.assert(
      fc.property(fc.double({ min: 1e-6, max: 1, noNaN: true }), (signal) => {
        const light = pqToLight(signal);
        expect(pqFromLight(light)).toBeCloseTo(signal, 6);
        expect(Math.abs(encodeWith(table, light) - signal)).toBeLessThan(signal < 0.02 ? 0.001 : 0.1 / 1023);
      }),
    );
  });

  it("has reference white at 1.0 in linear readouts", () => {
    const { light } = {
      light: meterLight({
        data: Uint16Array.from([1, 1, 1].map(() => Math.round(pqFromLight(WHITE_NITS / 10_000) * 65_535))),
        channels: 3,
      }),
    };
    expect(light.peak / WHITE_NITS).toBeCloseTo(1, 3);
    expect(PQ_SPACES["display-p3"].white).toBeCloseTo(1 / PQ_PEAK, 12);
  });
});

describe("the shoulder", () => {
  const shoulder = fc.record({
    start: fc.double({ min: 0.3, max: 0.9, noNaN: true }),
    peak: fc.double({ min: 1.2, max: 20, noNaN: true }),
  });
  it("brings light under white and takes it back to where it was; below its start nothing changes, and nothing is out of order", () => {
    fc.assert(
      fc.property(
        shoulder,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (s, u, v) => {
          const [low, high] = [Math.min(u, v) * s.peak, Math.max(u, v) * s.peak];
          const [a, b] = [underWhite(s, low), underWhite(s, high)];
          expect(a).toBeLessThanOrEqual(b + 1e-12);
          expect(b).toBeLessThanOrEqual(1);
          expect(aboveWhite(s, a)).toBeCloseTo(low, 5);
          if (low <= s.start) expect(a).toBe(low);
        },
      ),
    );
  });

  it("leaves its start with a slope of one, so that no edge shows", () => {
    const s = { start: 0.62, peak: 5 };
    const slope = (f: (light: number) => number, at: number) => (f(at + 1e-5) - f(at)) / 1e-5;
    expect(slope((v) => underWhite(s, v), s.start)).toBeCloseTo(1, 2);
    expect(slope((v) => aboveWhite(s, v), s.start)).toBeCloseTo(1, 2);
  });

  it("keeps hues: channels keep their shares", () => {
    const row = Float32Array.from([4, 2, 1, 1, 0.3, 0.2, 0.1, 1]);
    compressor(1, 5)(row);
    expect(row[0]).toBeLessThanOrEqual(1);
    expect(row[0] / row[1]).toBeCloseTo(2, 5);
    expect(row[1] / row[2]).toBeCloseTo(2, 5);
    expect([...row.subarray(4, 7)].map((v) => Number(v.toFixed(6)))).toEqual([0.3, 0.2, 0.1]);
  });
});

/** Ordinary 8-bit sRGB developed into light above white. */
function bright(
  codes: (x: number, y: number) => readonly [number, number, number],
  width: number,
  height: number,
  change: Partial<Development> = {},
) {
  const data = new Uint8Array(width * height * 3);
  for (let y = 0, p = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1, p += 3)
      data.set(
        codes(x, y).map((v) => Math.round(Math.min(255, Math.max(0, v)))),
        p,
      );
  const whole = { x: 0, y: 0, width, height };
  return develop(
    { data, width, height, channels: 3 },
    {
      from: SPACES.srgb,
      to: PQ_SPACES["display-p3"],
      orientation: 1,
      photo: { width, height },
      shown: whole,
      density: [1, 1],
      crop: whole,
      angle: 0,
      size: { width, height },
      kernel: null,
      sharpen: null,
      ppi: null,
      bits: 16,
      under: null,
      plain: true,
      expand: expansionOf(DEFAULT_LIGHT),
      ...change,
    },
  ).data as Uint16Array;
}
const times = (code: number) => pqToLight(code / 65_535) * PQ_PEAK;

describe("inverse tone mapping", () => {
  it("takes white to the peak, and leaves skin, mid-tones and shadows exactly where they are", () => {
    // Skin as it is photographed lies about 180 to 210 in its strongest channel (common practice).
    for (const [r, g, b] of [
      [205, 160, 140],
      [128, 128, 128],
      [40, 60, 30],
      [185, 185, 185],
      [0, 0, 0],
    ] as const) {
      const [with_, without] = [
        bright(() => [r, g, b], 40, 40),
        bright(() => [r, g, b], 40, 40, { expand: null }),
      ];
      expect(with_).toEqual(without);
    }
    const white = bright(() => [255, 255, 255], 40, 40);
    expect(times(white[0])).toBeCloseTo(4.9, 1);
    const plain = bright(() => [255, 255, 255], 40, 40, { expand: null });
    expect(times(plain[0])).toBeCloseTo(1, 3);
  });

  it("makes no bands of a smooth sky: no step is coarser than four of ten bits, where the curve alone would step by more than ten", () => {
    const width = 2600;
    const wide = bright(
      (x) => [175 + (80 * x) / width, 175 + (80 * x) / width, 175 + (80 * x) / width],
      width,
      24,
    );
    const row = (y: number) => Array.from({ length: width }, (_, x) => wide[(y * width + x) * 3 + 1] / 64);
    const steps = row(12)
      .slice(1)
      .map((v, x) => Math.abs(v - row(12)[x]));
    expect(Math.max(...steps.slice(8, -40))).toBeLessThan(4);
    const s = { start: toLinear(SRGB_CURVE, DEFAULT_LIGHT.start / 100), peak: DEFAULT_LIGHT.peak };
    const alone = Array.from(
      { length: 46 },
      (_, i) => pqFromLight(aboveWhite(s, toLinear(SRGB_CURVE, (210 + i) / 255)) / PQ_PEAK) * 1023,
    );
    expect(Math.max(...alone.slice(1).map((v, i) => v - alone[i]))).toBeGreaterThan(10);
    // From start to end it only grows, but for the grain of a step.
    const line = row(12);
    for (let x = 40; x < width - 60; x += 20) expect(line[x + 40]).toBeGreaterThanOrEqual(line[x] - 1);
  });

  it("does not spread noise: grain in a light sky, as a share of its light, is no stronger than before", () => {
    let seed = 7;
    const noise = () => ((seed = (seed * 1_103_515_245 + 12_345) & 0x7fffffff) / 0x7fffffff - 0.5) * 6;
    const grain = Float32Array.from({ length: 120 * 120 }, noise);
    const codes = (x: number, y: number) =>
      [232 + grain[y * 120 + x], 232 + grain[y * 120 + x], 232 + grain[y * 120 + x]] as const;
    const spread = (data: Uint16Array) => {
      const values = Array.from({ length: 80 * 80 }, (_, i) =>
        times(data[((20 + Math.floor(i / 80)) * 120 + 20 + (i % 80)) * 3]),
      );
      const mean = values.reduce((a, b) => a + b) / values.length;
      return Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length) / mean;
    };
    expect(spread(bright(codes, 120, 120))).toBeLessThanOrEqual(
      spread(bright(codes, 120, 120, { expand: null })) * 1.05,
    );
  });

  it("keeps what stands dark before the sun dark: no light spills over an edge", () => {
    const twig = (x: number) => x > 30 && x < 40;
    const codes = (x: number) => (twig(x) ? ([30, 25, 20] as const) : ([255, 250, 240] as const));
    const [with_, without] = [bright(codes, 80, 40), bright(codes, 80, 40, { expand: null })];
    for (let x = 32; x < 39; x += 1)
      expect(times(with_[(20 * 80 + x) * 3])).toBeCloseTo(times(without[(20 * 80 + x) * 3]), 4);
  });

  it("does nothing at strength 0, and more the stronger it is", () => {
    const at = (strength: number) =>
      times(
        bright(() => [250, 250, 250], 30, 30, { expand: expansionOf({ ...DEFAULT_LIGHT, strength }) })[0],
      );
    expect(at(0)).toBeCloseTo(toLinear(SRGB_CURVE, 250 / 255), 3);
    expect(at(40)).toBeGreaterThan(at(0) * 1.05);
    expect(at(100)).toBeGreaterThan(at(40) * 1.05);
  });

  it("does nothing where there is no light, without looking further", () => {
    const image = { data: Float32Array.from({ length: 400 }, () => 0.2), width: 10, height: 10 };
    const before = image.data.slice();
    expandLights(image, [0.2, 0.7, 0.1], 1, { strength: 1, start: 0.6, peak: 5 });
    expect(image.data).toEqual(before);
  });
});

describe("light that is there", () => {
  const samples = (top: number) => {
    const data = new Uint16Array(32 * 32 * 3).fill(8000);
    for (let i = 0; i < 300; i += 1) data[i] = top;
    return data;
  };
  const whole = { x: 0, y: 0, width: 32, height: 32 };
  const plan: Development = {
    from: {
      toXyz: SPACES.srgb.toXyz,
      curves: [
        { kind: "parametric", type: 0, parameters: [1] },
        { kind: "parametric", type: 0, parameters: [1] },
        { kind: "parametric", type: 0, parameters: [1] },
      ],
    },
    to: PQ_SPACES["display-p3"],
    peak: 4,
    reach: 3.5,
    orientation: 1,
    photo: { width: 32, height: 32 },
    shown: whole,
    density: [1, 1],
    crop: whole,
    angle: 0,
    size: { width: 32, height: 32 },
    kernel: null,
    sharpen: null,
    ppi: null,
    bits: 16,
    under: null,
    plain: true,
    expand: expansionOf(DEFAULT_LIGHT),
  };
  it("stays as it is where there is room, and is not lifted on top of it", () => {
    const out = develop({ data: samples(50_000), width: 32, height: 32, channels: 3 }, plan)
      .data as Uint16Array;
    expect(times(out[0])).toBeCloseTo((50_000 / 65_535) * 4, 2);
  });

  it("comes under white where there is none, and differs in order from what was less light", () => {
    const sdr = (top: number) =>
      develop(
        { data: samples(top), width: 32, height: 32, channels: 3 },
        { ...plan, to: SPACES.srgb, bits: 8 },
      ).data[0];
    expect(sdr(57_000)).toBeGreaterThanOrEqual(sdr(40_000));
    expect(sdr(40_000)).toBeGreaterThan(sdr(20_000));
    expect(sdr(57_000)).toBeLessThanOrEqual(255);
    expect(sdr(20_000)).toBeGreaterThan(225);
  });
});

describe("gain maps", () => {
  it("follow ISO 21496-1: (base + offset) × 2^gain − offset", () => {
    const base = { data: Uint8Array.from([255, 255, 255, 128, 128, 128]), width: 2, height: 1, channels: 3 };
    const map = { data: Uint8Array.from([255, 255]), width: 2, height: 1, channels: 1 };
    const { data, reach } = applyGain(
      base,
      map,
      { min: [0], max: [2], gamma: [1], offsetBase: [1 / 64], offsetLight: [1 / 64], capacity: 2 },
      SPACES.srgb,
    );
    expect(times(data[0])).toBeCloseTo((1 + 1 / 64) * 4 - 1 / 64, 1);
    expect(times(data[3])).toBeCloseTo((toLinear(SRGB_CURVE, 128 / 255) + 1 / 64) * 4 - 1 / 64, 2);
    expect(reach).toBeCloseTo(4.05, 2);
  });
});

describe("on screen and in words", () => {
  const code = (t: number) => Math.round(pqFromLight((t * WHITE_NITS) / 10_000) * 65_535);
  const pixels = Uint16Array.from([0.5, 1, 1.5, 3, 5].flatMap((t) => [code(t), code(t), code(t), 65_535]));
  it("shows the picture as ordinary screens do, dimmed to its peak, or what lies above white", () => {
    const shown = (view: "ordinary" | "dimmed" | "above") => [
      ...lightOnScreen(pixels, "display-p3", view, 5),
    ];
    const first = (view: "ordinary" | "dimmed" | "above") => shown(view).filter((_, i) => i % 4 === 0);
    // Below the shoulder an ordinary screen shows what an ordinary picture would say: 188 is half of white's light (IEC 61966-2-1).
    expect(first("ordinary")[0]).toBe(188);
    expect(first("ordinary")[4]).toBe(255);
    expect(first("dimmed")[4]).toBe(255);
    expect(first("dimmed")[1]).toBeLessThan(130);
    const above = shown("above");
    expect(above[0]).toBe(above[1]);
    expect(above.slice(8, 11)).not.toEqual(above.slice(12, 15));
    expect(above.slice(12, 15)).not.toEqual(above.slice(16, 19));
  });

  it("says multiples of white, stops and cd/m²", () => {
    expect(timesWords(4)).toBe("4.0 × white, 2.0 stops above it");
    expect(timesWords(0.5)).toBe("0.5 × white, 1.0 stops below it");
    expect(readoutWords([1, 0.5, 0.25])).toBe("1.00 0.50 0.25 × white, ±0.0 stops");
    expect(readoutWords([0.25, 4, 1])).toBe("0.25 4.00 1.00 × white, +2.0 stops");
    const { peak, average, above } = meterLight({ data: pixels.filter((_, i) => i % 4 !== 3), channels: 3 });
    expect(peak).toBeCloseTo(5 * WHITE_NITS, -1);
    expect(average).toBeCloseTo(((0.5 + 1 + 1.5 + 3 + 5) / 5) * WHITE_NITS, -1);
    expect(above).toBeCloseTo(0.6, 6);
    expect(lightWords({ peak, average, above })).toMatch(
      /^Light: at most 10\d\d cd\/m² \(5\.0 × white, 2\.3 stops above it\), 44\d on average; 60\.0 % of the picture/,
    );
  });
});

describe("visible difference in light above white", () => {
  it("is that of the same ordinary pictures where nothing lies above white", () => {
    const [width, height] = [64, 64];
    const at = (shift: number) =>
      Uint8Array.from({ length: width * height * 3 }, (_, i) => 90 + ((i * 31) % 50) + shift);
    const asPq = (codes: Uint8Array) =>
      codes.reduce(
        (out, c, i) => (
          (out[i] = Math.round(pqFromLight((toLinear(SRGB_CURVE, c / 255) * WHITE_NITS) / 10_000) * 65_535)),
          out
        ),
        new Uint16Array(codes.length),
      );
    const plain = visibleDifference(
      { data: at(0), width, height, channels: 3 },
      { data: at(6), width, height, channels: 3 },
    ).difference;
    const space = PQ_SPACES.srgb;
    const bright = visibleDifference(
      { data: asPq(at(0)), width, height, channels: 3, space },
      { data: asPq(at(6)), width, height, channels: 3, space },
    ).difference;
    expect(bright).toBeGreaterThan(0.2);
    expect(bright / plain).toBeGreaterThan(0.98);
    expect(bright / plain).toBeLessThan(1.02);
  });
});
