// From levels back to pixels, as decoders do it: the integers of the common ones (13 bits of the transform's
// constants, two more bits between its passes; chroma drawn out three to one; 16 bits of colour), so that the samples
// are theirs to the last code.

import { present } from "./mask";

/** Bytes of a block of 16-bit numbers, and of a row of one. */
const BLOCK: usize = 128;
const ROW: usize = 16;
/** Bits of constants, those that are kept between passes, and the eighth that the transform leaves. */
const FIRST: i32 = 13 - 2;
const SECOND: i32 = 13 + 2 + 3;

/**
 * A row of blocks as samples of 8 bits: eight lines from `out` on, `pitch` bytes apart. `steps`: 64 integers in zigzag
 * order; `places`: for each of them the byte of a block in which its coefficient stands, row by row. `bench`: room for
 * 128 bytes.
 */
export function inverse(
  levels: usize,
  blocks: usize,
  steps: usize,
  places: usize,
  out: usize,
  pitch: usize,
  bench: usize,
): void {
  const none = i64x2.splat(0);
  const middle = i16x8.splat(128);
  for (; blocks > 0; blocks -= 1, levels += BLOCK, out += 8) {
    let left = present(levels, 0);
    if (left <= 1) {
      flat((<i32>load<i16>(levels) * load<i32>(steps) + 4) >> 3, out, pitch);
      continue;
    }
    for (let row: usize = 0; row < BLOCK; row += ROW) v128.store(bench + row, none);
    for (; left !== 0; left &= left - 1) {
      const k = <usize>ctz<u64>(left);
      const value = <i32>load<i16>(levels + (k << 1)) * load<i32>(steps + (k << 2));
      store<i16>(bench + <usize>load<u8>(places + k), <i16>value);
    }
    along(bench, FIRST);
    turn(bench);
    along(bench, SECOND);
    turn(bench);
    let line = out;
    for (let row: usize = 0; row < BLOCK; row += ROW, line += pitch) {
      const samples = i16x8.add_sat_s(v128.load(bench + row), middle);
      v128.store64_lane(line, i8x16.narrow_i16x8_u(samples, samples), 0);
    }
  }
}

/** A block of one sample. */
function flat(value: i32, out: usize, pitch: usize): void {
  const sample = max(0, min(255, value + 128));
  const eight = i8x16.splat(<i8>sample);
  for (let line = 0; line < 8; line += 1, out += pitch) v128.store64_lane(out, eight, 0);
}

/** Two 16-bit factors, side by side. */
function by(first: i32, second: i32): v128 {
  return i32x4.splat((first & 0xffff) | (second << 16));
}

function low(a: v128, b: v128): v128 {
  return v128.shuffle<i16>(a, b, 0, 8, 1, 9, 2, 10, 3, 11);
}

function high(a: v128, b: v128): v128 {
  return v128.shuffle<i16>(a, b, 4, 12, 5, 13, 6, 14, 7, 15);
}

/** Sums of the even and of the odd half: a line from either end. */
function put(at: usize, k: usize, el: v128, eh: v128, ol: v128, oh: v128, shift: i32): void {
  const first = i16x8.narrow_i32x4_s(
    i32x4.shr_s(i32x4.add(el, ol), shift),
    i32x4.shr_s(i32x4.add(eh, oh), shift),
  );
  const last = i16x8.narrow_i32x4_s(
    i32x4.shr_s(i32x4.sub(el, ol), shift),
    i32x4.shr_s(i32x4.sub(eh, oh), shift),
  );
  v128.store(at + k * ROW, first);
  v128.store(at + (7 - k) * ROW, last);
}

/**
 * One pass along the eight columns of a block, in place (C. Loeffler, A. Ligtenberg, G. Moschytz: Practical fast 1-D
 * DCT algorithms with 11 multiplications, 1989), its constants in 1/8192, added up where two meet one sample.
 */
