/** From coefficients to levels: rounded, or with bits weighed against errors. */
import type { Plane, Prepared } from "./prepare";
import { ALL, type Counts, HIGH, LOW, type Scans } from "./scans";
import type { Steps, StepTables } from "./tables";

/** Chroma's bits may cost so much more. */
const CHROMA_THRIFT = 1.3;
/** Runs by classes, sixteen zeros, the end of a block. */
const CLASSES = 11;
const ZEROS = 16 * CLASSES;
const ENDING = ZEROS + 1;
/** Bits of a symbol that the counting pass did not meet. */
const UNSEEN_BITS = 14;
/** Errors are not weighed in smaller steps than this: no file is finer than whole numbers. */
const LEAST_STEP = 0.5;

export class Levels {
  private readonly bench: number;
  private readonly logs: number;

  constructor(
    private readonly picture: Prepared,
    private readonly scans: Scans,
  ) {
    const { heap, planes } = picture;
    const [{ stride, rows, weights }] = planes;
    this.bench = heap.take(2048);
    this.logs = heap.take(stride * rows * 4);
    logsOf(heap.floats(weights, stride * rows), heap.floats(this.logs, stride * rows));
  }

  /** `thrift`: what a bit may cost in squared steps of error; null rounds to the nearest levels. */
  set(tables: StepTables, thrift: number | null): void {
    const { planes } = this.picture;
    planes.forEach((plane, c) => this.round(plane, tables[c]));
    if (thrift !== null) {
      const typical = thrift * this.typicalWeight();
      planes.forEach((plane, c) => this.spare(plane, tables[c], c ? typical * CHROMA_THRIFT : typical));
    }
    planes.forEach((plane) => this.fill(plane));
  }

  private round({ coefficients, levels, stride, rows }: Plane, { steps }: Steps): void {
    const { heap } = this.picture;
    const mark = heap.mark();
    heap.loops.plain(coefficients, levels, stride * rows, heap.put(steps.map((step) => 1 / (16 * step))));
    heap.release(mark);
  }

  /** The geometric mean of what lightness counts where it has levels. */
  private typicalWeight(): number {
    const { heap, planes } = this.picture;
    const [{ levels, stride, rows }] = planes;
    return Math.exp(heap.loops.meanActive(levels, stride * rows, this.logs));
  }

  /** The rates are those of the levels that stand. */
  private spare(plane: Plane, { steps, meant }: Steps, cost: number): void {
    const { heap } = this.picture;
    const mark = heap.mark();
    const at = heap.put(steps.map((step) => step * 16));
    const inverse = heap.put(meant.map((step) => 1 / (16 * Math.max(LEAST_STEP, step))));
    for (const band of plane === this.picture.planes[0] ? [LOW, HIGH] : [ALL]) {
      const rates = heap.put(ratesOf(this.scans.count(plane, band, true), cost));
      heap.loops.thrifty(
        plane.coefficients,
        plane.levels,
        plane.stride * plane.rows,
        plane.weights,
        at,
        inverse,
        rates,
        band.first,
        band.last,
        this.bench,
      );
    }
    heap.release(mark);
  }

  /** Blocks beyond the picture cost next to nothing: the DC of the one before, and nothing else. */
  private fill({ levels, stride, rows, columns, lines, h }: Plane): void {
    if (columns === stride && lines === rows) return;
    const blocks = this.picture.heap.shorts(levels, stride * rows * 64);
    const repeat = (to: number, from: number) => {
      blocks.fill(0, to * 64, to * 64 + 64);
      blocks[to * 64] = blocks[from * 64];
    };
    for (let y = 0; y < lines; y += 1)
      for (let x = columns; x < stride; x += 1) repeat(y * stride + x, y * stride + x - 1);
    // The last of an MCU's blocks above comes right before those below it.
    for (let y = lines; y < rows; y += 1)
      for (let x = 0; x < stride; x += 1) repeat(y * stride + x, (y - 1) * stride + x - (x % h) + h - 1);
  }
}

/** Bits of a symbol that comes so often among so many. */
const bitsFor = (count: number, total: number): number =>
  count ? Math.log2(total / count) : Math.max(UNSEEN_BITS, Math.log2(total + 1));

/** What each symbol costs, `cost` a bit. */
function ratesOf({ counts, ended }: Counts, cost: number): Float32Array {
  let total = 0;
  for (let symbol = 0; symbol < counts.length; symbol += 1) total += counts[symbol];
  const rates = new Float32Array(ENDING + 1);
  for (let run = 0; run < 16; run += 1)
    for (let size = 1; size < CLASSES; size += 1)
      rates[run * CLASSES + size] = cost * (bitsFor(counts[(run << 4) | size], total) + size);
  rates[ZEROS] = cost * bitsFor(counts[0xf0], total);
  let ending = 0;
  for (let n = 0; n < 15; n += 1)
    if (counts[n << 4]) ending += counts[n << 4] * (bitsFor(counts[n << 4], total) + n);
  rates[ENDING] = cost * (ended ? ending / ended : UNSEEN_BITS);
  return rates;
}

function logsOf(values: Float32Array, out: Float32Array): void {
  for (let i = 0; i < values.length; i += 1) out[i] = Math.log(values[i]);
}
