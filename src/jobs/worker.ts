/**
 * The background process: takes jobs from the queue, and has photos worked on by processes of their own, two at a
 * time. Several share one database.
 */
import { EventEmitter } from "node:events";
import { hostname } from "node:os";
import { setTimeout as pause } from "node:timers/promises";
import { Logger, run, type TaskList } from "graphile-worker";
import * as z from "zod";
import { choiceSchema } from "@/core/coding";
import { makeLog, openStore, readEnvironment, type Store } from "@/store";
import { addLostJobs, beat, buryInstance, DeathWatch, healClock, signOff, tidy } from "@/store/queries";
import { Makers } from "./makers";
import { type Kind, underPolicy } from "./policy";
import { share } from "./share";
import { freeBytes, ROOM, resumeWhereSpace } from "./space";
import { thumbs } from "./thumbs";
import { Watches } from "./watches";

/** Photos that are worked on at a time. */
const ATONCE = 2;
const BEAT_MS = 5000;
const LOOK_MS = 5000;
/** A worker that does not beat for so long is dead. */
const DEAD_AFTER_MS = 30_000;
const LOST_MS = 20_000;
const TIDY_MS = 600_000;
const WATCHES_MS = 1500;
/** So long after its start a worker that has nothing to do practises. */
const REHEARSE_MS = 5000;
/** What is under way has so long to end after a stop. */
const GRACE_MS = 1800;

const environment = readEnvironment();
const log = makeLog("worker", environment.logLevel);
const store = openStore(environment);

const payload = z.object({ id: z.string() });
/** Work on photos is done by processes of their own: strangers' bytes never come into this one. */
const makers = new Makers(store.db, ATONCE, true).warmUp();
/** Those of photos that somebody looks at keep their pictures, so that a click is answered at once. */
const looked = new Makers(store.db, 1, false);
const task =
  (kind: Kind, by: Makers): TaskList[string] =>
  async (raw, { job }) => {
    const { id } = payload.parse(raw);
    await by.work({ kind, id, attempt: job.attempts });
  };

/** What only reads and writes rows is done here. */
const inRows =
  (kind: Kind, work: (store: Store, id: string) => Promise<void>): TaskList[string] =>
  async (raw, { job }) => {
    const { id } = payload.parse(raw);
    await underPolicy(store, { kind, id, attempt: job.attempts }, () => work(store, id));
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
await buryInstance(store.db, instance);
const common = { pgPool: store.pool, pollInterval: 1000, events, noHandleSignals: true, crontab: "", logger };
const runner = await run({
  ...common,
  concurrency: ATONCE,
  taskList: {
    measure: task("measure", makers),
    make: task("make", makers),
    thumb: task("thumb", makers),
    demo: task("demo", makers),
    weigh: task("weigh", looked),
    share: inRows("share", share),
    thumbs: inRows("thumbs", thumbs),
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
      await looked.work({ kind: "trial", id, choice, attempt: job.attempts });
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
// One of several workers is told to.
const watches = process.env.ZUMBREL_WATCHES ? new Watches(store, environment.dataDir) : null;
if (watches)
  timers.push(
    setInterval(
      quietly("looking after watched folders", () => watches.sync()),
      WATCHES_MS,
    ),
  );
// Not at once: pages come first.
const rehearsal = setTimeout(() => makers.rehearse(), REHEARSE_MS);
let stopping = false;

async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  timers.forEach((timer) => clearInterval(timer));
  clearTimeout(rehearsal);
  // A native encode cannot be broken off; its job goes back, and is taken up again at the next start.
  await Promise.race([Promise.all([runner.stop(), atOnce.stop()]).catch(() => undefined), pause(GRACE_MS)]);
  await Promise.race([signOff(store.db, [...ids]).catch(() => undefined), pause(1000)]);
  makers.end();
  looked.end();
  watches?.end();
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
    await pause(500);
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
