// The discrete Fourier transform of complex values (Cooley and Tukey, 1965), for the search for dot screens.
// AssemblyScript; compiled by scripts/wasm.mjs. Addresses are in bytes.

/** Bytes of a real and an imaginary part, 64-bit floats. */
const VALUE: usize = 16;

/**
 * In place: `count` values (a power of two) from `values` on. `turns` holds count / 2 values, the k-th being
 * e^(−2πik/count); `places` holds for each of the values the one that it changes places with, 32-bit.
 */
export function transform(values: usize, count: usize, turns: usize, places: usize): void {
  for (let i: usize = 0; i < count; i += 1) {
    const j = <usize>load<u32>(places + (i << 2));
    if (i >= j) continue;
    const one = v128.load(values + i * VALUE);
    v128.store(values + i * VALUE, v128.load(values + j * VALUE));
    v128.store(values + j * VALUE, one);
  }
  const end = values + count * VALUE;
  for (let half: usize = 1, step = count >> 1; half < count; half <<= 1, step >>= 1) {
    const span = half * VALUE;
    for (let start = values; start < end; start += 2 * span) {
      let turn = turns;
      for (let a = start; a < start + span; a += VALUE, turn += step * VALUE) {
        const b = a + span;
        const by = v128.load(turn);
        const far = v128.load(b);
        // (x + iy)(c + is) = (xc − ys) + i(xs + yc).
        const turned = f64x2.add(
          f64x2.mul(far, v128.shuffle<f64>(by, by, 0, 0)),
          f64x2.mul(
            v128.shuffle<f64>(far, far, 1, 0),
            f64x2.mul(v128.shuffle<f64>(by, by, 1, 1), f64x2.replace_lane(f64x2.splat(1), 0, -1)),
          ),
        );
        const near = v128.load(a);
        v128.store(b, f64x2.sub(near, turned));
        v128.store(a, f64x2.add(near, turned));
      }
    }
  }
}
