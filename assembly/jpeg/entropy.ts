// Huffman coding of levels: either counted, which symbols are used how often and how many bits stand beside them, or
// written. Sources: ITU-T T.81, F.1.2 (sequential), G.1.2 (progressive).

import { band, negatives, odds, present } from "./mask";

/** Bytes of a block of 16-bit numbers. */
const BLOCK: usize = 128;
/** The longest run of blocks that end at once. */
const LONGEST: i32 = 0x7fff;

/** Bits that are not yet a byte, how many, and where the next byte goes. */
let bits: u64 = 0;
let waiting: i32 = 0;
let at: usize = 0;
/** Whether symbols and bits are only counted. */
let counting: bool = false;
let beside: f64 = 0;

/** From now on is counted, into tables of 256 counters. */
export function count(): void {
  counting = true;
  beside = 0;
}

/** Bits beside the symbols since {@link count}. */
export function besides(): f64 {
  return beside;
}

/** From now on is written, from an address on, by tables of 256 words: a code shifted by five bits, and its length. */
export function writeTo(address: usize): void {
  counting = false;
  at = address;
  bits = 0;
  waiting = 0;
}

/** Up to 32 bits. */
function put(value: u32, length: i32): void {
  if (counting) {
    beside += <f64>length;
    return;
  }
  bits = (bits << (<u64>length)) | <u64>value;
  waiting += length;
  if (waiting >= 32) write4();
}

/** Four bytes at once, where none of them is followed by a stuffed one. */
function write4(): void {
  const word = <u32>(bits >> <u64>(waiting - 32));
  if ((~word - 0x01010101) & word & 0x80808080) {
    while (waiting >= 8) writeByte();
    return;
  }
  store<u32>(at, bswap<u32>(word));
  at += 4;
  waiting -= 32;
}

function writeByte(): void {
  waiting -= 8;
  const byte = <u8>(bits >> <u64>waiting);
  store<u8>(at, byte);
  at += 1;
  if (byte === 0xff) {
    store<u8>(at, 0);
    at += 1;
  }
}

/** Fills the last byte with ones; answers with the address after it. */
export function finish(): usize {
  while (waiting >= 8) writeByte();
  if (waiting > 0) {
    bits = (bits << (<u64>(8 - waiting))) | ((1 << (<u64>(8 - waiting))) - 1);
    waiting = 8;
    writeByte();
  }
  return at;
}

function symbol(table: usize, value: i32): void {
  const place = table + ((<usize>value) << 2);
  const word = load<u32>(place);
  if (counting) store<u32>(place, word + 1);
  else put(word >> 5, word & 31);
}

function sizeOf(value: i32): i32 {
  return 32 - clz<i32>(value < 0 ? -value : value);
}

function putValue(value: i32, size: i32): void {
  put(<u32>((value < 0 ? value - 1 : value) & ((1 << size) - 1)), size);
}

/** Blocks whose ends have not been told yet, and all that ended before their band did. */
let ends: i32 = 0;
let blocksEnded: i32 = 0;
/** Corrections that follow those ends: how many bits, and where those of the blocks stand, next and first. */
let corrected: i32 = 0;
let nextKept: usize = 0;
let firstKept: usize = 0;
/** Bytes of one block's corrections: the bits, and how many. */
const KEPT: usize = 16;

export function ended(): i32 {
  return blocksEnded;
}

function tellEnds(table: usize): void {
  if (ends === 0) return;
  const size = 31 - clz<i32>(ends);
  symbol(table, size << 4);
  if (size) put(<u32>ends & ((1 << size) - 1), size);
  ends = 0;
  if (corrected === 0) return;
  if (counting) beside += <f64>corrected;
  else for (let kept = firstKept; kept < nextKept; kept += KEPT) putMany(load<u64>(kept), load<i32>(kept, 8));
  corrected = 0;
  nextKept = firstKept;
}

/** Up to 63 bits. */
function putMany(value: u64, length: i32): void {
  if (length > 32) {
    put(<u32>(value >> 32), length - 32);
    put(<u32>value, 32);
  } else if (length > 0) put(<u32>value, length);
}

