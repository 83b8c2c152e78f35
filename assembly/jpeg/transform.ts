// The forward DCT of 8 by 8 samples. Source: Y. Arai, T. Agui, M. Nakajima, "A fast DCT-SQ scheme for images" (1988):
// each coefficient comes out with a factor of its own, which is divided out when it is stored.

/** Bytes of four floats, and of a row of eight. */
const FOUR: usize = 16;
const ROW: usize = 32;

/** Along the eight rows at `at`, four columns at a time. */
function along(at: usize, stride: usize, out: usize): void {
  const d0 = v128.load(at);
  const d1 = v128.load(at + stride);
  const d2 = v128.load(at + 2 * stride);
  const d3 = v128.load(at + 3 * stride);
  const d4 = v128.load(at + 4 * stride);
  const d5 = v128.load(at + 5 * stride);
  const d6 = v128.load(at + 6 * stride);
  const d7 = v128.load(at + 7 * stride);
  const s0 = f32x4.add(d0, d7);
  const m0 = f32x4.sub(d0, d7);
  const s1 = f32x4.add(d1, d6);
  const m1 = f32x4.sub(d1, d6);
  const s2 = f32x4.add(d2, d5);
  const m2 = f32x4.sub(d2, d5);
  const s3 = f32x4.add(d3, d4);
  const m3 = f32x4.sub(d3, d4);
  const e0 = f32x4.add(s0, s3);
  const e3 = f32x4.sub(s0, s3);
  const e1 = f32x4.add(s1, s2);
  const e2 = f32x4.sub(s1, s2);
  v128.store(out, f32x4.add(e0, e1));
  v128.store(out, f32x4.sub(e0, e1), 4 * ROW);
  const z1 = f32x4.mul(f32x4.add(e2, e3), f32x4.splat(<f32>Math.SQRT1_2));
  v128.store(out, f32x4.add(e3, z1), 2 * ROW);
  v128.store(out, f32x4.sub(e3, z1), 6 * ROW);
  const o0 = f32x4.add(m3, m2);
  const o1 = f32x4.add(m2, m1);
  const o2 = f32x4.add(m1, m0);
  const z5 = f32x4.mul(f32x4.sub(o0, o2), f32x4.splat(0.382683433));
  const z2 = f32x4.add(f32x4.mul(o0, f32x4.splat(0.5411961)), z5);
  const z4 = f32x4.add(f32x4.mul(o2, f32x4.splat(1.306562965)), z5);
  const z3 = f32x4.mul(o1, f32x4.splat(<f32>Math.SQRT1_2));
  const a = f32x4.add(m0, z3);
  const b = f32x4.sub(m0, z3);
  v128.store(out, f32x4.add(b, z2), 5 * ROW);
  v128.store(out, f32x4.sub(b, z2), 3 * ROW);
  v128.store(out, f32x4.add(a, z4), ROW);
  v128.store(out, f32x4.sub(a, z4), 7 * ROW);
}

/** Four by four floats, turned. */
function turn(from: usize, to: usize): void {
  const a = v128.load(from);
  const b = v128.load(from, ROW);
  const c = v128.load(from, 2 * ROW);
  const d = v128.load(from, 3 * ROW);
  const ab0 = v128.shuffle<f32>(a, b, 0, 4, 1, 5);
  const ab1 = v128.shuffle<f32>(a, b, 2, 6, 3, 7);
  const cd0 = v128.shuffle<f32>(c, d, 0, 4, 1, 5);
  const cd1 = v128.shuffle<f32>(c, d, 2, 6, 3, 7);
  v128.store(to, v128.shuffle<f32>(ab0, cd0, 0, 1, 4, 5));
  v128.store(to, v128.shuffle<f32>(ab0, cd0, 2, 3, 6, 7), ROW);
  v128.store(to, v128.shuffle<f32>(ab1, cd1, 0, 1, 4, 5), 2 * ROW);
  v128.store(to, v128.shuffle<f32>(ab1, cd1, 2, 3, 6, 7), 3 * ROW);
}

/**
 * `blocks` beside each other, whose eight rows begin at `rows`, `stride` bytes apart, to `out`: 64 coefficients of 16
 * bits a block, in sixteenths, in zigzag order. `factors`: 64 floats, and `places`: 64 bytes, the address of each
 * in its block, both column by column. `bench`: room for 640 bytes.
 */
export function forward(
  rows: usize,
  stride: usize,
  blocks: usize,
  factors: usize,
  places: usize,
  bench: usize,
  out: usize,
): void {
  const turned = bench + 256;
  const packed = bench + 512;
  for (; blocks > 0; blocks -= 1, rows += ROW, out += 128) {
    along(rows, stride, bench);
    along(rows + FOUR, stride, bench + FOUR);
    turn(bench, turned);
    turn(bench + FOUR, turned + 4 * ROW);
    turn(bench + 4 * ROW, turned + FOUR);
    turn(bench + 4 * ROW + FOUR, turned + 4 * ROW + FOUR);
    along(turned, ROW, bench);
    along(turned + FOUR, ROW, bench + FOUR);
    for (let i: usize = 0; i < 64; i += 8) {
      const a = f32x4.mul(v128.load(bench + (i << 2)), v128.load(factors + (i << 2)));
      const b = f32x4.mul(v128.load(bench + (i << 2), FOUR), v128.load(factors + (i << 2), FOUR));
      const whole = i16x8.narrow_i32x4_s(
        i32x4.trunc_sat_f32x4_s(f32x4.nearest(a)),
        i32x4.trunc_sat_f32x4_s(f32x4.nearest(b)),
      );
      v128.store(packed, whole);
      for (let k: usize = 0; k < 8; k += 1)
        store<i16>(out + <usize>load<u8>(places + i + k), load<i16>(packed + (k << 1)));
    }
  }
}
