/** Dot screens: found where they are, not in photographs, cloth or ruled paper. */

import { Noise } from "@demo/noise";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { resolveBrief } from "@/core/brief";
import { planGeometry } from "@/core/geometry";
import { beatsWith, dotScreenWords, TILE, wholeScales } from "@/core/pixels/develop";
import { dotScreenPeriod } from "@/core/pixels/develop/dot-screen";
import { spectrum } from "@/core/pixels/develop/spectrum";
import { SPECTRUM_WASM } from "@/core/pixels/develop/spectrum-wasm";
import { findDisagreements, overrule } from "@/core/plan/disagreements";
import { compile } from "../../../scripts/wasm.mjs";
import { fit } from "../../support/fit";
import { pixels } from "../../support/photos";

/** Ink dots of a round-dot screen at an angle, their size by the tone of a soft picture (common practice in print). */
function dots(width: number, height: number, period: number, degrees: number, noise = 0): Uint8Array {
  const tone = new Noise(4);
  const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const out = new Uint8Array(width * height);
  for (let y = 0, i = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, i += 1) {
      const [u, v] = [
        ((x * cos + y * sin) / period) * 2 * Math.PI,
        ((-x * sin + y * cos) / period) * 2 * Math.PI,
      ];
      const ink = 0.5 + 0.35 * tone.fbm((x / width) * 3, (y / height) * 3, 3);
      const cell = (Math.cos(u) + Math.cos(v)) / 4 + 0.5;
      out[i] = Math.max(
        0,
        Math.min(
          255,
          128 + (cell - ink) * 500 + (noise ? (((i * 2_654_435_761) >>> 16) % noise) - noise / 2 : 0),
        ),
      );
    }
  }
  return out;
}

describe("the spectrum", () => {
  it("is compiled from the text that stands beside it", async () =>
    expect(await compile("spectrum")).toBe(SPECTRUM_WASM));

  it("is that of the discrete Fourier transform as it is defined", () => {
    const values = Float64Array.from({ length: TILE * TILE }, (_, i) => Math.sin(i * i * 0.37) * 100);
    const powers = spectrum(values);
    for (const [u, v] of [
      [0, 0],
      [1, 0],
      [0, 1],
      [37, 90],
      [-37, 90],
      [127, 128],
      [-100, 3],
    ]) {
      let [re, im] = [0, 0];
      for (let y = 0, i = 0; y < TILE; y += 1)
        for (let x = 0; x < TILE; x += 1, i += 1) {
          const angle = (-2 * Math.PI * (u * x + v * y)) / TILE;
          re += values[i] * Math.cos(angle);
          im += values[i] * Math.sin(angle);
        }
      const power = re * re + im * im;
      expect(powers[v * TILE + ((u + TILE) % TILE)] / power).toBeCloseTo(1, 6);
    }
  });
});

describe("dot screens", () => {
  it.each([
    [4, 45],
    [5.3, 15],
    [6, 0],
    [8.5, 75],
    [3, 45],
  ])("of %d px at %d degrees are found, and their period", (period, degrees) => {
    const found = dotScreenPeriod(dots(TILE, TILE, period, degrees, 30));
    expect(Math.abs(found! / period - 1)).toBeLessThan(0.04);
  });

  it("are not seen in photographs, noise, lines, edges and flat fields", () => {
    const grey = (data: ArrayLike<number>, channels: number) =>
      Float64Array.from({ length: TILE * TILE }, (_, i) => data[i * channels]);
    for (let seed = 1; seed <= 12; seed += 1)
      expect(dotScreenPeriod(grey(pixels(TILE, TILE, seed), 3))).toBeNull();
    const each = (at: (x: number, y: number) => number) =>
      Float64Array.from({ length: TILE * TILE }, (_, i) => at(i % TILE, Math.floor(i / TILE)));
    expect(dotScreenPeriod(each((x, y) => ((x * 7919 + y * 104_729) * 2_654_435_761) % 255))).toBeNull();
    expect(dotScreenPeriod(each((_, y) => (y % 9 < 2 ? 60 : 240)))).toBeNull();
    expect(dotScreenPeriod(each((x) => (x < 100 ? 20 : 230)))).toBeNull();
    expect(dotScreenPeriod(each((x, y) => (Math.hypot(x - 90, y - 130) < 60 ? 30 : 220)))).toBeNull();
    expect(dotScreenPeriod(each(() => 128))).toBeNull();
  });

  it("offer the scales at which the dots stay whole", () => {
    expect(wholeScales(6).map((s) => Math.round(s * 6000) / 6000)).toEqual(
      [5, 4, 3, 2].map((px) => Math.round((px / 6) * 6000) / 6000),
    );
    expect([beatsWith(6, 0.5), beatsWith(6, 0.45), beatsWith(6, 1.5), beatsWith(6, 0.1)]).toEqual([
      false,
      true,
      false,
      false,
    ]);
    expect(dotScreenWords(5.3)).toBe(
      "A regular pattern of about 5.3 px is in this photo, as of a dot screen: resized like this it can show moiré. At 94.3 %, 75.5 %, 56.6 % of its pixels the dots stay whole.",
    );
  });

  it("lead out of the danger: the offered scale does not beat any more", () => {
    const brief = { zumbrelBrief: 1 as const, name: "b", longSide: { max: 700 } };
    const [danger] = findDisagreements(brief, { width: 1200, height: 900 }, 6.1);
    expect(danger.why).toContain("moiré");
    for (const { change } of danger.choices) {
      const { scale } = planGeometry(resolveBrief(overrule(brief, change)), { width: 1200, height: 900 });
      expect(beatsWith(6.1, scale)).toBe(false);
    }
  });

  it("are told for real files, and not where the scale keeps them", async () => {
    const art = await sharp(dots(900, 700, 6, 45), { raw: { width: 900, height: 700, channels: 1 } })
      .toColourspace("b-w")
      .png()
      .toBuffer();
    const beating = await fit(art, { format: ["png"], longSide: { exact: 410 } });
    expect(beating.dotScreen).toBeCloseTo(6, 0);
    expect(beating.notes.join(" ")).toContain("dot screen");
    const whole = await fit(art, { format: ["png"], scale: "50%" });
    expect(whole.notes.join(" ")).not.toContain("dot screen");
    const jpeg = await sharp(art).resize(3600, 2800, { kernel: "nearest" }).jpeg({ quality: 90 }).toBuffer();
    expect((await fit(jpeg, { format: ["jpeg"], longSide: { exact: 400 } })).dotScreen).toBeCloseTo(24, -1);
  });
});
