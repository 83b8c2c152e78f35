/**
 * `watch`: fits whatever comes to lie in a folder, until it is stopped. What cannot be met goes to needs-you, with a
 * text that says why. A kill at any moment loses nothing, and makes nothing twice.
 */
import { lstat, readdir, realpath, stat } from "node:fs/promises";
import { basename, dirname, join, relative, resolve, sep } from "node:path";
import { setTimeout } from "node:timers/promises";
import { type FSWatcher, watch as watchFolder } from "chokidar";
import { type Brief, limitsWhole } from "@/core/brief";
import { isDiskFull } from "@/core/photo";
import { namesPhoto } from "@/core/plan/names";
import { canonical } from "@/core/units";
import { sentence } from "@/imaging/source";
import { shareThreads } from "@/imaging/workers";
import { type Announce, writeIn } from "@/imaging/written";
import { type Call, CallError } from "./args";
import { loadBrief } from "./briefs";
import { type FitResult, fitOne, handOver } from "./fit";
import { readBounded } from "./photo-file";
import { print } from "./print";
import { ALONE } from "./total-plan";
import { hashOf, WatchRecord } from "./watch-record";

/** A file counts when its size stood still for so long, looked at so often. */
const STILL_MS = 1200;
const LOOK_MS = 200;
/** How often it is looked whether the folder is there, and whether a full disk has room again. */
const AGAIN_MS = 2000;
/** How often it is looked for what came while nobody was told: the moment in which a folder begins to be watched. */
const LOOK_OVER_MS = 5000;
/** What is under way has so long to end after a stop. */
const GRACE_MS = 4000;
/** Photos that are worked on at a time. */
const AT_ONCE = 2;
const NEEDS_YOU = "needs-you";

export async function watch(call: Extract<Call, { command: "watch" }>): Promise<number> {
  shareThreads();
  const brief = await loadBrief(call.brief);
  if (limitsWhole(brief))
    throw new CallError(
      "The brief limits all files together, and a watched folder never has them all. Use fit, or take the limit " +
        "out of the brief.",
    );
  const [from, out] = await foldersOf(call.folder, call.out);
  const record = await WatchRecord.open(out);
  const watched = new Watched({ from, out, brief, record });
  try {
    await watched.until(stopped());
  } finally {
    await record.close();
    process.disconnect?.();
  }
  return 0;
}

const stopped = (): Promise<void> =>
  new Promise((done) => {
    for (const signal of ["SIGINT", "SIGTERM"] as const) process.once(signal, () => done());
    // Begun by another process, it ends with that.
    process.once("disconnect", () => done());
  });

/** Both without links. Throws a {@link CallError} where they do not go together. */
async function foldersOf(folder: string, output: string): Promise<[from: string, out: string]> {
  const found = await stat(folder).catch(() => null);
  if (!found?.isDirectory())
    throw new CallError(`There is no folder "${folder}" to look at. Make it, or check the path.`);
  const from = await realpath(folder);
  const there = await stat(output).catch(() => null);
  if (there && !there.isDirectory())
    throw new CallError(`--out "${output}" is a file; a folder was expected.`);
  const out = there ? await realpath(output) : resolve(output);
  if (from === out || from.startsWith(out + sep))
    throw new CallError(
      `The folder "${folder}" lies in the output folder "${output}". Choose another, so that originals stay apart.`,
    );
  return [from, out];
}

interface Task {
  from: string;
  out: string;
  brief: Brief;
  record: WatchRecord;
}

class Watched {
  private readonly briefKey: string;
  private readonly waiting: string[] = [];
  private readonly lanes = new Set<Promise<void>>();
  private readonly taken = new Set<string>();
  private readonly links = new Set<string>();
  /** Files that were told of; what is not among them is found by looking. */
  private readonly told = new Set<string>();
  /** Names are given out by one at a time. */
  private turn: Promise<unknown> = Promise.resolve();
  private watcher: FSWatcher | null = null;
  private ended = false;
  private saidFull = false;

  constructor(private readonly task: Task) {
    this.briefKey = hashOf(Buffer.from(canonical(task.brief)));
  }

  async until(stop: Promise<void>): Promise<void> {
    this.begin();
    print(`Looking at ${this.task.from}; what is ready goes to ${this.task.out}. Ctrl-C stops it.`);
    const timers = [
      setInterval(() => void this.checkFolder(), AGAIN_MS),
      setInterval(() => void this.lookOver(), LOOK_OVER_MS),
    ];
    await stop;
    this.ended = true;
    timers.forEach((timer) => clearInterval(timer));
    await this.watcher?.close();
    await Promise.race([Promise.all(this.lanes), setTimeout(GRACE_MS, undefined, { ref: false })]);
  }

  private begin(): void {
    const { from, out } = this.task;
    this.watcher = watchFolder(from, {
      followSymlinks: false,
      alwaysStat: true,
      awaitWriteFinish: { stabilityThreshold: STILL_MS, pollInterval: LOOK_MS },
      ignored: (path) => path !== from && (basename(path).startsWith(".") || path === out),
    });
    for (const event of ["add", "change"] as const) this.watcher.on(event, (path) => this.came(path));
    this.watcher.on("error", (error) => print(`zumbrel: ${sentence(error)}`));
  }

