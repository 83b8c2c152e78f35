import fc from "fast-check";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief, resolveBrief } from "@/core/brief";
import { planGeometry, rescale } from "@/core/geometry";
import { orientPixels, toStored, uprightSize } from "@/core/photo";

const brief = (clauses: Partial<Brief>) =>
  resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b", ...clauses }));
const side = fc.integer({ min: 1, max: 5000 });

describe("geometry", () => {
  it("hits two exact sides to the pixel whatever the photo, and stays inside it", () => {
    fc.assert(
      fc.property(
        side,
        side,
        side,
        side,
        fc.constantFrom("fill", "pad", "stretch", "whole"),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (w, h, ow, oh, frame, at) => {
          const g = planGeometry(
            brief({ width: { exact: ow }, height: { exact: oh }, frame: frame as Brief["frame"] }),
            { width: w, height: h },
            { x: at, y: at },
          );
          expect([g.width, g.height]).toEqual([ow, oh]);
          for (const v of [g.place.x, g.place.y, g.place.width, g.place.height])
            expect(Number.isInteger(v)).toBe(true);
          expect(g.crop.x).toBeGreaterThanOrEqual(0);
          expect(g.crop.x + g.crop.width).toBeLessThanOrEqual(w + 1e-6);
          expect(g.crop.y + g.crop.height).toBeLessThanOrEqual(h + 1e-6);
          expect(g.place.x + g.place.width).toBeLessThanOrEqual(ow);
          if (frame === "fill" && g.mode === "fill")
            expect(g.crop.width / g.crop.height / (ow / oh)).toBeCloseTo(1, 6);
        },
      ),
    );
  });

  it("keeps the shape when one side rules, to within half a pixel", () => {
    fc.assert(
      fc.property(side, side, fc.integer({ min: 1, max: 3000 }), (w, h, max) => {
        const g = planGeometry(brief({ longSide: { max } }), { width: w, height: h });
        expect(Math.max(g.width, g.height)).toBe(Math.min(max, Math.max(w, h)));
        const scale = Math.max(g.width, g.height) / Math.max(w, h);
        expect(Math.min(g.width, g.height)).toBe(Math.max(1, Math.round(Math.min(w, h) * scale)));
      }),
    );
  });

  it("treats upright and wide photos alike on the longest side", () => {
    // Common practice: longest side 1000 px, the height of an upright picture and the width of a wide one.
    expect(planGeometry(brief({ longSide: { exact: 1000 } }), { width: 3000, height: 2000 })).toMatchObject({
      width: 1000,
      height: 667,
    });
    expect(planGeometry(brief({ longSide: { exact: 1000 } }), { width: 2000, height: 3000 })).toMatchObject({
      width: 667,
      height: 1000,
    });
  });

  it("says why, where a photo cannot take the sides", () => {
    expect(() =>
      planGeometry(brief({ width: { exact: 500 }, height: { max: 100 } }), { width: 1000, height: 1000 }),
    ).toThrow(/wrong shape/);
    expect(() =>
      planGeometry(brief({ width: { exact: 500 }, height: { exact: 500 }, enlarge: "never" }), {
        width: 100,
        height: 100,
      }),
    ).toThrow(/500 × 500 px are asked, the photo has 100 × 100/);
  });

  it("changes pixels only where they are free or wished", () => {
    const photo = { width: 4000, height: 3000 };
    const fixed = brief({ width: { exact: 400 }, height: { exact: 300 } });
    expect(rescale({ brief: fixed, photo, from: planGeometry(fixed, photo), area: 0.5 })).toBeNull();
    const wished = brief({ width: { exact: 400 }, height: { exact: 300 }, wishes: ["width", "height"] });
    expect(rescale({ brief: wished, photo, from: planGeometry(wished, photo), area: 4 })).toMatchObject({
      width: 800,
      height: 600,
    });
    const free = brief({ longSide: { max: 1000 } });
    const g = planGeometry(free, photo);
    expect(rescale({ brief: free, photo, from: g, area: 0.25 })).toMatchObject({ width: 500, height: 375 });
    expect(rescale({ brief: free, photo, from: g, area: 2 })).toBeNull();
  });
});

describe("EXIF orientation", () => {
  // CIPA DC-008, Orientation: which side of the stored picture row 0 and column 0 are. A 3 × 2 picture a..f seen upright:
  const stored = "abcdef";
  const upright: Record<number, string> = {
    1: "abcdef",
    2: "cbafed",
    3: "fedcba",
    4: "defabc",
    5: "adbecf",
    6: "daebfc",
    7: "fcebda",
    8: "cfbead",
  };
  const bytes = Uint8Array.from(stored, (c) => c.charCodeAt(0));

  it.each(Object.entries(upright))("turns value %s as the table says", (value, wanted) => {
    expect(String.fromCharCode(...orientPixels(bytes, { width: 3, height: 2 }, 1, Number(value)))).toBe(
      wanted,
    );
  });

  it.each([1, 2, 3, 4, 5, 6, 7, 8])(
    "agrees with the decoder library on value %i, and maps rectangles the same way",
    async (value) => {
      const [w, h] = [7, 5];
      const data = Uint8Array.from({ length: w * h * 3 }, (_, i) => (i * 37) % 251);
      const tagged = await sharp(data, { raw: { width: w, height: h, channels: 3 } })
        .withMetadata({ orientation: value })
        .png()
        .toBuffer();
      const theirs = await sharp(tagged).autoOrient().raw().toBuffer({ resolveWithObject: true });
      const ours = orientPixels(data, { width: w, height: h }, 3, value);
      const size = uprightSize({ width: w, height: h }, value);
      expect(size).toEqual({ width: theirs.info.width, height: theirs.info.height });
      expect(Buffer.from(ours).equals(theirs.data)).toBe(true);
      const rect = { x: 1, y: 2, width: 3, height: 2 };
      const cut = await sharp(data, { raw: { width: w, height: h, channels: 3 } })
        .extract(
          (({ x, y, width, height }) => ({ left: x, top: y, width, height }))(
            toStored(rect, { width: w, height: h }, value),
          ),
        )
        .raw()
        .toBuffer({ resolveWithObject: true });
      const wanted = await sharp(Buffer.from(ours), { raw: { ...size, channels: 3 } })
        .extract({ left: 1, top: 2, width: 3, height: 2 })
        .raw()
        .toBuffer();
      expect(Buffer.from(orientPixels(cut.data, cut.info, 3, value)).equals(wanted)).toBe(true);
    },
  );
});
