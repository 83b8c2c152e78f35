// Weighted sums of rows, for resampling and for the visible difference. AssemblyScript, taken into both modules.

/** Bytes of four floats. */
const FOUR: usize = 16;

/**
 * `bytes` of one output row at `out`, a multiple of {@link FOUR}: the weighted sum of `taps` rows. At `rows`
 * stands where each begins. Eight floats at a time, so that one sum need not wait for the other.
 */
export function sumRows(rows: usize, weights: usize, taps: i32, out: usize, bytes: usize): void {
  let offset: usize = 0;
  for (; offset + FOUR < bytes; offset += 2 * FOUR) {
    let one = f32x4.splat(0);
    let two = f32x4.splat(0);
    let row = rows;
    let weight = weights;
    let left = taps;
    do {
      const at = <usize>load<u32>(row) + offset;
      const by = v128.load_splat<u32>(weight);
      one = f32x4.add(one, f32x4.mul(v128.load(at), by));
      two = f32x4.add(two, f32x4.mul(v128.load(at, FOUR), by));
      row += 4;
      weight += 4;
      left -= 1;
    } while (left);
    v128.store(out + offset, one);
    v128.store(out + offset, two, FOUR);
  }
  if (offset < bytes) v128.store(out + offset, sumOfFour(rows, offset, weights, taps));
}

function sumOfFour(rows: usize, offset: usize, weights: usize, taps: i32): v128 {
  let sum = f32x4.splat(0);
  for (let left = taps; left > 0; left -= 1, rows += 4, weights += 4) {
    const at = <usize>load<u32>(rows) + offset;
    sum = f32x4.add(sum, f32x4.mul(v128.load(at), v128.load_splat<u32>(weights)));
  }
  return sum;
}