function countBlock(block: usize, left: u64, next: i32, low: i32, table: usize): void {
  let extra = 0;
  for (; left !== 0; left &= left - 1) {
    const k = <i32>ctz<u64>(left);
    let run = k - next;
    for (; run > 15; run -= 16) symbol(table, 0xf0);
    const whole = <i32>load<i16>(block + ((<usize>k) << 1));
    const size = 32 - clz<i32>((whole < 0 ? -whole : whole) >> low);
    const place = table + ((<usize>((run << 4) | size)) << 2);
    store<u32>(place, load<u32>(place) + 1);
    extra += size;
    next = k + 1;
  }
  beside += <f64>extra;
}

function writeBlock(block: usize, left: u64, next: i32, low: i32, table: usize): void {
  for (; left !== 0; left &= left - 1) {
    const k = <i32>ctz<u64>(left);
    let run = k - next;
    for (; run > 15; run -= 16) symbol(table, 0xf0);
    const whole = <i32>load<i16>(block + ((<usize>k) << 1));
    const value = whole < 0 ? -(-whole >> low) : whole >> low;
    const size = sizeOf(value);
    // A code and the bits behind it in one.
    const word = load<u32>(table + ((<usize>((run << 4) | size)) << 2));
    const behind = <u32>((value < 0 ? value - 1 : value) & ((1 << size) - 1));
    put(((word >> 5) << size) | behind, (word & 31) + size);
    next = k + 1;
  }
}

/**
 * The coefficients `first` to `last` of `columns` by `rows` blocks, the rows `stride` blocks apart; without their
 * lowest `low` bits. `runs`: ends of blocks are told together.
 */
export function codeBand(
  levels: usize,
  columns: i32,
  rows: i32,
  stride: i32,
  first: i32,
  last: i32,
  low: i32,
  runs: bool,
  table: usize,
): void {
  const wanted = band(first, last);
  ends = 0;
  corrected = 0;
  nextKept = firstKept;
  blocksEnded = 0;
  for (let y = 0; y < rows; y += 1) {
    let block = levels + <usize>(y * stride) * BLOCK;
    for (let x = 0; x < columns; x += 1, block += BLOCK) {
      const left = present(block, low) & wanted;
      let next = first;
      if (left !== 0) {
        tellEnds(table);
        if (counting) countBlock(block, left, first, low, table);
        else writeBlock(block, left, first, low, table);
        next = 64 - <i32>clz<u64>(left);
      }
      if (next <= last) {
        ends += 1;
        blocksEnded += 1;
        if (!runs || ends === LONGEST) tellEnds(table);
      }
    }
  }
  tellEnds(table);
}

/** Corrections that are kept for a run of ends at most; those of one more block must still find room. */
const MOST_CORRECTIONS: i32 = 937;

/**
 * One bit more, the `low` lowest but all, of coefficients that were coded without it. `bench`: room for 16,384 bytes.
 * Source: ITU-T T.81, G.1.2.3.
 */
export function refineBand(
  levels: usize,
  columns: i32,
  rows: i32,
  stride: i32,
  first: i32,
  last: i32,
  low: i32,
  table: usize,
  bench: usize,
): void {
  const wanted = band(first, last);
  ends = 0;
  corrected = 0;
  firstKept = bench;
  nextKept = bench;
  for (let y = 0; y < rows; y += 1) {
    let block = levels + <usize>(y * stride) * BLOCK;
    for (let x = 0; x < columns; x += 1, block += BLOCK) {
      const before = present(block, low + 1) & wanted;
      const fresh = present(block, low) & wanted & ~before;
      if (counting) countRefined(before, fresh, first, last, table);
      else writeRefined(block, before, fresh, first, last, low, table);
      if (ends === LONGEST || corrected > MOST_CORRECTIONS) tellEnds(table);
    }
  }
  tellEnds(table);
}

