/**
 * What a file is, found out in a process of its own: a file that takes too long or too much memory ends that
 * process, and nothing else.
 */
import { type ChildProcess, fork } from "node:child_process";
import { readFile } from "node:fs/promises";
import { ContainerError } from "@/core/containers";
import { MachineError, PhotoError } from "@/core/photo";
import type { Facts } from "@/core/proof";
import { readSource } from "./source";
import { bundleBeside } from "./workers";

/** What the process answers to a path. */
export type FactsAnswer = { facts: Facts } | { name: string; message: string };

/** A file is given up after so long, in ms; common ones take some hundredths of a second, raw files seconds. */
const PATIENCE_MS = 15_000;
/** Or when its process holds so many bytes. */
const MOST_BYTES = 1_400_000_000;
const LOOK_MS = 100;
const PAGE = 4096;
/** A process that nobody has asked for so long is ended. */
const IDLE_MS = 30_000;

const CHILD = bundleBeside("facts-child");

/** Throws a {@link PhotoError} or {@link ContainerError} that says why it cannot be used. */
export async function factsAside(path: string): Promise<Facts> {
  if (!CHILD) return (await readSource(await readFile(path))).facts;
  const reader = readers.find((one) => !one.busy) ?? (await free(CHILD));
  return reader.read(path);
}

/** Files that are looked at side by side; more wait for their turn. */
const MOST_READERS = 2;
const readers: Reader[] = [];
const waiting: ((reader: Reader) => void)[] = [];

async function free(bundle: string): Promise<Reader> {
  if (readers.length < MOST_READERS) {
    const reader = new Reader(bundle);
    readers.push(reader);
    return reader;
  }
  return new Promise((take) => waiting.push(take));
}

class Reader {
  busy = false;
  private child: ChildProcess | null = null;
  private idle: NodeJS.Timeout | null = null;

  constructor(private readonly bundle: string) {}

  async read(path: string): Promise<Facts> {
    this.busy = true;
    if (this.idle) clearTimeout(this.idle);
    try {
      const answer = await this.ask(path);
      if ("facts" in answer) return answer.facts;
      if (answer.name === "ContainerError") throw new ContainerError(answer.message);
      if (answer.name === "PhotoError") throw new PhotoError(answer.message);
      throw Object.assign(new Error(answer.message), { name: answer.name });
    } finally {
      this.busy = false;
      const next = waiting.shift();
      if (next) {
        this.busy = true;
        next(this);
      } else {
        this.idle = setTimeout(() => this.end(), IDLE_MS);
        this.idle.unref();
      }
    }
  }

  private ask(path: string): Promise<FactsAnswer> {
    const child = this.child ?? this.begin();
    return new Promise<FactsAnswer>((resolve, reject) => {
      const give = (why: Error | null, answer?: FactsAnswer) => {
        clearTimeout(late);
        clearInterval(watch);
        child.off("message", answered);
        child.off("exit", ended);
        if (why) {
          this.end();
          reject(why);
        } else resolve(answer!);
      };
      const answered = (answer: unknown) => give(null, answer as FactsAnswer);
      const ended = (code: number | null, signal: string | null) =>
        give(
          signal === "SIGABRT" || code === 134
            ? tooMuch("memory")
            : new MachineError("The process that looked at it was ended from outside. Bring it in again."),
        );
      const late = setTimeout(() => give(tooMuch("time")), PATIENCE_MS);
      const watch = setInterval(() => {
        void heldBy(child.pid).then((bytes) => bytes > MOST_BYTES && give(tooMuch("memory")));
      }, LOOK_MS);
      child.on("message", answered);
      child.on("exit", ended);
      child.send(path);
    });
  }

  private begin(): ChildProcess {
    const child = fork(this.bundle, [], {
      execArgv: ["--max-old-space-size=1024"],
      stdio: ["ignore", "ignore", "ignore", "ipc"],
    });
    child.once("exit", () => {
      if (this.child === child) this.child = null;
    });
    // It does not keep a process alive that has nothing else to do.
    child.unref();
    child.channel?.unref();
    this.child = child;
    return child;
  }

  private end(): void {
    this.child?.kill("SIGKILL");
    this.child = null;
  }
}

const tooMuch = (what: "time" | "memory") =>
  new PhotoError(
    `To find out what this file is takes more ${what} than any photo does. Save it anew in the program it came from.`,
  );

/** Bytes of memory that a process holds; 0 where that cannot be told. */
async function heldBy(pid: number | undefined): Promise<number> {
  const text = await readFile(`/proc/${pid}/statm`, "utf8").catch(() => "");
  return Number(text.split(" ")[1] ?? 0) * PAGE;
}
