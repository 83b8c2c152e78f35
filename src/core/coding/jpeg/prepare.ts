/**
 * From a planned picture to DCT coefficients, once for all its trials: colour, chroma halved, lightness corrected for
 * what that takes, transform. Works in bands of blocks, so that only the chroma is ever held as samples.
 */
import { CONES, FLARE, flared, OPPONENTS } from "../../difference";
import { linearTable, SPACES } from "../../pixels/colour";
import type { Chroma } from "../types";
import { type Heap, heaps } from "./heap";
import { SAMPLING, ZIGZAG } from "./tables";

/** Code values, interleaved, upright: 1 grey, 3 RGB; a further channel is passed over. */
export interface JpegSamples {
  data: Uint8Array | Uint16Array;
  width: number;
  height: number;
  channels: number;
}

/** One component in the heap. Blocks fill whole MCUs; those at the right and bottom may hold no pixel. */
export interface Plane {
  /** Blocks of an MCU across and down. */
  h: number;
  v: number;
  /** Blocks in a row, and rows of them, in whole MCUs. */
  stride: number;
  rows: number;
  /** Those with pixels. */
  columns: number;
  lines: number;
  /** 64 coefficients a block, in sixteenths, zigzag order. */
  coefficients: number;
  /** The same for levels. */
  levels: number;
  /** One float a block: what its errors count. */
  weights: number;
}

export interface Prepared {
  heap: Heap;
  width: number;
  height: number;
  /** MCUs across and down. */
  across: number;
  down: number;
  planes: Plane[];
  /** Of the components, where they are not 1, 2, 3. */
  ids?: number[];
}

const BLOCK_BYTES = 128;
/** The most by which lightness is corrected, in code values. */
const MOST_SHIFT = 24;
/** Linear sRGB to cones, and cones' cube roots to lightness. */
const LIGHTNESS = [...CONES, ...OPPONENTS.slice(0, 3)];

export function prepareJpeg(samples: JpegSamples, chroma: Chroma): Prepared {
  const heap = heaps.take();
  const { width, height } = samples;
  const grey = samples.channels < 3;
  const { h, v } = grey ? { h: 1, v: 1 } : SAMPLING[chroma];
  const [across, down] = [Math.ceil(width / (8 * h)), Math.ceil(height / (8 * v))];
  const plane = (ph: number, pv: number): Plane => {
    const [stride, rows] = [across * ph, down * pv];
    const room = stride * rows * BLOCK_BYTES;
    return {
      h: ph,
      v: pv,
      stride,
      rows,
      columns: Math.ceil((width * ph) / h / 8),
      lines: Math.ceil((height * pv) / v / 8),
      coefficients: heap.take(room),
      levels: heap.take(room),
      weights: heap.take(stride * rows * 4),
    };
  };
  const planes = grey ? [plane(1, 1)] : [plane(h, v), plane(1, 1), plane(1, 1)];
  const prepared = { heap, width, height, across, down, planes };
  new Bands(prepared, samples).run();
  return prepared;
}

/** Room beside a row of chroma, in floats. */
const BESIDE = 4;

class Bands {
  private readonly heap: Heap;
  private readonly wide: number;
  private readonly source: number;
  private readonly row: [number, number, number];
  private readonly factors: number;
  private readonly places: number;
  private readonly bench: number;

  constructor(
    private readonly to: Prepared,
    private readonly from: JpegSamples,
  ) {
    this.heap = to.heap;
    this.wide = to.planes[0].stride * 8;
    this.source = this.heap.take(from.width * from.channels + 16);
    const row = () => this.heap.take((this.wide + 2 * BESIDE) * 4) + BESIDE * 4;
    this.row = [row(), row(), row()];
    [this.factors, this.places] = [this.heap.put(FACTORS), this.heap.take(64)];
    this.heap.bytes(this.places, 64).set(PLACES);
    this.bench = this.heap.take(640);
  }

  run(): void {
    const { heap, to } = this;
    const [{ h, v }] = to.planes;
    if (to.planes.length === 1 || h * v === 1) {
      this.direct();
      return;
    }
    const before = heap.mark();
    const chroma = this.halved();
    this.luminance(chroma);
    for (const c of [1, 2]) {
      const { rows, stride } = to.planes[c];
      for (let y = 0; y < rows; y += 1)
        this.transform(c, y, chroma[c - 1].at + y * 8 * chroma[0].stride, chroma[0].stride, stride);
    }
    heap.release(before);
  }

  /** Grey, or chroma as fine as lightness. */
  private direct(): void {
    const { heap, to, wide } = this;
    const bands = to.planes.map(() => heap.take(wide * 8 * 4));
    for (let y = 0; y < to.planes[0].rows; y += 1) {
      for (let line = 0; line < 8; line += 1)
        this.read(
          y * 8 + line,
          bands.length === 1
            ? [bands[0] + line * wide * 4, ...this.row.slice(1)]
            : bands.map((at) => at + line * wide * 4),
        );
      bands.forEach((band, c) => this.transform(c, y, band, wide * 4, to.planes[c].stride));
    }
  }

