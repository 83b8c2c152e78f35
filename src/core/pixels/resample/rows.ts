/** The inner loops of resampling (assembly/rows.ts), and the memory in which they work. Addresses are in bytes. */
import { ROWS_WASM } from "./rows-wasm";

/** Floats of one pixel. */
export const LANES = 4;

interface Rows {
  linear8(source: number, out: number, plane: number, tables: number, count: number): void;
  across8(
    planes: number,
    plane: number,
    out: number,
    outPlane: number,
    starts: number,
    weights: number,
    taps: number,
    count: number,
  ): void;
  down8(
    rows: number,
    plane: number,
    weights: number,
    taps: number,
    out: number,
    count: number,
    scale: number,
  ): void;
  encode8(
    image: number,
    out: number,
    count: number,
    matrix: number,
    tables: number,
    table: number,
    last: number,
  ): void;
  across(input: number, out: number, starts: number, weights: number, taps: number, count: number): void;
  down(rows: number, weights: number, taps: number, out: number, count: number): void;
}

let compiled: WebAssembly.Module | null = null;
const PAGE = 65_536;
let kept: Bench | null = null;

/** Memory of one resampling, handed out piece by piece. */
export class Bench {
  readonly memory: WebAssembly.Memory;
  readonly rows: Rows;
  private next = 0;

  constructor(bytes: number) {
    compiled ??= new WebAssembly.Module(Uint8Array.from(atob(ROWS_WASM), (c) => c.charCodeAt(0)));
    this.memory = new WebAssembly.Memory({ initial: Math.ceil(bytes / PAGE) + 1 });
    const { exports } = new WebAssembly.Instance(compiled, { env: { memory: this.memory } });
    this.rows = exports as unknown as Rows;
  }

  /** For work that ends before the next begins: the same memory for all, as long as it is large enough. */
  static of(bytes: number): Bench {
    if (!kept || kept.memory.buffer.byteLength < bytes) kept = new Bench(bytes);
    kept.next = 0;
    return kept;
  }

  take(bytes: number): number {
    const at = this.next;
    this.next += (bytes + 15) & ~15;
    return at;
  }

  bytes(at: number, length: number): Uint8Array {
    return new Uint8Array(this.memory.buffer, at, length);
  }

  floats(at: number, length: number): Float32Array {
    return new Float32Array(this.memory.buffer, at, length);
  }

  put(values: Float32Array | Int32Array | Int16Array | Uint16Array | Uint8Array): number {
    const at = this.take(values.byteLength);
    this.bytes(at, values.byteLength).set(
      new Uint8Array(values.buffer, values.byteOffset, values.byteLength),
    );
    return at;
  }
}
