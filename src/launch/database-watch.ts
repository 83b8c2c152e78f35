/** Keeps PostgreSQL running: looks whether it still does, and starts it again on the port it had. */
import { statfs } from "node:fs/promises";
import { setTimeout } from "node:timers/promises";
import type { Postgres } from "./postgres";

interface WatchTask {
  server: Pick<Postgres, "alive" | "up">;
  dataDir: string;
  say: (text: string) => void;
  giveUp: (why: string) => void;
  /** In ms, for tests. */
  lookMs?: number;
  pauses?: readonly number[];
}

const LOOK_MS = 400;
/** Starts in a row that fail before nothing more is tried. */
const MOST_FAILED = 10;
const PAUSES: readonly number[] = [200, 500, 1000, 2000, 4000, 8000];
/** With less than this free a server cannot start, and nobody is to blame but the disk: in bytes. */
const FULL = 64 * 1024 * 1024;

export class DatabaseWatch {
  private going = true;
  private readonly watching: Promise<void>;

  constructor(private readonly task: WatchTask) {
    this.watching = this.watch();
  }

  async stop(): Promise<void> {
    this.going = false;
    await this.watching;
  }

  private async watch(): Promise<void> {
    const { server, say, lookMs = LOOK_MS } = this.task;
    while (this.going) {
      await setTimeout(lookMs);
      if (!this.going || (await server.alive())) continue;
      say("the database has ended; it is being started again.");
      await this.again();
    }
  }

  private async again(): Promise<void> {
    const { server, dataDir, say, giveUp, pauses = PAUSES } = this.task;
    for (let n = 0; this.going; n += 1) {
      try {
        await server.up(dataDir);
        say("the database is there again.");
        return;
      } catch (error) {
        if (await isFull(dataDir)) {
          if (n === 0) say("the disk is full, so the database cannot start; it will when there is space.");
          n = Math.min(n, pauses.length - 1);
        } else if (n + 1 >= MOST_FAILED) {
          this.going = false;
          giveUp(error instanceof Error ? error.message : String(error));
          return;
        }
        await setTimeout(pauses[Math.min(n, pauses.length - 1)]);
      }
    }
  }
}

async function isFull(dataDir: string): Promise<boolean> {
  const found = await statfs(dataDir).catch(() => null);
  return found !== null && found.bavail * found.bsize < FULL;
}
