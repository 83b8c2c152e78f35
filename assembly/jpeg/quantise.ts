// From coefficients to levels: rounded, or with a weighing of what a level costs in bits against what its absence
// costs in the picture.

import { band, present } from "./mask";

/** Bytes of a block of 16-bit numbers. */
const BLOCK: usize = 128;
const FOUR: usize = 16;

/** Mean squares of the AC coefficients (in sixteenths) of each block, one float a block. */
export function energy(coefficients: usize, blocks: usize, out: usize): void {
  for (; blocks > 0; blocks -= 1, coefficients += BLOCK, out += 4) {
    let sum: f32 = 0;
    for (let k: usize = 2; k < BLOCK; k += 2) {
      const c = <f32>load<i16>(coefficients + k);
      sum += c * c;
    }
    store<f32>(out, sum / 16384);
  }
}

/** Fourth roots, in place. */
export function activity(at: usize, count: usize): void {
  const end = at + (count << 2);
  for (; at < end; at += 4) store<f32>(at, sqrt<f32>(sqrt<f32>(load<f32>(at))));
}

function levelsOf(c: v128, by: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(f32x4.convert_i32x4_s(c), by)));
}

/** The nearest levels; `by`: 64 floats, what each coefficient is multiplied with. DC stays in 11 bits, AC in 10. */
export function plain(coefficients: usize, levels: usize, blocks: usize, by: usize): void {
  const most = i16x8.splat(1023);
  const least = i16x8.splat(-1023);
  for (; blocks > 0; blocks -= 1, coefficients += BLOCK, levels += BLOCK) {
    for (let k: usize = 0; k < BLOCK; k += FOUR) {
      const c = v128.load(coefficients + k);
      const low = levelsOf(i32x4.extend_low_i16x8_s(c), v128.load(by + (k << 1)));
      const high = levelsOf(i32x4.extend_high_i16x8_s(c), v128.load(by + (k << 1), FOUR));
      v128.store(levels + k, i16x8.max_s(least, i16x8.min_s(most, i16x8.narrow_i32x4_s(low, high))));
    }
  }
}

/** Rates stand 16 runs by 11 classes, in floats; after them that of sixteen zeros and that of a block's end. */
const ZEROS: usize = 176 * 4;
const END: usize = 177 * 4;

/**
 * The cheapest levels of the coefficients `first` to `last` of each block, those of {@link plain} being given: each
 * is kept, made the largest of the next shorter class, or left out. Cost is the squared error in steps times the
 * block's weight, and the bits by `rates`. `steps`: 64 floats in sixteenths; `inverse`: 64 floats that errors are
 * measured in. What rounds to zero costs the same on any path and does not count. `bench`: room for 2048 bytes. A path through the levels that are kept, each joined to that one
 * before it from which it is cheapest.
 */
