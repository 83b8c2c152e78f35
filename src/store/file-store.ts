/** Bytes on disk under their SHA-256: written to a temporary name, synced, renamed. */
import { createHash, randomBytes } from "node:crypto";
import { createReadStream } from "node:fs";
import {
  type FileHandle,
  link,
  mkdir,
  open,
  readdir,
  readFile,
  rename,
  stat,
  unlink,
} from "node:fs/promises";
import { dirname, join } from "node:path";

export interface Stored {
  sha256: string;
  bytes: number;
}

/** A file that is no part of the store yet. */
export interface Unplaced {
  path: string;
  bytes: number;
  /** It is on the disk for good; rejects where the disk says no. */
  settled: Promise<void>;
}

/** Bytes that are written, but not yet under their name. */
export interface Received extends Stored, Unplaced {}

/** More bytes came than are taken. */
export class TooLargeError extends Error {
  constructor(limit: number) {
    super(
      `The file is larger than ${Math.round(limit / 1048576)} MiB, the most that is taken. Make it ` +
        "smaller where it came from.",
    );
    this.name = "TooLargeError";
  }
}

/** Small pieces are written together: each write is a trip to another thread and back. */
const GATHER = 2 * 1024 * 1024;

async function* gathered(
  stream: Iterable<Uint8Array> | AsyncIterable<Uint8Array>,
): AsyncGenerator<Uint8Array[]> {
  let pieces: Uint8Array[] = [];
  let bytes = 0;
  for await (const piece of stream) {
    pieces.push(piece);
    bytes += piece.length;
    if (bytes < GATHER) continue;
    yield pieces;
    pieces = [];
    bytes = 0;
  }
  if (pieces.length) yield pieces;
}

/** A write may take less than it is given. */
async function writeAll(file: FileHandle, pieces: readonly Uint8Array[]): Promise<void> {
  const wanted = pieces.reduce((sum, piece) => sum + piece.length, 0);
  const { bytesWritten } = await file.writev(pieces);
  if (bytesWritten === wanted) return;
  const rest = Buffer.concat(pieces).subarray(bytesWritten);
  await file.writeFile(rest);
}

export class FileStore {
  constructor(readonly root: string) {}

  path(sha256: string): string {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw new Error("not a SHA-256");
    return join(this.root, sha256.slice(0, 2), sha256);
  }

  /** Streams to disk; nothing is left behind when the stream breaks off or grows past `limit` bytes. */
  async receive(stream: Iterable<Uint8Array> | AsyncIterable<Uint8Array>, limit: number): Promise<Received> {
    const hash = createHash("sha256");
    const written = await this.temporary(stream, limit, (piece) => void hash.update(piece));
    return { ...written, sha256: hash.digest("hex") };
  }

  /** Under their name; file and folder are synced, so that a loss of power takes neither away. */
  async place({ path, sha256, settled }: Received): Promise<void> {
    const folder = join(this.root, sha256.slice(0, 2));
    await settled;
    await inFolder(folder, () => rename(path, this.path(sha256)));
    await synced(folder);
  }

  /** Takes away what is not going to be placed. */
  async drop({ path }: Pick<Received, "path">): Promise<void> {
    await unlink(path).catch(() => undefined);
  }

  private partPath(): string {
    return join(this.root, "part", randomBytes(12).toString("hex"));
  }

  /**
   * Streams to a file that is no part of the store yet; whoever asks places it or takes it away. Nothing is
   * left behind when the stream breaks off. It is brought to the disk for good while its reader goes on. `each`:
   * is given every piece.
   */
  async temporary(
    stream: Iterable<Uint8Array> | AsyncIterable<Uint8Array>,
    limit: number,
    each: (piece: Uint8Array) => void = () => undefined,
  ): Promise<Unplaced> {
    const { file, ...written } = await this.written(stream, limit, each);
    const settled = file.sync().finally(() => file.close());
    // Whoever places it hears of it; whoever does not need not.
    settled.catch(() => undefined);
    return { ...written, settled };
  }

  /** The same for what is read once and taken away: it need not be on the disk for good. */
  async passing(stream: AsyncIterable<Uint8Array>, limit: number): Promise<{ path: string }> {
    const { file, path } = await this.written(stream, limit);
    await file.close();
    return { path };
  }

  private async written(
    stream: Iterable<Uint8Array> | AsyncIterable<Uint8Array>,
    limit: number,
    each: (piece: Uint8Array) => void = () => undefined,
  ): Promise<{ path: string; bytes: number; file: FileHandle }> {
    const path = this.partPath();
    const file = await inFolder(dirname(path), () => open(path, "wx", 0o600));
    let bytes = 0;
    try {
      for await (const pieces of gathered(stream)) {
        for (const piece of pieces) {
          bytes += piece.length;
          each(piece);
        }
        if (bytes > limit) throw new TooLargeError(limit);
        await writeAll(file, pieces);
      }
    } catch (error) {
      await file.close();
      await unlink(path).catch(() => undefined);
      throw error;
    }
    return { path, bytes, file };
  }

  /** Takes away what interrupted streams have left behind, when nothing else writes here. */
  async clearParts(): Promise<void> {
    const folder = join(this.root, "part");
    for (const name of await readdir(folder).catch(() => []))
      await unlink(join(folder, name)).catch(() => undefined);
  }

  read(sha256: string): Promise<Buffer> {
    return readFile(this.path(sha256));
  }

  stream(sha256: string) {
    return createReadStream(this.path(sha256));
  }

  async has(sha256: string): Promise<boolean> {
    return (await stat(this.path(sha256)).catch(() => null)) !== null;
  }

  /** Which file lies there now: equal only for the same one. Null where there is none. */
  async identity(sha256: string): Promise<string | null> {
    return identityOf(this.path(sha256));
  }

  /** Removes the file that was there when `seen` was read; one that was placed since stays. */
  async discard(sha256: string, seen: string | null): Promise<void> {
    const path = this.path(sha256);
    const aside = this.partPath();
    const moved = await inFolder(dirname(aside), () => rename(path, aside)).then(
      () => true,
      () => false,
    );
    if (!moved) return;
    if ((await identityOf(aside)) !== seen) await link(aside, path).catch(() => undefined);
    await unlink(aside).catch(() => undefined);
  }
}

/** What is there nearly always is made only where it was missed. */
async function inFolder<T>(folder: string, act: () => Promise<T>): Promise<T> {
  try {
    return await act();
  } catch {
    await mkdir(folder, { recursive: true });
    return act();
  }
}

async function synced(path: string): Promise<void> {
  const handle = await open(path, "r");
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Names may be used again at once, and so may the numbers of files; both with one time of writing may not. */
async function identityOf(path: string): Promise<string | null> {
  const found = await stat(path, { bigint: true }).catch(() => null);
  return found && `${found.ino} ${found.mtimeNs}`;
}
