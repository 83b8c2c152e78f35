/**
 * Words and bytes between two processes on one line: the length of the words (4 bytes, little-endian), the
 * words as JSON, of which `length` says how many bytes follow, then those bytes.
 */

export interface Framed {
  length: number;
}

const LENGTH = 4;

/** `length` stands for that of the bytes. */
export function frameHead(words: object, bytes: Uint8Array): Buffer {
  const text = Buffer.from(JSON.stringify({ ...words, length: bytes.byteLength }));
  const head = Buffer.alloc(LENGTH);
  head.writeUInt32LE(text.length);
  return Buffer.concat([head, text]);
}

/** Puts messages together from the pieces in which they come. */
export class Frames<Words extends Framed> {
  private early: Buffer = Buffer.alloc(0);
  private words: Words | null = null;
  private bytes: Buffer = Buffer.alloc(0);
  private filled = 0;

  constructor(private readonly whole: (words: Words, bytes: Buffer) => void) {}

  /** Throws where the words are no JSON. */
  add(piece: Buffer): void {
    let rest = piece;
    while (rest.length) rest = this.words ? this.fill(rest) : this.begin(rest);
  }

  private begin(piece: Buffer): Buffer {
    this.early = this.early.length ? Buffer.concat([this.early, piece]) : piece;
    const { early } = this;
    if (early.length < LENGTH) return Buffer.alloc(0);
    const to = LENGTH + early.readUInt32LE(0);
    if (early.length < to) return Buffer.alloc(0);
    this.early = Buffer.alloc(0);
    this.words = JSON.parse(early.toString("utf8", LENGTH, to)) as Words;
    // One block, filled where it lies: pieces kept and then joined would take it twice.
    this.bytes = Buffer.allocUnsafeSlow(this.words.length);
    this.filled = 0;
    if (!this.words.length) this.end();
    return early.subarray(to);
  }

  private fill(piece: Buffer): Buffer {
    const taken = piece.copy(this.bytes, this.filled);
    this.filled += taken;
    if (this.filled === this.bytes.length) this.end();
    return piece.subarray(taken);
  }

  private end(): void {
    const { words, bytes } = this;
    this.words = null;
    this.bytes = Buffer.alloc(0);
    this.whole(words!, bytes);
  }
}
