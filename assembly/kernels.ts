// The inner loops of the visible difference, four floats at a time. AssemblyScript: TypeScript that is compiled
// to WebAssembly, with addresses in bytes; `v128` holds four floats. Counts are in floats and multiples of
// four. Compiled by scripts/wasm.mjs.

import { sumRows } from "./sum-rows";

/** Bytes of four floats. */
const FOUR: usize = 16;
/** Bytes of one table of 256 floats. */
const TABLE: usize = 1024;

/**
 * Linear light of one row of 8-bit pixels of `step` bytes from `source` into three planes, by three tables of
 * 256 floats in a row at `tables`; `g` and `v` are the offsets of green and blue in a pixel.
 */
export function light8(
  source: usize,
  step: usize,
  g: usize,
  v: usize,
  tables: usize,
  out0: usize,
  out1: usize,
  out2: usize,
  count: usize,
): void {
  const end = count << 2;
  for (let i: usize = 0; i < end; i += 4, source += step) {
    store<f32>(out0 + i, load<f32>(tables + ((<usize>load<u8>(source)) << 2)));
    store<f32>(out1 + i, load<f32>(tables + ((<usize>load<u8>(source + g)) << 2), TABLE));
    store<f32>(out2 + i, load<f32>(tables + ((<usize>load<u8>(source + v)) << 2), 2 * TABLE));
  }
}

/** One of a matrix's factors for all four floats. */
// @ts-expect-error: decorator
function factor(matrix: usize, n: usize): v128 {
  return v128.load_splat<u32>(matrix + (n << 2));
}

/** a·x + b·y + c·z. */
// @ts-expect-error: decorator
function mixed(a: v128, b: v128, c: v128, x: v128, y: v128, z: v128): v128 {
  return f32x4.add(f32x4.mul(a, x), f32x4.add(f32x4.mul(b, y), f32x4.mul(c, z)));
}

/** Cube roots: a guess from the bits (within 3.5 %), then one step of Halley's method (within 0.003 %). */
// @ts-expect-error: decorator
function cubeRoot(x: v128): v128 {
  const third = f32x4.splat(0.33333333);
  const magic = f32x4.splat(709921077);
  const guess = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(x), third), magic));
  const cube = f32x4.mul(guess, f32x4.mul(guess, guess));
  const above = f32x4.add(cube, f32x4.add(x, x));
  const below = f32x4.add(x, f32x4.add(cube, cube));
  return f32x4.mul(guess, f32x4.div(above, below));
}

/** Linear light in three planes to Oklab in three planes; at `m` stand two matrices of nine. */
export function oklab(
  r: usize,
  g: usize,
  v: usize,
  m: usize,
  l: usize,
  a: usize,
  b: usize,
  count: usize,
): void {
  const least = f32x4.splat(1e-9);
  const c0 = factor(m, 0);
  const c1 = factor(m, 1);
  const c2 = factor(m, 2);
  const c3 = factor(m, 3);
  const c4 = factor(m, 4);
  const c5 = factor(m, 5);
  const c6 = factor(m, 6);
  const c7 = factor(m, 7);
  const c8 = factor(m, 8);
  const c9 = factor(m, 9);
  const c10 = factor(m, 10);
  const c11 = factor(m, 11);
  const c12 = factor(m, 12);
  const c13 = factor(m, 13);
  const c14 = factor(m, 14);
  const c15 = factor(m, 15);
  const c16 = factor(m, 16);
  const c17 = factor(m, 17);
  const end = count << 2;
  for (let i: usize = 0; i < end; i += FOUR) {
    const x = v128.load(r + i);
    const y = v128.load(g + i);
    const z = v128.load(v + i);
    const p = cubeRoot(f32x4.pmax(least, mixed(c0, c1, c2, x, y, z)));
    const q = cubeRoot(f32x4.pmax(least, mixed(c3, c4, c5, x, y, z)));
    const s = cubeRoot(f32x4.pmax(least, mixed(c6, c7, c8, x, y, z)));
    v128.store(l + i, mixed(c9, c10, c11, p, q, s));
    v128.store(a + i, mixed(c12, c13, c14, p, q, s));
    v128.store(b + i, mixed(c15, c16, c17, p, q, s));
  }
}

/** (a − b)². */
export function squares(a: usize, b: usize, out: usize, count: usize): void {
  const end = count << 2;
  for (let i: usize = 0; i < end; i += FOUR) {
    const d = f32x4.sub(v128.load(a + i), v128.load(b + i));
    v128.store(out + i, f32x4.mul(d, d));
  }
}

/** a · b. */
export function product(a: usize, b: usize, out: usize, count: usize): void {
  const end = count << 2;
  for (let i: usize = 0; i < end; i += FOUR)
    v128.store(out + i, f32x4.mul(v128.load(a + i), v128.load(b + i)));
}

