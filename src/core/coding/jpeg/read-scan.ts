/** Entropy-coded data of one scan back to levels. Source: ITU-T T.81, F.2 (sequential) and G.2 (progressive). */

/** Where a component's levels go: 64 a block in zigzag order. */
export interface ReadPlane {
  levels: Int16Array;
  h: number;
  v: number;
  stride: number;
  columns: number;
  lines: number;
}

/** For each of 65,536 beginnings the length of the code shifted by eight bits, and its symbol; 0 where there is none. */
export type Lookup = Uint16Array;

export interface ScanPart {
  plane: ReadPlane;
  dc: Lookup | null;
  ac: Lookup | null;
}

export interface ScanTask {
  data: Uint8Array;
  /** Where the entropy-coded data begin. */
  at: number;
  parts: ScanPart[];
  /** MCUs across and down, where several components lie in the scan. */
  across: number;
  down: number;
  first: number;
  last: number;
  high: number;
  low: number;
  progressive: boolean;
  /** MCUs between restarts; 0 for none. */
  interval: number;
}

/** A decoder looks so far beyond the data before it says that they are cut short, in bytes. */
const BEYOND = 8;

/** What cannot be read: damaged, or of a kind that is left alone. */
export class UnreadableError extends Error {}

export function lookupOf(lengths: ArrayLike<number>, symbols: ArrayLike<number>): Lookup {
  const out = new Uint16Array(65_536);
  let [code, place] = [0, 0];
  for (let length = 1; length <= 16; length += 1) {
    for (let n = 0; n < lengths[length - 1]; n += 1, code += 1) {
      const from = code << (16 - length);
      if (from >= 65_536) throw new UnreadableError("a Huffman table has too many codes");
      out.fill((length << 8) | symbols[place++], from, from + (1 << (16 - length)));
    }
    code <<= 1;
  }
  return out;
}

/** Fills in what the scan holds; answers with the place of the next marker. Throws an {@link UnreadableError}. */
export function readScan(task: ScanTask): number {
  return new ScanReader(task).run();
}

class ScanReader {
  private acc = 0;
  private count = 0;
  private at: number;
  private beyond = 0;
  private ends = 0;
  private readonly last: number[];

  constructor(private readonly task: ScanTask) {
    this.at = task.at;
    this.last = task.parts.map(() => 0);
  }

  run(): number {
    const { parts, across, down, interval } = this.task;
    const alone = parts.length === 1;
    const [columns, lines] = alone ? [parts[0].plane.columns, parts[0].plane.lines] : [across, down];
    let left = interval;
    for (let y = 0; y < lines; y += 1)
      for (let x = 0; x < columns; x += 1) {
        if (interval && left === 0) {
          this.restart();
          left = interval;
        }
        left -= 1;
        if (alone) this.block(0, y * parts[0].plane.stride + x);
        else this.mcu(x, y);
      }
    return this.nextMarker();
  }

  private mcu(mx: number, my: number): void {
    this.task.parts.forEach(({ plane: { h, v, stride } }, n) => {
      for (let y = 0; y < v; y += 1)
        for (let x = 0; x < h; x += 1) this.block(n, (my * v + y) * stride + mx * h + x);
    });
  }

  private block(n: number, index: number): void {
    const { progressive, first, high } = this.task;
    const at = index * 64;
    if (!progressive) this.whole(n, at);
    else if (first === 0) this.dc(n, at);
    else if (high === 0) this.ac(n, at);
    else this.refined(n, at);
  }

  private whole(n: number, at: number): void {
    const { plane, ac } = this.task.parts[n];
    const { levels } = plane;
    levels[at] = this.nextDc(n);
    for (let k = 1; k < 64; k += 1) {
      const symbol = this.symbol(ac);
      const size = symbol & 15;
      if (!size && symbol !== 0xf0) break;
      k += symbol >> 4;
      if (!size) continue;
      if (k > 63) throw new UnreadableError("a block has too many coefficients");
      levels[at + k] = this.value(size);
    }
  }

  private nextDc(n: number): number {
    const size = this.symbol(this.task.parts[n].dc);
    if (size > 11) throw new UnreadableError("a DC difference is too large");
    this.last[n] += size ? this.value(size) : 0;
    return this.last[n];
  }

