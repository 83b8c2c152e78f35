/**
 * A picture in the colours of a table. Errors go on to neighbours in still pictures (Floyd and Steinberg 1976), and are
 * hidden by a pattern that stays in its place in moving ones (ordered dithering, Bayer 1973): there, what does not move
 * must not flicker.
 */
import { paletteOf } from "./colours";
import { oklabOf } from "./oklab";

export interface Indexed {
  /** One a pixel. */
  indices: Uint8Array;
  /** Red, green, blue and alpha of each colour. */
  palette: Uint8Array;
}

export interface IndexedAsk {
  /** 2 to 256, with the one for what is not seen. */
  colours: number;
  /** diffuse: errors go on to neighbours; pattern: a pattern that stays; none: the nearest colour. */
  dither: "diffuse" | "pattern" | "none";
  /** Pixels are seen or not, nothing between. */
  hardAlpha: boolean;
}

interface RgbaPicture {
  data: Uint8Array;
  width: number;
  height: number;
  /** 3 or 4. */
  channels: number;
}

/** How much of an error goes on: with all of it, noise builds up in calm areas. */
const PASSED_ON = 0.9;
/** Of a table's usual distance between colours, in codes: how far the pattern moves them. */
const PATTERN = 0.2;

/** The nearest colour of a table, found once for each cube of four codes a side. */
class Nearest {
  private readonly known = new Int16Array(1 << 18).fill(-1);
  private readonly at: Float64Array;
  private readonly count: number;

  constructor(readonly palette: Uint8Array) {
    this.count = palette.length / 4;
    this.at = new Float64Array(this.count * 4);
    for (let k = 0; k < this.count; k += 1) {
      const [r, g, b, a] = palette.subarray(k * 4, k * 4 + 4);
      this.at.set([...oklabOf(r, g, b), a / 255], k * 4);
    }
  }

  /** Codes of 0 to 255, not whole. */
  of(r: number, g: number, b: number, a: number): number {
    if (a < 255) return this.search(r, g, b, a);
    const cube = ((r >> 2) << 12) | ((g >> 2) << 6) | (b >> 2);
    if (this.known[cube] < 0)
      this.known[cube] = this.search((r & ~3) + 1.5, (g & ~3) + 1.5, (b & ~3) + 1.5, 255);
    return this.known[cube];
  }

  private search(r: number, g: number, b: number, a: number): number {
    const [l, x, y] = oklabOf(r, g, b);
    let [best, least] = [0, Infinity];
    for (let k = 0, p = 0; k < this.count; k += 1, p += 4) {
      const [dl, dx, dy] = [l - this.at[p], x - this.at[p + 1], y - this.at[p + 2]];
      const da = a / 255 - this.at[p + 3];
      const d = dl * dl + dx * dx + dy * dy + da * da;
      if (d < least) [best, least] = [k, d];
    }
    return best;
  }
}

/** Codes 0 to 255 of a picture in at most so many colours; those that are there where they are no more. */
export function indexed(picture: RgbaPicture, ask: IndexedAsk): Indexed {
  const { data, channels } = picture;
  const clear = channels === 4 && hasClear(data, ask.hardAlpha ? 128 : 1);
  const seen = ask.hardAlpha && channels === 4 ? hardened(data) : data;
  const most = Math.max(1, ask.colours - (clear ? 1 : 0));
  const { palette, exact } = paletteOf({ data: seen, channels }, most);
  const table = clear ? new Uint8Array([...palette, 0, 0, 0, 0]) : palette;
  const hole = clear ? table.length / 4 - 1 : -1;
  const indices = mapped({ ...picture, data: seen }, new Nearest(palette), exact ? "none" : ask.dither, hole);
  if (exact) correct(indices, seen, channels, palette, hole);
  return { indices, palette: table };
}

const hasClear = (data: Uint8Array, seenFrom: number): boolean => {
  for (let p = 3; p < data.length; p += 4) if (data[p] < seenFrom) return true;
  return false;
};

function hardened(data: Uint8Array): Uint8Array {
  const out = data.slice();
  for (let p = 3; p < out.length; p += 4) out[p] = out[p] < 128 ? 0 : 255;
  return out;
}