function along(at: usize, shift: i32): void {
  const r1 = v128.load(at, ROW);
  const r3 = v128.load(at, 3 * ROW);
  const r5 = v128.load(at, 5 * ROW);
  const r7 = v128.load(at, 7 * ROW);
  const half = i32x4.splat(1 << (shift - 1));
  const r04 = low(v128.load(at), v128.load(at, 4 * ROW));
  const r26 = low(v128.load(at, 2 * ROW), v128.load(at, 6 * ROW));
  const s04 = high(v128.load(at), v128.load(at, 4 * ROW));
  const s26 = high(v128.load(at, 2 * ROW), v128.load(at, 6 * ROW));
  const sum = by(8192, 8192);
  const less = by(8192, -8192);
  const outer = by(10_703, 4433);
  const inner = by(4433, -10_704);
  const el0 = i32x4.add(i32x4.dot_i16x8_s(r04, sum), half);
  const eh0 = i32x4.add(i32x4.dot_i16x8_s(s04, sum), half);
  const el1 = i32x4.add(i32x4.dot_i16x8_s(r04, less), half);
  const eh1 = i32x4.add(i32x4.dot_i16x8_s(s04, less), half);
  const el3 = i32x4.dot_i16x8_s(r26, outer);
  const eh3 = i32x4.dot_i16x8_s(s26, outer);
  const el2 = i32x4.dot_i16x8_s(r26, inner);
  const eh2 = i32x4.dot_i16x8_s(s26, inner);
  const near = i16x8.add(r7, r3);
  const far = i16x8.add(r5, r1);
  const zl = low(near, far);
  const zh = high(near, far);
  const z3 = by(-6436, 9633);
  const z4 = by(9633, 6437);
  const zl3 = i32x4.dot_i16x8_s(zl, z3);
  const zh3 = i32x4.dot_i16x8_s(zh, z3);
  const zl4 = i32x4.dot_i16x8_s(zl, z4);
  const zh4 = i32x4.dot_i16x8_s(zh, z4);
  const r71 = low(r7, r1);
  const s71 = high(r7, r1);
  const r53 = low(r5, r3);
  const s53 = high(r5, r3);
  const o0 = by(-4927, -7373);
  const o1 = by(-4176, -20_995);
  const o2 = by(-20_995, 4177);
  const o3 = by(-7373, 4926);
  put(
    at,
    0,
    i32x4.add(el0, el3),
    i32x4.add(eh0, eh3),
    i32x4.add(i32x4.dot_i16x8_s(r71, o3), zl4),
    i32x4.add(i32x4.dot_i16x8_s(s71, o3), zh4),
    shift,
  );
  put(
    at,
    1,
    i32x4.add(el1, el2),
    i32x4.add(eh1, eh2),
    i32x4.add(i32x4.dot_i16x8_s(r53, o2), zl3),
    i32x4.add(i32x4.dot_i16x8_s(s53, o2), zh3),
    shift,
  );
  put(
    at,
    2,
    i32x4.sub(el1, el2),
    i32x4.sub(eh1, eh2),
    i32x4.add(i32x4.dot_i16x8_s(r53, o1), zl4),
    i32x4.add(i32x4.dot_i16x8_s(s53, o1), zh4),
    shift,
  );
  put(
    at,
    3,
    i32x4.sub(el0, el3),
    i32x4.sub(eh0, eh3),
    i32x4.add(i32x4.dot_i16x8_s(r71, o0), zl3),
    i32x4.add(i32x4.dot_i16x8_s(s71, o0), zh3),
    shift,
  );
}

/** A block's rows become its columns, in place. */
function turn(at: usize): void {
  const a0 = v128.load(at);
  const a1 = v128.load(at, ROW);
  const a2 = v128.load(at, 2 * ROW);
  const a3 = v128.load(at, 3 * ROW);
  const a4 = v128.load(at, 4 * ROW);
  const a5 = v128.load(at, 5 * ROW);
  const a6 = v128.load(at, 6 * ROW);
  const a7 = v128.load(at, 7 * ROW);
  turnHalf(at, low(a0, a4), low(a1, a5), low(a2, a6), low(a3, a7));
  turnHalf(at + 4 * ROW, high(a0, a4), high(a1, a5), high(a2, a6), high(a3, a7));
}

