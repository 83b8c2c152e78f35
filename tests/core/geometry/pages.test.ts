/** The page of a PDF, and what is told by pixels. */
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief, resolveBrief } from "@/core/brief";
import { pageFor, planGeometry, rescale } from "@/core/geometry";
import { inkSettingsOf, tidyFrame } from "@/core/photo";
import { verdictOf } from "@/core/plan";
import { asksSurround, checkPixels, type Facts, paperSize, surroundOf, surroundWords } from "@/core/proof";
import { borderOf, inkHolds, inkSeen, type SeenPixels } from "@/core/proof/pixels";

const brief = (change: Partial<Brief>): Brief => parseBrief({ zumbrelBrief: 1, name: "b", ...change });
const resolved = (change: Partial<Brief>) => resolveBrief(brief(change));
const MM = 25.4 / 72;

describe("the page of a PDF", () => {
  it("is the asked paper with all of the picture in its middle", () => {
    // ISO 216: A4, 210 × 297 mm.
    const { page, place } = pageFor(
      resolved({ format: ["pdf"], paper: { width: "210mm", height: "297mm" } }),
      { width: 1000, height: 1000 },
      { width: 1000, height: 1000 },
      null,
    );
    expect(page.width * MM).toBeCloseTo(210, 6);
    expect(page.height * MM).toBeCloseTo(297, 6);
    expect(place.width).toBeCloseTo(page.width, 6);
    expect(place.height).toBeCloseTo(page.width, 6);
    expect(place.y).toBeCloseTo((page.height - page.width) / 2, 6);
  });

  it("is turned with the picture, and as wide as asked where only that is asked", () => {
    const wide = pageFor(
      resolved({ format: ["pdf"], paper: { width: "210mm", height: "297mm" } }),
      { width: 1600, height: 900 },
      { width: 1600, height: 900 },
      null,
    );
    expect(wide.page.width).toBeGreaterThan(wide.page.height);
    const one = pageFor(
      resolved({ format: ["pdf"], paper: { width: "100mm" } }),
      { width: 800, height: 400 },
      { width: 800, height: 400 },
      null,
    );
    expect(one.page.height * MM).toBeCloseTo(50, 6);
  });

  it("without paper is as large as the picture at its resolution, 150 ppi where it has none", () => {
    expect(
      pageFor(resolved({ format: ["pdf"] }), { width: 600, height: 300 }, { width: 600, height: 300 }, 300)
        .page,
    ).toEqual({ width: 144, height: 72 });
    expect(
      pageFor(resolved({ format: ["pdf"] }), { width: 600, height: 300 }, { width: 600, height: 300 }, null)
        .page,
    ).toEqual({ width: 288, height: 144 });
  });

  it("asks no shape of the pixels, unless all of it has to be as dense as asked", () => {
    const photo = { width: 1600, height: 1000 };
    expect(
      planGeometry(resolved({ format: ["pdf"], paper: { width: "297mm", height: "210mm" } }), photo),
    ).toMatchObject({ width: 1600, height: 1000, cut: 0 });
    // 297 mm at 100 ppi: 1169 px; nothing is cut, background is added.
    expect(
      planGeometry(
        resolved({
          format: ["pdf"],
          paper: { width: "297mm", height: "210mm" },
          resolution: { exact: "100ppi" },
        }),
        photo,
      ),
    ).toMatchObject({ width: 1169, height: 827, cut: 0, mode: "pad" });
  });
});

describe("the size at which a file is printed", () => {
  it("is its page, else its pixels at its resolution, else at 300 ppi", () => {
    const facts = { width: 600, height: 900, resolution: [150, 150] } as Facts;
    expect(paperSize(facts).width).toBeCloseTo(101.6, 9);
    expect(paperSize(facts).height).toBeCloseTo(152.4, 9);
    expect(paperSize({ ...facts, resolution: null }).width).toBeCloseTo(50.8, 9);
    expect(paperSize({ ...facts, page: { width: 8, height: 10 } }).width).toBeCloseTo(203.2, 9);
  });
});

describe("a border", () => {
  it("lies inside exact pixels, and leaves a free shape to the photo", () => {
    const exact = planGeometry(
      resolved({ width: { exact: 100 }, height: { exact: 80 }, border: { px: 3, colour: "#000000" } }),
      { width: 1000, height: 800 },
    );
    expect(exact).toMatchObject({
      width: 100,
      height: 80,
      border: 3,
      place: { x: 3, y: 3, width: 94, height: 74 },
    });
    const free = planGeometry(resolved({ longSide: { exact: 300 }, border: { px: 10, colour: "#000000" } }), {
      width: 1200,
      height: 600,
    });
    expect(free).toMatchObject({ width: 300, height: 160, cut: 0, place: { width: 280, height: 140 } });
  });

  it("stays as wide when pixels are given up", () => {
    const wanted = resolved({ longSide: { max: 300 }, border: { px: 10, colour: "#000000" } });
    const photo = { width: 1200, height: 600 };
    const fewer = rescale({ brief: wanted, photo, from: planGeometry(wanted, photo), area: 0.5 })!;
    expect(fewer.border).toBe(10);
    expect(fewer.place).toMatchObject({ x: 10, y: 10, width: fewer.width - 20, height: fewer.height - 20 });
    expect(Math.abs(fewer.place.width / fewer.place.height - 2)).toBeLessThan(0.02);
  });
});

