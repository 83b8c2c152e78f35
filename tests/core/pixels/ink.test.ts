import { describe, expect, it } from "vitest";
import { DEFAULT_INK } from "@/core/photo";
import { findInk, inkNotes, overlayInk, renderInk } from "@/core/pixels/ink";
import { otsu } from "@/core/pixels/ink/otsu";
import {
  BLACK_INK,
  BLUE_INK,
  CREAM,
  drawInk,
  GREY_INK,
  type InkPicture,
  type Sheet,
  score,
  WHITE,
} from "../../support/ink";

const plain: Sheet = { width: 1200, height: 700, paper: WHITE, ink: BLACK_INK, pen: 7, noise: 3 };

/** Adaptive thresholding as published: J. Sauvola, M. Pietikäinen, "Adaptive document image binarization", Pattern Recognition 33 (2000), 225–236; k and R as there. */
function sauvola({ data, width, height }: InkPicture, window = 31, k = 0.2, r = 128): Uint8Array {
  const sums = new Float64Array((width + 1) * (height + 1));
  const squares = new Float64Array((width + 1) * (height + 1));
  const grey = (i: number) => 0.3 * data[i * 3] + 0.59 * data[i * 3 + 1] + 0.11 * data[i * 3 + 2];
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const v = grey(y * width + x);
      const at = (y + 1) * (width + 1) + x + 1;
      sums[at] = v + sums[at - 1] + sums[at - width - 1] - sums[at - width - 2];
      squares[at] = v * v + squares[at - 1] + squares[at - width - 1] - squares[at - width - 2];
    }
  }
  const half = window >> 1;
  const out = new Uint8Array(width * height);
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const [l, t, rr, b] = [
        Math.max(0, x - half),
        Math.max(0, y - half),
        Math.min(width, x + half + 1),
        Math.min(height, y + half + 1),
      ];
      const n = (rr - l) * (b - t);
      const box = (table: Float64Array) =>
        table[b * (width + 1) + rr] -
        table[t * (width + 1) + rr] -
        table[b * (width + 1) + l] +
        table[t * (width + 1) + l];
      const mean = box(sums) / n;
      const deviation = Math.sqrt(Math.max(0, box(squares) / n - mean * mean));
      out[y * width + x] = grey(y * width + x) < mean * (1 + k * (deviation / r - 1)) ? 1 : 0;
    }
  }
  return out;
}

describe("the threshold of a histogram", () => {
  it("is the one that maximises the variance between both classes (Otsu 1979, eq. 18), by trying all", () => {
    const histogram = new Float64Array(256);
    for (let i = 0; i < 256; i += 1)
      histogram[i] =
        900 * Math.exp(-(((i - 60) / 14) ** 2)) + 300 * Math.exp(-(((i - 170) / 22) ** 2)) + (i % 3);
    const total = histogram.reduce((a, b) => a + b, 0);
    const between = (t: number) => {
      const [a, b] = [histogram.slice(0, t + 1), histogram.slice(t + 1)];
      const [na, nb] = [a.reduce((x, y) => x + y, 0), b.reduce((x, y) => x + y, 0)];
      const mean = (part: Float64Array, from: number, n: number) =>
        part.reduce((sum, v, i) => sum + v * (i + from), 0) / n;
      return (na / total) * (nb / total) * (mean(a, 0, na) - mean(b, t + 1, nb)) ** 2;
    };
    const best = Array.from({ length: 255 }, (_, t) => t).reduce((a, b) => (between(b) > between(a) ? b : a));
    expect(otsu(histogram)!.threshold).toBe(best);
    expect(otsu(histogram)!.separability).toBeGreaterThan(0.8);
  });

  it("is none where there is one value only", () => {
    expect(otsu([0, 0, 9, 0])).toBeNull();
    expect(otsu([])).toBeNull();
  });
});

