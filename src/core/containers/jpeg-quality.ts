/**
 * Which quality a JPEG's quantisation tables stand for.
 * Tables: ITU-T T.81 annex K, K.1 and K.2, scaled as the public JPEG library
 * (IJG, jpeg_quality_scaling and jpeg_add_quant_table) does.
 */

import { view } from "./bytes";
import { bodyOf, type JpegFile, MARKER } from "./jpeg";

/** Table K.1, luminance, row by row. */
export const ANNEX_K_LUMA = [
  16, 11, 10, 16, 24, 40, 51, 61, 12, 12, 14, 19, 26, 58, 60, 55, 14, 13, 16, 24, 40, 57, 69, 56, 14, 17, 22,
  29, 51, 87, 80, 62, 18, 22, 37, 56, 68, 109, 103, 77, 24, 35, 55, 64, 81, 104, 113, 92, 49, 64, 78, 87, 103,
  121, 120, 101, 72, 92, 95, 98, 112, 100, 103, 99,
];
/** Table K.2, chrominance, row by row. */
export const ANNEX_K_CHROMA = [
  17,
  18,
  24,
  47,
  99,
  99,
  99,
  99,
  18,
  21,
  26,
  66,
  99,
  99,
  99,
  99,
  24,
  26,
  56,
  99,
  99,
  99,
  99,
  99,
  47,
  66,
  99,
  99,
  99,
  99,
  99,
  99,
  ...new Array<number>(32).fill(99),
];
const ZIGZAG = [
  0, 1, 8, 16, 9, 2, 3, 10, 17, 24, 32, 25, 18, 11, 4, 5, 12, 19, 26, 33, 40, 48, 41, 34, 27, 20, 13, 6, 7,
  14, 21, 28, 35, 42, 49, 56, 57, 50, 43, 36, 29, 22, 15, 23, 30, 37, 44, 51, 58, 59, 52, 45, 38, 31, 39, 46,
  53, 60, 61, 54, 47, 55, 62, 63,
];

/** The table at a quality of 1 to 100, entries 1 to 255 (baseline). */
export function scaleTable(table: readonly number[], quality: number): number[] {
  const scale = quality < 50 ? Math.floor(5000 / quality) : 200 - 2 * quality;
  return table.map((entry) => Math.min(255, Math.max(1, Math.floor((entry * scale + 50) / 100))));
}

export interface JpegQuality {
  /** 1 to 100 on the Annex K scale; the nearest where the tables are of another make. */
  quality: number;
  /** Whether the tables are exactly those of Annex K at that quality. */
  exact: boolean;
}

/** The quantisation tables before the first scan, by number, row by row (not in zigzag order). */
export function quantTables(file: JpegFile): Map<number, number[]> {
  const tables = new Map<number, number[]>();
  for (const segment of file.segments) {
    if (segment.marker !== MARKER.DQT) continue;
    const body = bodyOf(file, segment);
    let at = 0;
    while (at < body.length) {
      const wide = body[at] >> 4 === 1;
      const id = body[at] & 15;
      const size = wide ? 128 : 64;
      if (at + 1 + size > body.length) break;
      const table = new Array<number>(64);
      for (let i = 0; i < 64; i += 1)
        table[ZIGZAG[i]] = wide ? view(body).getUint16(at + 1 + i * 2) : body[at + 1 + i];
      tables.set(id, table);
      at += 1 + size;
    }
  }
  return tables;
}

interface Tables {
  luma: readonly number[];
  chroma: readonly number[];
}
let made: Tables[] | null = null;

/** The tables of each quality from 1 on. */
function scaled(): Tables[] {
  made ??= Array.from({ length: 100 }, (_, i) => ({
    luma: scaleTable(ANNEX_K_LUMA, i + 1),
    chroma: scaleTable(ANNEX_K_CHROMA, i + 1),
  }));
  return made;
}

function equal(a: readonly number[], b: readonly number[]): boolean {
  for (let i = 0; i < a.length; i += 1) if (a[i] !== b[i]) return false;
  return true;
}

/** Null where the file has no tables before its first scan. */
export function qualityOf(file: JpegFile): JpegQuality | null {
  const tables = quantTables(file);
  const luma = tables.get(file.frame.components[0]?.table ?? 0);
  if (!luma) return null;
  const second = file.frame.components[1];
  const chroma = second ? tables.get(second.table) : undefined;
  let best = { quality: 1, exact: false, distance: Infinity };
  // From the top, so that of qualities with the same tables the highest is named.
  for (let quality = 100; quality >= 1; quality -= 1) {
    const { luma: wantLuma, chroma: wantChroma } = scaled()[quality - 1];
    if (equal(luma, wantLuma) && (!chroma || equal(chroma, wantChroma))) return { quality, exact: true };
    const distance = tableDistance(luma, wantLuma) + (chroma ? tableDistance(chroma, wantChroma) : 0);
    if (distance < best.distance) best = { quality, exact: false, distance };
  }
  return { quality: best.quality, exact: false };
}

/**
 * How far two tables lie apart: the difference of their mean logarithms, which is what decides size and
 * damage.
 */
function tableDistance(a: readonly number[], b: readonly number[]): number {
  let sum = 0;
  for (let i = 0; i < 64; i += 1) sum += Math.log(Math.max(1, a[i]) / b[i]);
  return Math.abs(sum / 64);
}
