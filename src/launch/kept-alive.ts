/** A process that is started again when it ends, with growing pauses, until it ends at once ten times over. */
import type { ChildProcess } from "node:child_process";

export interface KeptTask {
  /** In sentences: "the worker". */
  name: string;
  start: () => ChildProcess;
  /** Before it is started again. */
  onEnd?: () => Promise<void>;
  say: (text: string) => void;
  /** It ended at once too often; nothing is started any more. */
  giveUp: (why: string) => void;
  /** Pauses in ms, for tests. */
  pauses?: readonly number[];
}

/** An end within so long after the start counts as at once. */
const QUICK_MS = 10_000;
const MOST_QUICK = 10;
const PAUSES: readonly number[] = [200, 400, 800, 1500, 3000, 5000];

export class KeptAlive {
  private child: ChildProcess | null = null;
  private stopping = false;
  private quick = 0;
  private timer: NodeJS.Timeout | null = null;

  constructor(private readonly task: KeptTask) {}

  get pid(): number | undefined {
    return this.child?.pid;
  }

  /** Resolves when it says for the first time that it is ready. */
  async begin(): Promise<void> {
    await new Promise<void>((ready) => this.run(ready));
  }

  private run(ready: () => void): void {
    if (this.stopping) return;
    const started = performance.now();
    const child = this.task.start();
    this.child = child;
    child.once("message", ready);
    child.once("exit", (code, signal) => {
      if (this.stopping) return;
      const lived = performance.now() - started;
      this.quick = lived < QUICK_MS ? this.quick + 1 : 1;
      void this.again(ready, String(signal ?? code));
    });
  }

  private async again(ready: () => void, how: string): Promise<void> {
    const { name, say, giveUp, onEnd, pauses = PAUSES } = this.task;
    if (this.quick > MOST_QUICK) {
      giveUp(`${name} has ended ${MOST_QUICK} times right after it was started, the last time (${how})`);
      return;
    }
    say(`${name} has ended (${how}); it is being started again.`);
    await onEnd?.().catch(() => undefined);
    const pause = pauses[Math.min(pauses.length - 1, this.quick - 1)];
    this.timer = setTimeout(() => this.run(ready), pause);
  }

  /** Ends it on purpose, by force where it takes longer than `patience` ms. */
  async stop(patience: number): Promise<void> {
    this.stopping = true;
    if (this.timer) clearTimeout(this.timer);
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode) return;
    const ended = new Promise<void>((done) => child.once("exit", () => done()));
    child.kill("SIGTERM");
    const force = setTimeout(() => child.kill("SIGKILL"), patience);
    await ended;
    clearTimeout(force);
  }
}
