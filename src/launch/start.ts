/** The launcher: database, schema, web and worker; stops all of it cleanly. */
import { type ChildProcess, fork } from "node:child_process";
import { existsSync, realpathSync, statSync } from "node:fs";
import { mkdir, readFile, rm, writeFile } from "node:fs/promises";
import { hostname } from "node:os";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { sql } from "drizzle-orm";
import { addJob, migrateStore, openStore, PRIORITY } from "@/store";
import { buryInstance, getSetting } from "@/store/queries";
import { demoFolder, shipBriefs } from "./demo";
import { dataFolder } from "./places";
import { freePort, Postgres, SetupError } from "./postgres";

const root = process.cwd();
const say = (text: string) => process.stdout.write(`${text}\n`);
const USUAL_PORT = 4710;

/** Workers share two cores with the browser; more than this only wait for each other. */
const MOST_WORKERS = 32;

interface Options {
  port: number | null;
  empty: boolean;
  workers: number;
  /** Folders of this machine that files may be put into. */
  outRoots: string[];
}

function readOptions(): Options {
  try {
    const { values } = parseArgs({
      options: {
        port: { type: "string" },
        empty: { type: "boolean" },
        workers: { type: "string" },
        "out-root": { type: "string", multiple: true },
      },
    });
    const workers = values.workers === undefined ? 1 : Number(values.workers);
    if (!Number.isInteger(workers) || workers < 1 || workers > MOST_WORKERS)
      throw new SetupError(`--workers: wanted 1 to ${MOST_WORKERS}, found ${values.workers}.`);
    const port = values.port === undefined ? null : Number(values.port);
    if (port !== null && (!Number.isInteger(port) || port < 1 || port > 65_535))
      throw new SetupError(`--port: wanted 1 to 65535, found ${values.port}.`);
    return { port, empty: values.empty === true, workers, outRoots: (values["out-root"] ?? []).map(outRoot) };
  } catch (error) {
    if (error instanceof SetupError) throw error;
    throw new SetupError(`start: ${error instanceof Error ? error.message.split(". ")[0] : String(error)}.`);
  }
}

function outRoot(path: string): string {
  const found = statSync(path, { throwIfNoEntry: false });
  if (!found?.isDirectory())
    throw new SetupError(`--out-root: wanted a folder that is there, found "${path}".`);
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

  const children: ChildProcess[] = [];
  let database: Postgres | null = null;
  let stopping: Promise<void> | null = null;
  const stop = (code: number) => (stopping ??= stopAll(code));

  async function stopAll(code: number): Promise<void> {
    const ended = children.map((child) =>
      child.exitCode !== null || child.signalCode ? null : new Promise((done) => child.once("exit", done)),
    );
    for (const child of children) child.kill("SIGTERM");
    const patience = setTimeout(() => children.forEach((child) => child.kill("SIGKILL")), 3000);
    await Promise.all(ended);
    clearTimeout(patience);
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
  await buryInstance(store.db, instance);
  await store.files.clearParts();
  const loadsDemo = !options.empty && (await getSetting(store.db, "demo")) === null;
  if (loadsDemo) await addJob(store.db, "demo", "demo", PRIORITY.demo);
  await store.db.execute(sql`select 1`);
  await store.pool.end();

  const env = {
    ...process.env,
    NODE_ENV: "production" as const,
    NEXT_TELEMETRY_DISABLED: "1",
    ZUMBREL_DATA: dataDir,
    ZUMBREL_DATABASE: database.url,
    ZUMBREL_PORT: String(port),
    ZUMBREL_INSTANCE: instance,
    ZUMBREL_OUT_ROOTS: JSON.stringify(options.outRoots),
  };
  const begin = (name: string) =>
    new Promise<void>((resolve) => {
      const child = fork(join(root, ".build", `${name}.mjs`), [], {
        cwd: root,
        env,
        stdio: ["ignore", "ignore", "inherit", "ipc"],
      });
      children.push(child);
      child.once("message", () => resolve());
      child.once("exit", (code) => {
        if (stopping) return;
        process.stderr.write(
          `zumbrel: the ${name} process ended (${code}); stopping. Start it again with bin/zumbrel start.\n`,
        );
        void stop(1);
      });
    });
  await Promise.all([begin("web"), ...Array.from({ length: options.workers }, () => begin("worker"))]);
  say(`Zumbrel is at ${address}  (Ctrl-C stops it)`);
  if (loadsDemo) {
    const kept = existsSync(join(demoFolder(dataDir), "done"));
    say(
      kept
        ? "The demo, the Quillmoor Moth Survey, is being loaded."
        : "The demo, the Quillmoor Moth Survey, is being made: about a minute, once. It appears on the " +
            "Desk by itself.",
    );
  }
}

main().catch((error: unknown) => {
  process.stderr.write(
    `zumbrel: ${error instanceof SetupError ? error.message : error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`,
  );
  process.exit(error instanceof SetupError ? 2 : 1);
});