function pixels(
  width: number,
  height: number,
  paint: (x: number, y: number) => readonly number[],
): SeenPixels {
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) data.set(paint(x, y), (y * width + x) * 3);
  return { data, width, height, channels: 3 };
}

describe("what pixels tell", () => {
  const framed = (px: number, colour: readonly number[]) =>
    pixels(60, 40, (x, y) => (x < px || y < px || x >= 60 - px || y >= 40 - px ? colour : [120, 130, 140]));

  it("of a border: its colour and that it is whole", () => {
    expect(borderOf(framed(2, [10, 5, 8]), 2, "#000000")).toEqual({ found: "2 px, as asked", ok: true });
    expect(borderOf(framed(2, [200, 30, 30]), 2, "#000000").ok).toBe(false);
    // One side is missing.
    expect(
      borderOf(
        pixels(60, 40, (x, y) => (y < 2 || y >= 38 || x < 2 ? [0, 0, 0] : [220, 220, 220])),
        2,
        "#000000",
      ).ok,
    ).toBe(false);
    expect(
      checkPixels(
        brief({ border: { px: 2, colour: "#000000" }, wishes: ["border"] }),
        framed(1, [255, 255, 255]),
      ),
    ).toMatchObject([{ clause: "border", ok: null, gaveWay: true }]);
  });

  it("of ink: black on white, and nothing else", () => {
    const written = (ink: readonly number[], paper: readonly number[]) =>
      pixels(60, 40, (x, y) => (Math.abs(y - 20 - 8 * Math.sin(x / 6)) < 1.5 ? ink : paper));
    expect(inkHolds(inkSeen(written([12, 12, 12], [255, 255, 255])), "black")).toBe(true);
    expect(inkHolds(inkSeen(written([20, 30, 110], [255, 255, 255])), "black")).toBe(false);
    expect(inkHolds(inkSeen(written([20, 30, 110], [255, 255, 255])), "original")).toBe(true);
    expect(inkHolds(inkSeen(written([12, 12, 12], [200, 190, 150])), "black")).toBe(false);
    expect(inkHolds(inkSeen(pixels(60, 40, () => [255, 255, 255])), "black")).toBe(false);
    expect(checkPixels(brief({ ink: "black" }), written([20, 30, 110], [255, 255, 255]))[0]).toMatchObject({
      ok: false,
      asked: "black on white",
    });
  });

  it("of what lies around a portrait: lightness by CIE L*, and how even it is", () => {
    // L* of the sRGB code 119 is 50.03 (CIE 1976 by IEC 61966-2-1, worked out by hand).
    const { lightness, spread } = surroundOf(
      pixels(80, 100, (_, y) => (y > 60 ? [0, 0, 0] : [119, 119, 119])),
    );
    expect(lightness).toBeCloseTo(50.03, 1);
    expect(spread).toBeLessThan(0.01);
    expect(surroundWords({ lightness: 91.6, spread: 1.24 })).toBe(
      "The background along the top and the sides is light (92 of 100) and even (± 1.2).",
    );
    expect(surroundWords({ lightness: 30, spread: 12 })).toContain("dark (30 of 100) and uneven");
  });

  it("of it only where a portrait is asked", () => {
    expect(asksSurround(brief({ width: { exact: 240 }, height: { exact: 300 } }))).toBe(true);
    expect(asksSurround(brief({ width: { exact: 300 }, height: { exact: 240 } }))).toBe(false);
    expect(asksSurround(brief({ longSide: { max: 900 }, onlyYou: ["plain background, please"] }))).toBe(true);
    expect(asksSurround(brief({ width: { exact: 110 }, height: { exact: 160 }, ink: "black" }))).toBe(false);
  });
});

describe("a photo's own settings for ink", () => {
  it("stand in its frame, where equal ones have one spelling", () => {
    expect(tidyFrame({ x: 0.5, y: 0.5, ink: { strength: 70, margin: 12 } })).toEqual({
      x: 0.5,
      y: 0.5,
      ink: { strength: 70, margin: 12 },
    });
    expect(tidyFrame({ x: 0.5, y: 0.5, ink: { strength: 50, margin: 6 } })).toEqual({ x: 0.5, y: 0.5 });
    expect(inkSettingsOf({ x: 0.5, y: 0.5 })).toEqual({ strength: 50, margin: 6 });
  });
});

describe("the verdict on ink", () => {
  const input = {
    error: null,
    geometry: planGeometry(resolved({ width: { exact: 140 }, height: { exact: 60 } }), {
      width: 1400,
      height: 600,
    }),
    checks: [],
    passedThrough: false,
    told: [],
    accepted: false,
  };
  it("asks a person where it touches the edge or comes in groups, until that was looked at", () => {
    expect(verdictOf({ ...input, ink: { touches: true, groups: 1 } })).toEqual({
      state: "needs",
      reason: "the ink touches the edge",
    });
    expect(verdictOf({ ...input, ink: { touches: false, groups: 2 } })).toEqual({
      state: "needs",
      reason: "2 groups of strokes",
    });
    expect(verdictOf({ ...input, accepted: true, ink: { touches: true, groups: 2 } }).state).toBe("meets");
    expect(verdictOf({ ...input, ink: { touches: false, groups: 1 } }).state).toBe("meets");
  });
});
