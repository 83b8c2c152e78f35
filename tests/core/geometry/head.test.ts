/** The head of a portrait: marks, and the frame that is worked out from them. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Brief, type BriefError, parseBrief, resolveBrief } from "@/core/brief";
import {
  type Editing,
  firstMarks,
  frameForHead,
  headOf,
  markAt,
  planGeometry,
  seenMarks,
} from "@/core/geometry";
import { CENTRED, type Frame, type Marks, turnedSize } from "@/core/photo";
import { findDisagreements } from "@/core/plan/disagreements";
import { checkFacts, type Facts } from "@/core/proof";

const brief = (rest: Partial<Brief>): Brief => ({ zumbrelBrief: 1, name: "Portrait", ...rest });
/**
 * ICAO Doc 9303 part 3 (and ISO/IEC 39794-5): crown to chin 70 to 80 % of a portrait of 45 mm, that is 32 to 36 mm.
 * From memory.
 */
const PASSPORT = brief({
  paper: { width: "35mm", height: "45mm" },
  resolution: { exact: "300ppi" },
  head: { height: { min: "32mm", max: "36mm" } },
});
const PHOTO = { width: 3000, height: 4000 };
const MARKS: Marks = { crown: { x: 0.5, y: 0.3 }, chin: { x: 0.5, y: 0.55 } };

const editing = (asked: Brief, photo = PHOTO): Editing => ({ brief: resolveBrief(asked), photo });
const framed = (asked: Brief, marks: Marks, photo = PHOTO, frame: Frame = CENTRED): Frame =>
  frameForHead(editing(asked, photo), { ...frame, marks });
function found(asked: Brief, frame: Frame, photo = PHOTO) {
  const resolved = resolveBrief(asked);
  return headOf(resolved, photo, frame, planGeometry(resolved, photo, frame));
}

describe("the frame for a marked head", () => {
  it("gives 32 to 36 mm of 45, in the middle of it, with the head in the middle of the width", () => {
    const frame = framed(PASSPORT, MARKS);
    expect(found(PASSPORT, frame).height).toBeCloseTo(34 / 45, 3);
    const { crop } = planGeometry(resolveBrief(PASSPORT), PHOTO, frame);
    expect(crop.x + crop.width / 2).toBeCloseTo(1500, 0);
    // Common practice: a little more below the chin than above the crown.
    const above = (0.3 * 4000 - crop.y) / crop.height;
    expect(above).toBeGreaterThan(0.07);
    expect(above).toBeLessThan(0.13);
  });

  it("takes per cent the same way as the lengths they are on 45 mm", () => {
    const shares = brief({ ...PASSPORT, head: { height: { min: "70%", max: "80%" } } });
    expect(found(shares, framed(shares, MARKS)).height).toBeCloseTo(0.75, 3);
  });

  it("puts the eyes where they are asked", () => {
    const eyes = brief({
      ...PASSPORT,
      head: { height: { min: "50%", max: "69%" }, eyes: { min: "56%", max: "69%" } },
    });
    const marks = { ...MARKS, eyes: { x: 0.5, y: 0.42 } };
    const at = found(eyes, framed(eyes, marks));
    expect(at.eyes).toBeCloseTo(0.625, 2);
    expect(at.height).toBeCloseTo(0.595, 2);
    const only = brief({ ...PASSPORT, head: { eyes: { min: "28mm", max: "30mm" } } });
    expect(found(only, framed(only, marks)).eyes).toBeCloseTo(29 / 45, 2);
  });

  it("keeps to the photo: near its edge the head is as large as is allowed", () => {
    // The crown is so near the upper edge that the middle of the range would need room above it.
    const near: Marks = { crown: { x: 0.5, y: 0.02 }, chin: { x: 0.5, y: 0.6 } };
    const at = found(PASSPORT, framed(PASSPORT, near));
    expect(at.height * 45).toBeGreaterThanOrEqual(32 - 0.05);
    expect(at.height * 45).toBeLessThanOrEqual(36 + 0.05);
    // A head that fills the photo cannot be made smaller; the nearest is shown, and the proof says no.
    const full: Marks = { crown: { x: 0.5, y: 0.01 }, chin: { x: 0.5, y: 0.99 } };
    const frame = framed(PASSPORT, full);
    expect(frame.zoom ?? 1).toBe(1);
    expect(check(PASSPORT, frame).ok).toBe(false);
  });

  it("never cuts the head off to reach what is asked of it", () => {
    // The eyes alone could be reached by cutting into the crown.
    const eyes = brief({
      ...PASSPORT,
      head: { height: { min: "32mm", max: "36mm" }, eyes: { min: "26mm", max: "30mm" } },
    });
    const marks: Marks = {
      crown: { x: 0.5, y: 0.05 },
      chin: { x: 0.5, y: 0.745 },
      eyes: { x: 0.5, y: 0.43 },
    };
    const at = found(eyes, framed(eyes, marks));
    expect(at.cut).toBe(0);
    expect(check(eyes, framed(eyes, marks)).ok).toBe(true);
    const moved = { ...framed(PASSPORT, MARKS), y: 1, zoom: 2 };
    expect(check(PASSPORT, moved)).toMatchObject({ ok: false, found: expect.stringContaining("cut off") });
  });

  it("begins with marks that hold under the frame as it is", () => {
    for (const asked of [
      PASSPORT,
      brief({
        ...PASSPORT,
        head: { height: { min: "32mm", max: "36mm" }, eyes: { min: "26mm", max: "30mm" } },
      }),
      brief({ ...PASSPORT, head: { eyes: { min: "60%" } } }),
    ]) {
      const marks = firstMarks(editing(asked), CENTRED);
      expect(check(asked, framed(asked, marks)).ok).toBe(true);
    }
  });

  it("holds for any photo, marks, turn and lean that leave room", () => {
    const share = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(
        fc.record({
          wide: fc.integer({ min: 1500, max: 6000 }),
          high: fc.integer({ min: 1500, max: 6000 }),
          x: share(0.45, 0.55),
          top: share(0.36, 0.4),
          size: share(0.1, 0.15),
          turn: fc.constantFrom(0 as const, 90 as const, 180 as const, 270 as const),
          angle: share(-8, 8),
        }),
        ({ wide, high, x, top, size, turn, angle }) => {
          const photo = { width: wide, height: high };
          const frame: Frame = { ...CENTRED, turn, angle };
          const seen = turnedSize(photo, frame);
          const at = (y: number) => markAt({ x: x * seen.width, y: y * seen.height }, photo, turn);
          const marks = { crown: at(top), chin: at(top + size) };
          const asked = framed(PASSPORT, marks, photo, frame);
          const share45 = found(PASSPORT, asked, photo).height * 45;
          return share45 > 31.9 && share45 < 36.1;
        },
      ),
    );
  });

  it("knows a mark again after a turn", () => {
    for (const turn of [0, 90, 180, 270] as const) {
      const seen = seenMarks(MARKS, PHOTO, { ...CENTRED, turn });
      const back = markAt(seen.crown, PHOTO, turn);
      expect(back.x).toBeCloseTo(0.5, 6);
      expect(back.y).toBeCloseTo(0.3, 6);
    }
  });

  it("refuses marks in the wrong order or at one place, in words", () => {
    for (const marks of [
      { crown: MARKS.chin, chin: MARKS.crown },
      { crown: MARKS.crown, chin: MARKS.crown },
    ])
      expect(() => framed(PASSPORT, marks)).toThrow("The chin has to lie below the crown.");
  });
});

