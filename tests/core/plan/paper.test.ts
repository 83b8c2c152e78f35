/** Pixels, paper and resolution as one sum, and what pixels are good for. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parseBrief, resolveBrief } from "@/core/brief";
import { askedPpi, planGeometry } from "@/core/geometry";
import { overrule } from "@/core/plan/disagreements";
import {
  actWords,
  balance,
  type Edit,
  inMemory,
  madeUp,
  megapixels,
  noLongerGoodFor,
  printSize,
  sumChange,
  sumOf,
  type Term,
} from "@/core/plan/paper";
import { lengthText } from "@/core/plan/paper/change";
import { largestPaper } from "@/core/plan/paper/readings";
import { TERMS } from "@/core/plan/paper/sum";

describe("the sum of three", () => {
  it("holds what people know of print", () => {
    // Common practice: 10 in at 300 ppi is 3000 px; 17 × 11 in at 400 ppi is 6800 × 4400 px.
    expect(
      balance(sumOf({ width: 2000, height: 1000 }, 300), "resolution", { term: "paper", width: 10 }).pixels,
    ).toEqual({ width: 3000, height: 1500 });
    expect(
      balance(sumOf({ width: 6800, height: 4400 }, 72), "pixels", { term: "resolution", ppi: 400 }).paper,
    ).toEqual({ width: 17, height: 11 });
    expect(
      balance(sumOf({ width: 6800, height: 4400 }, 72), "pixels", { term: "paper", width: 17 }).ppi,
    ).toBeCloseTo(400, 9);
    // 8.5 × 11 in at 300 ppi is 2550 × 3300 px (common practice).
    expect(
      balance(sumOf({ width: 255, height: 330 }, 30), "paper", { term: "resolution", ppi: 300 }).pixels,
    ).toEqual({ width: 2550, height: 3300 });
  });

  it("keeps the held term and adds up, whatever is changed", () => {
    const start = fc.record({
      width: fc.integer({ min: 10, max: 9000 }),
      height: fc.integer({ min: 10, max: 9000 }),
      ppi: fc.double({ min: 30, max: 1200, noNaN: true }),
    });
    const edit = fc.oneof(
      fc.record({ term: fc.constant("pixels" as const), width: fc.integer({ min: 1, max: 6000 }) }),
      fc.record({
        term: fc.constant("paper" as const),
        width: fc.double({ min: 0.5, max: 60, noNaN: true }),
      }),
      fc.record({
        term: fc.constant("resolution" as const),
        ppi: fc.double({ min: 30, max: 1200, noNaN: true }),
      }),
    );
    fc.assert(
      fc.property(start, fc.constantFrom<Term>(...TERMS), edit, ({ width, height, ppi }, held, change) => {
        const before = sumOf({ width, height }, ppi);
        if (change.term === held) return void expect(() => balance(before, held, change)).toThrow(/held/);
        let after: ReturnType<typeof balance>;
        try {
          after = balance(before, held, change);
        } catch (error) {
          return void expect((error as Error).message).toMatch(/^[A-Z].*\.$/);
        }
        if (held === "pixels") expect(after.pixels).toEqual(before.pixels);
        if (held === "resolution") expect(after.ppi).toBe(before.ppi);
        if (held === "paper") expect(after.paper.width).toBeCloseTo(before.paper.width, 6);
        // Whole pixels are up to half a pixel off.
        expect(Math.abs(after.paper.width * after.ppi - after.pixels.width)).toBeLessThanOrEqual(0.5 + 1e-6);
      }),
    );
  });

  const bad: [Edit, Term, RegExp][] = [
    [
      { term: "paper", width: 0 },
      "pixels",
      /^Paper goes from above 0 to 100 m; found 0 m\. Check the unit\.$/,
    ],
    [{ term: "paper", width: 4000 }, "pixels", /found 102 m/],
    [{ term: "paper", width: Number.NaN }, "pixels", /found none/],
    [{ term: "resolution", ppi: 0 }, "pixels", /^Resolution goes from above 0 to 100000 ppi; found 0\.$/],
    [{ term: "resolution", ppi: 100_001 }, "pixels", /found 100001/],
    [{ term: "pixels", width: 0 }, "paper", /0 px on a side; a file holds 1 to 65535/],
    [{ term: "paper", width: 300 }, "resolution", /makes 90000 px on a side/],
  ];
  it.each(bad)("%j with the %s held is refused in a sentence", (edit, held, words) =>
    expect(() => balance(sumOf({ width: 3000, height: 2000 }, 300), held, edit)).toThrow(words),
  );

  it("says so when the held term is changed", () => {
    const message = (held: Term, edit: Edit) => {
      try {
        balance(sumOf({ width: 30, height: 20 }, 300), held, edit);
        return "";
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect([
      message("pixels", { term: "pixels", width: 9 }),
      message("paper", { term: "paper", width: 9 }),
      message("resolution", { term: "resolution", ppi: 9 }),
    ]).toEqual([
      "The pixels are held. Hold another of the three to change them.",
      "The paper is held. Hold another of the three to change it.",
      "The resolution is held. Hold another of the three to change it.",
    ]);
  });

  it("becomes clauses that lead to the very same sum", () => {
    const photo = { width: 4000, height: 3000 };
    const cases: [Term, Edit][] = [
      ["pixels", { term: "resolution", ppi: 254 }],
      ["pixels", { term: "paper", width: 9 }],
      ["paper", { term: "resolution", ppi: 150 }],
      ["paper", { term: "pixels", width: 1600 }],
      ["resolution", { term: "pixels", width: 900 }],
      ["resolution", { term: "paper", width: 5.5 }],
    ];
    for (const size of [photo, { width: 3000, height: 4000 }]) {
      for (const [held, edit] of cases) {
        const sum = balance(sumOf(size, 300), held, edit);
        const old = held === "pixels" ? {} : { longSide: { max: 77 }, box: { width: 5, height: 5 } };
        const brief = parseBrief(
          overrule({ zumbrelBrief: 1, name: "b", ...old }, sumChange(sum, held, edit.term, "mm")),
        );
        const resolved = resolveBrief(brief);
        const out = planGeometry(resolved, size);
        expect([out.width, out.height]).toEqual([sum.pixels.width, sum.pixels.height]);
        expect(Math.abs(askedPpi(resolved, size, out, 72)! - sum.ppi)).toBeLessThan(0.2);
        if (held === "pixels") expect(brief.longSide ?? brief.width).toBeUndefined();
      }
    }
    expect([
      lengthText(1, "mm"),
      lengthText(2, "in"),
      lengthText(1, "pt"),
      lengthText(10 / 2.54, "cm"),
    ]).toEqual(["25.4mm", "2in", "72pt", "10cm"]);
  });
});

describe("readings", () => {
  it("say megapixels, memory and prints", () => {
    expect([
      megapixels({ width: 6000, height: 4000 }),
      megapixels({ width: 240, height: 300 }),
      megapixels({ width: 1640, height: 720 }),
    ]).toEqual(["24", "0.072", "1.18"]);
    expect([inMemory({ width: 1000, height: 1000 }), inMemory({ width: 1000, height: 1000 }, 16)]).toEqual([
      3_000_000, 6_000_000,
    ]);
    expect(printSize({ width: 3000, height: 2000 }, 300)).toBe("25.4 × 16.9 cm");
  });

  it("name the largest paper and what an output is no longer good for", () => {
    // ISO 216: A4 is 210 × 297 mm, 2480 × 3508 px at 300 ppi.
    expect([
      largestPaper({ width: 2480, height: 3508 }, 300),
      largestPaper({ width: 3508, height: 2480 }, 300),
      largestPaper({ width: 300, height: 200 }, 300),
    ]).toEqual(["A4", "A4", null]);
    expect(noLongerGoodFor({ width: 6000, height: 4000 }, { width: 1800, height: 1200 })).toBe(
      "Good for prints up to 10 × 15 cm in the hand; no longer for A3, as the photo was.",
    );
    expect(noLongerGoodFor({ width: 6000, height: 4000 }, { width: 600, height: 400 })).toMatch(
      /^Good for a screen; no longer for a print of A3/,
    );
    expect(noLongerGoodFor({ width: 600, height: 400 }, { width: 900, height: 600 })).toBeNull();
  });

  it("warn as soon as a side grows", () => {
    expect(madeUp({ width: 1000, height: 800 }, { width: 1000, height: 800 })).toBeNull();
    expect(madeUp({ width: 1000, height: 800 }, { width: 1001, height: 801 })).toContain(
      "1 of 100 pixels were never photographed",
    );
    expect(madeUp({ width: 1000, height: 800 }, { width: 2000, height: 1600 })).toBe(
      "Pixels are made up: each side grows 2 times, so 75 of 100 pixels were never photographed.",
    );
    expect(actWords("pixels", { width: 9, height: 9 }, { width: 4, height: 4 })).toContain(
      "the 4 × 4 px that the brief asks for",
    );
    expect([
      actWords("pixels", { width: 9, height: 9 }, { width: 9, height: 9 }),
      actWords("paper", { width: 9, height: 9 }, { width: 3, height: 3 }),
    ]).toEqual([expect.stringContaining("byte for byte"), "Makes new pixels: 9 × 9 become 3 × 3."]);
  });
});
