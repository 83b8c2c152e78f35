/** Huffman codes for counted symbols. Source: ITU-T T.81, annexes C and K.2. */

export interface Codes {
  /** How many codes have 1 to 16 bits. */
  lengths: number[];
  /** Symbols by growing length of their codes. */
  symbols: number[];
  /** For each of 256 symbols its code shifted by five bits, and its length; 0 where it has none. */
  words: Uint32Array;
}

const LONGEST = 16;

interface Used {
  symbol: number;
  count: number;
}

const byCount = (a: Used, b: Used): number => b.count - a.count || a.symbol - b.symbol;

/** The shortest codes of at most 16 bits, none of them all ones. Two symbols at least get one. */
export function codesFor(counts: ArrayLike<number>): Codes {
  const used: Used[] = [];
  for (let symbol = 0; symbol < counts.length; symbol += 1)
    if (counts[symbol] > 0) used.push({ symbol, count: counts[symbol] });
  if (!used.length) used.push({ symbol: 0, count: 1 });
  used.sort(byCount);
  // One more than all takes the code of all ones, as the least of all.
  const lengths = shortest([...used.map(({ count }) => count), 0]);
  const symbols = used.map(({ symbol }) => symbol);
  const words = new Uint32Array(256);
  let code = 0;
  let place = 0;
  for (let length = 1; length <= LONGEST; length += 1) {
    for (let n = 0; n < lengths[length - 1]; n += 1) words[symbols[place++]] = ((code++ << 5) | length) >>> 0;
    code <<= 1;
  }
  return { lengths, symbols, words };
}

/**
 * Numbers of codes by length, for counts that fall; the last count's code is left out. By packages of two, so that no
 * code is longer than allowed: L. Larmore, D. Hirschberg, "A fast algorithm for optimal length-limited Huffman
 * codes" (1990). Of each level only the order of leaves and packages is kept, from which the lengths follow.
 */
function shortest(counts: readonly number[]): number[] {
  const leaves = counts.length;
  const rising = Float64Array.from(counts).reverse();
  const levels: Uint8Array[] = [];
  let packed = new Float64Array(0);
  for (let level = 0; level < LONGEST; level += 1) {
    const merged = merge(rising, packed);
    levels.push(merged.packages);
    packed = paired(merged.counts);
  }
  const bits = new Uint8Array(leaves);
  // A leaf has a bit for each level at which it is among those that are taken.
  for (let level = LONGEST - 1, taken = 2 * leaves - 2; level >= 0 && taken > 0; level -= 1) {
    const packages = sumOf(levels[level].subarray(0, taken));
    for (let leaf = 0; leaf < taken - packages; leaf += 1) bits[leaf] += 1;
    taken = 2 * packages;
  }
  const lengths = new Array<number>(LONGEST).fill(0);
  // Equal counts may have got their lengths in any order: only how many there are of each matters. The longest
  // is that of all ones.
  bits.sort();
  for (let n = 0; n < leaves - 1; n += 1) lengths[bits[n] - 1] += 1;
  return lengths;
}

/** Two lists that rise as one, leaves before packages of the same count; `packages`: 1 where a package stands. */
function merge(leaves: Float64Array, packed: Float64Array): { counts: Float64Array; packages: Uint8Array } {
  const counts = new Float64Array(leaves.length + packed.length);
  const packages = new Uint8Array(counts.length);
  for (let i = 0, leaf = 0, pack = 0; i < counts.length; i += 1) {
    const isPackage = leaf === leaves.length || (pack < packed.length && packed[pack] < leaves[leaf]);
    counts[i] = isPackage ? packed[pack++] : leaves[leaf++];
    packages[i] = isPackage ? 1 : 0;
  }
  return { counts, packages };
}

function paired(counts: Float64Array): Float64Array<ArrayBuffer> {
  const out = new Float64Array(counts.length >> 1);
  for (let i = 0; i < out.length; i += 1) out[i] = counts[2 * i] + counts[2 * i + 1];
  return out;
}

function sumOf(values: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < values.length; i += 1) sum += values[i];
  return sum;
}

/** Bits that counted symbols take with these codes. */
export function bitsOf(counts: ArrayLike<number>, { words }: Codes): number {
  let bits = 0;
  for (let symbol = 0; symbol < 256; symbol += 1) bits += counts[symbol] * (words[symbol] & 31);
  return bits;
}