function turnHalf(at: usize, b0: v128, b1: v128, b2: v128, b3: v128): void {
  const c0 = low(b0, b2);
  const c1 = high(b0, b2);
  const c2 = low(b1, b3);
  const c3 = high(b1, b3);
  v128.store(at, low(c0, c2));
  v128.store(at, high(c0, c2), ROW);
  v128.store(at, low(c1, c3), 2 * ROW);
  v128.store(at, high(c1, c3), 3 * ROW);
}

/** Three times one row of samples and once the next, in 16 bits, with the first and the last repeated beside them. */
export function blend(near: usize, far: usize, out: usize, count: usize): void {
  for (let x: usize = 0; x < count; x += 8) {
    const one = v128.load_ext<u8>(near + x);
    v128.store(out + (x << 1), i16x8.add(i16x8.add(i16x8.shl(one, 1), one), v128.load_ext<u8>(far + x)));
  }
  store<i16>(out - 2, load<i16>(out));
  const end = out + (count << 1);
  store<i16>(end, load<i16>(end - 2));
}

/** Twice as many samples as sums of {@link blend}. */
export function drawOut(sums: usize, out: usize, count: usize): void {
  const even = i16x8.splat(8);
  const odd = i16x8.splat(7);
  for (let x: usize = 0; x < count; x += 8, sums += 16, out += 16) {
    const one = v128.load(sums);
    const three = i16x8.add(i16x8.shl(one, 1), one);
    const left = i16x8.shr_u(i16x8.add(i16x8.add(three, v128.load(sums - 2)), even), 4);
    const right = i16x8.shr_u(i16x8.add(i16x8.add(three, v128.load(sums, 2)), odd), 4);
    v128.store(out, v128.or(left, i16x8.shl(right, 8)));
  }
}

/** A row of Y, Cb and Cr as RGB (ITU-T T.871), eight at a time. */
export function rgb8(y: usize, cb: usize, cr: usize, out: usize, count: usize): void {
  const end = out + 3 * count;
  const middle = i16x8.splat(128);
  const two = i16x8.splat(2);
  const half = i32x4.splat(1 << 15);
  // What is beyond 16 bits of 1.402, 1.772 and 0.71414 is whole numbers of the sample itself.
  const ofRed = by(26_345, 16_384);
  const ofBlue = by(-14_942, 16_384);
  const ofGreen = by(-22_554, 18_734);
  for (; out < end; out += 24, y += 8, cb += 8, cr += 8) {
    const light = v128.load_ext<u8>(y);
    const blue = i16x8.sub(v128.load_ext<u8>(cb), middle);
    const red = i16x8.sub(v128.load_ext<u8>(cr), middle);
    const moreRed = i16x8.narrow_i32x4_s(
      i32x4.shr_s(i32x4.dot_i16x8_s(low(red, two), ofRed), 16),
      i32x4.shr_s(i32x4.dot_i16x8_s(high(red, two), ofRed), 16),
    );
    const moreBlue = i16x8.narrow_i32x4_s(
      i32x4.shr_s(i32x4.dot_i16x8_s(low(blue, two), ofBlue), 16),
      i32x4.shr_s(i32x4.dot_i16x8_s(high(blue, two), ofBlue), 16),
    );
    const moreGreen = i16x8.narrow_i32x4_s(
      i32x4.shr_s(i32x4.add(i32x4.dot_i16x8_s(low(blue, red), ofGreen), half), 16),
      i32x4.shr_s(i32x4.add(i32x4.dot_i16x8_s(high(blue, red), ofGreen), half), 16),
    );
    const r = i16x8.add(light, i16x8.add(red, moreRed));
    const g = i16x8.add(light, i16x8.sub(moreGreen, red));
    const b = i16x8.add(light, i16x8.add(i16x8.shl(blue, 1), moreBlue));
    const rg = i8x16.narrow_i16x8_u(r, g);
    const bb = i8x16.narrow_i16x8_u(b, b);
    v128.store(out, v128.shuffle<i8>(rg, bb, 0, 8, 16, 1, 9, 17, 2, 10, 18, 3, 11, 19, 4, 12, 20, 5));
    const rest = v128.shuffle<i8>(rg, bb, 13, 21, 6, 14, 22, 7, 15, 23, 0, 0, 0, 0, 0, 0, 0, 0);
    v128.store64_lane(out, rest, 0, 16);
  }
}
