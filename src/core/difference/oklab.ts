/**
 * Oklab from code values. Source: B. Ottosson, "A perceptual color space for image processing" (2020),
 * matrices for linear sRGB.
 */
import {
  between,
  IDENTITY,
  isIdentity,
  linearTable,
  type Matrix,
  multiply,
  type RgbSpace,
  SPACES,
} from "../pixels/colour";
import type { Engine, Plane } from "./engine";

/** Linear sRGB to cone responses. */
export const CONES: Matrix = [
  0.4122214708, 0.5363325363, 0.0514459929, 0.2119034982, 0.6806995451, 0.1073969566, 0.0883024619,
  0.2817188376, 0.6299787005,
];
/** Cube roots of cone responses to lightness, green–red and blue–yellow. */
export const OPPONENTS: Matrix = [
  0.2104542553, 0.793617785, -0.0040720468, 1.9779984951, -2.428592205, 0.4505937099, 0.0259040371,
  0.7827717662, -0.808675766,
];

/**
 * Code values, interleaved, upright: 1 grey, 2 grey and alpha, 3 RGB, 4 RGB and alpha (not premultiplied).
 */
export interface Pixels {
  data: Uint8Array | Uint8ClampedArray | Uint16Array;
  width: number;
  height: number;
  channels: number;
  /** Where the code values stand; sRGB where absent. */
  space?: RgbSpace;
  /** The code of white where it is not the highest that the numbers can hold. */
  top?: number;
  /**
   * Side in px of the independent parts that it is put together from: what lies beside their seams does not
   * count.
   */
  parts?: number;
}

/** Sides of planes: widths are filled up to multiples of this with the outermost pixels. */
const WIDTH = 16;

/**
 * Light that a screen in a lit room adds to everything, as a share of white: the viewing flare of 1 % of
 * IEC 61966-2-1's reference conditions (from memory). Without it the eye would see steps in black that no
 * screen shows.
 */
export const FLARE = 0.01;

export function flared(table: Float32Array, flare: number): Float32Array {
  const out = new Float32Array(table.length);
  for (let i = 0; i < table.length; i += 1) out[i] = (table[i] + flare) / (1 + flare);
  return out;
}

/** Turns rows of one picture into planes of Oklab. */
export class OklabReader {
  private readonly tables: Float32Array[];
  private readonly matrices: number[];

  constructor(private readonly pixels: Pixels) {
    const space = pixels.space ?? SPACES.srgb;
    const codes = pixels.data instanceof Uint16Array ? 65_536 : 256;
    const tables = new Map(
      space.curves.map((curve) => [
        curve,
        flared(linearTable(curve, codes, pixels.top), FLARE * (space.white ?? 1)),
      ]),
    );
    this.tables = space.curves.map((curve) => tables.get(curve)!);
    const toSrgb = space === SPACES.srgb ? IDENTITY : between(space, SPACES.srgb);
    this.matrices = [...(isIdentity(toSrgb) ? CONES : multiply(CONES, toSrgb)), ...OPPONENTS];
  }

  /**
   * Rows `from` to `to` as lightness and two colour axes; `under` is the linear light that transparency lies
   * on.
   */
  planes(engine: Engine, from: number, to: number, under: number): [Plane, Plane, Plane] {
    const width = Math.ceil(this.pixels.width / WIDTH) * WIDTH;
    const out: [Plane, Plane, Plane] = [
      engine.plane(width, to - from),
      engine.plane(width, to - from),
      engine.plane(width, to - from),
    ];
    const before = engine.mark();
    const matrices = engine.put(this.matrices);
    const bytes = this.pixels.data instanceof Uint16Array ? null : this.bytes(engine);
    const [r, g, v] = [engine.take(width), engine.take(width), engine.take(width)];
    for (let y = from; y < to; y += 1) {
      this.light(engine, Math.min(y, this.pixels.height - 1), [r, g, v], width, under, bytes);
      const at = (y - from) * width * 4;
      engine.kernels.oklab(r, g, v, matrices, out[0].at + at, out[1].at + at, out[2].at + at, width);
    }
    engine.release(before);
    return out;
  }

  /** Where rows of 8 bits are put, and the tables that they are read through. */
  private bytes(engine: Engine): { row: number; tables: number } {
    const tables = engine.take(3 * 256);
    this.tables.forEach((table, c) => engine.floats(tables + c * 1024, 256).set(table));
    return { row: engine.take((this.pixels.width * this.pixels.channels) / 4 + 4), tables };
  }

  private light(
    engine: Engine,
    y: number,
    at: readonly number[],
    across: number,
    under: number,
    bytes: { row: number; tables: number } | null,
  ): void {
    const { data, channels, width } = this.pixels;
    const [green, blue] = channels < 3 ? [0, 0] : [1, 2];
    const from = y * width * channels;
    const [r, g, v] = at.map((plane) => engine.floats(plane, across));
    if (bytes) {
      engine.bytes(bytes.row, width * channels).set(data.subarray(from, from + width * channels));
      engine.kernels.light8(bytes.row, channels, green, blue, bytes.tables, at[0], at[1], at[2], width);
    } else {
      const [tr, tg, tb] = this.tables;
      for (let x = 0, p = from; x < width; x += 1, p += channels) {
        r[x] = tr[data[p]];
        g[x] = tg[data[p + green]];
        v[x] = tb[data[p + blue]];
      }
    }
    if (channels === 2 || channels === 4) this.lay(y, r, g, v, under);
    for (const plane of [r, g, v]) plane.fill(plane[width - 1], width);
  }

  private lay(y: number, r: Float32Array, g: Float32Array, v: Float32Array, under: number): void {
    const { data, channels, width } = this.pixels;
    const top = data instanceof Uint16Array ? 65_535 : 255;
    for (let x = 0, p = y * width * channels + channels - 1; x < width; x += 1, p += channels) {
      const share = data[p] / top;
      const rest = under * (1 - share);
      r[x] = r[x] * share + rest;
      g[x] = g[x] * share + rest;
      v[x] = v[x] * share + rest;
    }
  }
}