/** max(0, square − mean²): a variance. */
export function spread(mean: usize, square: usize, out: usize, count: usize): void {
  const end = count << 2;
  const zero = f32x4.splat(0);
  for (let i: usize = 0; i < end; i += FOUR) {
    const m = v128.load(mean + i);
    v128.store(out + i, f32x4.pmax(zero, f32x4.sub(v128.load(square + i), f32x4.mul(m, m))));
  }
}

/** Fourth roots, in place. */
export function roots(at: usize, count: usize): void {
  const end = at + (count << 2);
  for (; at < end; at += FOUR) v128.store(at, f32x4.sqrt(f32x4.sqrt(v128.load(at))));
}

/** Weighted sum of `taps` rows; at `rows` stands where each begins. */
export function down(rows: usize, weights: usize, taps: i32, out: usize, count: usize): void {
  sumRows(rows, weights, taps, out, count << 2);
}

/**
 * Weighted sum of `taps` neighbours: the row at `row` begins as many floats before the first sum as the window
 * reaches. Eight floats at a time, so that one sum need not wait for the other.
 */
export function across(row: usize, weights: usize, taps: i32, out: usize, count: usize): void {
  const end = count << 2;
  let i: usize = 0;
  for (; i + FOUR < end; i += 2 * FOUR) {
    let one = f32x4.splat(0);
    let two = f32x4.splat(0);
    let at = row + i;
    let weight = weights;
    let left = taps;
    do {
      const by = v128.load_splat<u32>(weight);
      one = f32x4.add(one, f32x4.mul(v128.load(at), by));
      two = f32x4.add(two, f32x4.mul(v128.load(at, FOUR), by));
      at += 4;
      weight += 4;
      left -= 1;
    } while (left);
    v128.store(out + i, one);
    v128.store(out + i, two, FOUR);
  }
  if (i < end) v128.store(out + i, sumAcross(row + i, weights, taps));
}

function sumAcross(at: usize, weights: usize, taps: i32): v128 {
  let sum = f32x4.splat(0);
  for (let left = taps; left > 0; left -= 1, at += 4, weights += 4)
    sum = f32x4.add(sum, f32x4.mul(v128.load(at), v128.load_splat<u32>(weights)));
  return sum;
}

/** Means of neighbours in pairs: `count` floats out. */
export function pairs(row: usize, out: usize, count: usize): void {
  const end = out + (count << 2);
  const half = f32x4.splat(0.5);
  for (; out < end; out += FOUR, row += 2 * FOUR) {
    const x = v128.load(row);
    const y = v128.load(row, FOUR);
    const even = v128.shuffle<f32>(x, y, 0, 2, 4, 6);
    const odd = v128.shuffle<f32>(x, y, 1, 3, 5, 7);
    v128.store(out, f32x4.mul(half, f32x4.add(even, odd)));
  }
}

/** Bytes of two doubles. */
const PAIR: usize = 16;

function weighed(weights: usize, n: usize, plane: usize): v128 {
  return f64x2.mul(
    v128.load_splat<u64>(weights + (n << 3)),
    f64x2.promote_low_f32x4(v128.load_zero<u64>(plane)),
  );
}

/** The third and a half power. */
function masking(plane: usize): v128 {
  const root = f64x2.promote_low_f32x4(v128.load_zero<u64>(plane));
  return f64x2.mul(f64x2.mul(f64x2.mul(root, root), root), f64x2.sqrt(root));
}

function over(error: v128, weights: usize, n: usize, hidden: v128): v128 {
  return f64x2.div(error, f64x2.add(v128.load_splat<u64>(weights + (n << 3)), hidden));
}

/**
 * What is seen in each of `count` cells, in doubles, two at a time: errors of lightness (full, half, quarter) and of
 * colour (half a and b, quarter a and b) over what the roots of variances hide. `weights`: eleven doubles, of those
 * errors in that order and of what is added to what full, half and quarter hide, and half once more for colour.
 */
export function cells(
  full: usize,
  half: usize,
  quarter: usize,
  halfA: usize,
  halfB: usize,
  quarterA: usize,
  quarterB: usize,
  busyFull: usize,
  busyHalf: usize,
  busyQuarter: usize,
  weights: usize,
  out: usize,
  count: usize,
): void {
  for (let at: usize = 0; at < count << 2; at += 8, out += PAIR) {
    const middle = masking(busyHalf + at);
    const colour = f64x2.add(
      f64x2.add(
        f64x2.add(weighed(weights, 3, halfA + at), weighed(weights, 4, halfB + at)),
        weighed(weights, 5, quarterA + at),
      ),
      weighed(weights, 6, quarterB + at),
    );
    let sum = over(weighed(weights, 0, full + at), weights, 7, masking(busyFull + at));
    sum = f64x2.add(sum, over(weighed(weights, 1, half + at), weights, 8, middle));
    sum = f64x2.add(sum, over(weighed(weights, 2, quarter + at), weights, 9, masking(busyQuarter + at)));
    v128.store(out, f64x2.add(sum, over(colour, weights, 10, middle)));
  }
}
