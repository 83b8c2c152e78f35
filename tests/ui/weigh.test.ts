/** What panes look at, which lines the chart has, and how panes survive a reload. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Choice, settingKey, settingOf } from "@/core/coding";
import type { TrialView, WeighView } from "@/ui/api";
import { apart, byteTicks, heightAt, linesOf } from "@/ui/weigh/lines";
import {
  firstPanes,
  type PaneOf,
  paneName,
  pictureKey,
  readPanes,
  trialOf,
  writePanes,
} from "@/ui/weigh/panes";
import {
  fitZoom,
  held,
  inSight,
  MOST_ZOOM,
  place,
  stepZoom,
  tilesOf,
  viewOf,
  zoomAbout,
} from "@/ui/weigh/view";

const trial = (choice: Choice, bytes: number, difference: number | null): TrialView => {
  const setting = settingOf(choice, 800 * 600)!;
  return {
    key: settingKey(setting),
    size: { side: null, width: 800, height: 600 },
    setting,
    bytes,
    difference,
    worst: null,
    shift: null,
    ms: 10,
    kept: true,
  };
};
const jpeg = (quality: number): Choice => ({
  format: "jpeg",
  quality,
  chroma: "4:2:0",
  table: 9,
  effort: "careful",
});
const view: WeighView = {
  id: "a",
  geometry: { width: 800, height: 600 } as WeighView["geometry"],
  seenAs: null,
  sizes: [{ side: null, width: 800, height: 600, all: true }],
  original: { width: 4000, height: 3000 },
  sourceBytes: 2e6,
  formats: ["jpeg"],
  range: { min: null, max: 90_000 },
  chroma: "4:2:0",
  bits: 8 as const,
  packed: null,
  ways: [],
  ladder: 3,
  made: 3,
  error: null,
  choice: null,
  chosen: null,
  trials: [
    trial(jpeg(50), 40_000, 2),
    trial(jpeg(90), 160_000, 0.8),
    trial(jpeg(80), 80_000, 1.2),
    trial({ format: "webp", quality: 80 }, 60_000, null),
    trial({ format: "png", colours: null, level: 9 }, 900_000, 0),
    trial({ ...jpeg(85), thrift: 0.05 } as Choice, 99_000, 1),
  ],
};

describe("the view of the panes", () => {
  const size = fc.record({
    width: fc.integer({ min: 1, max: 9000 }),
    height: fc.integer({ min: 1, max: 9000 }),
  });
  const room = { width: 440, height: 640 };

  it("covers what is in sight with squares, at a level that is no coarser than the screen", () => {
    fc.assert(
      fc.property(
        size,
        fc.double({ min: 0.02, max: 32, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (output, zoom, share) => {
          const placed = place({
            view: { x: output.width * share, y: output.height * share, zoom },
            output,
            picture: output,
            pane: room,
            apparent: true,
          });
          expect(placed.scale * 2 ** placed.level).toBeLessThanOrEqual(Math.max(1, placed.scale) + 1e-6);
          const part = inSight(placed, output, room);
          expect(part.width).toBeGreaterThanOrEqual(0);
          expect(part.x + part.width).toBeLessThanOrEqual(Math.ceil(output.width / 2 ** placed.level));
          for (const at of tilesOf(part, placed.level))
            expect([
              at.x * 512 < part.x + part.width,
              at.y * 512 < part.y + part.height,
              (at.x + 1) * 512 > part.x,
            ]).toEqual([true, true, true]);
          // Never more than what the pane itself can show, and its edges.
          expect(tilesOf(part, placed.level).length).toBeLessThanOrEqual(12);
        },
      ),
    );
  });

  it("shows pictures of other pixels at the same apparent size, or each at its own", () => {
    const look = { x: 400, y: 300, zoom: 1 };
    expect(
      place({ view: look, output: view.geometry, picture: view.original, pane: room, apparent: true }),
    ).toMatchObject({ scale: 0.2, level: 2 });
    expect(
      place({ view: look, output: view.geometry, picture: view.original, pane: room, apparent: false }),
    ).toMatchObject({
      scale: 1,
      level: 0,
      left: 2000 - 220,
    });
  });

  it("zooms in steps up to 3200 % about the pointer, and keeps the middle on the picture", () => {
    let zoom = 0.1;
    for (let i = 0; i < 40; i += 1) zoom = stepZoom(zoom, 1, 0.1);
    expect(zoom).toBe(MOST_ZOOM);
    for (let i = 0; i < 40; i += 1) zoom = stepZoom(zoom, -1, 0.1);
    expect(zoom).toBeCloseTo(0.1);
    const at = { x: 120, y: -40 };
    const before = { x: 100, y: 80, zoom: 2 };
    const after = zoomAbout(before, 8, at);
    expect(after.x + at.x / after.zoom).toBeCloseTo(before.x + at.x / before.zoom);
    expect(held({ x: -5, y: 900, zoom: 1 }, view.geometry)).toEqual({ x: 0, y: 600, zoom: 1 });
    expect(fitZoom(view.geometry, { width: 400, height: 400 })).toBe(0.5);
    expect(viewOf({ x: 10, y: 10, width: 24, height: 24 }, room)).toEqual({ x: 22, y: 22, zoom: 8 });
    expect(viewOf({ x: 0, y: 0, width: 800, height: 600 }, room).zoom).toBe(1);
  });
});

describe("lines of the chart", () => {
  it("join trials of one kind, coarse to fine; others stand alone", () => {
    const lines = linesOf(view);
    expect(lines.map((line) => [line.format, line.points.map((p) => p.quality)])).toEqual([
      ["jpeg", [50, 80, 90]],
    ]);
    expect(heightAt(lines[0], 80_000)).toBeCloseTo(1.2);
    expect(heightAt(lines[0], 56_568)).toBeCloseTo(1.6, 2);
    expect([heightAt(lines[0], 30_000), heightAt(lines[0], 170_000)]).toEqual([null, null]);
  });

  it("stand over round figures", () => {
    expect(byteTicks(18_000, 260_000)).toEqual([20_000, 50_000, 100_000, 200_000]);
    expect(byteTicks(900, 2_000_000)).toEqual([1000, 3000, 10_000, 30_000, 100_000, 300_000, 1_000_000]);
    expect(byteTicks(6100, 7000)).toEqual([6100, 7000]);
  });
});

describe("panes", () => {
  it("survive the address, and what is no pane does not", () => {
    const panes: PaneOf[] = ["reference", "original", jpeg(70), { format: "webp", quality: null }];
    expect(readPanes(writePanes(panes))).toEqual(panes);
    for (const text of [null, "", "[]", '["reference"]', '["reference", {"format":"exe"}]', "{", '{"a":1}'])
      expect(readPanes(text), String(text)).toBeNull();
    expect(readPanes(JSON.stringify(Array(9).fill("reference")))).toHaveLength(6);
  });

  it("begin with what the plan takes, and name what they show", () => {
    expect(firstPanes({ ...view, chosen: view.trials[5].key })).toEqual([
      "reference",
      view.trials[5].setting,
    ]);
    expect(firstPanes(view)).toEqual(["reference", view.trials[0].setting]);
    expect(firstPanes({ ...view, trials: [] })).toEqual(["reference", "original"]);
    expect([
      trialOf(jpeg(80), view)?.bytes,
      trialOf(jpeg(81), view),
      trialOf("original", view),
      pictureKey({ aim: "clean" }, view),
    ]).toEqual([80_000, null, null, null]);
    expect([paneName("reference"), paneName("original"), paneName(jpeg(80))]).toEqual([
      "Before encoding",
      "The photo itself",
      "JPEG 4:2:0, 80",
    ]);
  });
});

describe("names of lines", () => {
  it("never lie on each other, and stay where they are where they do not", () => {
    expect(
      apart([
        { x: 10, y: 20 },
        { x: 80, y: 20 },
      ]),
    ).toEqual([
      { x: 10, y: 20 },
      { x: 80, y: 20 },
    ]);
    const place = fc.record({ x: fc.integer({ min: 0, max: 310 }), y: fc.integer({ min: 0, max: 230 }) });
    fc.assert(
      fc.property(fc.array(place, { maxLength: 6 }), (names) => {
        const out = apart(names);
        if (names.length) expect(out[0]).toEqual(names[0]);
        for (const [i, one] of out.entries())
          for (const other of out.slice(0, i))
            expect(Math.abs(one.x - other.x) >= 42 || Math.abs(one.y - other.y) >= 12).toBe(true);
      }),
    );
  });
});
