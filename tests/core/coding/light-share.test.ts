/** Bytes shared between a picture and the map of its light. */
import { describe, expect, it } from "vitest";
import { type MapKind, shareLight } from "@/core/coding";

/** A denser map takes more bytes and tells more; quality counts less than density, as it does in photographs. */
const look =
  (harm: number) =>
  async ({ shrink, quality }: MapKind) => ({
    bytes: (40_000 / shrink ** 1.5) * (quality / 60),
    difference: harm * shrink * (60 / quality) ** 0.2,
  });
/** Twice the bytes, 0.6 of the difference: usual for photographs. */
const ordinary = (ceiling: number) => (map: number) =>
  map >= ceiling ? 1e6 : 2 * ((ceiling - map) / 50_000) ** -0.74;

describe("a ceiling for a picture and its map", () => {
  it("gives the map less the less there is, and the least where it is hardly seen", async () => {
    const dense = await shareLight({ pixels: 1e6, look: look(1), ordinary: ordinary(800_000) });
    const middle = await shareLight({ pixels: 1e6, look: look(1), ordinary: ordinary(100_000) });
    const coarse = await shareLight({ pixels: 1e6, look: look(0.1), ordinary: ordinary(30_000) });
    expect(dense.shrink).toBe(1);
    expect(middle.shrink).toBeGreaterThan(dense.shrink);
    expect(coarse).toEqual({ shrink: 8, quality: 30 });
  });

  it("is never worse on both screens together than any other kind that it tried", async () => {
    for (const [harm, ceiling] of [
      [0.2, 20_000],
      [0.6, 60_000],
      [2, 60_000],
      [2, 300_000],
    ]) {
      const tried: { kind: MapKind; cost: number }[] = [];
      const seen = ordinary(ceiling);
      const kind = await shareLight({
        pixels: 1e6,
        look: async (asked) => {
          const answer = await look(harm)(asked);
          const own = seen(answer.bytes);
          tried.push({ kind: asked, cost: own + Math.cbrt(own ** 3 + answer.difference ** 3) });
          return answer;
        },
        ordinary: seen,
      });
      expect(tried).toHaveLength(6);
      expect(kind).toEqual(tried.sort((a, b) => a.cost - b.cost)[0].kind);
    }
  });

  it("is no larger than is worth decoding for a large picture", async () => {
    const large = await shareLight({ pixels: 24e6, look: look(3), ordinary: null });
    expect(large).toEqual({ shrink: 2, quality: 85 });
  });

  it("takes the smallest that is hardly seen where nothing bounds the file, and the closest where none is", async () => {
    const hardly = await shareLight({ pixels: 1e6, look: look(0.1), ordinary: null });
    expect(hardly.shrink).toBe(4);
    const edges = await shareLight({ pixels: 1e6, look: look(3), ordinary: null });
    expect(edges).toEqual({ shrink: 1, quality: 85 });
  });
});
