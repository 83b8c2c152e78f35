/**
 * Watched folders: each is looked after by a command line's `watch` in a process of its own, begun again when it ends. What
 * was made stands in the record of its output folder, so that nothing is made twice.
 */
import { type ChildProcess, fork } from "node:child_process";
import { mkdir, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { createInterface } from "node:readline";
import type { Readable } from "node:stream";
import { bundleBeside } from "@/imaging/workers";
import type { Store } from "@/store";
import { countWatched, listWatches, tellWatch, type WatchRow } from "@/store/queries";

/** One that ended is begun again after so long. */
const AGAIN_MS = 5000;

export class Watches {
  private readonly running = new Map<string, ChildProcess>();
  private readonly notBefore = new Map<string, number>();
  private syncing = false;
  private ended = false;

  constructor(
    private readonly store: Store,
    private readonly dataDir: string,
  ) {}

  /** Begins those that are asked and do not run, and ends those that are asked no more. */
  async sync(): Promise<void> {
    if (this.syncing || this.ended) return;
    this.syncing = true;
    try {
      const wanted = await listWatches(this.store.db);
      const ids = new Set(wanted.map(({ id }) => id));
      for (const [id, child] of this.running) if (!ids.has(id)) child.kill("SIGTERM");
      for (const watch of wanted)
        if (!this.running.has(watch.id) && Date.now() >= (this.notBefore.get(watch.id) ?? 0))
          await this.begin(watch);
    } finally {
      this.syncing = false;
    }
  }

  end(): void {
    this.ended = true;
    for (const child of this.running.values()) child.kill("SIGTERM");
  }

  private async begin({ id, folder, out, brief }: WatchRow): Promise<void> {
    const command = bundleBeside("cli");
    if (!command) return;
    const folderOfBriefs = join(this.dataDir, "watches");
    await mkdir(folderOfBriefs, { recursive: true });
    const path = join(folderOfBriefs, `${id}.brief.json`);
    await writeFile(path, JSON.stringify(brief));
    // It ends by itself when this process is gone: the channel between them closes.
    const child = fork(command, ["watch", folder, "--brief", path, "--out", out], {
      stdio: ["ignore", "pipe", "pipe", "ipc"],
    });
    this.running.set(id, child);
    let trouble = "";
    this.lines(child.stderr!, async (line) => {
      trouble = line.replace(/^zumbrel: /, "");
    });
    this.lines(child.stdout!, (line) => this.heard(id, line));
    child.on("exit", () => {
      this.running.delete(id);
      this.notBefore.set(id, Date.now() + AGAIN_MS);
      const problem = trouble || "It ended unexpectedly, and is begun again.";
      if (!this.ended) tellWatch(this.store.db, id, { problem }).catch(() => undefined);
    });
  }

  private lines(from: Readable, take: (line: string) => Promise<unknown>): void {
    // A database that is away for a moment loses a count, not a file.
    createInterface({ input: from }).on("line", (line) => void take(line).catch(() => undefined));
  }

  private heard(id: string, line: string): Promise<unknown> {
    const { db } = this.store;
    const said = line.replace(/^[✓✗·] /, "").slice(0, 500);
    if (line.startsWith("✓ ")) return countWatched(db, id, "ready", said);
    if (line.startsWith("✗ ")) return countWatched(db, id, "needsYou", said);
    const gone = /^The folder .* is gone|^The disk is full/.test(line);
    return tellWatch(db, id, { problem: gone ? said : null });
  }
}
