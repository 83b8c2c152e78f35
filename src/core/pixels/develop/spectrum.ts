/** The power spectrum of a square tile. The transform is WebAssembly (assembly/spectrum.ts). */
import { SPECTRUM_WASM } from "./spectrum-wasm";

/** Side of a tile in px; a power of two. */
export const TILE = 256;
/** Frequencies of a real row that do not mirror others. */
const COLUMNS = TILE / 2 + 1;

/** Where each value goes before the transform: the bits of its place, turned round. */
const PLACES = Uint32Array.from({ length: TILE }, (_, i) => {
  let out = 0;
  for (let bit = 1, back = TILE >> 1; bit < TILE; bit <<= 1, back >>= 1) if (i & bit) out |= back;
  return out;
});

/** Two floats a complex value: COLUMNS columns of TILE, one after the other, and one row. */
interface Room {
  columns: Float64Array;
  row: Float64Array;
  /** Transforms TILE values from an index of `columns` or, behind them, `row` on. */
  transform: (at: number) => void;
}

let known: Room | null = null;

/** One a thread: a transform begins and ends without anything between. */
function room(): Room {
  known ??= newRoom();
  return known;
}

function newRoom(): Room {
  const values = COLUMNS * TILE + TILE;
  const turns = values * 16;
  const places = turns + TILE * 8;
  const memory = new WebAssembly.Memory({ initial: Math.ceil((places + TILE * 4) / 65_536) });
  const module = new WebAssembly.Module(Uint8Array.from(atob(SPECTRUM_WASM), (c) => c.charCodeAt(0)));
  const { exports } = new WebAssembly.Instance(module, { env: { memory } });
  const transform = exports.transform as (at: number, count: number, turns: number, places: number) => void;
  const angle = (k: number) => (-2 * Math.PI * k) / TILE;
  new Float64Array(memory.buffer, turns, TILE).set(
    Float64Array.from({ length: TILE }, (_, i) => (i % 2 ? Math.sin : Math.cos)(angle(i >> 1))),
  );
  new Uint32Array(memory.buffer, places, TILE).set(PLACES);
  return {
    columns: new Float64Array(memory.buffer, 0, COLUMNS * TILE * 2),
    row: new Float64Array(memory.buffer, COLUMNS * TILE * 16, TILE * 2),
    transform: (at) => transform(at * 16, TILE, turns, places),
  };
}

/**
 * Power of each frequency of TILE × TILE real values, at v * TILE + u with v from 0 to half a TILE: the other half
 * mirrors it.
 */
export function spectrum(values: Float64Array): Float64Array {
  const all = room();
  for (let y = 0; y < TILE; y += 2) twoRows(values, y, all);
  for (let u = 0; u < COLUMNS; u += 1) all.transform(u * TILE);
  const power = new Float64Array(COLUMNS * TILE);
  for (let u = 0; u < COLUMNS; u += 1) powerOf(u, all, power);
  return power;
}

// Rows have functions of their own: code that is entered once a photo would be compiled anew for each.
/** Two real rows are one complex one; their transforms are its even and odd parts. */
function twoRows(values: Float64Array, y: number, { row, columns, transform }: Room): void {
  for (let x = 0; x < TILE; x += 1) {
    row[2 * x] = values[y * TILE + x];
    row[2 * x + 1] = values[(y + 1) * TILE + x];
  }
  transform(COLUMNS * TILE);
  for (let u = 0, o = y * 2; u < COLUMNS; u += 1, o += TILE * 2) {
    const a = 2 * u;
    const b = 2 * ((TILE - u) % TILE);
    columns[o] = (row[a] + row[b]) / 2;
    columns[o + 1] = (row[a + 1] - row[b + 1]) / 2;
    columns[o + 2] = (row[a + 1] + row[b + 1]) / 2;
    columns[o + 3] = (row[b] - row[a]) / 2;
  }
}

/** What is asked for has rows in one half and columns in both. */
function powerOf(u: number, { columns }: Room, power: Float64Array): void {
  for (let v = 0; v < TILE; v += 1) {
    const at = 2 * (u * TILE + v);
    const p = columns[at] ** 2 + columns[at + 1] ** 2;
    if (v <= TILE / 2) power[v * TILE + u] = p;
    if (v === 0 || v >= TILE / 2) power[((TILE - v) % TILE) * TILE + ((TILE - u) % TILE)] = p;
  }
}
