/**
 * What a watched folder has become so far, as lines in the output folder: what is going to be written stands there
 * before it is, so that whoever goes on after a kill makes nothing twice and leaves nothing half.
 */
import { createHash } from "node:crypto";
import { appendFile, mkdir, open, readdir, readFile, stat, unlink } from "node:fs/promises";
import { dirname, join } from "node:path";
import { setTimeout } from "node:timers/promises";
import * as z from "zod";
import { isTemporary } from "@/imaging/written";
import { CallError } from "./args";

const NAME = ".zumbrel-watch.jsonl";
const LOCK = ".zumbrel-watch.lock";
/** Nothing that is being written stands still for so long. */
const STILL_MS = 1500;

const line = z.union([
  /** The photo was taken up for the n-th time that one was, and this file of it is about to be written. */
  z.object({ of: z.string(), n: z.number().int(), path: z.string(), sha256: z.string() }),
  z.object({ of: z.string(), done: z.literal(true) }),
]);
type Line = z.infer<typeof line>;

interface Known {
  n: number;
  /** Files that were about to be written. */
  files: { path: string; sha256: string }[];
  done: boolean;
}

export const hashOf = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");

export class WatchRecord {
  private readonly known = new Map<string, Known>();

  private constructor(private readonly out: string) {}

  /** Throws a {@link CallError} where another process is at it. */
  static async open(out: string): Promise<WatchRecord> {
    await mkdir(out, { recursive: true });
    await takeLock(join(out, LOCK));
    const record = new WatchRecord(out);
    const text = await readFile(join(out, NAME), "utf8").catch(() => "");
    for (const one of text.split("\n")) record.note(lineOf(one));
    await record.sweep();
    await record.undo();
    return record;
  }

  isDone(of: string): boolean {
    return this.known.get(of)?.done === true;
  }

  /** The number of a photo, counted from 1 in the order in which they came. */
  numberOf(of: string): number {
    const known = this.known.get(of) ?? { n: this.known.size + 1, files: [], done: false };
    this.known.set(of, known);
    return known.n;
  }

  async begins(of: string, path: string, bytes: Uint8Array): Promise<void> {
    await this.add({ of, n: this.numberOf(of), path, sha256: hashOf(bytes) });
  }

  async isReady(of: string): Promise<void> {
    await this.add({ of, done: true });
  }

  async close(): Promise<void> {
    await unlink(join(this.out, LOCK)).catch(() => undefined);
  }

  private async add(one: Line): Promise<void> {
    // A line that a full disk has cut in half must not swallow the next.
    await appendFile(join(this.out, NAME), `\n${JSON.stringify(one)}\n`, { flush: true });
    this.note(one);
  }

  private note(one: Line | null): void {
    if (!one) return;
    if ("done" in one) {
      const known = this.known.get(one.of);
      if (known) known.done = true;
      return;
    }
    const known = this.known.get(one.of) ?? { n: one.n, files: [], done: false };
    known.files.push({ path: one.path, sha256: one.sha256 });
    this.known.set(one.of, known);
  }

  /** What was being written when it was killed: files that stand still, where files were about to be written. */
  private async sweep(): Promise<void> {
    const folders = new Set([
      this.out,
      ...[...this.known.values()].flatMap(({ files }) => files.map(({ path }) => dirname(path))),
    ]);
    const found: { path: string; bytes: number }[] = [];
    for (const folder of folders)
      for (const name of await readdir(folder).catch(() => []))
        if (isTemporary(name)) {
          const path = join(folder, name);
          found.push({ path, bytes: (await stat(path).catch(() => null))?.size ?? -1 });
        }
    if (!found.length) return;
    // Another command may be writing here at this moment; that takes less.
    await setTimeout(STILL_MS);
    for (const { path, bytes } of found)
      if ((await stat(path).catch(() => null))?.size === bytes) await unlink(path).catch(() => undefined);
  }

  /** Files of photos that were not finished go, where they are still as they were written; they are made again. */
  private async undo(): Promise<void> {
    for (const known of this.known.values()) {
      if (known.done) continue;
      for (const { path, sha256 } of known.files.splice(0)) {
        const bytes = await readFile(path).catch(() => null);
        if (bytes && hashOf(bytes) === sha256) await unlink(path);
      }
    }
  }
}

/** Null for a line that was cut off. */
function lineOf(text: string): Line | null {
  try {
    return line.parse(JSON.parse(text));
  } catch {
    return null;
  }
}

async function takeLock(path: string): Promise<void> {
  for (let n = 0; n < 2; n += 1) {
    try {
      const file = await open(path, "wx");
      await file.writeFile(String(process.pid));
      await file.close();
      return;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EEXIST") throw error;
      const pid = Number(await readFile(path, "utf8").catch(() => ""));
      if (pid > 0 && pid !== process.pid && isAlive(pid))
        throw new CallError(
          "Another watch writes into this output folder already. Stop it, or choose another folder.",
        );
      await unlink(path).catch(() => undefined);
    }
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === "EPERM";
  }
}
