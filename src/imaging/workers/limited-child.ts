/**
 * A process that is asked again and again, and ended where an answer takes too long or too much memory: what
 * strangers' bytes can do there they do to nobody else.
 */
import { type ChildProcess, fork } from "node:child_process";
import { readFileSync } from "node:fs";
import { constants, setPriority } from "node:os";

export interface Limits {
  /** For one answer, in ms. */
  ms: number;
  /** Of memory that the process may hold. */
  bytes: number;
}

/** Why there is no answer. */
export type LimitCause = "time" | "memory" | "by itself" | "from outside";

export class LimitError extends Error {
  override name = "LimitError";
  constructor(readonly why: LimitCause) {
    super(`the process was ended: ${why}`);
  }
}

interface Asked {
  give: (answer: unknown) => void;
  fail: (error: LimitError) => void;
  timer: NodeJS.Timeout;
}

interface Task {
  /** Path of its bundle. */
  bundle: string;
  limits: Limits;
  stderr?: "inherit" | "ignore";
  /** It leaves the cores to whatever somebody waits for. */
  yields?: boolean;
}

const LOOK_MS = 150;
/**
 * Below so many MB the engine goes through all objects only where buffers call for it: pictures lie in buffers, and
 * what little else there is was gone through twice a photo.
 */
const UNCOLLECTED = "--initial-old-space-size=256";
const PAGE = 4096;

export class LimitedChild {
  private child: ChildProcess | null = null;
  private readonly asked = new Map<number, Asked>();
  private count = 0;
  private watch: NodeJS.Timeout | null = null;
  /** What it is ended for, where that is done here. */
  private cause: LimitCause | null = null;

  constructor(private readonly task: Task) {}

  get busy(): boolean {
    return this.asked.size > 0;
  }

  /** Starts it before it is asked. */
  warmUp(): void {
    if (!this.child) this.begin();
  }

  /** Throws a {@link LimitError} where the process ends before it answers. `ms`: for this one. */
  ask<A>(question: object, ms = this.task.limits.ms): Promise<A> {
    const child = this.child ?? this.begin();
    this.count += 1;
    const n = this.count;
    return new Promise<A>((resolve, reject) => {
      const timer = setTimeout(() => this.end("time"), ms);
      this.asked.set(n, { give: (answer) => resolve(answer as A), fail: reject, timer });
      child.send({ ...question, n }, () => undefined);
    });
  }

  /** Told without an answer, if it runs. */
  tell(message: object): void {
    this.child?.send(message, () => undefined);
  }

  /** Ends it on purpose; what was asked fails. */
  end(cause: LimitCause = "from outside"): void {
    this.cause ??= cause;
    this.child?.kill("SIGKILL");
  }

  private begin(): ChildProcess {
    const { bundle, limits, stderr = "ignore", yields = false } = this.task;
    const heap = Math.max(256, Math.round(limits.bytes / 2 ** 20));
    const child = fork(bundle, [], {
      execArgv: [`--max-old-space-size=${heap}`, UNCOLLECTED],
      stdio: ["ignore", "ignore", stderr, "ipc"],
    });
    if (yields) yieldCores(child);
    this.child = child;
    this.cause = null;
    child.on("message", (message) => this.answered(message as { n: number }));
    child.once("exit", (code, signal) => this.ended(child, code, signal));
    child.once("error", () => this.ended(child, null, null));
    this.watch = setInterval(() => this.look(child), LOOK_MS);
    this.watch.unref();
    // It does not keep a process alive that has nothing else to do.
    child.unref();
    child.channel?.unref();
    return child;
  }

  private answered(answer: { n: number }): void {
    const one = this.asked.get(answer.n);
    if (!one) return;
    this.asked.delete(answer.n);
    clearTimeout(one.timer);
    one.give(answer);
  }

  private ended(child: ChildProcess, code: number | null, signal: NodeJS.Signals | null): void {
    if (this.child !== child) return;
    this.child = null;
    if (this.watch) clearInterval(this.watch);
    // Aborted: the engine ran out of the memory that it is given.
    const aborted = signal === "SIGABRT" || code === 134;
    const own = code !== null || (signal !== null && CRASHES.has(signal));
    const cause = this.cause ?? (aborted ? "memory" : own ? "by itself" : "from outside");
    const waiting = [...this.asked.values()];
    this.asked.clear();
    for (const { fail, timer } of waiting) {
      clearTimeout(timer);
      fail(new LimitError(cause));
    }
  }

  private look({ pid }: ChildProcess): void {
    if (pid !== undefined && bytesOf(pid) > this.task.limits.bytes) this.end("memory");
  }
}

/** At once, since threads have the priority of the one that began them. */
function yieldCores({ pid }: ChildProcess): void {
  try {
    if (pid !== undefined) setPriority(pid, constants.priority.PRIORITY_BELOW_NORMAL);
  } catch {
    // It has ended already, or this system does not allow it: it works all the same.
  }
}

/** Memory that a process holds; none where it has ended. At once: the kernel answers faster than a thread is woken. */
function bytesOf(pid: number): number {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, "utf8").split(" ")[1]) * PAGE;
  } catch {
    return 0;
  }
}

const CRASHES: ReadonlySet<NodeJS.Signals> = new Set([
  "SIGABRT",
  "SIGSEGV",
  "SIGBUS",
  "SIGILL",
  "SIGFPE",
  "SIGTRAP",
]);
