import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  cutsOf,
  layOut,
  type Piece,
  SHEETS,
  type Sheet,
  SheetError,
  type SheetTask,
} from "@/core/delivery/print-sheet";

const task = (change: Partial<SheetTask>): SheetTask => ({
  width: 100,
  height: 150,
  margin: 0,
  gap: 0,
  lines: "corners",
  mode: "fill",
  bleed: 0,
  copies: { a: 1 },
  ...change,
});
const piece = (width: number, height: number, id = "a"): Piece => ({ id, name: `${id}.jpg`, width, height });

/** No picture beyond the margins, none over another, at least the gap between. */
function sound({ width, height, placed }: Sheet, { margin, gap }: SheetTask): void {
  for (const one of placed) {
    expect(one.x).toBeGreaterThanOrEqual(margin - 0.02);
    expect(one.y).toBeGreaterThanOrEqual(margin - 0.02);
    expect(one.x + one.width).toBeLessThanOrEqual(width - margin + 0.02);
    expect(one.y + one.height).toBeLessThanOrEqual(height - margin + 0.02);
  }
  placed.forEach((a, i) => {
    for (const b of placed.slice(i + 1)) {
      const dx = Math.max(a.x - (b.x + b.width), b.x - (a.x + a.width));
      const dy = Math.max(a.y - (b.y + b.height), b.y - (a.y + a.height));
      expect(Math.max(dx, dy)).toBeGreaterThanOrEqual(gap - 0.02);
    }
  });
}

describe("sheets", () => {
  it("have the sizes of the standards", () => {
    const size = (key: string) => SHEETS.find((sheet) => sheet.key === key)!;
    // ISO 216: A4. ANSI/ASME Y14.1: A (Letter), 8.5 × 11 in.
    expect(size("a4")).toMatchObject({ width: 210, height: 297 });
    expect(size("letter").width / 25.4).toBeCloseTo(8.5, 6);
    expect(size("letter").height / 25.4).toBeCloseTo(11, 6);
  });
});

describe("filling a sheet", () => {
  it("puts eight portraits of 35 × 45 mm onto 10 × 15 cm (common practice), turned, since upright only six fit", () => {
    const [sheet] = layOut(task({}), [piece(35, 45)]);
    expect(sheet.placed).toHaveLength(8);
    sound(sheet, task({}));
  });

  it("still has eight with 2 mm between, and six with a margin of 5 mm and 3 mm between", () => {
    const wide = task({ gap: 2 });
    const [sheet] = layOut(wide, [piece(35, 45)]);
    expect(sheet.placed).toHaveLength(8);
    sound(sheet, wide);
    const narrow = task({ gap: 3, margin: 5 });
    sound(layOut(narrow, [piece(35, 45)])[0], narrow);
    expect(layOut(narrow, [piece(35, 45)])[0].placed.length).toBe(6);
  });

  it("uses what is left beside a grid for pictures that lie the other way", () => {
    // 60 × 40 on 100 × 100: a grid holds two, around the middle of the sheet four fit.
    const [sheet] = layOut(task({ width: 100, height: 100 }), [piece(60, 40)]);
    expect(sheet.placed).toHaveLength(4);
    expect(new Set(sheet.placed.map((one) => one.turned)).size).toBe(2);
    sound(sheet, task({ width: 100, height: 100 }));
  });

  it("takes ID-1 cards (ISO/IEC 7810: 85.60 × 53.98 mm) onto A4: eleven", () => {
    const a4 = task({ width: 210, height: 297 });
    const [sheet] = layOut(a4, [piece(85.6, 53.98)]);
    expect(sheet.placed.length).toBe(11);
    sound(sheet, a4);
  });

  it("is sound for any sizes, and holds as many of each as of the others", () => {
    const side = fc.integer({ min: 12, max: 90 });
    void fc.assert(
      fc.property(
        fc.array(fc.tuple(side, side), { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 0, max: 8 }),
        fc.integer({ min: 0, max: 10 }),
        (sizes, gap, margin) => {
          const pieces = sizes.map(([w, h], i) => piece(w, h, `p${i}`));
          const wanted = task({
            width: 210,
            height: 297,
            gap,
            margin,
            copies: Object.fromEntries(pieces.map((one) => [one.id, 1])),
          });
          let sheets: Sheet[];
          try {
            sheets = layOut(wanted, pieces);
          } catch (error) {
            expect(error).toBeInstanceOf(SheetError);
            return;
          }
          for (const sheet of sheets) sound(sheet, wanted);
        },
      ),
      { numRuns: 150 },
    );
  });
});

