/** The launcher: database, schema, web and worker; stops all of it cleanly. */
import { fork } from "node:child_process";
import { existsSync, realpathSync, statSync } from "node:fs";
import { mkdir, readFile, rm, writeFile } from "node:fs/promises";
import { hostname } from "node:os";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { isDiskFull } from "@/core/photo";
import { addJob, migrateStore, openStore, PRIORITY } from "@/store";
import { buryInstance, getSetting } from "@/store/queries";
import { DatabaseWatch } from "./database-watch";
import { demoFolder, shipBriefs } from "./demo";
import { KeptAlive } from "./kept-alive";
import { dataFolder } from "./places";
import { freePort, Postgres, SetupError } from "./postgres";

const root = process.cwd();
const say = (text: string) => process.stdout.write(`${text}\n`);
const warn = (text: string) => process.stderr.write(`zumbrel: ${text}\n`);
const USUAL_PORT = 4710;
/** Processes that were asked to end have so long. */
const STOP_MS = 3000;
/** One name a worker process, so that what one held can be told from what others hold. */
const slotOf = (instance: string, n: number): string => `${instance} ${n}`;

/** Workers share two cores with the browser; more than this only wait for each other. */
const MOST_WORKERS = 32;

interface Options {
  port: number | null;
  empty: boolean;
  workers: number;
  /** Folders of this machine that files may be put into. */
  outRoots: string[];
  /** Folders of this machine that may be watched. */
  watchRoots: string[];
}

function readOptions(): Options {
  try {
    const { values } = parseArgs({
      options: {
        port: { type: "string" },
        empty: { type: "boolean" },
        workers: { type: "string" },
        "out-root": { type: "string", multiple: true },
        "watch-root": { type: "string", multiple: true },
      },
    });
    const workers = values.workers === undefined ? 1 : Number(values.workers);
    if (!Number.isInteger(workers) || workers < 1 || workers > MOST_WORKERS)
      throw new SetupError(`--workers: wanted 1 to ${MOST_WORKERS}, found ${values.workers}.`);
    const port = values.port === undefined ? null : Number(values.port);
    if (port !== null && (!Number.isInteger(port) || port < 1 || port > 65_535))
      throw new SetupError(`--port: wanted 1 to 65535, found ${values.port}.`);
    const rootsOf = (option: "out-root" | "watch-root") =>
      (values[option] ?? []).map((path) => allowedRoot(option, path));
    return {
      port,
      empty: values.empty === true,
      workers,
      outRoots: rootsOf("out-root"),
      watchRoots: rootsOf("watch-root"),
    };
  } catch (error) {
    if (error instanceof SetupError) throw error;
    throw new SetupError(`start: ${error instanceof Error ? error.message.split(". ")[0] : String(error)}.`);
  }
}

function allowedRoot(option: string, path: string): string {
  const found = statSync(path, { throwIfNoEntry: false });
  if (!found?.isDirectory())
    throw new SetupError(`--${option}: wanted a folder that is there, found "${path}".`);
  return realpathSync(path);
}

async function choosePort(asked: number | null): Promise<number> {
  if (asked !== null) {
    return freePort(asked).catch(() => {
      throw new SetupError(`Port ${asked} is taken. Choose another with --port, or leave it out.`);
    });
  }
  for (let port = USUAL_PORT; port < USUAL_PORT + 50; port += 1) {
    const free = await freePort(port).catch(() => 0);
    if (free) return port;
  }
  return freePort();
}

const alive = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

/** One launcher a data folder: the lock names the process and the address. */
async function takeLock(dataDir: string): Promise<string> {
  const lock = join(dataDir, "running.json");
  const held = await readFile(lock, "utf8").then(
    (text) => JSON.parse(text) as { pid: number; address: string },
    () => null,
  );
  if (
    held &&
    alive(held.pid) &&
    (await readFile(`/proc/${held.pid}/cmdline`, "utf8").catch(() => "")).includes("start.mjs")
  ) {
    throw new SetupError(`Zumbrel is running already from this folder: ${held.address}`);
  }
  return lock;
}

