/** Where in a picture a dot screen is looked for. */
import { dotScreenPeriod } from "./dot-screen";
import type { Samples } from "./samples";
import { TILE } from "./spectrum";

/** Standard deviation (8-bit codes) below which a tile shows nothing. */
const BLANK = 4;

interface Sums {
  sum: number;
  squares: number;
}

// Rows have functions of their own: code that is entered once a photo would be compiled anew for each.
function takeRow(
  { data, channels }: Samples,
  from: number,
  tile: Float64Array,
  at: number,
  sums: Sums,
): void {
  for (let x = 0; x < TILE; x += 1) {
    const v = data[(from + x) * channels + (channels < 3 ? 0 : 1)];
    tile[at + x] = v;
    sums.sum += v;
    sums.squares += v * v;
  }
}

/** Standard deviation. */
const spreadOf = ({ sum, squares }: Sums, count: number): number =>
  Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));

/**
 * A screen covers a whole picture, so one tile is judged: the middle one, or another where that is blank.
 * Null where it shows none.
 */
export function dotScreenIn(samples: Samples): number | null {
  const { data, width, height } = samples;
  if (width < TILE || height < TILE) return null;
  const left = Math.floor((width - TILE) / 2);
  for (const share of [0.5, 0.25, 0.75]) {
    const top = Math.floor((height - TILE) * share);
    const tile = new Float64Array(TILE * TILE);
    const sums = { sum: 0, squares: 0 };
    for (let y = 0; y < TILE; y += 1) takeRow(samples, (top + y) * width + left, tile, y * TILE, sums);
    if (spreadOf(sums, tile.length) > BLANK * (data instanceof Uint16Array ? 257 : 1))
      return dotScreenPeriod(tile);
  }
  return null;
}
