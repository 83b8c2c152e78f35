/**
 * The light that a gain map adds to its picture. Source: ISO 21496-1, clause 6, with the map counting in
 * full.
 */

import type { GainMap } from "../../containers";
import { linearTable, PQ_PEAK, pqFromLight, type RgbSpace } from "../colour";

/** Codes, 1 or 3 channels; those of a map have 8 bits. */
interface Codes {
  data: Uint8Array | Uint8ClampedArray | Uint16Array;
  width: number;
  height: number;
  channels: number;
}

const STEPS = 4096;

/**
 * PQ signals of 16 bits, three channels, in the picture's own primaries; and the multiples of white that
 * they reach.
 */
export function applyGain(
  base: Codes,
  map: Codes,
  { min, max, gamma, offsetBase, offsetLight }: Omit<GainMap, "jpeg">,
  { curves }: RgbSpace,
): { data: Uint16Array; reach: number } {
  const of = (values: readonly number[], c: number) => values[Math.min(values.length - 1, c)];
  const top = base.data instanceof Uint16Array ? 65_535 : 255;
  const linear = curves.map((curve) => linearTable(curve, top + 1, top));
  // Factor of each code of the map.
  const factors = [0, 1, 2].map((c) =>
    Float32Array.from(
      { length: 256 },
      (_, i) => 2 ** (of(min, c) + (of(max, c) - of(min, c)) * (i / 255) ** (1 / of(gamma, c))),
    ),
  );
  // Signals over the square root of light, from black to the most that PQ says.
  const signals = Float32Array.from({ length: STEPS + 2 }, (_, i) => pqFromLight((i / STEPS) ** 2) * 65_535);
  const data = new Uint16Array(base.width * base.height * 3);
  const [sx, sy] = [map.width / base.width, map.height / base.height];
  let reach = 1;
  for (let y = 0, o = 0; y < base.height; y += 1) {
    const v = Math.min(map.height - 1, Math.max(0, (y + 0.5) * sy - 0.5));
    const y0 = Math.floor(v);
    const [row0, row1] = [y0 * map.width, Math.min(map.height - 1, y0 + 1) * map.width];
    const fy = v - y0;
    for (let x = 0; x < base.width; x += 1, o += 3) {
      const u = Math.min(map.width - 1, Math.max(0, (x + 0.5) * sx - 0.5));
      const x0 = Math.floor(u);
      const x1 = Math.min(map.width - 1, x0 + 1);
      const fx = u - x0;
      for (let c = 0; c < 3; c += 1) {
        const m = map.channels < 3 ? 0 : c;
        const at = (p: number) => factors[c][map.data[p * map.channels + m]];
        const factor =
          (at(row0 + x0) * (1 - fx) + at(row0 + x1) * fx) * (1 - fy) +
          (at(row1 + x0) * (1 - fx) + at(row1 + x1) * fx) * fy;
        const own = linear[c][base.data[(y * base.width + x) * base.channels + (base.channels < 3 ? 0 : c)]];
        const light = Math.max(0, (own + of(offsetBase, c)) * factor - of(offsetLight, c));
        if (light > reach) reach = light;
        const s = Math.min(STEPS, Math.sqrt(light / PQ_PEAK) * STEPS);
        const k = s | 0;
        data[o + c] = signals[k] + (s - k) * (signals[k + 1] - signals[k]);
      }
    }
  }
  return { data, reach };
}
