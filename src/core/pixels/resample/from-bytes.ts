/**
 * Resampling of 8-bit RGB in integers: linear light of 14 to 15 bits, which is about a tenth of a code in the
 * deepest shadow of 8 bits, and room for what kernels ring above white.
 */
import { encodeWith } from "../colour";
import { Bench, LANES } from "./rows";
import { type Axis, handsOn, SHORT_ONE, type ShortWeights, shortWeights } from "./weights";

/** RGB of 8 bits, read through one table of 256 floats (0 to 1) a channel. */
export interface ByteRows {
  data: Uint8Array;
  tables: readonly Float32Array[];
}

/** Between two axes, from rows of `width` pixels. */
export interface Span {
  width: number;
  x: Axis;
  y: Axis;
}

/** From linear light to code values of 8 bits. */
export interface ByteCodes {
  /** Three by three, row after row. */
  matrix: readonly number[];
  /** One a channel, as the colour module makes them: one entry behind the last step, and one to spare. */
  tables: readonly Float32Array[];
  /** Is shown each finished row in linear light, four floats a pixel, before the matrix. */
  look: (row: Float32Array) => void;
}

/**
 * Places of light in tables of finished codes, even in its square root: so near that rounding falls within 0.006 of a code
 * of where it would exactly, and small enough to stay in the cache.
 */
const PLACES = 32_768;
const byteTables = new WeakMap<Float32Array, Uint8Array>();

function bytesOf(table: Float32Array): Uint8Array {
  const known = byteTables.get(table);
  if (known) return known;
  const made = Uint8Array.from({ length: PLACES + 1 }, (_, i) =>
    Math.round(encodeWith(table, (i / PLACES) ** 2) * 255),
  );
  byteTables.set(table, made);
  return made;
}

/** Linear light 1. */
const WHITE = 24_576;
/** Samples that are handled at a time; rows have room for as many behind their last. */
const AT_ONCE = 8;

/** A picture of x.starts.length × y.starts.length pixels: interleaved RGB of 8 bits. */
export function resampleBytes(
  source: ByteRows,
  span: Span,
  { matrix: m, tables, look }: ByteCodes,
): Uint8Array {
  const count = span.x.starts.length;
  const data = new Uint8Array(count * 3 * span.y.starts.length);
  const bench = benchFor(span, (PLACES + 16) * 3 + count * 3);
  const columns = bench.put(Float32Array.of(m[0], m[3], m[6], 0, m[1], m[4], m[7], 0, m[2], m[5], m[8], 0));
  const one = tables.every((other) => other === tables[0]);
  const [codes, next = codes] = (one ? [tables[0]] : tables).map((each) => bench.put(bytesOf(each)));
  const row = bench.take(count * 3);
  eachRow(bench, source, span, (at, o) => {
    look(bench.floats(at, count * LANES));
    bench.rows.encode8(at, row, count, columns, codes, next - codes, PLACES);
    data.set(bench.bytes(row, count * 3), o * count * 3);
  });
  return data;
}

/** The same in linear light, four floats a pixel. */
export function resampleToFloats(source: ByteRows, span: Span): Float32Array {
  const stride = span.x.starts.length * LANES;
  const data = new Float32Array(stride * span.y.starts.length);
  const bench = benchFor(span, 0);
  eachRow(bench, source, span, (at, o) => data.set(bench.floats(at, stride), o * stride));
  return data;
}

const rowOf = (count: number): number => (count + AT_ONCE) * 2;

const benchFor = ({ width, x, y }: Span, more: number): Bench =>
  Bench.of(
    width * 3 +
      rowOf(width) * 3 +
      x.starts.length * (4 + 2 * (x.taps + AT_ONCE)) +
      (rowOf(x.starts.length) * 3 + 64) * (y.taps + 2) +
      (x.starts.length + AT_ONCE) * LANES * 4 +
      more +
      16_384,
  );