/** A block that is only counted: how many corrections there are tells all about them. */
function countRefined(before: u64, fresh: u64, first: i32, last: i32, table: usize): void {
  let next = first;
  if (fresh !== 0) {
    tellEnds(table);
    let extra = 0;
    for (; fresh !== 0; fresh &= fresh - 1) {
      const k = <i32>ctz<u64>(fresh);
      const rest = before & ((<u64>-1) << (<u64>k));
      const kept = <i32>popcnt<u64>(before ^ rest);
      before = rest;
      let run = k - next - kept;
      for (; run > 15; run -= 16) symbol(table, 0xf0);
      const place = table + ((<usize>run) << 6);
      store<u32>(place, load<u32>(place, 4) + 1, 4);
      extra += kept + 1;
      next = k + 1;
    }
    beside += <f64>extra;
  }
  if (next > last) return;
  ends += 1;
  corrected += <i32>popcnt<u64>(before);
}

function writeRefined(
  block: usize,
  before: u64,
  fresh: u64,
  first: i32,
  last: i32,
  low: i32,
  table: usize,
): void {
  const odd = odds(block, low);
  const signs = negatives(block);
  let own: u64 = 0;
  let kept = 0;
  let next = first;
  for (; fresh !== 0; fresh &= fresh - 1) {
    const k = <i32>ctz<u64>(fresh);
    let run = 0;
    const rest = before & ((<u64>-1) << (<u64>k));
    for (let left = before ^ rest; left !== 0; left &= left - 1) {
      const place = <i32>ctz<u64>(left);
      run += place - next;
      next = place + 1;
      // Long runs are told before what follows them is corrected.
      if (run > 15) {
        run = tellRuns(run, own, kept, table);
        own = 0;
        kept = 0;
      }
      own = (own << 1) | ((odd >> <u64>place) & 1);
      kept += 1;
    }
    run += k - next;
    if (run > 15) {
      run = tellRuns(run, own, kept, table);
      own = 0;
      kept = 0;
    }
    tellEnds(table);
    // A code and the sign behind it in one.
    const word = load<u32>(table + ((<usize>((run << 4) | 1)) << 2));
    put(((word >> 5) << 1) | (<u32>(~signs >> <u64>k) & 1), (word & 31) + 1);
    putMany(own, kept);
    own = 0;
    kept = 0;
    before = rest;
    next = k + 1;
  }
  if (next > last) return;
  ends += 1;
  for (; before !== 0; before &= before - 1, kept += 1) own = (own << 1) | ((odd >> ctz<u64>(before)) & 1);
  if (kept === 0) return;
  store<u64>(nextKept, own);
  store<i32>(nextKept, kept, 8);
  nextKept += KEPT;
  corrected += kept;
}

/** Sixteen zeros after sixteen, the corrections behind the first of them; answers with the zeros that are left. */
function tellRuns(run: i32, own: u64, kept: i32, table: usize): i32 {
  tellEnds(table);
  symbol(table, 0xf0);
  putMany(own, kept);
  run -= 16;
  for (; run > 15; run -= 16) symbol(table, 0xf0);
  return run;
}

/**
 * Components of an interleaved scan, eight words each: where their levels lie, blocks in a row, blocks of an MCU across
 * and down, the tables for DC and AC, and the last DC.
 */
const PART: usize = 32;

/** DC of `across` by `down` MCUs of `parts` components, and all other coefficients where `whole`. */
export function codeMcus(parts: usize, number: i32, across: i32, down: i32, whole: bool): void {
  const end = parts + <usize>number * PART;
  for (let part = parts; part < end; part += PART) store<i32>(part, 0, 24);
  for (let my = 0; my < down; my += 1)
    for (let mx = 0; mx < across; mx += 1)
      for (let part = parts; part < end; part += PART) {
        const h = load<i32>(part, 8);
        const v = load<i32>(part, 12);
        for (let y = 0; y < v; y += 1)
          for (let x = 0; x < h; x += 1) {
            const place = <usize>((my * v + y) * load<i32>(part, 4) + mx * h + x);
            const block = load<usize>(part) + place * BLOCK;
            const value = <i32>load<i16>(block);
            const step = value - load<i32>(part, 24);
            const size = sizeOf(step);
            store<i32>(part, value, 24);
            symbol(load<usize>(part, 16), size);
            if (size) putValue(step, size);
            if (whole) codeBand(block, 1, 1, 1, 1, 63, 0, false, load<usize>(part, 20));
          }
      }
}
