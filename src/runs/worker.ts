/** The background process: takes jobs from the queue, two at a time, one decoder thread each. */
import { Logger, run, type TaskList } from "graphile-worker";
import { z } from "zod";
import { choiceSchema } from "@/core/search";
import { oneThreadEach } from "@/imaging/threads";
import { trimTrials } from "@/store/queries/trials";
import { readEnvironment } from "@/store/env";
import { openStore } from "@/store/store";
import { loadDemo } from "./demo";
import { makeLog } from "./log";
import { make } from "./make";
import { measure } from "./measure";
import { thumb } from "./thumb";
import { trial, weigh } from "./weigh";

const environment = readEnvironment();
const log = makeLog("worker", environment.logLevel);
const store = openStore(environment);
oneThreadEach();

const payload = z.object({ id: z.string() });
const task = (name: string, work: (id: string) => Promise<void>): TaskList[string] => async (raw) => {
  const { id } = payload.parse(raw);
  const start = performance.now();
  await work(id);
  log.debug({ task: name, id, ms: Math.round(performance.now() - start) }, "done");
};

// Locks of a worker that was killed would hold its jobs for hours. On one machine only one worker runs, so every lock is such a one.
await store.pool.query(
  "select graphile_worker.force_unlock_workers(array_agg(distinct locked_by)) from graphile_worker._private_jobs where locked_by is not null having count(*) > 0",
);

const logger = new Logger(() => (level, message, meta) => (level === "error" ? log.error(meta ?? {}, message) : log.debug(message)));
const common = { pgPool: store.pool, pollInterval: 1000, noHandleSignals: true, crontab: "", logger };
const runner = await run({
  ...common,
  concurrency: 2,
  taskList: {
    measure: task("measure", (id) => measure(store, id)),
    make: task("make", (id) => make(store, id)),
    thumb: task("thumb", (id) => thumb(store, id)),
    demo: task("demo", () => loadDemo(store, process.cwd(), environment.dataDir)),
    weigh: task("weigh", (id) => weigh(store, id)),
  },
});
// Somebody waits in front of these: they do not queue behind encodes that take seconds.
const wantedTrial = z.object({ id: z.string(), choice: choiceSchema });
const atOnce = await run({
  ...common,
  concurrency: 2,
  taskList: {
    trial: async (raw) => {
      const { id, choice } = wantedTrial.parse(raw);
      await trial(store, id, choice);
    },
  },
});

const trim = setInterval(() => void trimTrials(store).catch((error: unknown) => log.warn({ err: error }, "trimming the trials failed")), 600_000);
let stopping = false;

async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  clearInterval(trim);
  // A native encode cannot be broken off; its job is taken up again at the next start.
  setTimeout(() => process.exit(0), 2500).unref();
  await Promise.all([runner.stop(), atOnce.stop()]).catch(() => undefined);
  process.exit(0);
}

process.on("SIGTERM", () => void stop());
process.on("SIGINT", () => undefined);
process.on("disconnect", () => void stop());
process.send?.("ready");
await Promise.all([runner.promise, atOnce.promise]).catch((error: unknown) => {
  log.error({ err: error }, "the queue stopped");
  process.exit(1);
});