  private dc(n: number, at: number): void {
    const { parts, high, low } = this.task;
    const { levels } = parts[n].plane;
    if (high === 0) levels[at] = this.nextDc(n) << low;
    else if (this.bits(1)) levels[at] |= 1 << low;
  }

  private ac(n: number, at: number): void {
    if (this.ends > 0) {
      this.ends -= 1;
      return;
    }
    const { parts, first, last, low } = this.task;
    const { plane, ac } = parts[n];
    for (let k = first; k <= last; k += 1) {
      const symbol = this.symbol(ac);
      const [run, size] = [symbol >> 4, symbol & 15];
      if (!size && run < 15) {
        this.ends = (1 << run) - 1 + (run ? this.bits(run) : 0);
        return;
      }
      k += run;
      if (!size) continue;
      if (k > last) throw new UnreadableError("a block has too many coefficients");
      plane.levels[at + k] = this.value(size) * (1 << low);
    }
  }

  private refined(n: number, at: number): void {
    const { parts, first, last, low } = this.task;
    const { plane, ac } = parts[n];
    const { levels } = plane;
    let k = first;
    if (this.ends === 0) {
      while (k <= last) {
        const symbol = this.symbol(ac);
        const [run, size] = [symbol >> 4, symbol & 15];
        if (!size && run < 15) {
          this.ends = (1 << run) + (run ? this.bits(run) : 0);
          break;
        }
        if (size > 1) throw new UnreadableError("a refined coefficient has more than a bit");
        const fresh = size ? (this.bits(1) ? 1 << low : -(1 << low)) : 0;
        k = this.corrected(levels, at, k, run);
        if (fresh && k > last) throw new UnreadableError("a block has too many coefficients");
        if (fresh) levels[at + k] = fresh;
        k += 1;
      }
    }
    if (this.ends > 0) {
      this.corrected(levels, at, k, 64);
      this.ends -= 1;
    }
  }

  /** Passes over so many zeros, and corrects what is met; answers with the place of the zero after them. */
  private corrected(levels: Int16Array, at: number, from: number, zeros: number): number {
    const { last, low } = this.task;
    let left = zeros;
    let k = from;
    for (; k <= last; k += 1) {
      const value = levels[at + k];
      if (value === 0) {
        if (left === 0) break;
        left -= 1;
      } else if (this.bits(1)) levels[at + k] = value + (value > 0 ? 1 << low : -(1 << low));
    }
    return k;
  }

  private symbol(table: Lookup | null): number {
    if (!table) throw new UnreadableError("a scan lacks a Huffman table");
    this.fill(16);
    const entry = table[(this.acc >>> (this.count - 16)) & 0xffff];
    if (entry < 256) throw new UnreadableError("a code is in no Huffman table");
    this.count -= entry >> 8;
    return entry & 255;
  }

  private bits(length: number): number {
    this.fill(length);
    this.count -= length;
    return (this.acc >>> this.count) & ((1 << length) - 1);
  }

  private value(size: number): number {
    const value = this.bits(size);
    return value < 1 << (size - 1) ? value - (1 << size) + 1 : value;
  }

  private fill(length: number): void {
    const { data } = this.task;
    while (this.count < length) {
      let byte = data[this.at] ?? 0;
      if (this.at >= data.length || (byte === 0xff && data[this.at + 1] !== 0)) {
        // At a marker: what is still missing is taken as zeros, but not for long.
        byte = 0;
        this.beyond += 1;
        if (this.beyond > BEYOND) throw new UnreadableError("the data are cut short");
      } else this.at += byte === 0xff ? 2 : 1;
      this.acc = (this.acc << 8) | byte;
      this.count += 8;
    }
  }

  private restart(): void {
    this.at = this.nextMarker();
    const marker = this.task.data[this.at + 1];
    if (marker < 0xd0 || marker > 0xd7) throw new UnreadableError("a restart is missing");
    this.at += 2;
    [this.acc, this.count, this.beyond, this.ends] = [0, 0, 0, 0];
    this.last.fill(0);
  }

  private nextMarker(): number {
    const { data } = this.task;
    let at = this.at;
    while (at + 1 < data.length && !(data[at] === 0xff && data[at + 1] !== 0 && data[at + 1] !== 0xff))
      at += 1;
    if (at + 1 >= data.length) throw new UnreadableError("the end is missing");
    return at;
  }
}
