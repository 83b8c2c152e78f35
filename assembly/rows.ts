// The inner loops of resampling: eight 16-bit samples or four floats (one pixel) at a time. AssemblyScript: TypeScript that is
// compiled to WebAssembly, with addresses in bytes; `v128` holds four floats. Compiled by scripts/wasm.mjs.

import { sumRows } from "./sum-rows";

/** Bytes of one pixel: four floats. */
const PIXEL: usize = 16;
/** Bytes of one table of 256 16-bit integers. */
const TABLE: usize = 512;

/**
 * Linear light of one row of 8-bit RGB: `count` pixels from `source`, by three tables of 256 16-bit integers in a
 * row at `tables`, into three planes of such integers, `plane` bytes apart.
 */
export function linear8(source: usize, out: usize, plane: usize, tables: usize, count: usize): void {
  const end = source + count * 3;
  const green = out + plane;
  const blue = green + plane;
  let at: usize = 0;
  for (; source < end; source += 3, at += 2) {
    store<u16>(out + at, load<u16>(tables + ((<usize>load<u8>(source)) << 1)));
    store<u16>(green + at, load<u16>(tables + ((<usize>load<u8>(source, 1)) << 1), TABLE));
    store<u16>(blue + at, load<u16>(tables + ((<usize>load<u8>(source, 2)) << 1), 2 * TABLE));
  }
}

/**
 * One row of such planes across: `count` output pixels in three planes, `outPlane` bytes apart, each the sum of `taps`
 * samples from starts[o] on, weighted by 16-bit integers that add up to 2^14. `taps` is a multiple of eight.
 */
export function across8(
  planes: usize,
  plane: usize,
  out: usize,
  outPlane: usize,
  starts: usize,
  weights: usize,
  taps: usize,
  count: usize,
): void {
  const end = out + (count << 1);
  const window = taps << 1;
  const none = i32x4.splat(0);
  const half = i32x4.splat(1 << 13);
  // Two pixels at a time, whose sums are turned into lanes together.
  for (; out + 2 < end; out += 4, starts += 8) {
    let red = none;
    let green = none;
    let blue = none;
    let red2 = none;
    let green2 = none;
    let blue2 = none;
    let at = planes + ((<usize>load<u32>(starts)) << 1);
    let at2 = planes + ((<usize>load<u32>(starts, 4)) << 1);
    const last = weights + window;
    do {
      const weight = v128.load(weights);
      red = i32x4.add(red, i32x4.dot_i16x8_s(v128.load(at), weight));
      green = i32x4.add(green, i32x4.dot_i16x8_s(v128.load(at + plane), weight));
      blue = i32x4.add(blue, i32x4.dot_i16x8_s(v128.load(at + 2 * plane), weight));
      const weight2 = v128.load(weights + window);
      red2 = i32x4.add(red2, i32x4.dot_i16x8_s(v128.load(at2), weight2));
      green2 = i32x4.add(green2, i32x4.dot_i16x8_s(v128.load(at2 + plane), weight2));
      blue2 = i32x4.add(blue2, i32x4.dot_i16x8_s(v128.load(at2 + 2 * plane), weight2));
      at += 16;
      at2 += 16;
      weights += 16;
    } while (weights < last);
    weights += window;
    const r = i32x4.add(v128.shuffle<i32>(red, red2, 0, 4, 1, 5), v128.shuffle<i32>(red, red2, 2, 6, 3, 7));
    const g = i32x4.add(
      v128.shuffle<i32>(green, green2, 0, 4, 1, 5),
      v128.shuffle<i32>(green, green2, 2, 6, 3, 7),
    );
    const b = i32x4.add(
      v128.shuffle<i32>(blue, blue2, 0, 4, 1, 5),
      v128.shuffle<i32>(blue, blue2, 2, 6, 3, 7),
    );
    const rg = i32x4.add(v128.shuffle<i32>(r, g, 0, 1, 4, 5), v128.shuffle<i32>(r, g, 2, 3, 6, 7));
    const bb = i32x4.add(b, v128.shuffle<i32>(b, b, 2, 3, 0, 1));
    const short = i16x8.narrow_i32x4_s(
      i32x4.shr_s(i32x4.add(rg, half), 14),
      i32x4.shr_s(i32x4.add(bb, half), 14),
    );
    v128.store32_lane(out, short, 0);
    v128.store32_lane(out + outPlane, short, 1);
    v128.store32_lane(out + 2 * outPlane, short, 2);
  }
  for (; out < end; out += 2, starts += 4) {
    let red = none;
    let green = none;
    let blue = none;
    let at = planes + ((<usize>load<u32>(starts)) << 1);
    const last = weights + window;
    do {
      const weight = v128.load(weights);
      red = i32x4.add(red, i32x4.dot_i16x8_s(v128.load(at), weight));
      green = i32x4.add(green, i32x4.dot_i16x8_s(v128.load(at + plane), weight));
      blue = i32x4.add(blue, i32x4.dot_i16x8_s(v128.load(at + 2 * plane), weight));
      at += 16;
      weights += 16;
    } while (weights < last);
    // Lanes of three sums become three lanes of one.
    const rg = i32x4.add(
      v128.shuffle<i32>(red, green, 0, 4, 1, 5),
      v128.shuffle<i32>(red, green, 2, 6, 3, 7),
    );
    const b = i32x4.add(v128.shuffle<i32>(blue, none, 0, 4, 1, 5), v128.shuffle<i32>(blue, none, 2, 6, 3, 7));
    const rgb = i32x4.add(v128.shuffle<i32>(rg, b, 0, 1, 4, 5), v128.shuffle<i32>(rg, b, 2, 3, 6, 7));
    const short = i16x8.narrow_i32x4_s(i32x4.shr_s(i32x4.add(rgb, half), 14), none);
    v128.store_lane<u16>(out, short, 0);
    v128.store_lane<u16>(out + outPlane, short, 1);
    v128.store_lane<u16>(out + 2 * outPlane, short, 2);
  }
}

