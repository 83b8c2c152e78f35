/** Bytes on disk under their SHA-256: written to a temporary name, synced, renamed. */
import { createHash, randomBytes } from "node:crypto";
import { createReadStream } from "node:fs";
import { mkdir, open, readFile, rename, stat, unlink } from "node:fs/promises";
import { join } from "node:path";

export interface Stored {
  sha256: string;
  bytes: number;
}

/** More bytes came than are taken. */
export class TooLargeError extends Error {
  constructor(limit: number) {
    super(`The file is larger than ${Math.round(limit / 1048576)} MiB, the most that is taken. Make it smaller where it came from.`);
    this.name = "TooLargeError";
  }
}

export class FileStore {
  constructor(private readonly root: string) {}

  path(sha256: string): string {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw new Error("not a SHA-256");
    return join(this.root, sha256.slice(0, 2), sha256);
  }

  put(bytes: Uint8Array): Promise<Stored> {
    return this.putStream([bytes], Infinity);
  }

  /** Streams to disk; nothing is left behind when the stream breaks off or grows past `limit` bytes. */
  async putStream(stream: Iterable<Uint8Array> | AsyncIterable<Uint8Array>, limit: number): Promise<Stored> {
    await mkdir(join(this.root, "part"), { recursive: true });
    const temporary = join(this.root, "part", randomBytes(12).toString("hex"));
    const file = await open(temporary, "wx", 0o600);
    const hash = createHash("sha256");
    let bytes = 0;
    try {
      for await (const piece of stream) {
        bytes += piece.length;
        if (bytes > limit) throw new TooLargeError(limit);
        hash.update(piece);
        await file.writeFile(piece);
      }
      await file.sync();
    } catch (error) {
      await file.close();
      await unlink(temporary).catch(() => undefined);
      throw error;
    }
    await file.close();
    const sha256 = hash.digest("hex");
    const path = this.path(sha256);
    await mkdir(join(this.root, sha256.slice(0, 2)), { recursive: true });
    await rename(temporary, path);
    return { sha256, bytes };
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

  async remove(sha256: string): Promise<void> {
    await unlink(this.path(sha256)).catch(() => undefined);
  }
}