  /** A folder that vanished may come back: then all of it is looked at anew. */
  private async checkFolder(): Promise<void> {
    const there = await stat(this.task.from).then(
      (found) => found.isDirectory(),
      () => false,
    );
    if (this.ended) return;
    if (!there && this.watcher) {
      print(`The folder ${this.task.from} is gone. It is waited for; what was made stays.`);
      const { watcher } = this;
      this.watcher = null;
      this.told.clear();
      await watcher.close();
    } else if (there && !this.watcher) {
      print(`The folder ${this.task.from} is back.`);
      this.begin();
    }
  }

  private async lookOver(): Promise<void> {
    const { from, out } = this.task;
    const found = await readdir(from, { recursive: true, withFileTypes: true }).catch(() => []);
    for (const { name, parentPath } of found) {
      const path = join(parentPath, name);
      if (this.ended || this.told.has(path) || path.startsWith(out + sep) || !namesPhoto(name)) continue;
      if (
        relative(from, path)
          .split(sep)
          .some((part) => part.startsWith("."))
      )
        continue;
      const state = await lstat(path).catch(() => null);
      // What is still being written is told of when it stands still.
      if (state?.isFile() && Date.now() - state.mtimeMs > LOOK_OVER_MS) this.came(path);
    }
  }

  private came(path: string): void {
    this.told.add(path);
    if (this.ended || !namesPhoto(basename(path)) || this.waiting.includes(path)) return;
    this.waiting.push(path);
    if (this.lanes.size >= AT_ONCE) return;
    const lane: Promise<void> = this.lane().finally(() => this.lanes.delete(lane));
    this.lanes.add(lane);
  }

  private async lane(): Promise<void> {
    for (let path = this.waiting.shift(); path && !this.ended; path = this.waiting.shift())
      await this.fitted(path);
  }

  /** A full disk is waited for; a photo that went meanwhile is forgotten. */
  private async fitted(path: string): Promise<void> {
    while (!this.ended) {
      try {
        await this.fit(path);
        this.saidFull = false;
        return;
      } catch (error) {
        if (!isDiskFull(error)) {
          print(`✗ ${relative(this.task.from, path)}: ${sentence(error)}`);
          return;
        }
        if (!this.saidFull) print("The disk is full. It goes on as soon as there is room.");
        this.saidFull = true;
        await setTimeout(AGAIN_MS);
      }
    }
  }

  private async fit(path: string): Promise<void> {
    const { from, out, brief, record } = this.task;
    const found = await lstat(path).catch(() => null);
    if (found?.isSymbolicLink()) return this.passOver(path);
    if (!found?.isFile()) return;
    const name = relative(from, path);
    const of = hashOf(Buffer.from(JSON.stringify([name, found.size, found.mtimeMs, this.briefKey])));
    if (record.isDone(of)) return;
    const n = record.numberOf(of);
    const source = { source: path, folder: dirname(name) === "." ? "" : dirname(name), error: null };
    const files = await fitOne(source, n - 1, { brief, plan: ALONE, judging: "none" });
    if (this.ended) return;
    await this.alone(async () => {
      const announce: Announce = (at, bytes) => record.begins(of, at, bytes);
      const results: FitResult[] = [];
      for (const file of files)
        results.push(await handOver(file, { path: source, n, out, taken: this.taken, announce }));
      const failed = results.find((one) => !one.ok);
      if (failed)
        await this.refuse({ path, name, why: failed.error ?? "It does not meet the brief.", announce });
      await record.isReady(of);
      for (const { ok, output } of results) if (ok) print(`✓ ${name} → ${output}`);
      if (failed) print(`✗ ${name} → ${join(out, NEEDS_YOU)}: ${failed.error}`);
    });
  }

  private passOver(path: string): void {
    if (!this.links.has(path)) print(`· ${relative(this.task.from, path)} is a link and is passed over.`);
    this.links.add(path);
  }

  private alone<T>(work: () => Promise<T>): Promise<T> {
    const done = this.turn.then(work);
    this.turn = done.catch(() => undefined);
    return done;
  }

  /** A copy of the photo, and why, for a person. */
  private async refuse({
    path,
    name,
    why,
    announce,
  }: {
    path: string;
    name: string;
    why: string;
    announce: Announce;
  }): Promise<void> {
    const { out, brief } = this.task;
    const folder = join(out, NEEDS_YOU, dirname(name));
    const bytes = await readBounded(path).catch(() => null);
    const text =
      `${name} cannot meet the brief "${brief.name}".\n\n${why}\n\n` +
      `${bytes ? "Beside this text lies a copy of the photo" : "The photo is too large to be copied"}; ` +
      "the photo itself is where it was, and was not changed.\n";
    if (bytes) await writeIn(folder, basename(name), bytes, announce);
    await writeIn(folder, `${basename(name)}.txt`, Buffer.from(text), announce);
  }
}
