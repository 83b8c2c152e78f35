/** Frames by hand: inside the photo whatever is done, and the first one by detail. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Brief, resolveBrief } from "@/core/brief";
import {
  canCut,
  canSwap,
  carried,
  centreAt,
  centreOf,
  detailMap,
  type Editing,
  leanTo,
  moveBy,
  planGeometry,
  proposeFrame,
  turnBy,
  widthTo,
  zoomBy,
} from "@/core/geometry";
import { DETAIL_CELLS, proposePosition } from "@/core/geometry/detail";
import {
  AUTO,
  CENTRED,
  type Frame,
  frameSchema,
  orientPixels,
  type QuarterTurn,
  tidyFrame,
  turnedSize,
  turnOrientation,
} from "@/core/photo";

const brief = (clauses: Partial<Brief>) => resolveBrief({ zumbrelBrief: 1, name: "b", ...clauses });
const editing = (clauses: Partial<Brief>, width = 4000, height = 3000): Editing => ({
  brief: brief(clauses),
  photo: { width, height },
});
/** 615 × 650 px from a wide photo: the exact crop that people cut by hand (common practice). */
const exact = editing({ width: { exact: 615 }, height: { exact: 650 } }, 3000, 1300);

/** The four corners of the used part, leaning, in the turned photo. */
function corners(e: Editing, frame: Frame): [number, number][] {
  const { crop, angle } = planGeometry(e.brief, e.photo, frame);
  const radians = ((angle ?? 0) * Math.PI) / 180;
  const [cx, cy] = [crop.x + crop.width / 2, crop.y + crop.height / 2];
  return [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ].map(([sx, sy]) => {
    const [u, v] = [(sx * crop.width) / 2, (sy * crop.height) / 2];
    return [
      cx + u * Math.cos(radians) - v * Math.sin(radians),
      cy + u * Math.sin(radians) + v * Math.cos(radians),
    ];
  });
}

describe("a frame by hand", () => {
  it("stays inside the photo and in the asked shape, whatever is done to it", () => {
    const step = fc.oneof(
      fc.tuple(
        fc.constant("move"),
        fc.integer({ min: -4000, max: 4000 }),
        fc.integer({ min: -4000, max: 4000 }),
      ),
      fc.tuple(fc.constant("zoom"), fc.double({ min: 0.2, max: 5, noNaN: true }), fc.constant(0)),
      fc.tuple(fc.constant("lean"), fc.double({ min: -60, max: 60, noNaN: true }), fc.constant(0)),
      fc.tuple(fc.constant("turn"), fc.constantFrom(90, -90), fc.constant(0)),
    );
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 8 }), (steps) => {
        let frame: Frame = CENTRED;
        for (const [kind, a, b] of steps as [string, number, number][]) {
          if (kind === "move") frame = moveBy(exact, frame, a, b);
          else if (kind === "zoom") frame = zoomBy(exact, frame, a);
          else if (kind === "lean") frame = leanTo(exact, frame, a);
          else frame = turnBy(exact, frame, a as 90);
        }
        expect(frameSchema.parse(frame)).toEqual(frame);
        const geometry = planGeometry(exact.brief, exact.photo, frame);
        expect([geometry.width, geometry.height]).toEqual([615, 650]);
        expect(geometry.crop.width / geometry.crop.height).toBeCloseTo(615 / 650, 6);
        const seen = turnedSize(exact.photo, frame);
        for (const [x, y] of corners(exact, frame)) {
          expect(x).toBeGreaterThan(-0.01);
          expect(y).toBeGreaterThan(-0.01);
          expect(x).toBeLessThan(seen.width + 0.01);
          expect(y).toBeLessThan(seen.height + 0.01);
        }
      }),
    );
  });

  it("moves by whole photo pixels, and comes back", () => {
    const at = (frame: Frame) => planGeometry(exact.brief, exact.photo, frame).crop.x;
    const start = at(CENTRED);
    expect(at(moveBy(exact, CENTRED, 1, 0)) - start).toBeCloseTo(1, 2);
    expect(at(moveBy(exact, moveBy(exact, CENTRED, 10, 0), -10, 0))).toBeCloseTo(start, 2);
    expect(at(moveBy(exact, CENTRED, 1e9, 1e9))).toBeCloseTo(3000 - 1230, 1);
  });

  it("keeps its centre while it comes closer or leans, and its place while it is turned", () => {
    const frame = centreAt(exact, zoomBy(exact, CENTRED, 3), 700, 500);
    const centre = (f: Frame) => centreOf(planGeometry(exact.brief, exact.photo, f));
    for (const changed of [zoomBy(exact, frame, 1.4), leanTo(exact, frame, 12), widthTo(exact, frame, 300)]) {
      expect(centre(changed).x).toBeCloseTo(700, 0);
      expect(centre(changed).y).toBeCloseTo(500, 0);
    }
    expect(planGeometry(exact.brief, exact.photo, widthTo(exact, frame, 300)).crop.width).toBeCloseTo(300, 0);
    const turned = turnBy(exact, frame, 90);
    expect(centre(turned)).toEqual({ x: expect.closeTo(1300 - 500, 0), y: expect.closeTo(700, 0) });
    expect(turnBy(exact, turned, -90)).toMatchObject({ zoom: frame.zoom, x: expect.closeTo(frame.x, 3) });
    let round = frame;
    for (let k = 0; k < 4; k += 1) round = turnBy(exact, round, 90);
    expect(round.turn).toBeUndefined();
  });

  it("cuts by hand only where the brief lets it", () => {
    expect([
      canCut(exact),
      canCut(editing({ longSide: { max: 900 } })),
      canCut(editing({ longSide: { max: 900 }, frame: "whole" })),
      canCut(editing({ frame: "pad" })),
    ]).toEqual([true, true, false, false]);
    const free = editing({ longSide: { max: 900 } });
    const closer = planGeometry(free.brief, free.photo, zoomBy(free, CENTRED, 2));
    expect([closer.width, closer.height, closer.cut]).toEqual([900, 675, expect.closeTo(0.75, 6)]);
    // Fewer pixels than asked at most: nothing is enlarged to reach a ceiling.
    expect(planGeometry(free.brief, free.photo, zoomBy(free, CENTRED, 10)).width).toBe(400);
  });

  it("stands the other way up where the brief leaves that open", () => {
    const box = editing({ box: { width: 1360, height: 800 } });
    expect([canSwap(box, CENTRED), canSwap(exact, CENTRED)]).toEqual([true, false]);
    const upright = planGeometry(box.brief, box.photo, { ...CENTRED, swap: true });
    expect([upright.width, upright.height]).toEqual([800, 1067]);
    const paper = editing({ paper: { width: "150mm", height: "100mm" }, resolution: { exact: "254ppi" } });
    expect(
      [
        planGeometry(paper.brief, paper.photo),
        planGeometry(paper.brief, paper.photo, { ...CENTRED, swap: true }),
      ].map((g) => [g.width, g.height]),
    ).toEqual([
      [1500, 1000],
      [1000, 1500],
    ]);
  });

  it("is carried to another photo without what belongs to this one", () => {
    expect(
      carried({
        x: 0.2,
        y: 0.3,
        zoom: 2,
        turn: 90,
        angle: 1,
        kernel: "nearest",
        takenAs: "oprgb",
        auto: true,
      }),
    ).toEqual({ x: 0.2, y: 0.3, zoom: 2, turn: 90, angle: 1 });
    expect(tidyFrame({ x: 0.5, y: 0.5, zoom: 1, turn: 0, angle: 0, swap: false, auto: false })).toEqual(
      CENTRED,
    );
  });
});

