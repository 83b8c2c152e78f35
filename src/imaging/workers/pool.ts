/**
 * Developing and comparing on threads of their own, so that neither requests nor other photos wait for them.
 */
import { existsSync } from "node:fs";
import { availableParallelism } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { Worker } from "node:worker_threads";
import type { Pixels } from "@/core/difference";
import type { InkSettings } from "@/core/photo";
import type { Developed, Development, Samples } from "@/core/pixels/develop";
import type { InkFound, RgbPicture } from "@/core/pixels/ink";
import { carryOut, type Done, type Judged, type Work } from "./work";

interface Job {
  work: Work;
  done: (result: Done) => void;
  failed: (error: Error) => void;
}

const THREADS = Math.min(2, availableParallelism());
const idle: Worker[] = [];
const waiting: Job[] = [];
const running = new Map<Worker, Job>();
/** The reference that a thread has met last, whose planes it still holds. */
const met = new WeakMap<Worker, string>();
let started = 0;

/**
 * Beside the bundle, or where the web server runs; run from sources (as the tests do) there is none, and the
 * work is done in place.
 */
const THREAD = [dirname(fileURLToPath(import.meta.url)), join(process.cwd(), ".build")]
  .map((folder) => join(folder, "work-thread.mjs"))
  .find((path) => existsSync(path));
const fromSources = /\/src\/imaging\/workers\/[^/]*$/.test(fileURLToPath(import.meta.url));

/** Starts a thread while others still decode, so that it is there when it is needed. */
export function warmUp(): void {
  if (THREAD && !fromSources && started === 0) start(THREAD);
}

/** Throws an InkError where nothing looks like ink. */
export const findInkAside = (picture: RgbPicture, settings: InkSettings) =>
  aside({ kind: "ink", picture, settings }) as Promise<InkFound>;

export const developAside = (samples: Samples, plan: Development) =>
  aside({ kind: "develop", samples, plan }) as Promise<Developed>;

/**
 * `id` names the reference: a thread that has met it need not analyse it again. Its pixels are shared, not
 * copied.
 */
export const differenceAside = (id: string, reference: Pixels, trial: Pixels) =>
  aside({ kind: "difference", id, reference, trial }) as Promise<Judged>;

function aside(work: Work): Promise<Done> {
  const path = THREAD;
  if (!path || fromSources) return Promise.resolve().then(() => carryOut(work));
  return new Promise((done, failed) => {
    waiting.push({ work, done, failed });
    if (!idle.length && started < THREADS) start(path);
    next();
  });
}

function start(path: string): void {
  const worker = new Worker(path);
  started += 1;
  // A thread that waits for work must not keep the process alive.
  worker.unref();
  worker.on("message", ({ result, error }: { result?: Done; error?: { name: string; message: string } }) => {
    const job = running.get(worker);
    running.delete(worker);
    worker.unref();
    idle.push(worker);
    if (result) job?.done(result);
    else
      job?.failed(
        Object.assign(new Error(error?.message ?? "the thread gave no answer"), {
          name: error?.name ?? "Error",
        }),
      );
    next();
  });
  worker.on("error", (error) => {
    const job = running.get(worker);
    running.delete(worker);
    started -= 1;
    job?.failed(error);
    if (waiting.length) start(path);
    next();
  });
  idle.push(worker);
}

/**
 * Memory that a thread shares with this one: samples and trials go through it, copied once, and nothing is
 * left to be collected.
 */
const desks = new WeakMap<Worker, SharedArrayBuffer>();

function send(worker: Worker, work: Work): void {
  if (work.kind === "ink") return worker.postMessage(work);
  const data = work.kind === "develop" ? work.samples.data : work.trial.data;
  let desk = desks.get(worker);
  if (!desk || desk.byteLength < data.byteLength) {
    // A larger one soon comes again: a little room saves making the next.
    desk = new SharedArrayBuffer(Math.ceil((data.byteLength * 1.1) / 8) * 8);
    desks.set(worker, desk);
  }
  const copy =
    data instanceof Uint16Array
      ? new Uint16Array(desk, 0, data.length)
      : new Uint8Array(desk, 0, data.length);
  copy.set(data);
  worker.postMessage(
    work.kind === "develop"
      ? { ...work, samples: { ...work.samples, data: copy } }
      : { ...work, trial: { ...work.trial, data: copy } },
  );
}

function next(): void {
  while (idle.length && waiting.length) {
    const job = waiting.shift()!;
    const { work } = job;
    const knows = work.kind === "difference" ? idle.findIndex((worker) => met.get(worker) === work.id) : -1;
    const [worker] = idle.splice(knows < 0 ? idle.length - 1 : knows, 1);
    if (work.kind === "difference") met.set(worker, work.id);
    running.set(worker, job);
    worker.ref();
    send(worker, work);
  }
}