describe("very many", () => {
  it("small pictures on a huge sheet are laid out at once", () => {
    const huge = task({ width: 1900, height: 1900, gap: 1 });
    const start = performance.now();
    const [sheet] = layOut(huge, [piece(21, 13)]);
    // 1900 / (22 × 14) mm leave room for some 11,600; a plain grid holds 86 × 135.
    expect(sheet.placed.length).toBeGreaterThanOrEqual(86 * 135);
    expect(performance.now() - start).toBeLessThan(5000);
  });
});

describe("copies", () => {
  it("go onto as many sheets as they take, each as often as asked", () => {
    const wanted = task({ mode: "copies", copies: { a: 10, b: 3 } });
    const sheets = layOut(wanted, [piece(35, 45), piece(60, 80, "b")]);
    const all = sheets.flatMap((sheet) => sheet.placed.map((one) => one.id));
    expect(all.filter((id) => id === "a")).toHaveLength(10);
    expect(all.filter((id) => id === "b")).toHaveLength(3);
    sheets.forEach((sheet) => sound(sheet, wanted));
    expect(sheets.length).toBeLessThanOrEqual(3);
  });
});

describe("what cannot be laid out says why", () => {
  const cases: [string, Partial<SheetTask>, Piece[], RegExp][] = [
    [
      "a sheet smaller than the picture",
      {},
      [piece(120, 160)],
      /measures 120 × 160 mm, and the sheet of 100 × 150 mm/,
    ],
    ["a gap larger than the sheet", { gap: 151 }, [piece(35, 45)], /gap of 151 mm is larger than the sheet/],
    ["margins that leave nothing", { margin: 50 }, [piece(35, 45)], /Margins of 50 mm leave nothing/],
    ["nothing chosen", { copies: {} }, [piece(35, 45)], /No picture is chosen/],
    [
      "a bleed that leaves nothing",
      { mode: "single", bleed: 18 },
      [piece(35, 45)],
      /bleed of 18 mm on each side leaves nothing/,
    ],
    [
      "too many sheets",
      { mode: "copies", copies: { a: 500 }, width: 60, height: 50 },
      [piece(50, 45)],
      /take 500 sheets/,
    ],
  ];
  for (const [name, change, pieces, words] of cases)
    it(name, () => expect(() => layOut(task(change), pieces)).toThrow(words));
});

describe("cut lines", () => {
  it("never run through a picture", () => {
    for (const lines of ["corners", "across"] as const) {
      const wanted = task({ width: 210, height: 297, gap: 4, margin: 8, lines, copies: { a: 1, b: 1 } });
      const [sheet] = layOut(wanted, [piece(35, 45), piece(90, 60, "b")]);
      for (const cut of cutsOf(sheet, wanted)) {
        for (const t of [0.1, 0.5, 0.9]) {
          const [x, y] = [cut.x1 + (cut.x2 - cut.x1) * t, cut.y1 + (cut.y2 - cut.y1) * t];
          expect(
            sheet.placed.some(
              (one) =>
                x > one.x + 0.02 &&
                x < one.x + one.width - 0.02 &&
                y > one.y + 0.02 &&
                y < one.y + one.height - 0.02,
            ),
          ).toBe(false);
        }
      }
    }
  });

  it("of a single picture lie outside its bleed, at the trimmed edges: eight of them", () => {
    const wanted = task({ mode: "single", bleed: 3 });
    const [sheet] = layOut(wanted, [piece(106, 156)]);
    const cuts = cutsOf(sheet, wanted);
    expect(cuts).toHaveLength(8);
    const [one] = sheet.placed;
    for (const cut of cuts) {
      const outside =
        [cut.x1, cut.x2].every((x) => x < one.x || x > one.x + one.width) ||
        [cut.y1, cut.y2].every((y) => y < one.y || y > one.y + one.height);
      expect(outside).toBe(true);
    }
    expect(cuts.some((cut) => Math.abs(cut.y1 - (one.y + 3)) < 1e-9 && cut.y1 === cut.y2)).toBe(true);
  });
});
