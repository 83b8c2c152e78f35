// The three inner loops of resampling, four floats (one pixel) at a time. AssemblyScript: TypeScript that is
// compiled to WebAssembly, with addresses in bytes; `v128` holds four floats. Compiled by scripts/wasm.mjs.

import { sumRows } from "./sum-rows";

/** Bytes of one pixel: four floats. */
const PIXEL: usize = 16;
/** Bytes of one table of 256 floats. */
const TABLE: usize = 1024;

/**
 * Linear light of one row of 8-bit RGB: `count` pixels from `source`, by three tables of 256 floats in a row
 * at `tables`.
 */
export function linear8(source: usize, out: usize, tables: usize, count: usize): void {
  const end = source + count * 3;
  for (; source < end; source += 3, out += PIXEL) {
    store<f32>(out, load<f32>(tables + ((<usize>load<u8>(source)) << 2)), 0);
    store<f32>(out, load<f32>(tables + ((<usize>load<u8>(source, 1)) << 2), TABLE), 4);
    store<f32>(out, load<f32>(tables + ((<usize>load<u8>(source, 2)) << 2), 2 * TABLE), 8);
  }
}

/**
 * One row across: `count` output pixels, each the sum of `taps` input pixels from starts[o] on, weighted. Two
 * at a time, so that one sum need not wait for the other.
 */
export function across(
  input: usize,
  out: usize,
  starts: usize,
  weights: usize,
  taps: i32,
  count: usize,
): void {
  const end = out + count * PIXEL;
  const window = (<usize>taps) << 2;
  for (; out + PIXEL < end; out += 2 * PIXEL, starts += 8) {
    let one = f32x4.splat(0);
    let two = f32x4.splat(0);
    let at = input + ((<usize>load<u32>(starts)) << 4);
    let beside = input + ((<usize>load<u32>(starts, 4)) << 4);
    let left = taps;
    do {
      one = f32x4.add(one, f32x4.mul(v128.load(at), v128.load_splat<u32>(weights)));
      two = f32x4.add(two, f32x4.mul(v128.load(beside), v128.load_splat<u32>(weights + window)));
      at += PIXEL;
      beside += PIXEL;
      weights += 4;
      left -= 1;
    } while (left);
    weights += window;
    v128.store(out, one);
    v128.store(out, two, PIXEL);
  }
  if (out < end) v128.store(out, sumAcross(input + ((<usize>load<u32>(starts)) << 4), weights, taps));
}

function sumAcross(at: usize, weights: usize, taps: i32): v128 {
  let sum = f32x4.splat(0);
  for (let left = taps; left > 0; left -= 1, at += PIXEL, weights += 4)
    sum = f32x4.add(sum, f32x4.mul(v128.load(at), v128.load_splat<u32>(weights)));
  return sum;
}

/**
 * One output row: `count` pixels, each the weighted sum of the pixels above each other in `taps` rows. `rows`
 * lists where they begin.
 */
export function down(rows: usize, weights: usize, taps: i32, out: usize, count: usize): void {
  sumRows(rows, weights, taps, out, count * PIXEL);
}
