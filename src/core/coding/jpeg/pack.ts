/** A JPEG packed tighter: its levels as they are, with the Huffman tables and the order of scans that take least. */

import { concat } from "../../containers";
import { Heap } from "./heap";
import { END, START } from "./markers";
import type { Plane, Prepared } from "./prepare";
import { type Lookup, lookupOf, type ReadPlane, readScan, UnreadableError } from "./read-scan";
import { Scans } from "./scans";

/** Null for what cannot be read, and for kinds that are left alone: CMYK, arithmetic coding, more than 8 bits. */
export function packJpeg(bytes: Uint8Array): Uint8Array | null {
  try {
    const { prepared, heads, tables } = new Reader(bytes).run();
    const order = new Scans(prepared).smallest(true);
    return concat([Uint8Array.from(START), ...heads, ...order.write(tables), Uint8Array.from(END)]);
  } catch (error) {
    if (error instanceof UnreadableError || error instanceof RangeError) return null;
    throw error;
  }
}

interface Component {
  id: number;
  plane: Plane;
  /** Its quantisation table. */
  table: number;
}

const BLOCK_BYTES = 128;
/** Baseline and extended sequential, and progressive, with Huffman codes. */
const FRAMES = [0xc0, 0xc1, 0xc2];
/** Files with more scans than this are left alone. */
const MOST_SCANS = 200;

class Reader {
  private readonly heap = new Heap();
  /** Segments that stay as they are. */
  private readonly heads: Uint8Array[] = [];
  private readonly lookups = new Map<number, Lookup>();
  private components: Component[] = [];
  private prepared: Prepared | null = null;
  private progressive = false;
  private interval = 0;
  private scans = 0;

  constructor(private readonly bytes: Uint8Array) {}

  run(): { prepared: Prepared; heads: Uint8Array[]; tables: number[] } {
    const { bytes } = this;
    if (bytes[0] !== 0xff || bytes[1] !== 0xd8) throw new UnreadableError("no JPEG");
    let at = 2;
    for (;;) {
      while (bytes[at] === 0xff && bytes[at + 1] === 0xff) at += 1;
      const marker = bytes[at + 1];
      if (bytes[at] !== 0xff || marker === undefined) throw new UnreadableError("a marker is missing");
      if (marker === 0xd9) break;
      const end = at + 2 + ((bytes[at + 2] << 8) | bytes[at + 3]);
      if (!(end <= bytes.length)) throw new UnreadableError("a segment is cut short");
      const body = bytes.subarray(at + 4, end);
      if (marker === 0xda) at = this.scan(body, end);
      else {
        this.segment(marker, body, bytes.subarray(at, end));
        at = end;
      }
    }
    if (!this.prepared || !this.scans) throw new UnreadableError("no picture");
    return {
      prepared: this.prepared,
      heads: this.heads,
      tables: this.components.map(({ table }) => table),
    };
  }

  private segment(marker: number, body: Uint8Array, whole: Uint8Array): void {
    if (marker === 0xc4) this.huffman(body);
    else if (marker === 0xdd) this.interval = (body[0] << 8) | body[1];
    else if (FRAMES.includes(marker)) this.frame(marker, body);
    else if ((marker & 0xf0) === 0xc0 || marker === 0xdc) throw new UnreadableError("another kind of JPEG");
    else if (marker === 0xdb && (this.scans || has16Bits(body)))
      throw new UnreadableError("another kind of quantisation table");
    else this.heads.push(whole);
  }

  private huffman(body: Uint8Array): void {
    for (let at = 0; at < body.length; ) {
      const lengths = body.subarray(at + 1, at + 17);
      const count = lengths.reduce((sum, n) => sum + n, 0);
      this.lookups.set(body[at], lookupOf(lengths, body.subarray(at + 17, at + 17 + count)));
      at += 17 + count;
    }
  }

  private frame(marker: number, body: Uint8Array): void {
    const [height, width] = [(body[1] << 8) | body[2], (body[3] << 8) | body[4]];
    const number = body[5];
    if (this.prepared || body[0] !== 8 || !height || !width || (number !== 1 && number !== 3))
      throw new UnreadableError("another kind of JPEG");
    this.progressive = marker === 0xc2;
    const parts = Array.from({ length: number }, (_, c) => {
      const [id, sampling, table] = body.subarray(6 + 3 * c, 9 + 3 * c);
      // A single component has no use for its sampling.
      return { id, table, h: number === 1 ? 1 : sampling >> 4, v: number === 1 ? 1 : sampling & 15 };
    });
    if (parts.some(({ h, v }) => !h || !v || h > 4 || v > 4)) throw new UnreadableError("no sampling");
    const [h, v] = [Math.max(...parts.map((p) => p.h)), Math.max(...parts.map((p) => p.v))];
    const [across, down] = [Math.ceil(width / (8 * h)), Math.ceil(height / (8 * v))];
    this.components = parts.map(({ id, table, ...own }) => {
      const [stride, rows] = [across * own.h, down * own.v];
      const plane: Plane = {
        ...own,
        stride,
        rows,
        columns: Math.ceil(Math.ceil((width * own.h) / h) / 8),
        lines: Math.ceil(Math.ceil((height * own.v) / v) / 8),
        coefficients: 0,
        levels: this.heap.take(stride * rows * BLOCK_BYTES),
        weights: 0,
      };
      return { id, table, plane };
    });
    const planes = this.components.map(({ plane }) => plane);
    const ids = this.components.map(({ id }) => id);
    this.prepared = { heap: this.heap, width, height, across, down, planes, ids };
  }

  private scan(body: Uint8Array, at: number): number {
    const { prepared } = this;
    this.scans += 1;
    if (!prepared || this.scans > MOST_SCANS)
      throw new UnreadableError("a scan without a frame, or too many");
    const number = body[0];
    const parts = Array.from({ length: number }, (_, n) => {
      const [id, tables] = body.subarray(1 + 2 * n, 3 + 2 * n);
      const found = this.components.find((component) => component.id === id);
      if (!found) throw new UnreadableError("a scan of no component");
      const dc = this.lookups.get(tables >> 4) ?? null;
      return { plane: this.readable(found.plane), dc, ac: this.lookups.get(0x10 | (tables & 15)) ?? null };
    });
    const [first, last, bits] = body.subarray(1 + 2 * number);
    if (first > last || last > 63) throw new UnreadableError("a scan of no coefficients");
    return readScan({
      data: this.bytes,
      at,
      parts,
      across: prepared.across,
      down: prepared.down,
      first,
      last,
      high: bits >> 4,
      low: bits & 15,
      progressive: this.progressive,
      interval: this.interval,
    });
  }

  private readable({ levels, h, v, stride, rows, columns, lines }: Plane): ReadPlane {
    return { levels: this.heap.shorts(levels, stride * rows * 64), h, v, stride, columns, lines };
  }
}

/** Whether one of its tables has steps of more than 8 bits. */
function has16Bits(body: Uint8Array): boolean {
  for (let at = 0; at < body.length; at += 65) if (body[at] >> 4) return true;
  return false;
}