/** One output row after the other, each in linear light at an address. */
function eachRow(bench: Bench, source: ByteRows, span: Span, done: (at: number, row: number) => void): void {
  const maker = new RowMaker(bench, source, span);
  for (let o = 0; o < span.y.starts.length; o += 1) done(maker.row(o), o);
}

/** Makes output rows from the top down. Its rows are functions: long loops would be compiled anew for each picture. */
class RowMaker {
  private readonly data: Uint8Array;
  private readonly still: boolean;
  private readonly across: ShortWeights;
  private readonly down: ShortWeights;
  private readonly starts: number;
  private readonly weights: number;
  private readonly codes: number;
  private readonly input: number;
  private readonly inputRow: Uint8Array;
  private readonly plane: number;
  private readonly outPlane: number;
  private readonly planes: number;
  /** Rows that are resampled across already, by their number modulo the taps. */
  private readonly held: number[];
  private readonly out: number;
  private readonly by: number;
  private readonly list: number;
  private readonly byRow: Int16Array;
  private readonly listed: Int32Array;
  private next: number;

  constructor(
    private readonly bench: Bench,
    { data, tables }: ByteRows,
    private readonly span: Span,
  ) {
    const { width, x, y } = span;
    const count = x.starts.length;
    this.data = data;
    this.still = handsOn(x);
    [this.across, this.down] = [shortWeights(x, AT_ONCE), shortWeights(y, 2)];
    [this.starts, this.weights] = [bench.put(x.starts), bench.put(this.across.weights)];
    this.codes = bench.put(linearCodes(tables));
    this.input = bench.take(width * 3);
    this.inputRow = bench.bytes(this.input, width * 3);
    [this.plane, this.outPlane] = [rowOf(width), rowOf(count)];
    this.planes = bench.take(this.plane * 3);
    this.held = Array.from({ length: this.down.taps }, () => bench.take(this.outPlane * 3));
    this.out = bench.take((count + AT_ONCE) * LANES * 4);
    [this.by, this.list] = [bench.take(this.down.taps * 2), bench.take(this.down.taps * 4)];
    this.byRow = new Int16Array(bench.memory.buffer, this.by, this.down.taps);
    this.listed = new Int32Array(bench.memory.buffer, this.list, this.down.taps);
    this.next = y.from;
  }

  /** Its address; valid until the next is made. */
  row(o: number): number {
    const { bench, span, down, held, listed, out } = this;
    const { x, y } = span;
    const first = y.starts[o];
    this.next = Math.max(this.next, first);
    for (; this.next < first + y.taps; this.next += 1) this.read(this.next);
    // A row too many, where there is one, weighs nothing.
    for (let t = 0; t < down.taps; t += 1) listed[t] = held[(first + t) % down.taps];
    this.byRow.set(down.weights.subarray(o * down.taps, (o + 1) * down.taps));
    const scale = 1 / (SHORT_ONE * WHITE);
    bench.rows.down8(this.list, this.outPlane, this.by, down.taps, out, x.starts.length, scale);
    return out;
  }

  private read(y: number): void {
    const { bench, span, plane, outPlane, planes, still, across } = this;
    const { rows } = bench;
    const { width, x } = span;
    this.inputRow.set(this.data.subarray(y * width * 3, (y + 1) * width * 3));
    const row = this.held[y % this.down.taps];
    // As many samples across as there were: planes are laid out alike.
    rows.linear8(this.input, still ? row : planes, plane, this.codes, width);
    if (!still)
      rows.across8(planes, plane, row, outPlane, this.starts, this.weights, across.taps, x.starts.length);
  }
}

function linearCodes(tables: readonly Float32Array[]): Uint16Array {
  const out = new Uint16Array(256 * 3);
  for (let c = 0; c < 3; c += 1)
    for (let code = 0; code < 256; code += 1) out[c * 256 + code] = Math.round(tables[c][code] * WHITE);
  return out;
}