/** Cubes of codes are too coarse where every colour is kept as it is. */
function correct(
  indices: Uint8Array,
  data: Uint8Array,
  channels: number,
  palette: Uint8Array,
  hole: number,
): void {
  const places = new Map<number, number>();
  for (let p = 0; p < palette.length; p += 4)
    places.set(
      ((palette[p] << 24) | (palette[p + 1] << 16) | (palette[p + 2] << 8) | palette[p + 3]) >>> 0,
      p / 4,
    );
  for (let i = 0, p = 0; i < indices.length; i += 1, p += channels) {
    if (indices[i] === hole) continue;
    const a = channels === 4 ? data[p + 3] : 255;
    indices[i] =
      places.get(((data[p] << 24) | (data[p + 1] << 16) | (data[p + 2] << 8) | a) >>> 0) ?? indices[i];
  }
}

/** 8 × 8 thresholds of -0.5 to 0.5. */
const BAYER = Float32Array.from({ length: 64 }, (_, i) => {
  let [value, x, y] = [0, i & 7, i >> 3];
  for (let bit = 0; bit < 3; bit += 1, x >>= 1, y >>= 1)
    value = (value << 2) | (((x ^ y) & 1) << 1) | (y & 1);
  return (value + 0.5) / 64 - 0.5;
});

function mapped(
  picture: RgbaPicture,
  nearest: Nearest,
  dither: IndexedAsk["dither"],
  hole: number,
): Uint8Array {
  const { width, height } = picture;
  const out = new Uint8Array(width * height);
  // Red, green and blue of this row's and the next one's errors, with a pixel to spare at both ends.
  let [here, below] = [new Float32Array((width + 2) * 3), new Float32Array((width + 2) * 3)];
  const reach = (PATTERN * 255) / Math.cbrt(nearest.palette.length / 4);
  for (let y = 0; y < height; y += 1) {
    if (dither === "diffuse") {
      diffuseRow(picture, nearest, { y, here, below, hole }, out);
      [here, below] = [below, here];
      below.fill(0);
    } else patternRow(picture, nearest, { y, reach: dither === "pattern" ? reach : 0, hole }, out);
  }
  return out;
}

const clamp = (v: number): number => (v < 0 ? 0 : v > 255 ? 255 : v);

function patternRow(
  { data, width, channels }: RgbaPicture,
  nearest: Nearest,
  { y, reach, hole }: { y: number; reach: number; hole: number },
  out: Uint8Array,
): void {
  for (let x = 0, i = y * width; x < width; x += 1, i += 1) {
    const p = i * channels;
    const a = channels === 4 ? data[p + 3] : 255;
    if (hole >= 0 && a === 0) {
      out[i] = hole;
      continue;
    }
    const by = reach * BAYER[(y & 7) * 8 + (x & 7)];
    out[i] = nearest.of(clamp(data[p] + by), clamp(data[p + 1] + by), clamp(data[p + 2] + by), a);
  }
}

/** Rows are gone through to and fro, so that no direction shows. */
function diffuseRow(
  { data, width, channels }: RgbaPicture,
  nearest: Nearest,
  { y, here, below, hole }: { y: number; here: Float32Array; below: Float32Array; hole: number },
  out: Uint8Array,
): void {
  const { palette } = nearest;
  const step = y & 1 ? -1 : 1;
  for (let n = 0, x = step > 0 ? 0 : width - 1; n < width; n += 1, x += step) {
    const i = y * width + x;
    const p = i * channels;
    const a = channels === 4 ? data[p + 3] : 255;
    if (a === 0) {
      out[i] = hole >= 0 ? hole : nearest.of(0, 0, 0, 0);
      continue;
    }
    const e = (x + 1) * 3;
    const [r, g, b] = [
      clamp(data[p] + here[e]),
      clamp(data[p + 1] + here[e + 1]),
      clamp(data[p + 2] + here[e + 2]),
    ];
    const k = nearest.of(r, g, b, a);
    out[i] = k;
    const [ahead, back] = [e + step * 3, e - step * 3];
    for (let c = 0; c < 3; c += 1) {
      const error = ((c === 0 ? r : c === 1 ? g : b) - palette[k * 4 + c]) * PASSED_ON;
      here[ahead + c] += error * (7 / 16);
      below[back + c] += error * (3 / 16);
      below[e + c] += error * (5 / 16);
      below[ahead + c] += error * (1 / 16);
    }
  }
}
