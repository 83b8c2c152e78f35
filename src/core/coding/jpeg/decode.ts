/**
 * What decoders make of levels, without a file: the same samples to the last code as the common ones give (their
 * integers, with chroma drawn out smoothly).
 */
import type { Heap } from "./heap";
import type { Plane, Prepared } from "./prepare";
import { type StepTables, ZIGZAG } from "./tables";

/** Upright code values of 8 bits: grey, or RGB. */
export interface JpegPixels {
  data: Uint8Array<ArrayBuffer>;
  width: number;
  height: number;
  channels: 1 | 3;
}

/** Where in a block each coefficient stands, in bytes. */
const PLACES = Uint8Array.from(ZIGZAG, (place) => 2 * place);
/** Of fewer samples of chroma in a row decoders repeat them. */
const SMOOTH_FROM = 3;
const BLOCK_BYTES = 128;
/** Before a row of sums, and behind it. */
const BESIDE = 16;

/** Null for ways of halving chroma that are seldom: a decoder has to tell. */
export function decodeLevels(picture: Prepared, tables: StepTables): JpegPixels | null {
  const { heap, width, planes } = picture;
  const [{ h, v }] = planes;
  const halved = h === 2 && v === 2;
  if (planes.length > 1 && !halved && h * v !== 1) return null;
  if (halved && Math.ceil(width / 2) < SMOOTH_FROM) return null;
  const mark = heap.mark();
  const pixels = new Decoder(picture, tables, halved).run();
  heap.release(mark);
  return pixels;
}

/** Rows of samples in the heap. */
interface Samples {
  at: number;
  pitch: number;
}

/** Eight rows at a time: of the whole picture only the chroma is held beside its pixels. */
class Decoder {
  private readonly heap: Heap;
  private readonly steps: number[];
  private readonly places: number;
  private readonly bench: number;

  constructor(
    private readonly picture: Prepared,
    tables: StepTables,
    private readonly halved: boolean,
  ) {
    const { heap, planes } = picture;
    this.heap = heap;
    this.steps = planes.map((_, c) => heap.put(Int32Array.from(tables[c].steps)));
    [this.places, this.bench] = [heap.take(64), heap.take(128)];
    heap.bytes(this.places, 64).set(PLACES);
  }

  run(): JpegPixels {
    const { heap, picture } = this;
    const { width, height, planes } = picture;
    const [y, ...chroma] = planes;
    const channels = chroma.length ? 3 : 1;
    const band: Samples = { at: heap.take(y.stride * 64), pitch: y.stride * 8 };
    const out = heap.take(width * 3 + 32);
    const rows = chroma.map((plane, c) => this.chroma(plane, c + 1));
    const data = new Uint8Array(width * height * channels);
    for (let row = 0; row < height; row += 1) {
      if (row % 8 === 0) this.inverse(y, 0, row / 8, band);
      const light = band.at + (row % 8) * band.pitch;
      if (channels === 3) heap.loops.rgb8(light, rows[0](row), rows[1](row), out, width);
      data.set(heap.bytes(channels === 3 ? out : light, width * channels), row * width * channels);
    }
    return { data, width, height, channels };
  }

  /** A row of blocks. */
  private inverse({ levels, stride }: Plane, c: number, row: number, { at, pitch }: Samples): void {
    const from = levels + row * stride * BLOCK_BYTES;
    this.heap.loops.inverse(from, stride, this.steps[c], this.places, at, pitch, this.bench);
  }

  /** The address of each row as fine as lightness, valid until the next is asked. */
  private chroma(plane: Plane, c: number): (row: number) => number {
    const { heap } = this;
    const pitch = plane.stride * 8;
    const at = heap.take(pitch * plane.rows * 8);
    for (let row = 0; row < plane.rows; row += 1)
      this.inverse(plane, c, row, { at: at + row * 8 * pitch, pitch });
    return this.halved ? this.drawnOut({ at, pitch }) : (row) => at + row * pitch;
  }

  private drawnOut({ at, pitch }: Samples): (row: number) => number {
    const { heap } = this;
    const { width, height } = this.picture;
    const [across, down] = [Math.ceil(width / 2), Math.ceil(height / 2)];
    const sums = heap.take(2 * pitch + 2 * BESIDE) + BESIDE;
    const out = heap.take(2 * pitch + BESIDE);
    return (row) => {
      const near = row >> 1;
      const far = Math.min(down - 1, Math.max(0, near + (row & 1 ? 1 : -1)));
      heap.loops.blend(at + near * pitch, at + far * pitch, sums, across);
      heap.loops.drawOut(sums, out, across);
      return out;
    };
  }
}
