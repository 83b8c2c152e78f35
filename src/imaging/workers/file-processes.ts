/**
 * Processes that work on one file after the other: a file's bytes go in, others come back. What such a file does
 * to its process it does to no other file: whatever went wrong ends it, and so does much memory.
 */
import { type ChildProcess, spawn } from "node:child_process";
import { readFileSync } from "node:fs";
import type { Socket } from "node:net";
import { type Framed, Frames, frameHead } from "./framed";

/** What such a process says of itself beside its answer. */
export interface Reply extends Framed {
  /** Why there is no answer. */
  refused?: string;
  /** Bytes of memory that it holds. */
  holds: number;
}

export type Done<W> =
  | { words: W & Reply; bytes: Buffer }
  /** It ended instead; null: there is no such program. */
  | { code: number | string | null; said: string }
  | null;

interface Task {
  /** Path of its bundle. */
  bundle: string;
  /** Of its engine, in MB. */
  heap: number;
}

/** How long somebody waits for an answer. */
export interface Patience {
  /** Of the processor's time, since others may need it as well. */
  ms: number;
  /** What is thrown then. */
  late: () => Error;
}

/** One that holds more is not kept for the next file: a large picture's memory is not given back by itself. */
const MOST_KEPT_BYTES = 400_000_000;
/** One that nobody asked for so long is ended. */
const IDLE_MS = 20_000;
/** What gets so small a share of the processor will get none. */
const LEAST_SHARE = 0.1;
const LOOK_MS = 250;
/** Of the kernel's counts, whatever the machine (Linux, proc(5): USER_HZ). */
const TICK_MS = 10;

export class FileProcesses {
  private idle: FileProcess | null = null;

  constructor(private readonly task: Task) {}

  /** Where patience ends the process is ended, and what that says is thrown. */
  async ask<W>(words: object, bytes: Uint8Array, patience: Patience): Promise<Done<W>> {
    const one = this.idle ?? new FileProcess(this.task);
    this.idle = null;
    const done = (await one.ask(words, bytes, patience)) as Done<W>;
    const sound = done && "words" in done && done.words.refused === undefined;
    if (sound && done.words.holds <= MOST_KEPT_BYTES && !this.idle) this.keep(one);
    else one.end();
    return done;
  }

  private keep(one: FileProcess): void {
    this.idle = one;
    one.rest(IDLE_MS, () => {
      if (this.idle === one) this.idle = null;
    });
  }
}

class FileProcess {
  private readonly child: ChildProcess;
  private readonly die = () => void this.child.kill("SIGKILL");
  private said = "";
  private timer: NodeJS.Timeout | null = null;
  private left = () => undefined as void;
  private settle: (done: Done<object>) => void = () => undefined;

  constructor({ bundle, heap }: Task) {
    const child = spawn(process.execPath, [`--max-old-space-size=${heap}`, bundle], { stdio: "pipe" });
    const frames = new Frames<Reply>((words, bytes) => this.settle({ words, bytes }));
    child.stdout.on("data", (piece: Buffer) => {
      try {
        frames.add(piece);
      } catch {
        // What speaks another language has lost its way.
        this.die();
      }
    });
    child.stderr.on("data", (piece: Buffer) => (this.said = (this.said + piece).slice(-4000)));
    // One that died has told why on its way out; that its input broke off says nothing more.
    child.stdin.on("error", () => undefined);
    child.on("error", () => this.ended(null));
    child.on("close", (code, killed) =>
      this.ended({ code: killed ?? code, said: this.said.trim().split("\n").pop() ?? "" }),
    );
    process.once("exit", this.die);
    this.child = child;
  }

  ask(words: object, bytes: Uint8Array, { ms, late }: Patience): Promise<Done<object>> {
    if (this.timer) clearTimeout(this.timer);
    this.hold(true);
    const [spent, start] = [this.spent(), performance.now()];
    return new Promise<Done<object>>((resolve, reject) => {
      this.timer = setInterval(() => {
        const waited = performance.now() - start;
        if (Math.max(waited * LEAST_SHARE, (this.spent() ?? waited) - (spent ?? 0)) < ms) return;
        this.end();
        reject(late());
      }, LOOK_MS);
      this.settle = (done) => {
        clearInterval(this.timer!);
        resolve(done);
      };
      this.child.stdin!.write(frameHead(words, bytes));
      this.child.stdin!.write(bytes);
    });
  }

  /** Waits for the next file for so long; `left` where it ended meanwhile. */
  rest(ms: number, left: () => void): void {
    this.left = left;
    this.hold(false);
    this.timer = setTimeout(() => {
      left();
      this.end();
    }, ms);
    this.timer.unref();
  }

  end(): void {
    if (this.timer) clearTimeout(this.timer);
    this.left = () => undefined;
    this.die();
  }

  private ended(done: Done<object>): void {
    process.off("exit", this.die);
    if (this.timer) clearTimeout(this.timer);
    this.left();
    this.settle(done);
  }

  /** Time of the processor that it has taken, in ms; null where the system does not tell. */
  private spent(): number | null {
    try {
      const line = readFileSync(`/proc/${this.child.pid}/stat`, "utf8");
      const fields = line.slice(line.lastIndexOf(")") + 2).split(" ");
      return (Number(fields[11]) + Number(fields[12])) * TICK_MS;
    } catch {
      return null;
    }
  }

  /** One that waits keeps no process alive that has nothing else to do. */
  private hold(on: boolean): void {
    const { child } = this;
    for (const one of [child, child.stdin, child.stdout, child.stderr] as (ChildProcess | Socket)[])
      if (on) one.ref();
      else one.unref();
  }
}
