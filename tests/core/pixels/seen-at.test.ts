/** A finished picture at another size: nothing moves, light is averaged as light, and depth and transparency stay. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { seenAt } from "@/core/pixels/resample";

const picture = (width: number, height: number, at: (x: number, y: number) => readonly number[]) => {
  const channels = at(0, 0).length;
  const data = new Uint8Array(width * height * channels);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) data.set(at(x, y), (y * width + x) * channels);
  return { data, width, height, channels };
};

/** Where a light spot on black has its middle, as a share of both sides. */
function middle({ data, width, height, channels }: ReturnType<typeof picture>): [number, number] {
  let [sum, x, y] = [0, 0, 0];
  for (let i = 0; i < width * height; i += 1) {
    const value = data[i * channels];
    sum += value;
    x += value * ((i % width) + 0.5);
    y += value * (Math.floor(i / width) + 0.5);
  }
  return [x / sum / width, y / sum / height];
}

describe("a picture as it is seen at another size", () => {
  it("has nothing moved: a spot keeps its place to a tenth of a pixel, enlarged or reduced", () => {
    const spot = picture(40, 30, (x, y) => {
      const value = Math.round(220 * Math.exp(-((x - 22) ** 2 + (y - 13) ** 2) / 18));
      return [value, value, value];
    });
    const [x, y] = middle(spot);
    for (const [width, height] of [
      [44, 33],
      [50, 38],
      [80, 60],
      [120, 91],
    ]) {
      const [u, v] = middle(seenAt(spot, { width, height }));
      expect(Math.abs(u - x) * width).toBeLessThan(0.1);
      expect(Math.abs(v - y) * height).toBeLessThan(0.1);
    }
    // Averaged as light a spot's sum is not that of its codes, but its mirror image is still its mirror image.
    const mirrored = picture(40, 30, (px, py) => [
      ...spot.data.subarray((py * 40 + 39 - px) * 3, (py * 40 + 39 - px) * 3 + 3),
    ]);
    const [one, other] = [spot, mirrored].map((p) => seenAt(p, { width: 23, height: 17 }));
    for (let py = 0; py < 17; py += 1)
      for (let px = 0; px < 23; px += 1)
        expect(
          Math.abs(one.data[(py * 23 + px) * 3] - other.data[(py * 23 + 22 - px) * 3]),
        ).toBeLessThanOrEqual(1);
  });

  // IEC 61966-2-1: half the light of white has code 188.
  it("averages light when it reduces", () => {
    const board = picture(64, 64, (x, y) => ((x + y) % 2 ? [255, 255, 255] : [0, 0, 0]));
    const { data } = seenAt(board, { width: 16, height: 16 });
    expect(data[(8 * 16 + 8) * 3]).toBeGreaterThanOrEqual(187);
    expect(data[(8 * 16 + 8) * 3]).toBeLessThanOrEqual(189);
  });

  it("keeps what is even even, in any channels and both depths", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 0, max: 255 }),
        (width, height, w, h, channels, value) => {
          const pixel = Array.from({ length: channels }, (_, c) =>
            channels % 2 || c < channels - 1 ? value : 255,
          );
          const even = picture(width, height, () => pixel);
          const out = seenAt(even, { width: w, height: h });
          expect(out.data.length).toBe(w * h * channels);
          expect(out.data.every((v, i) => Math.abs(v - pixel[i % channels]) <= 1)).toBe(true);
          const deep = { ...even, data: Uint16Array.from(even.data, (v) => v * 257) };
          expect(seenAt(deep, { width: w, height: h }).data).toBeInstanceOf(Uint16Array);
        },
      ),
      { numRuns: 60 },
    );
  });

  it("is the same picture at its own size", () => {
    const own = picture(5, 4, (x) => [x]);
    expect(seenAt(own, { width: 5, height: 4 })).toBe(own);
  });
});
