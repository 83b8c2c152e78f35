// Huffman coding of levels: either counted, which symbols are used how often and how many bits stand beside them, or
// written. Sources: ITU-T T.81, F.1.2 (sequential), G.1.2 (progressive).

import { band, present } from "./mask";

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

function put(value: u32, length: i32): void {
  if (counting) {
    beside += <f64>length;
    return;
  }
  bits = (bits << (<u64>length)) | <u64>value;
  waiting += length;
  while (waiting >= 8) {
    waiting -= 8;
    const byte = <u8>(bits >> <u64>waiting);
    store<u8>(at, byte);
    at += 1;
    if (byte === 0xff) {
      store<u8>(at, 0);
      at += 1;
    }
  }
}

/** Fills the last byte with ones; answers with the address after it. */
export function finish(): usize {
  if (waiting > 0) put((1 << (8 - waiting)) - 1, 8 - waiting);
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
/** Corrections that follow those ends: a byte each. */
let corrections: usize = 0;
let corrected: usize = 0;

export function ended(): i32 {
  return blocksEnded;
}

function tellEnds(table: usize): void {
  if (ends === 0) return;
  const size = 31 - clz<i32>(ends);
  symbol(table, size << 4);
  if (size) put(<u32>ends & ((1 << size) - 1), size);
  ends = 0;
  for (let n: usize = 0; n < corrected; n += 1) put(load<u8>(corrections + n), 1);
  corrected = 0;
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
  blocksEnded = 0;
  for (let y = 0; y < rows; y += 1) {
    let block = levels + <usize>(y * stride) * BLOCK;
    for (let x = 0; x < columns; x += 1, block += BLOCK) {
      let left = present(block, low) & wanted;
      let next = first;
      if (left !== 0) tellEnds(table);
      for (; left !== 0; left &= left - 1) {
        const k = <i32>ctz<u64>(left);
        let run = k - next;
        for (; run > 15; run -= 16) symbol(table, 0xf0);
        const whole = <i32>load<i16>(block + ((<usize>k) << 1));
        const value = whole < 0 ? -(-whole >> low) : whole >> low;
        const size = sizeOf(value);
        symbol(table, (run << 4) | size);
        putValue(value, size);
        next = k + 1;
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
const MOST_CORRECTIONS: usize = 937;

/**
 * One bit more, the `low` lowest but all, of coefficients that were coded without it. `bench`: room for 2048 bytes.
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
  corrections = bench;
  const own = bench + 1024;
  for (let y = 0; y < rows; y += 1) {
    let block = levels + <usize>(y * stride) * BLOCK;
    for (let x = 0; x < columns; x += 1, block += BLOCK) {
      const all = present(block, low) & wanted;
      const before = present(block, low + 1);
      const fresh = all & ~before;
      let kept: usize = 0;
      let run = 0;
      let next = first;
      for (let left = all; left !== 0; left &= left - 1) {
        const k = <i32>ctz<u64>(left);
        run += k - next;
        next = k + 1;
        // Long runs are told only where a new coefficient still follows.
        while (run > 15 && fresh >> <u64>k !== 0) {
          tellEnds(table);
          symbol(table, 0xf0);
          run -= 16;
          for (let n: usize = 0; n < kept; n += 1) put(load<u8>(own + n), 1);
          kept = 0;
        }
        const value = <i32>load<i16>(block + ((<usize>k) << 1));
        const bit = <u8>(((value < 0 ? -value : value) >> low) & 1);
        if ((before >> <u64>k) & 1) {
          store<u8>(own + kept, bit);
          kept += 1;
          continue;
        }
        tellEnds(table);
        symbol(table, (run << 4) | 1);
        put(value < 0 ? 0 : 1, 1);
        for (let n: usize = 0; n < kept; n += 1) put(load<u8>(own + n), 1);
        kept = 0;
        run = 0;
      }
      if (next <= last || kept > 0 || run > 0) {
        ends += 1;
        memory.copy(corrections + corrected, own, kept);
        corrected += kept;
        if (ends === LONGEST || corrected > MOST_CORRECTIONS) tellEnds(table);
      }
    }
  }
  tellEnds(table);
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
