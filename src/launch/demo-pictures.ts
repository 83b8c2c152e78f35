/** The demo's pictures, as they are made: by its generator once, and kept. */
import { spawn } from "node:child_process";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { createInterface } from "node:readline";

export interface DemoPictures {
  /** Resolves when it is there: false where it cannot be made here. Rejects where the generator has ended badly. */
  there(name: string): Promise<boolean>;
}

export function demoPictures(root: string, folder: string): DemoPictures {
  const mark = join(folder, "done");
  if (!existsSync(mark)) return new Made(root, folder);
  const missing = new Set(readFileSync(mark, "utf8").split("\n").filter(Boolean));
  return { there: async (name) => !missing.has(name) };
}

/** Those that the generator is making, told line by line. */
class Made implements DemoPictures {
  private readonly told = new Map<string, boolean>();
  private readonly waiting = new Map<string, (is: boolean) => void>();
  private readonly failed: Promise<never>;

  constructor(root: string, folder: string) {
    const child = spawn(process.execPath, [join(root, ".build/demo.mjs"), folder], {
      stdio: ["ignore", "pipe", "inherit"],
    });
    const stop = () => void child.kill();
    process.once("exit", stop);
    child.once("close", () => process.off("exit", stop));
    createInterface(child.stdout).on("line", (line) => this.tell(line));
    this.failed = new Promise((_, reject) => {
      child.on("error", reject);
      child.on("close", (code) => {
        if (code !== 0) reject(new Error(`the demo's generator ended with ${code}`));
      });
    });
    // Whoever waits for a picture is told; nobody else need hear of it.
    this.failed.catch(() => undefined);
  }

  there(name: string): Promise<boolean> {
    const known = this.told.get(name);
    if (known !== undefined) return Promise.resolve(known);
    const made = new Promise<boolean>((resolve) => this.waiting.set(name, resolve));
    return Promise.race([made, this.failed]);
  }

  private tell(line: string): void {
    const left = line.startsWith("-");
    const name = left ? line.slice(1) : line;
    this.told.set(name, !left);
    this.waiting.get(name)?.(!left);
  }
}
