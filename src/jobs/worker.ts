/**
 * The background process: takes jobs from the queue, two at a time, one decoder thread each. Several share
 * one database.
 */
import { EventEmitter } from "node:events";
import { hostname } from "node:os";
import { setTimeout } from "node:timers/promises";
import { Logger, run, type TaskList } from "graphile-worker";
import { z } from "zod";
import { choiceSchema } from "@/core/coding";
import { oneThreadEach } from "@/imaging/workers";
import { loadDemo } from "@/launch";
import { makeLog, openStore, readEnvironment } from "@/store";
import { addLostJobs, beat, buryInstance, DeathWatch, healClock, signOff, tidy } from "@/store/queries";
import { make } from "./make";
import { measure } from "./measure";
import { type Kind, underPolicy } from "./policy";
import { share } from "./share";
import { freeBytes, ROOM, resumeWhereSpace } from "./space";
import { thumb } from "./thumb";
import { trial, weigh } from "./weigh";

const BEAT_MS = 5000;
const LOOK_MS = 5000;
/** A worker that does not beat for so long is dead. */
const DEAD_AFTER_MS = 30_000;
const LOST_MS = 20_000;
const TIDY_MS = 600_000;
/** What is under way has so long to end after a stop. */
const GRACE_MS = 1800;

const environment = readEnvironment();
const log = makeLog("worker", environment.logLevel);
const store = openStore(environment);
oneThreadEach();

const payload = z.object({ id: z.string() });
const task =
  (kind: Kind, work: (id: string) => Promise<unknown>): TaskList[string] =>
  async (raw, { job }) => {
    const { id } = payload.parse(raw);
    const start = performance.now();
    await underPolicy(store, { kind, id, attempt: job.attempts }, async () => void (await work(id)));
    log.debug({ task: kind, id, ms: Math.round(performance.now() - start) }, "done");
  };

const logger = new Logger(
  () => (level, message, meta) => (level === "error" ? log.error(meta ?? {}, message) : log.debug(message)),
);
// The queue's names for what runs here, so that their locks can be told from those of the dead.
const ids = new Set<string>();
const events = new EventEmitter();
// Jobs are locked by the pool that a runner's workers belong to.
events.on("pool:create", ({ workerPool }: { workerPool: { id: string } }) => ids.add(workerPool.id));
const instance = process.env.ZUMBREL_INSTANCE ?? `${hostname()} ${process.pid}`;
await databaseThere();
// What a process in this place held before is free: it has ended.
await buryInstance(store.db, instance, false);
const common = { pgPool: store.pool, pollInterval: 1000, events, noHandleSignals: true, crontab: "", logger };
const runner = await run({
  ...common,
  concurrency: 2,
  taskList: {
    measure: task("measure", (id) => measure(store, id)),
    make: task("make", (id) => make(store, id)),
    thumb: task("thumb", (id) => thumb(store, id)),
    demo: task("demo", async () => {
      const missing = await loadDemo(store, process.cwd(), environment.dataDir);
      if (missing.length)
        log.warn(
          { missing },
          "pictures of the demo are left out, because no maker of such files is installed",
        );
    }),
    weigh: task("weigh", (id) => weigh(store, id)),
    share: task("share", (id) => share(store, id)),
  },
});
// Somebody waits in front of these: they do not queue behind encodes that take seconds.
const wantedTrial = z.object({ id: z.string(), choice: choiceSchema });
const atOnce = await run({
  ...common,
  concurrency: 2,
  taskList: {
    trial: async (raw, { job }) => {
      const { id, choice } = wantedTrial.parse(raw);
      await underPolicy(store, { kind: "trial", id, attempt: job.attempts }, () => trial(store, id, choice));
    },
  },
});

const watch = new DeathWatch(store.db, DEAD_AFTER_MS);
const quietly = (what: string, work: () => Promise<unknown>) => () =>
  void work().catch((error: unknown) => log.warn({ err: error }, `${what} failed`));
const signOn = quietly("signing on", () => beat(store.db, instance, [...ids]));
signOn();
const timers = [
  setInterval(signOn, BEAT_MS),
  setInterval(
    quietly("looking for dead workers", async () => {
      const dead = await watch.look();
      if (dead.length) log.warn({ workers: dead.length }, "jobs of dead workers are free again");
      await healClock(store.db);
      await resumeWhereSpace(store);
    }),
    LOOK_MS,
  ),
  setInterval(
    quietly("looking for lost jobs", async () => {
      const again = (await freeBytes(store)) < ROOM ? 0 : await addLostJobs(store.db);
      if (again) log.warn({ jobs: again }, "jobs that were given up are added again");
    }),
    LOST_MS,
  ),
  setInterval(
    quietly("tidying the store", () => tidy(store)),
    TIDY_MS,
  ),
];
let stopping = false;

async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  timers.forEach((timer) => clearInterval(timer));
  // A native encode cannot be broken off; its job goes back, and is taken up again at the next start.
  await Promise.race([
    Promise.all([runner.stop(), atOnce.stop()]).catch(() => undefined),
    setTimeout(GRACE_MS),
  ]);
  await Promise.race([signOff(store.db, [...ids]).catch(() => undefined), setTimeout(1000)]);
  process.exit(0);
}

/** The database may be started at the same time, or again. */
async function databaseThere(): Promise<void> {
  for (;;) {
    const there = await store.pool.query("select 1").then(
      () => true,
      () => false,
    );
    if (there) return;
    await setTimeout(500);
  }
}

process.on("SIGTERM", () => void stop());
process.on("SIGINT", () => undefined);
process.on("disconnect", () => void stop());
process.send?.("ready");
await Promise.all([runner.promise, atOnce.promise]).catch((error: unknown) => {
  log.error({ err: error }, "the queue stopped");
  process.exit(1);
});