async function main(): Promise<void> {
  const options = readOptions();
  const dataDir = dataFolder(root);
  await mkdir(dataDir, { recursive: true });
  const lock = await takeLock(dataDir);
  const port = await choosePort(options.port);
  const address = `http://127.0.0.1:${port}`;
  await writeFile(lock, JSON.stringify({ pid: process.pid, address }));

  const children: KeptAlive[] = [];
  let database: Postgres | null = null;
  let watch: DatabaseWatch | null = null;
  let stopping: Promise<void> | null = null;
  const stop = (code: number) => (stopping ??= stopAll(code));

  async function stopAll(code: number): Promise<void> {
    await watch?.stop();
    await Promise.all(children.map((child) => child.stop(STOP_MS)));
    await database?.stop();
    await rm(lock, { force: true });
    process.exit(code);
  }

  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"] as const) process.on(signal, () => void stop(0));

  database = await Postgres.start(dataDir);
  const environment = { dataDir, database: database.url };
  const store = openStore(environment);
  await migrateStore(store, root);
  await shipBriefs(store);
  // The lock of this data folder is ours, so whatever worked on it before is dead.
  const instance = `${hostname()} ${dataDir}`;
  for (let n = 0; n < MOST_WORKERS; n += 1) await buryInstance(store.db, slotOf(instance, n));
  await store.files.clearParts();
  const loadsDemo = !options.empty && (await getSetting(store.db, "demo")) === null;
  if (loadsDemo) await addJob(store.db, "demo", "demo", PRIORITY.demo);
  const server = database;
  const giveUp = (why: string) => {
    warn(`${why}; stopping. What it said last stands above. Start it again with bin/zumbrel start.`);
    void stop(1);
  };
  const env = (slot: string) => ({
    ...process.env,
    NODE_ENV: "production" as const,
    NEXT_TELEMETRY_DISABLED: "1",
    ZUMBREL_DATA: dataDir,
    ZUMBREL_DATABASE: server.url,
    ZUMBREL_PORT: String(port),
    ZUMBREL_INSTANCE: slot,
    ZUMBREL_OUT_ROOTS: JSON.stringify(options.outRoots),
    ZUMBREL_WATCH_ROOTS: JSON.stringify(options.watchRoots),
    // One of several workers looks after watched folders.
    ZUMBREL_WATCHES: slot === slotOf(instance, 0) ? "1" : "",
  });
  const keep = (name: string, slot: string, bundle: string, onEnd?: () => Promise<void>) => {
    const start = () =>
      fork(join(root, ".build", `${bundle}.mjs`), [], {
        cwd: root,
        env: env(slot),
        stdio: ["ignore", "ignore", "inherit", "ipc"],
      });
    const kept = new KeptAlive({ name, start, onEnd, say: warn, giveUp });
    children.push(kept);
    return kept.begin();
  };
  watch = new DatabaseWatch({ server, dataDir, say: warn, giveUp });
  const workers = Array.from({ length: options.workers }, (_, n) => {
    const slot = slotOf(instance, n);
    // What it held is free at once.
    return keep("the worker", slot, "worker", () => buryInstance(store.db, slot));
  });
  await Promise.all([keep("the web process", instance, "web"), ...workers]);
  say(`Zumbrel is at ${address}  (Ctrl-C stops it)`);
  if (loadsDemo) {
    const kept = existsSync(join(demoFolder(dataDir), "done"));
    say(
      kept
        ? "The demo, the Quillmoor Moth Survey, is being loaded."
        : "The demo, the Quillmoor Moth Survey, is being made, once: its first batch appears on the Desk within " +
            "a quarter of a minute, the others within two minutes.",
    );
  }
}

function wordsOf(error: unknown): string {
  if (error instanceof SetupError) return error.message;
  if (isDiskFull(error))
    return "The disk is full, so Zumbrel cannot start. Free some space and start it again.";
  return error instanceof Error ? (error.stack ?? error.message) : String(error);
}

main().catch((error: unknown) => {
  warn(wordsOf(error));
  process.exit(error instanceof SetupError ? 2 : 1);
});
