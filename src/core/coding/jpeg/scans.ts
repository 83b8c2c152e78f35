/** Levels of a prepared picture as scans: counted first, so that the smallest order is known before a byte is written. */
import { bitsOf, type Codes, codesFor } from "./huffman";
import { frame, huffman, scan } from "./markers";
import type { Plane, Prepared } from "./prepare";

/** What one scan of one component holds. */
export interface Band {
  first: number;
  last: number;
  /** Bits that are left out. */
  low: number;
  /** Adds the lowest of the bits to what was coded without it. */
  refines: boolean;
}

const band = (first: number, last: number, low = 0, refines = false): Band => ({ first, last, low, refines });

export const ALL = band(1, 63);
/** Bands of lightness with Huffman tables of their own. */
export const LOW = band(1, 2);
export const HIGH = band(3, 63);
const REFINED = band(1, 63, 0, true);

/**
 * Ways to part a component. Whole values are smallest on photographs at usual qualities; bit by bit (successive
 * approximation) on lettering, and on photographs at high ones.
 */
const WAYS = {
  lightness: [
    [LOW, HIGH],
    [band(1, 2, 1), band(3, 63, 1), REFINED],
    [band(1, 5, 2), band(6, 63, 2), band(1, 63, 1, true), REFINED],
  ],
  chroma: [[ALL], [band(1, 63, 1), REFINED]],
} as const;

/** Counted symbols of one Huffman table. */
export interface Counts {
  counts: Uint32Array;
  /** Bits beside the symbols. */
  extra: number;
  /** Blocks that ended before their band did. */
  ended: number;
}

/** A way to write a picture. */
export interface Order {
  bytes: number;
  /** What stands between the quantisation tables and the end. `tables`: the quantisation table of each component. */
  write(tables: number[]): Uint8Array[];
}

interface Coded extends Counts {
  codes: Codes;
  bits: number;
}

interface CodedBand extends Coded {
  c: number;
  band: Band;
}

/** Bytes of a component's entry. */
const PART = 32;
const WORDS = 1024;
/** About the bytes of a scan's head, and of a Huffman table's beside its symbols. */
const SCAN_HEAD = 12;
const TABLE_HEAD = 21;
/** Of larger pictures with halved chroma only the usual order is counted: within 0.5 % the smallest. */
const THOROUGH_PIXELS = 500_000;
/** Of components with more bits a block the other ways are counted too. */
const DENSE_BITS = 64;

export class Scans {
  private readonly counters: number;
  private readonly tables: number;
  private readonly parts: number;
  private readonly bench: number;

  constructor(private readonly picture: Prepared) {
    const { heap } = picture;
    [this.counters, this.tables, this.parts] = [heap.take(WORDS), heap.take(4 * WORDS), heap.take(3 * PART)];
    this.bench = heap.take(16_384);
  }

  /** Of one component; `runs`: blocks' ends are told together, as in progressive order. */
  count(plane: Plane, wanted: Band, runs: boolean): Counts {
    const { heap } = this.picture;
    heap.words(this.counters, 256).fill(0);
    heap.loops.count();
    this.run(plane, wanted, runs, this.counters);
    return {
      counts: heap.words(this.counters, 256).slice(),
      extra: heap.loops.besides(),
      ended: heap.loops.ended(),
    };
  }

  /** Sequential or progressive, whichever is smaller. `thorough`: whatever the number of pixels. */
  smallest(thorough = false): Order {
    const { width, height, planes } = this.picture;
    const [{ h, v }] = planes;
    const all = thorough || h * v === 1 || width * height <= THOROUGH_PIXELS;
    const progressive = this.progressive(all);
    if (!all) return progressive;
    const sequential = this.sequential();
    return sequential.bytes <= progressive.bytes ? sequential : progressive;
  }

  /** One scan with everything, in MCUs, blocks without pixels among them. */
  sequential(): Order {
    const { planes } = this.picture;
    const [y, ...chroma] = planes;
    const dc = this.dc();
    const all = (plane: Plane) =>
      this.count({ ...plane, columns: plane.stride, lines: plane.rows }, ALL, false);
    const ac = [all(y)];
    if (chroma.length) ac.push(joined(chroma.map(all)));
    const coded = [...dc, ...ac.map(codedOf)];
    return {
      bytes: sizeOf(coded, 1),
      write: (tables) => [
        Uint8Array.from([
          ...frame(0, { ...this.picture, tables }),
          ...coded.flatMap(({ codes }, n) => huffman(n < dc.length ? 0 : 1, n % dc.length, codes)),
          ...scan(
            planes.map((_, c) => ({ id: this.id(c), dc: Math.min(c, 1), ac: Math.min(c, 1) })),
            ALL_AND_DC,
          ),
        ]),
        this.mcus(coded, true),
      ],
    };
  }

  /** DC of all; then the coarse part of lightness, both chromas, and the rest, each with a table of its own. */
  private progressive(thorough: boolean): Order {
    const { planes } = this.picture;
    const dc = this.dc();
    const [[coarse, ...rest], ...chroma] = planes.map((plane, c) => this.parted(plane, c, thorough));
    const bands = [coarse, ...chroma.flat(), ...rest];
    return {
      bytes: sizeOf([...dc, ...bands], 1 + bands.length),
      write: (tables) => [
        Uint8Array.from([
          ...frame(2, { ...this.picture, tables }),
          ...dc.flatMap(({ codes }, n) => huffman(0, n, codes)),
          ...scan(
            planes.map((_, c) => ({ id: this.id(c), dc: Math.min(c, 1), ac: 0 })),
            DC,
          ),
        ]),
        this.mcus(dc, false),
        ...bands.flatMap((coded) => [
          Uint8Array.from([
            ...huffman(1, 0, coded.codes),
            ...scan([{ id: this.id(coded.c), dc: 0, ac: 0 }], coded.band),
          ]),
          this.band(coded),
        ]),
      ],
    };
  }