describe("ink on paper, against a known mask", () => {
  const sheets: [string, Sheet][] = [
    ["plain paper", plain],
    ["light that falls off 3 to 1", { ...plain, light: 1 / 3 }],
    ["light 3 to 1, blue ink on tinted paper", { ...plain, light: 1 / 3, ink: BLUE_INK, paper: CREAM }],
    ["light 3 to 1, grey ink", { ...plain, light: 1 / 3, ink: GREY_INK }],
    ["a hard shadow and a crease", { ...plain, light: 0.6, shadow: true, crease: true }],
    ["ruled paper that slopes", { ...plain, light: 0.5, ruled: { every: 58, strength: 0.3, slope: 0.02 } }],
    ["dust", { ...plain, light: 0.5, specks: 300 }],
    ["a thin pen", { ...plain, pen: 3, light: 0.5 }],
    ["a thick marker", { ...plain, pen: 26, light: 1 / 3 }],
  ];
  for (const [name, sheet] of sheets) {
    it(`keeps at least 98 % of the ink and takes at most 0.5 % of the paper: ${name}`, () => {
      const picture = drawInk(sheet);
      const found = findInk(picture);
      const { kept, wrong } = score(picture.truth, (i) => found.cover[i] > 127);
      expect(kept).toBeGreaterThan(0.98);
      expect(wrong).toBeLessThan(0.005);
      expect(found.groups).toBe(1);
      expect(found.touches).toBe(false);
    });
  }

  it("takes no more of the paper than the published adaptive method does, and keeps as much of the ink", () => {
    for (const sheet of [
      plain,
      { ...plain, light: 1 / 3 },
      { ...plain, light: 0.6, shadow: true, crease: true },
    ]) {
      const picture = drawInk(sheet);
      const found = findInk(picture);
      const published = sauvola(picture);
      const [ours, theirs] = [
        score(picture.truth, (i) => found.cover[i] > 127),
        score(picture.truth, (i) => published[i] === 1),
      ];
      expect(ours.wrong).toBeLessThanOrEqual(theirs.wrong + 0.0005);
      expect(ours.kept).toBeGreaterThan(theirs.kept - 0.01);
    }
  });

  it("leaves out a line to sign on that is as dark as the ink, and keeps the strokes that cross it", () => {
    const picture = drawInk({
      ...plain,
      ruled: { every: 620, strength: 0.95, slope: 0.004 },
      at: [{ x: 0.5, y: 0.88, size: 0.6 }],
    });
    const found = findInk(picture);
    const { kept, wrong } = score(picture.truth, (i) => found.cover[i] > 127);
    expect(found.lines).toBeGreaterThan(0);
    expect(kept).toBeGreaterThan(0.95);
    expect(wrong).toBeLessThan(0.005);
  });

  it("has edges that are soft over about a pixel, and solid ink inside", () => {
    const found = findInk(drawInk({ ...plain, pen: 9 }));
    const solid = found.cover.reduce((n, v) => n + (v > 250 ? 1 : 0), 0);
    const soft = found.cover.reduce((n, v) => n + (v > 15 && v < 240 ? 1 : 0), 0);
    expect(soft).toBeGreaterThan(solid * 0.05);
    expect(soft).toBeLessThan(solid * 0.5);
    expect(found.stroke).toBeGreaterThan(6);
    expect(found.stroke).toBeLessThan(12);
  });

  it("takes more with more strength, less with less", () => {
    const picture = drawInk({ ...plain, noise: 2 });
    const amount = (strength: number) =>
      findInk(picture, { ...DEFAULT_INK, strength }).cover.reduce((sum, v) => sum + v, 0);
    expect(amount(10)).toBeLessThan(amount(50));
    expect(amount(50)).toBeLessThan(amount(90));
  });
});

