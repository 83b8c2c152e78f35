/** The last step of a planned picture: code values of 8 or 16 bits, upright. */

import { orientPixels, uprightSize } from "../../photo";
import { encodeWith, type PqName } from "../colour";
import { type FloatImage, LANES } from "../resample";

/** Code values, interleaved, upright. */
export interface Planned {
  data: Uint8Array | Uint16Array;
  width: number;
  height: number;
  /** 1 grey, 2 grey and alpha, 3 RGB, 4 RGB and alpha. */
  channels: number;
  /** PQ signals in these primaries; missing for ordinary pictures. */
  light?: PqName;
}

export interface Finishing {
  alpha: boolean;
  /** The image carries grey in its first lane only. */
  grey: boolean;
  /** Code values (0 to 1) that transparency is laid on; null keeps it. */
  under: readonly number[] | null;
  bits: 8 | 16;
  orientation: number;
  /**
   * From linear light to code values, one a colour; null where the image holds code values (0 to 1) already.
   */
  tables: readonly Float32Array[] | null;
  /** Colours of the output: 1 or 3. */
  colours: 1 | 3;
  /** Break up bands on gradients. */
  dither: boolean;
}

/**
 * Below this step between neighbours (in code values of the output) a gradient shows bands; at 0 it is flat
 * and stays so.
 */
const GENTLE = 1;

export function finish(image: FloatImage, finishing: Finishing): Planned {
  const { alpha, under, bits, orientation, colours } = finishing;
  const { width, height } = image;
  const channels = colours + (alpha && under === null ? 1 : 0);
  const data =
    bits === 16 ? new Uint16Array(width * height * channels) : new Uint8Array(width * height * channels);
  encodeColours(image, data, channels, finishing);
  if (alpha) settleAlpha(image, data, channels, finishing);
  const upright = uprightSize({ width, height }, orientation);
  return { data: orientPixels(data, { width, height }, channels, orientation), channels, ...upright };
}

/** Colours as they are where nothing shows through; premultiplied ones are divided by their alpha. */
function encodeColours(
  { data: from, width }: FloatImage,
  to: Uint8Array | Uint16Array,
  channels: number,
  { alpha, grey, bits, tables, colours, dither }: Finishing,
): void {
  const top = bits === 16 ? 65_535 : 255;
  const lastRow = dither ? new Float32Array(width) : null;
  if (tables && !alpha && !dither && to instanceof Uint8Array)
    return encodeBytes(from, to, channels, grey, tables, colours);
  for (let c = 0; c < colours; c += 1) {
    const lane = grey ? 0 : c;
    const table = tables?.[c] ?? null;
    lastRow?.fill(0);
    for (let p = 0, o = c, x = 0, y = 0; p < from.length; p += LANES, o += channels) {
      let value = from[p + lane];
      if (alpha && from[p + 3] > 0) value /= from[p + 3];
      let code = (table ? encodeWith(table, value) : value) * top;
      if (lastRow) {
        code = broken(code, lastRow, x, y, c);
        if ((x += 1) === width) {
          x = 0;
          y += 1;
        }
      }
      to[o] = code <= 0 ? 0 : code >= top ? top : code + 0.5;
    }
  }
}

/**
 * The usual case, in a loop of its own: it is four times as fast without the questions that the others ask
 * of every value.
 */
function encodeBytes(
  from: Float32Array,
  to: Uint8Array,
  channels: number,
  grey: boolean,
  tables: readonly Float32Array[],
  colours: number,
): void {
  for (let c = 0; c < colours; c += 1) {
    const table = tables[c];
    const steps = table.length - 2;
    for (let p = grey ? 0 : c, o = c; p < from.length; p += LANES, o += channels) {
      const value = from[p];
      if (value >= 1) to[o] = 255;
      else if (value > 0) {
        const at = Math.sqrt(value) * steps;
        const i = at | 0;
        const low = table[i];
        to[o] = (low + (at - i) * (table[i + 1] - low)) * 255 + 0.5;
      } else to[o] = table[0] * 255 + 0.5;
    }
  }
}

function settleAlpha(
  { data: from }: FloatImage,
  to: Uint8Array | Uint16Array,
  channels: number,
  { under, bits, colours }: Finishing,
): void {
  const top = bits === 16 ? 65_535 : 255;
  const below = (under ?? []).map((code) => code * top);
  for (let p = 3, o = 0; p < from.length; p += LANES, o += channels) {
    const a = Math.min(1, Math.max(0, from[p]));
    if (under === null) to[o + colours] = a * top + 0.5;
    else if (a < 1) for (let c = 0; c < colours; c += 1) to[o + c] = to[o + c] * a + below[c] * (1 - a) + 0.5;
  }
}

/**
 * Noise of one step where the picture changes gently, the same in every run. `lastRow` holds the row above,
 * exactly.
 */
function broken(code: number, lastRow: Float32Array, x: number, y: number, c: number): number {
  const above = y > 0 ? Math.abs(code - lastRow[x]) : 0;
  // Left of this pixel the row is already this one's.
  const left = x > 0 ? Math.abs(code - lastRow[x - 1]) : 0;
  lastRow[x] = code;
  const step = Math.max(above, left);
  return step > 1e-3 && step < GENTLE ? code + noise(x, y, c) : code;
}

/** Between −0.5 and 0.5, from the position alone. */
function noise(x: number, y: number, c: number): number {
  let h = Math.imul(x, 374_761_393) ^ Math.imul(y, 668_265_263) ^ Math.imul(c + 1, 2_147_483_647);
  h = Math.imul(h ^ (h >>> 13), 1_274_126_177);
  return ((h ^ (h >>> 16)) >>> 0) / 4_294_967_296 - 0.5;
}
