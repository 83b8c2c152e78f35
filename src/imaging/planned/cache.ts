/**
 * Pixels on disk: a photo that is worked on in several steps is decoded and resized once, and what one process has
 * decoded another shows.
 */
import { randomBytes } from "node:crypto";
import { mkdir, readdir, readFile, rename, stat, unlink, utimes, writeFile } from "node:fs/promises";
import { join } from "node:path";

/** Larger ones take longer to write and read than they are worth. */
const LARGEST_BYTES = 64 * 1024 * 1024;
/** The folder is looked over each time so much was written. */
const LOOK_EVERY = 8;

/** Samples, row after row, with whatever else is known of them. */
interface Raster {
  data: Uint8Array | Uint8ClampedArray | Uint16Array;
  width: number;
  height: number;
  channels: number;
}

type Head = Omit<Raster, "data"> & { deep: boolean };

export class PixelCache {
  private written = 0;

  /** `cap`: bytes that stay on disk; those used longest ago go first. */
  constructor(
    private readonly folder: string,
    private readonly cap: number,
  ) {}

  /** Null where it is not there, or not whole. */
  async get<P extends Raster>(key: string): Promise<P | null> {
    const path = join(this.folder, key);
    const file = await readFile(path).catch(() => null);
    if (!file || file.length < 4) return null;
    const start = 4 + file.readUInt32LE(0);
    const { deep, ...head } = JSON.parse(file.toString("utf8", 4, start)) as Head;
    const bytes = file.subarray(start);
    if (bytes.length !== head.width * head.height * head.channels * (deep ? 2 : 1)) return null;
    const now = new Date();
    await utimes(path, now, now).catch(() => undefined);
    // Samples of 16 bits begin at an even address.
    const data = deep ? new Uint16Array(Uint8Array.from(bytes).buffer) : bytes;
    return { ...head, data } as Raster as P;
  }

  /** What is needed only once does not stay. */
  async take<P extends Raster>(key: string): Promise<P | null> {
    const found = await this.get<P>(key);
    if (found) await unlink(join(this.folder, key)).catch(() => undefined);
    return found;
  }

  /** A disk that is full only makes things slower. */
  async put(key: string, { data, ...rest }: Raster): Promise<void> {
    if (data.byteLength > LARGEST_BYTES) return;
    const head = Buffer.from(JSON.stringify({ ...rest, deep: data instanceof Uint16Array } satisfies Head));
    const length = Buffer.alloc(4);
    length.writeUInt32LE(head.length);
    const temporary = join(/*turbopackIgnore: true*/ this.folder, `.${randomBytes(8).toString("hex")}`);
    try {
      await mkdir(this.folder, { recursive: true });
      await writeFile(temporary, [
        length,
        head,
        new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
      ]);
      await rename(temporary, join(this.folder, key));
    } catch {
      await unlink(temporary).catch(() => undefined);
    }
    this.written += 1;
    if (this.written % LOOK_EVERY === 0) await this.trim(this.cap);
  }

  /** Bytes that are there now. */
  async bytes(): Promise<number> {
    return (await this.list()).reduce((sum, one) => sum + one.bytes, 0);
  }

  async trim(cap: number): Promise<number> {
    const list = (await this.list()).sort((a, b) => a.used - b.used);
    let held = list.reduce((sum, one) => sum + one.bytes, 0);
    let freed = 0;
    for (const one of list) {
      if (held <= cap) break;
      await unlink(join(this.folder, one.name)).catch(() => undefined);
      held -= one.bytes;
      freed += one.bytes;
    }
    return freed;
  }

  private async list(): Promise<{ name: string; bytes: number; used: number }[]> {
    const names = await readdir(this.folder).catch(() => []);
    const found = await Promise.all(
      names.map(async (name) => ({ name, stat: await stat(join(this.folder, name)).catch(() => null) })),
    );
    return found.flatMap(({ name, stat: one }) =>
      one ? [{ name, bytes: one.size, used: one.mtimeMs }] : [],
    );
  }
}