/**
 * One output row of four floats a pixel: `scale` times the sum of the samples above each other in `taps` rows of
 * planes, weighted by 16-bit integers. `rows` lists where they begin; `taps` is even, and planes have room for a
 * multiple of eight samples.
 */
export function down8(
  rows: usize,
  plane: usize,
  weights: usize,
  taps: usize,
  out: usize,
  count: usize,
  scale: f32,
): void {
  const by = f32x4.splat(scale);
  const none = f32x4.splat(0);
  for (let at: usize = 0; at < count << 1; at += 16, out += 8 * PIXEL) {
    let r0 = i32x4.splat(0);
    let r1 = r0;
    let g0 = r0;
    let g1 = r0;
    let b0 = r0;
    let b1 = r0;
    for (let t: usize = 0; t < taps; t += 2) {
      // Two rows at a time, their samples side by side.
      const weight = v128.load_splat<u32>(weights + (t << 1));
      const one = <usize>load<u32>(rows + (t << 2)) + at;
      const two = <usize>load<u32>(rows + (t << 2), 4) + at;
      let x = v128.load(one);
      let y = v128.load(two);
      r0 = i32x4.add(r0, i32x4.dot_i16x8_s(v128.shuffle<i16>(x, y, 0, 8, 1, 9, 2, 10, 3, 11), weight));
      r1 = i32x4.add(r1, i32x4.dot_i16x8_s(v128.shuffle<i16>(x, y, 4, 12, 5, 13, 6, 14, 7, 15), weight));
      x = v128.load(one + plane);
      y = v128.load(two + plane);
      g0 = i32x4.add(g0, i32x4.dot_i16x8_s(v128.shuffle<i16>(x, y, 0, 8, 1, 9, 2, 10, 3, 11), weight));
      g1 = i32x4.add(g1, i32x4.dot_i16x8_s(v128.shuffle<i16>(x, y, 4, 12, 5, 13, 6, 14, 7, 15), weight));
      x = v128.load(one + 2 * plane);
      y = v128.load(two + 2 * plane);
      b0 = i32x4.add(b0, i32x4.dot_i16x8_s(v128.shuffle<i16>(x, y, 0, 8, 1, 9, 2, 10, 3, 11), weight));
      b1 = i32x4.add(b1, i32x4.dot_i16x8_s(v128.shuffle<i16>(x, y, 4, 12, 5, 13, 6, 14, 7, 15), weight));
    }
    pixels4(out, floats(r0, by), floats(g0, by), floats(b0, by), none);
    pixels4(out + 4 * PIXEL, floats(r1, by), floats(g1, by), floats(b1, by), none);
  }
}

function floats(sums: v128, by: v128): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(sums), by);
}

/** Four reds, greens and blues as four pixels. */
function pixels4(out: usize, r: v128, g: v128, b: v128, none: v128): void {
  const low = v128.shuffle<f32>(r, g, 0, 4, 1, 5);
  const high = v128.shuffle<f32>(r, g, 2, 6, 3, 7);
  const lowB = v128.shuffle<f32>(b, none, 0, 4, 1, 5);
  const highB = v128.shuffle<f32>(b, none, 2, 6, 3, 7);
  v128.store(out, v128.shuffle<f32>(low, lowB, 0, 1, 4, 5));
  v128.store(out, v128.shuffle<f32>(low, lowB, 2, 3, 6, 7), PIXEL);
  v128.store(out, v128.shuffle<f32>(high, highB, 0, 1, 4, 5), 2 * PIXEL);
  v128.store(out, v128.shuffle<f32>(high, highB, 2, 3, 6, 7), 3 * PIXEL);
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

/**
 * One row from linear light to 8-bit RGB: `count` pixels of four floats, each put through a matrix (three columns of
 * four floats at `matrix`) and through tables of code values in bytes, whose steps are even in the square root of
 * light: `last` is the place of light 1. They lie `table` bytes apart from `tables` on; 0 where one serves all.
 */
export function encode8(
  image: usize,
  out: usize,
  count: usize,
  matrix: usize,
  tables: usize,
  table: usize,
  last: f32,
): void {
  const end = image + count * PIXEL;
  const fromRed = v128.load(matrix);
  const fromGreen = v128.load(matrix, PIXEL);
  const fromBlue = v128.load(matrix, 2 * PIXEL);
  const most = f32x4.splat(last);
  const none = f32x4.splat(0);
  const one = f32x4.splat(1);
  const whole = f32x4.splat(8_388_608);
  const bits = i32x4.splat(0x7f_ff_ff);
  for (; image < end; image += PIXEL, out += 3) {
    const light = f32x4.add(
      f32x4.mul(v128.load_splat<u32>(image), fromRed),
      f32x4.add(
        f32x4.mul(v128.load_splat<u32>(image, 4), fromGreen),
        f32x4.mul(v128.load_splat<u32>(image, 8), fromBlue),
      ),
    );
    const at = f32x4.mul(f32x4.sqrt(f32x4.pmin(one, f32x4.pmax(none, light))), most);
    // Beside so large a number the bits of what is added are those of the nearest whole number.
    const place = v128.and(f32x4.add(at, whole), bits);
    store<u8>(out, load<u8>(tables + <usize>i32x4.extract_lane(place, 0)));
    store<u8>(out, load<u8>(tables + table + <usize>i32x4.extract_lane(place, 1)), 1);
    store<u8>(out, load<u8>(tables + 2 * table + <usize>i32x4.extract_lane(place, 2)), 2);
  }
}