export function thrifty(
  coefficients: usize,
  levels: usize,
  blocks: usize,
  weights: usize,
  steps: usize,
  inverse: usize,
  rates: usize,
  first: i32,
  last: i32,
  bench: usize,
): void {
  const costs = bench;
  const sums = bench + 256;
  const places = bench + 512;
  const befores = bench + 768;
  const kept = bench + 1024;
  const leasts = bench + 1280;
  const zeros = load<f32>(rates + ZEROS);
  const ending = load<f32>(rates + END);
  const wanted = band(first, last);
  for (; blocks > 0; blocks -= 1, coefficients += BLOCK, levels += BLOCK, weights += 4) {
    const weight = load<f32>(weights);
    // Node 0 is the beginning: nothing is spent yet.
    let nodes: usize = 4;
    let lost: f32 = 0;
    store<f32>(costs, 0);
    store<f32>(sums, 0);
    store<i32>(places, first - 1);
    store<f32>(leasts, 0);
    for (let left = present(levels, 0) & wanted; left !== 0; left &= left - 1) {
      const k = <i32>ctz<u64>(left);
      const value = <i32>load<i16>(levels + ((<usize>k) << 1));
      const scale = load<f32>(inverse + ((<usize>k) << 2));
      const coefficient = abs<f32>(<f32>load<i16>(coefficients + ((<usize>k) << 1))) * scale;
      const zero = weight * coefficient * coefficient;
      const step = load<f32>(steps + ((<usize>k) << 2)) * scale;
      const level = value < 0 ? -value : value;
      const size = 32 - clz<i32>(level);
      const off = coefficient - <f32>level * step;
      const costOne = weight * off * off;
      const shorter = (1 << (size - 1)) - 1;
      const offShort = coefficient - <f32>shorter * step;
      const costShort = weight * offShort * offShort;
      let best: f32 = f32.MAX_VALUE;
      let before: usize = 0;
      let choice = level;
      // Backwards: what is left out between grows, so that from some place on nothing can be cheaper.
      let j = nodes;
      do {
        j -= 4;
        const between = lost - load<f32>(sums + j);
        if (between + load<f32>(leasts + j) >= best) break;
        let run = k - load<i32>(places + j) - 1;
        let base = load<f32>(costs + j) + between;
        while (run > 15) {
          base += zeros;
          run -= 16;
        }
        const rate = rates + ((<usize>(run * 11)) << 2);
        const one = base + costOne + load<f32>(rate + ((<usize>size) << 2));
        if (one < best) {
          best = one;
          before = j;
          choice = level;
        }
        if (size > 1) {
          const short = base + costShort + load<f32>(rate + ((<usize>(size - 1)) << 2));
          if (short < best) {
            best = short;
            before = j;
            choice = shorter;
          }
        }
      } while (j > 0);
      lost += zero;
      store<f32>(costs + nodes, best);
      store<f32>(sums + nodes, lost);
      store<i32>(places + nodes, k);
      store<i32>(befores + nodes, <i32>before);
      store<i32>(kept + nodes, value < 0 ? -choice : choice);
      const least = load<f32>(leasts + nodes - 4);
      store<f32>(leasts + nodes, least < best ? least : best);
      store<i16>(levels + ((<usize>k) << 1), 0);
      nodes += 4;
    }
    if (nodes === 4) continue;
    let least: f32 = f32.MAX_VALUE;
    let end: usize = 0;
    for (let j: usize = 0; j < nodes; j += 4) {
      const cost =
        load<f32>(costs + j) +
        lost -
        load<f32>(sums + j) +
        (load<i32>(places + j) === last ? <f32>0 : ending);
      if (cost < least) {
        least = cost;
        end = j;
      }
    }
    while (end > 0) {
      store<i16>(levels + ((<usize>load<i32>(places + end)) << 1), <i16>load<i32>(kept + end));
      end = <usize>load<i32>(befores + end);
    }
  }
}

/** The mean of the blocks' logarithms of weights at `logs`, each as often as it has AC levels; 0 where there are none. */
export function meanActive(levels: usize, blocks: usize, logs: usize): f64 {
  let sum: f64 = 0;
  let active: f64 = 0;
  for (; blocks > 0; blocks -= 1, levels += BLOCK, logs += 4) {
    let zero = v128.splat<i16>(0);
    for (let k: usize = 0; k < BLOCK; k += FOUR)
      zero = i16x8.sub(zero, i16x8.ne(v128.load(levels + k), i16x8.splat(0)));
    const pairs = i32x4.extadd_pairwise_i16x8_s(zero);
    let n = i32x4.extract_lane(pairs, 0) + i32x4.extract_lane(pairs, 1);
    n += i32x4.extract_lane(pairs, 2) + i32x4.extract_lane(pairs, 3);
    if (load<i16>(levels) !== 0) n -= 1;
    sum += <f64>n * <f64>load<f32>(logs);
    active += <f64>n;
  }
  return active > 0 ? sum / active : 0;
}
