// Which coefficients of a block are there at all: most are not.

const FOUR: usize = 16;

/** Sixteen of the bits. */
function sixteen(at: usize, low: i32): u64 {
  const zero = i16x8.splat(0);
  const one = i16x8.ne(i16x8.shr_u(i16x8.abs(v128.load(at)), low), zero);
  const two = i16x8.ne(i16x8.shr_u(i16x8.abs(v128.load(at, FOUR)), low), zero);
  return <u64>(<u32>i8x16.bitmask(i8x16.narrow_i16x8_s(one, two)));
}

/** A bit for each of 64 levels that is not zero without its `low` lowest bits; the first level's is the lowest. */
export function present(block: usize, low: i32): u64 {
  return (
    sixteen(block, low) |
    (sixteen(block + 32, low) << 16) |
    (sixteen(block + 64, low) << 32) |
    (sixteen(block + 96, low) << 48)
  );
}

/** The bits of the coefficients `first` to `last`. */
export function band(first: i32, last: i32): u64 {
  return (u64.MAX_VALUE >> <u64>(63 - last)) & (u64.MAX_VALUE << (<u64>first));
}

function odd8(block: usize, shift: i32): u64 {
  return <u64>i16x8.bitmask(i16x8.shl(i16x8.abs(v128.load(block)), shift));
}

/** Which of the 64 numbers of a block have the bit above the lowest `low`, without their sign. */
export function odds(block: usize, low: i32): u64 {
  const shift = 15 - low;
  let mask: u64 = 0;
  for (let part: usize = 0; part < 8; part += 1) mask |= odd8(block + part * 16, shift) << (part * 8);
  return mask;
}

/** Which are below zero. */
export function negatives(block: usize): u64 {
  let mask: u64 = 0;
  for (let part: usize = 0; part < 8; part += 1)
    mask |= (<u64>i16x8.bitmask(v128.load(block + part * 16))) << (part * 8);
  return mask;
}