const FACTS = {
  format: "jpeg",
  width: 413,
  height: 531,
  bytes: 40_000,
  resolution: [300, 300],
  resolutionStep: 0,
  privateData: [],
} as unknown as Facts;
const check = (asked: Brief, frame: Frame) =>
  checkFacts({
    brief: asked,
    resolved: resolveBrief(asked),
    facts: FACTS,
    before: { ...FACTS, ...PHOTO },
    frame,
  }).find(({ clause }) => clause === "head")!;

describe("the head in a proof", () => {
  it("is told as marked by the person, in millimetres and per cent", () => {
    const { ok, asked, found: words } = check(PASSPORT, framed(PASSPORT, MARKS));
    expect([ok, asked, words]).toEqual([
      true,
      "32 to 36 mm from crown to chin",
      "34 mm (75.6 %) high, as marked by you",
    ]);
  });

  it("claims nothing without marks, and nothing in lengths without paper", () => {
    expect(check(PASSPORT, CENTRED)).toMatchObject({ ok: null, gaveWay: false, found: "not marked yet" });
    const eyes = brief({ ...PASSPORT, head: { eyes: { min: "28mm" } } });
    expect(check(eyes, { ...CENTRED, marks: MARKS })).toMatchObject({
      ok: null,
      found: "the eyes are not marked yet",
    });
    const pixels = brief({ width: { exact: 413 }, height: { exact: 531 }, head: PASSPORT.head });
    expect(findDisagreements(pixels).map((one) => one.clauses)).toContainEqual(["head"]);
    expect(findDisagreements(PASSPORT).map((one) => one.clauses)).not.toContainEqual(["head"]);
  });

  it("is refused by name where the clause is no rule", () => {
    for (const [head, words] of [
      [{}, "head"],
      [{ height: {} }, "head.height"],
      [{ height: { min: "32" } }, "head.height.min"],
      [{ height: { min: "120%" } }, "head.height.min"],
      [{ eyes: { min: "80%", max: "70%" } }, "head.eyes"],
    ] as const)
      expect(() => parseBrief({ zumbrelBrief: 1, name: "x", head })).toThrow(
        expect.objectContaining({
          name: "BriefError",
          message: expect.stringContaining(words),
        }) as BriefError,
      );
  });
});
