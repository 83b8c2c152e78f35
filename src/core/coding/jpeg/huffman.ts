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

/** The shortest codes of at most 16 bits, none of them all ones. Two symbols at least get one. */
export function codesFor(counts: ArrayLike<number>): Codes {
  const used: { symbol: number; count: number }[] = [];
  for (let symbol = 0; symbol < counts.length; symbol += 1)
    if (counts[symbol] > 0) used.push({ symbol, count: counts[symbol] });
  if (!used.length) used.push({ symbol: 0, count: 1 });
  used.sort((a, b) => b.count - a.count || a.symbol - b.symbol);
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
 * codes" (1990).
 */
function shortest(counts: readonly number[]): number[] {
  const leaves = counts.map((count, leaf) => ({ count, leaves: [leaf] })).reverse();
  let packed: typeof leaves = [];
  for (let level = 0; level < LONGEST; level += 1) {
    const merged = [...leaves, ...packed].sort((a, b) => a.count - b.count);
    packed = [];
    for (let i = 0; i + 1 < merged.length; i += 2)
      packed.push({
        count: merged[i].count + merged[i + 1].count,
        leaves: [...merged[i].leaves, ...merged[i + 1].leaves],
      });
    if (level === LONGEST - 1) packed = merged.slice(0, 2 * counts.length - 2);
  }
  const bits = new Array<number>(counts.length).fill(0);
  for (const { leaves: members } of packed) for (const leaf of members) bits[leaf] += 1;
  const lengths = new Array<number>(LONGEST).fill(0);
  // Equal counts may have got their lengths in any order: only how many there are of each matters.
  const sorted = [...bits].sort((a, b) => a - b);
  for (const length of sorted.slice(0, -1)) lengths[length - 1] += 1;
  return lengths;
}

/** Bits that counted symbols take with these codes. */
export function bitsOf(counts: ArrayLike<number>, { words }: Codes): number {
  let bits = 0;
  for (let symbol = 0; symbol < 256; symbol += 1) bits += counts[symbol] * (words[symbol] & 31);
  return bits;
}
