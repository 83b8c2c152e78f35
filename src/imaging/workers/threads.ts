/** Threads for developing and comparing, so that neither requests nor other photos wait for them. */
import type { Piscina, PiscinaTask } from "piscina";
import type { Done, Work } from "./work";

/** What a thread answers; an error keeps its name and code, which a message between threads would lose. */
export type Answer = { result: Done } | { error: { name: string; message: string; code?: string } };

/** Pictures that a thread is taken to hold. */
const REMEMBERED = 6;

/**
 * At most `most` threads of the bundle at `path`, started when they are needed. A thread that dies is replaced;
 * a job that it was doing fails.
 */
export class Threads {
  private pool: Promise<Piscina> | null = null;
  /** What each thread has worked on last, and may still hold. */
  private readonly met = new Map<number, string[]>();
  private readonly desks: SharedArrayBuffer[] = [];
  private readonly waiting: (() => void)[] = [];
  private running = 0;

  constructor(
    private readonly path: string,
    private readonly most: number,
  ) {}

  /** Starts the threads while others still decode, so that they are there when they are needed. */
  warmUp(): void {
    void this.started();
  }

  async run(work: Work): Promise<Done> {
    const pool = await this.started();
    await this.turn();
    const desk = copies(work) ? this.desk(samplesOf(work).byteLength) : null;
    try {
      const job = desk && copies(work) ? onDesk(work, desk) : work;
      const { queueOptionsSymbol } = await import("piscina");
      const answer = (await pool.run({ ...job, [queueOptionsSymbol]: job })) as Answer;
      if ("result" in answer) return answer.result;
      const { message, ...rest } = answer.error;
      throw Object.assign(new Error(message), rest);
    } finally {
      if (desk) this.desks.push(desk);
      this.running -= 1;
      this.waiting.shift()?.();
    }
  }

  /** Ends all threads from outside, as a lack of memory does. */
  async kill(): Promise<void> {
    await Promise.all((await this.started()).threads.map((thread) => thread.terminate()));
  }

  private started(): Promise<Piscina> {
    this.pool ??= import("piscina").then(
      ({ Piscina, queueOptionsSymbol }) =>
        new Piscina({
          filename: this.path,
          minThreads: this.most,
          maxThreads: this.most,
          idleTimeout: Number.POSITIVE_INFINITY,
          loadBalancer: (task, workers) => {
            const idle = workers.filter((worker) => worker.currentUsage === 0);
            const id = referenceOf(task, queueOptionsSymbol);
            const chosen =
              (id && idle.find((worker) => this.met.get(worker.id)?.includes(id))) || idle.at(-1);
            if (id && chosen) this.meet(chosen.id, id);
            return chosen ?? null;
          },
        }),
    );
    return this.pool;
  }

  private meet(thread: number, id: string): void {
    const before = this.met.get(thread) ?? [];
    this.met.set(thread, [id, ...before.filter((one) => one !== id)].slice(0, REMEMBERED));
  }

  /** No more jobs are prepared than threads can take: what waits holds no memory. */
  private async turn(): Promise<void> {
    while (this.running >= this.most) await new Promise<void>((done) => this.waiting.push(done));
    this.running += 1;
  }

  /**
   * Memory that is shared with a thread: samples and trials go through it, copied once, and nothing is left to
   * be collected.
   */
  private desk(bytes: number): SharedArrayBuffer {
    const fits = this.desks.findIndex((one) => one.byteLength >= bytes);
    if (fits >= 0) return this.desks.splice(fits, 1)[0];
    this.desks.pop();
    // A larger one soon comes again: a little room saves making the next.
    return new SharedArrayBuffer(Math.ceil((bytes * 1.1) / 8) * 8);
  }
}

function referenceOf(task: PiscinaTask, options: symbol): string | null {
  const work = (task as unknown as Record<symbol, Work | null>)[options];
  return work && "id" in work ? work.id : null;
}

/** Work whose samples are copied; a reference is shared already, and ink is small. */
type Copied = Extract<Work, { kind: "develop" | "difference" }>;

const copies = (work: Work): work is Copied => work.kind === "develop" || work.kind === "difference";

const samplesOf = (work: Copied) => (work.kind === "develop" ? work.samples.data : work.trial.data);

function onDesk(work: Copied, desk: SharedArrayBuffer): Work {
  const from = samplesOf(work);
  const data =
    from instanceof Uint16Array
      ? new Uint16Array(desk, 0, from.length)
      : new Uint8Array(desk, 0, from.length);
  data.set(from);
  return work.kind === "develop"
    ? { ...work, samples: { ...work.samples, data } }
    : { ...work, trial: { ...work.trial, data } };
}
