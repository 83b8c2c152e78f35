/**
 * The gain map between an ordinary picture and the same with light above white: by how many stops each place is lighter.
 * Source: ISO 21496-1, clause 6, one channel for all colours, made of their luminances.
 */
import { linearTable, PQ_CURVE, PQ_PEAK, type RgbSpace } from "../colour";

/** Codes, three channels, of 8 or 16 bits. */
interface Codes {
  data: Uint8Array | Uint8ClampedArray | Uint16Array;
  width: number;
  height: number;
  channels: number;
}

/** What both sides of the ratio are raised by, in multiples of white: black has no logarithm. */
export const GAIN_OFFSET = 1 / 64;
/** Stops that a map reaches at most, up and down. */
const [MOST, LEAST] = [8, -2];
/** A map of nothing would have no scale. */
const LEAST_REACH = 0.05;

export interface Gain {
  /** One code of 8 bits for each square of `shrink` by `shrink` pixels. */
  data: Uint8Array;
  width: number;
  height: number;
  /** Stops that the lowest and the highest code stand for. */
  min: number;
  max: number;
}

/**
 * `light`: PQ signals of 16 bits of the same pixels in the same primaries; `space`: of the ordinary picture. `shrink`:
 * pixels of the picture to one of the map, on each side.
 */
export function gainBetween(base: Codes, light: Codes, space: RgbSpace, shrink: number): Gain {
  const [width, height] = [base.width, base.height].map((side) => Math.max(1, Math.round(side / shrink)));
  const weights = space.toXyz.slice(3, 6);
  const baseTable = weightedTables(weights, (c) =>
    linearTable(
      space.curves[c],
      base.data instanceof Uint16Array ? 65_536 : 256,
      base.data instanceof Uint16Array ? 65_535 : 255,
    ),
  );
  const pq = linearTable(PQ_CURVE, 65_536, 65_535);
  const lightTable = weightedTables(weights, () => pq.map((value) => value * PQ_PEAK));
  const stops = new Float32Array(width * height);
  let [min, max] = [0, LEAST_REACH];
  for (let y = 0, i = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1, i += 1) {
      const place = placeOf(base, { x, y, width, height });
      const gain = Math.log2(
        (meanOf(light, lightTable, place) + GAIN_OFFSET) / (meanOf(base, baseTable, place) + GAIN_OFFSET),
      );
      stops[i] = Math.min(MOST, Math.max(LEAST, gain));
      if (stops[i] < min) min = stops[i];
      if (stops[i] > max) max = stops[i];
    }
  const scale = 255 / (max - min);
  return {
    data: Uint8Array.from(stops, (value) => Math.round((value - min) * scale)),
    width,
    height,
    min,
    max,
  };
}

type Tables = readonly Float32Array[];

/** Shares of luminance of each code, one table a colour. */
const weightedTables = (weights: readonly number[], of: (c: number) => Float32Array): Tables =>
  weights.map((weight, c) => of(c).map((value) => value * weight));

/** Where a pixel of the map lies in the picture. */
interface Place {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

function placeOf(
  picture: { width: number; height: number },
  { x, y, width, height }: { x: number; y: number; width: number; height: number },
): Place {
  const at = (k: number, of: number, side: number) => Math.round((k * side) / of);
  const [left, top] = [at(x, width, picture.width), at(y, height, picture.height)];
  return {
    left,
    top,
    right: Math.max(left + 1, at(x + 1, width, picture.width)),
    bottom: Math.max(top + 1, at(y + 1, height, picture.height)),
  };
}

/** Mean luminance of a place, in multiples of white. */
function meanOf(
  { data, width, channels }: Codes,
  [r, g, b]: Tables,
  { left, top, right, bottom }: Place,
): number {
  let sum = 0;
  for (let y = top; y < bottom; y += 1)
    for (let p = (y * width + left) * channels, end = (y * width + right) * channels; p < end; p += channels)
      sum += r[data[p]] + g[data[p + (channels > 2 ? 1 : 0)]] + b[data[p + (channels > 2 ? 2 : 0)]];
  return sum / ((right - left) * (bottom - top));
}