describe("quarter turns", () => {
  it("after any orientation are the same as turning the upright pixels", () => {
    const stored = { width: 3, height: 2 };
    const data = new Uint8Array([1, 2, 3, 4, 5, 6]);
    for (let orientation = 1; orientation <= 8; orientation += 1) {
      for (const turn of [0, 90, 180, 270] as QuarterTurn[]) {
        const upright = orientPixels(data, stored, 1, orientation);
        const size = orientation >= 5 ? { width: 2, height: 3 } : stored;
        // EXIF 6, 3 and 8 are the quarter turns of a picture that lies right.
        const twice = orientPixels(upright, size, 1, { 0: 1, 90: 6, 180: 3, 270: 8 }[turn]);
        expect([...orientPixels(data, stored, 1, turnOrientation(orientation, turn))]).toEqual([...twice]);
      }
    }
  });
});

describe("the first frame", () => {
  const grey = (at: (x: number, y: number) => number) => {
    const out = new Uint8Array(144 * 96);
    for (let y = 0, i = 0; y < 96; y += 1) for (let x = 0; x < 144; x += 1, i += 1) out[i] = at(x, y);
    return detailMap(out, { width: 144, height: 96 });
  };
  const checks = (x: number, y: number, left: number) =>
    x > left && x < left + 40 && y > 20 && y < 80 && (x + y) % 6 < 3 ? 220 : 90;
  const square = brief({ shape: "1:1" });
  const photo = { width: 3000, height: 2000 };

  it("goes to where the detail is", () => {
    const left = proposeFrame(
      square,
      photo,
      AUTO,
      grey((x, y) => checks(x, y, 4)),
    );
    const right = proposeFrame(
      square,
      photo,
      AUTO,
      grey((x, y) => checks(x, y, 100)),
    );
    expect(left.x).toBeLessThan(0.25);
    expect(right.x).toBeGreaterThan(0.75);
    expect(left.auto).toBe(true);
  });

  it("stays in the middle for even texture, noise and flat fields, and where somebody has set it", () => {
    expect(
      proposeFrame(
        square,
        photo,
        AUTO,
        grey(() => 128),
      ).x,
    ).toBe(0.5);
    expect(
      Math.abs(
        proposeFrame(
          square,
          photo,
          AUTO,
          grey((x, y) => ((x * 31 + y * 17) % 2 ? 150 : 90)),
        ).x - 0.5,
      ),
    ).toBeLessThan(0.2);
    const map = grey((x, y) => checks(x, y, 4));
    expect(proposeFrame(square, photo, CENTRED, map)).toEqual(CENTRED);
    expect(proposeFrame(brief({ longSide: { max: 100 } }), photo, AUTO, map)).toEqual(AUTO);
    expect(proposeFrame(square, photo, AUTO, null)).toEqual(AUTO);
    expect(
      proposePosition(new Array<number>(DETAIL_CELLS ** 2).fill(0), photo, { width: 100, height: 100 }),
    ).toEqual({ x: 0.5, y: 0.5 });
  });
});