  private transform(c: number, row: number, samples: number, stride: number, blocks: number): void {
    const { coefficients, stride: across } = this.to.planes[c];
    const out = coefficients + row * across * BLOCK_BYTES;
    this.heap.loops.forward(samples, stride, blocks, this.factors, this.places, this.bench, out);
  }

  /** The planes of chroma at their own size; rows have a sample more on either side. */
  private halved(): { at: number; stride: number }[] {
    const { heap, to } = this;
    const [{ v }, { stride, rows }] = to.planes;
    const wide = stride * 8;
    const bytes = (wide + 2 * BESIDE) * 4;
    const planes = [1, 2].map(() => ({ at: heap.take(bytes * rows * 8) + BESIDE * 4, stride: bytes }));
    const second = [0, 1, 2].map(() => heap.take(this.wide * 4));
    for (let y = 0; y < rows * 8; y += 1) {
      this.read(y * v, this.row);
      if (v === 2) this.read(y * v + 1, second);
      for (const c of [0, 1]) this.halveRow(c, v === 2 ? second : this.row, planes[c].at + y * bytes, wide);
    }
    return planes;
  }

  private halveRow(c: number, second: readonly number[], out: number, wide: number): void {
    const { heap } = this;
    heap.loops.halve(this.row[c + 1], second[c + 1], out, wide);
    const line = heap.floats(out - 4, wide + 2);
    line[0] = line[1];
    line[wide + 1] = line[wide];
  }

  private luminance(chroma: { at: number; stride: number }[]): void {
    const { heap, to, wide } = this;
    const [{ v, rows, stride }, { rows: below }] = to.planes;
    const matrix = heap.put(LIGHTNESS);
    const table = heap.put(lightTable());
    const band = heap.take(wide * 8 * 4);
    const drawn = [heap.take(wide * 4), heap.take(wide * 4)];
    for (let block = 0; block < rows; block += 1) {
      for (let line = 0; line < 8; line += 1) {
        const y = block * 8 + line;
        const at = band + line * wide * 4;
        this.read(y, [at, this.row[1], this.row[2]]);
        const near = v === 2 ? y >> 1 : y;
        const far = v === 2 ? Math.min(below * 8 - 1, Math.max(0, near + (y & 1 ? 1 : -1))) : y;
        for (const c of [0, 1]) {
          const { at: rows, stride: bytes } = chroma[c];
          heap.loops.between(rows + near * bytes, rows + far * bytes, drawn[c], wide);
        }
        heap.loops.compensate(
          at,
          this.row[1],
          this.row[2],
          drawn[0],
          drawn[1],
          matrix,
          table,
          MOST_SHIFT,
          wide,
        );
      }
      this.transform(0, block, band, wide * 4, stride);
    }
  }

  /** A row of the picture as Y, Cb and Cr; the outermost pixels repeat. */
  private read(y: number, out: readonly number[]): void {
    const { data, width, height, channels } = this.from;
    const { heap } = this;
    const from = Math.min(y, height - 1) * width * channels;
    const [g, v] = channels < 3 ? [0, 0] : [1, 2];
    if (data instanceof Uint8Array) {
      heap.bytes(this.source, width * channels).set(data.subarray(from, from + width * channels));
      heap.loops.ycc8(this.source, channels, g, v, out[0], out[1], out[2], width);
    } else this.readDeep(data, from, out);
    for (const at of out) {
      const line = heap.floats(at, this.wide);
      line.fill(line[width - 1], width);
    }
  }

  private readDeep(data: Uint16Array, from: number, out: readonly number[]): void {
    const { width, channels } = this.from;
    const [y, cb, cr] = out.map((at) => this.heap.floats(at, width));
    const [green, blue] = channels < 3 ? [0, 0] : [1, 2];
    for (let x = 0, p = from; x < width; x += 1, p += channels) {
      const [r, g, b] = [data[p] / 257, data[p + green] / 257, data[p + blue] / 257];
      y[x] = 0.299 * r + 0.587 * g + 0.114 * b - 128;
      cb[x] = -0.168735892 * r - 0.331264108 * g + 0.5 * b;
      cr[x] = 0.5 * r - 0.418687589 * g - 0.081312411 * b;
    }
  }
}

/** Linear light with the room's, four entries a code value; other spaces' curves hardly differ from sRGB's here. */
function lightTable(): Float32Array {
  light ??= flared(linearTable(SPACES.srgb.curves[1], 1021), FLARE);
  return light;
}
let light: Float32Array | null = null;

/** The transform's own factors, divided out; coefficients are kept in sixteenths. */
const AAN = Array.from({ length: 8 }, (_, k) => (k ? Math.cos((k * Math.PI) / 16) * Math.SQRT2 : 1));
/** Column by column: the transform leaves its blocks turned. */
const FACTORS = Array.from({ length: 64 }, (_, i) => 16 / (8 * AAN[i >> 3] * AAN[i & 7]));
const PLACES = Array.from({ length: 64 }, (_, i) => 2 * ZIGZAG.indexOf((i & 7) * 8 + (i >> 3)));