describe("what is said about ink", () => {
  it("touches the edge, and comes in more than one group", () => {
    const cut = findInk(drawInk({ ...plain, at: [{ x: 0.1, y: 0.5, size: 0.5 }] }));
    expect(inkNotes(cut)[0]).toContain("touches the edge");
    const two = findInk(
      drawInk({
        ...plain,
        width: 1000,
        height: 1200,
        at: [
          { x: 0.5, y: 0.22, size: 0.6 },
          { x: 0.5, y: 0.78, size: 0.6 },
        ],
      }),
    );
    expect(two.groups).toBe(2);
    expect(inkNotes(two)[0]).toContain("2 groups");
  });

  it("refuses paper without ink, white on black, and what is no writing, in one sentence", () => {
    expect(() => findInk(drawInk({ ...plain, at: [] }))).toThrow(/Nothing .* looks like ink/);
    expect(() => findInk(drawInk({ ...plain, at: [], light: 1 / 3, crease: true }))).toThrow(
      /Nothing .* looks like ink/,
    );
    expect(() =>
      findInk(drawInk({ ...plain, paper: [0.02, 0.02, 0.02], ink: [0.9, 0.9, 0.9], noise: 1 })),
    ).toThrow(/white on black/);
    const shades = new Uint8Array(600 * 400 * 3).map(
      (_, i) => 128 + 90 * Math.sin(i / 977) * Math.cos(i / 31_337) + ((i * 2_654_435_761) % 17),
    );
    expect(() => findInk({ data: shades, width: 600, height: 400 })).toThrow(/Nothing .* looks like ink/);
  });

  it("works on a signature of 60 × 20 px", () => {
    const found = findInk(
      drawInk({
        width: 60,
        height: 20,
        paper: WHITE,
        ink: BLACK_INK,
        pen: 1.6,
        noise: 1,
        at: [{ x: 0.5, y: 0.5, size: 0.8 }],
      }),
    );
    expect(found.bounds.width).toBeGreaterThan(40);
  });
});

describe("the clean picture", () => {
  it("is black on white, cut to the ink with an even margin", () => {
    const found = findInk(drawInk({ ...plain, ink: BLUE_INK, light: 0.5 }));
    const { data, width, height } = renderInk(found, "black", 10);
    const around = Math.round(Math.max(found.bounds.width, found.bounds.height) * 0.1);
    expect([width, height]).toEqual([found.bounds.width + 2 * around, found.bounds.height + 2 * around]);
    const dark = (x: number, y: number) => data[(y * width + x) * 3] < 200;
    const rows = Array.from({ length: height }, (_, y) =>
      Array.from({ length: width }, (_, x) => dark(x, y)).some(Boolean),
    );
    const columns = Array.from({ length: width }, (_, x) =>
      Array.from({ length: height }, (_, y) => dark(x, y)).some(Boolean),
    );
    const edges = [
      rows.indexOf(true),
      height - 1 - rows.lastIndexOf(true),
      columns.indexOf(true),
      width - 1 - columns.lastIndexOf(true),
    ];
    for (const edge of edges) expect(Math.abs(edge - around)).toBeLessThanOrEqual(2);
    expect(data[0]).toBe(255);
    expect(data.includes(0)).toBe(true);
    for (let i = 0; i < data.length; i += 3 * 997) expect(data[i]).toBe(data[i + 2]);
  });

  it("keeps the ink's colour on request", () => {
    const found = findInk(drawInk({ ...plain, ink: BLUE_INK, light: 0.5 }));
    const [r, , b] = found.colour;
    expect(b).toBeGreaterThan(r + 50);
    const { data, width } = renderInk(found, "original", 5);
    const bluest = Array.from({ length: data.length / 3 }, (_, i) => data[i * 3 + 2] - data[i * 3]).reduce(
      (a, v) => Math.max(a, v),
      0,
    );
    expect(width).toBeGreaterThan(0);
    expect(bluest).toBeGreaterThan(50);
  });

  it("can be laid over the photo to be looked at", () => {
    const picture = drawInk(plain);
    const found = findInk(picture);
    const over = overlayInk(picture, found, [106, 44, 112]);
    const at = found.cover.indexOf(255);
    expect([...over.data.subarray(at * 3, at * 3 + 3)]).toEqual([106, 44, 112]);
    expect(over.data[0]).toBeGreaterThan(200);
  });
});
