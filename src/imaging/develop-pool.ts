/** Developing on threads of its own, so that neither requests nor other photos wait for it. */
import { existsSync } from "node:fs";
import { availableParallelism } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { Worker } from "node:worker_threads";
import { develop, type Developed, type Development, type Samples } from "@/core/develop";

interface Job {
  id: number;
  samples: Samples;
  plan: Development;
  done: (developed: Developed) => void;
  failed: (error: Error) => void;
}

const THREADS = Math.min(2, availableParallelism());
const idle: Worker[] = [];
const waiting: Job[] = [];
const running = new Map<Worker, Job>();
let ids = 0;
let started = 0;

/** Beside the bundle; run from sources (as the tests do) there is none, and the work is done in place. */
const THREAD = join(dirname(fileURLToPath(import.meta.url)), "develop-thread.mjs");
const built = existsSync(THREAD);

/** Starts a thread while others still decode, so that it is there when it is needed. */
export function warmUp(): void {
  if (built && started === 0) start();
}

export function developAside(samples: Samples, plan: Development): Promise<Developed> {
  if (!built) return Promise.resolve().then(() => develop(samples, plan));
  return new Promise((done, failed) => {
    waiting.push({ id: (ids += 1), samples, plan, done, failed });
    if (!idle.length && started < THREADS) start();
    next();
  });
}

function start(): void {
  const worker = new Worker(THREAD);
  started += 1;
  // A thread that waits for work must not keep the process alive.
  worker.unref();
  worker.on("message", ({ developed, error }: { developed?: Developed; error?: string }) => {
    const job = running.get(worker);
    running.delete(worker);
    worker.unref();
    idle.push(worker);
    if (developed) job?.done(developed);
    else job?.failed(new Error(error ?? "the thread gave no answer"));
    next();
  });
  worker.on("error", (error) => {
    const job = running.get(worker);
    running.delete(worker);
    started -= 1;
    job?.failed(error);
    if (waiting.length) start();
    next();
  });
  idle.push(worker);
}

function next(): void {
  while (idle.length && waiting.length) {
    const worker = idle.pop()!;
    const job = waiting.shift()!;
    running.set(worker, job);
    worker.ref();
    worker.postMessage({ id: job.id, samples: job.samples, plan: job.plan });
  }
}
