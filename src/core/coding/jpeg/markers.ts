/** The segments of a JPEG. Source: ITU-T T.81, annex B; JFIF's from ITU-T T.871. */
import type { Codes } from "./huffman";
import type { Prepared } from "./prepare";

export const START = [0xff, 0xd8];
export const END = [0xff, 0xd9];

const segment = (marker: number, data: readonly number[]): number[] => [
  0xff,
  marker,
  (data.length + 2) >> 8,
  (data.length + 2) & 255,
  ...data,
];

/** JFIF 1.02 without a resolution: that is written when the file is put together. */
export const JFIF = segment(0xe0, [0x4a, 0x46, 0x49, 0x46, 0, 1, 2, 0, 0, 1, 0, 1, 0, 0]);

/** A table of 64 steps of 8 bits in zigzag order. */
export const quantisation = (id: number, steps: readonly number[]): number[] => segment(0xdb, [id, ...steps]);

/** Baseline (0) or progressive (2) frame; `tables`: the quantisation table of each component. */
export function frame(
  kind: 0 | 2,
  { width, height, planes, ids, tables }: Omit<Prepared, "heap" | "across" | "down"> & { tables: number[] },
): number[] {
  const parts = planes.flatMap(({ h, v }, c) => [ids?.[c] ?? c + 1, (h << 4) | v, tables[c]]);
  return segment(0xc0 + kind, [
    8,
    height >> 8,
    height & 255,
    width >> 8,
    width & 255,
    planes.length,
    ...parts,
  ]);
}

/** `kind`: 0 for DC, 1 for AC. */
export const huffman = (kind: 0 | 1, id: number, { lengths, symbols }: Codes): number[] =>
  segment(0xc4, [(kind << 4) | id, ...lengths, ...symbols]);

/** Components with their tables, and what of their coefficients the scan holds. */
export const scan = (
  parts: readonly { id: number; dc: number; ac: number }[],
  { first, last, low, refines }: { first: number; last: number; low: number; refines: boolean },
): number[] =>
  segment(0xda, [
    parts.length,
    ...parts.flatMap(({ id, dc, ac }) => [id, (dc << 4) | ac]),
    first,
    last,
    ((refines ? low + 1 : 0) << 4) | low,
  ]);