  /** The smallest way to part a component. */
  private parted(plane: Plane, c: number, thorough: boolean): CodedBand[] {
    const ways = c ? WAYS.chroma : WAYS.lightness;
    const codedBy = (way: readonly Band[]): CodedBand[] =>
      way.map((part) => ({ c, band: part, ...codedOf(this.count(plane, part, true)) }));
    const usual = codedBy(ways[0]);
    if (!thorough && bitsIn(usual) < DENSE_BITS * plane.stride * plane.rows) return usual;
    return [usual, ...ways.slice(1).map(codedBy)].reduce((best, way) =>
      sizeOf(way, way.length) < sizeOf(best, best.length) ? way : best,
    );
  }

  private id(c: number): number {
    return this.picture.ids?.[c] ?? c + 1;
  }

  /** DC tables of lightness and of both chromas. */
  private dc(): Coded[] {
    const { heap, planes, across, down } = this.picture;
    const groups = planes.length === 1 ? [[0]] : [[0], [1, 2]];
    const tables = groups.map((_, n) => this.tables + n * WORDS);
    for (const at of tables) heap.words(at, 256).fill(0);
    this.putParts(planes.map((_, c) => ({ dc: tables[Math.min(c, 1)], ac: 0 })));
    heap.loops.count();
    heap.loops.codeMcus(this.parts, planes.length, across, down, false);
    return tables.map((at) => {
      const counts = heap.words(at, 256).slice();
      const extra = bitsBeside(counts);
      return codedOf({ counts, extra, ended: 0 });
    });
  }

  private putParts(tables: readonly { dc: number; ac: number }[]): void {
    const { heap, planes } = this.picture;
    const words = heap.words(this.parts, planes.length * (PART / 4));
    planes.forEach(({ levels, stride, h, v }, c) => {
      words.set([levels, stride, h, v, tables[c].dc, tables[c].ac, 0, 0], c * (PART / 4));
    });
  }

  /** Codes: DC of lightness and chroma, and AC of both where `whole`. */
  private mcus(coded: readonly Coded[], whole: boolean): Uint8Array {
    const { heap, planes, across, down } = this.picture;
    const groups = Math.min(2, planes.length);
    coded.forEach(({ codes }, n) => {
      heap.words(this.tables + n * WORDS, 256).set(codes.words);
    });
    this.putParts(
      planes.map((_, c) => {
        const n = Math.min(c, 1);
        return { dc: this.tables + n * WORDS, ac: this.tables + (groups + n) * WORDS };
      }),
    );
    return this.written(bitsIn(coded), () =>
      heap.loops.codeMcus(this.parts, planes.length, across, down, whole),
    );
  }

  private band({ c, band: part, codes, bits }: CodedBand): Uint8Array {
    const { heap, planes } = this.picture;
    heap.words(this.tables, 256).set(codes.words);
    return this.written(bits, () => this.run(planes[c], part, true, this.tables));
  }

  private run(
    { levels, columns, lines, stride }: Plane,
    { first, last, low, refines }: Band,
    runs: boolean,
    table: number,
  ): void {
    const { loops } = this.picture.heap;
    if (refines) loops.refineBand(levels, columns, lines, stride, first, last, low, table, this.bench);
    else loops.codeBand(levels, columns, lines, stride, first, last, low, runs, table);
  }

  private written(bits: number, write: () => void): Uint8Array {
    const { heap } = this.picture;
    const mark = heap.mark();
    // Every byte might be followed by a stuffed one.
    const at = heap.take(bits / 4 + 64);
    heap.loops.writeTo(at);
    write();
    const out = heap.bytes(at, heap.loops.finish() - at).slice();
    heap.release(mark);
    return out;
  }
}

const DC = band(0, 0);
const ALL_AND_DC = band(0, 63);

/** Of DC symbols, each of which is the number of bits that follow it. */
function bitsBeside(counts: Uint32Array): number {
  let sum = 0;
  for (let size = 0; size < counts.length; size += 1) sum += counts[size] * size;
  return sum;
}

const codedOf = (counted: Counts): Coded => {
  const codes = codesFor(counted.counts);
  return { ...counted, codes, bits: bitsOf(counted.counts, codes) + counted.extra };
};

const joined = (all: readonly Counts[]): Counts => ({
  counts: summed(all.map(({ counts }) => counts)),
  extra: all.reduce((sum, { extra }) => sum + extra, 0),
  ended: all.reduce((sum, { ended }) => sum + ended, 0),
});

function summed(all: readonly Uint32Array[]): Uint32Array {
  const out = new Uint32Array(256);
  for (const counts of all) for (let symbol = 0; symbol < 256; symbol += 1) out[symbol] += counts[symbol];
  return out;
}

const bitsIn = (coded: readonly Coded[]): number => coded.reduce((sum, { bits }) => sum + bits, 0);

/** About the bytes of scans: stuffed ones are not foreseen. */
const sizeOf = (coded: readonly Coded[], scans: number): number =>
  bitsIn(coded) / 8 +
  scans * SCAN_HEAD +
  coded.reduce((sum, { codes }) => sum + TABLE_HEAD + codes.symbols.length, 0);
