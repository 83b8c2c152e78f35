/** Starts the whole application on a data folder of its own, and stops it after the tests. */
import { type ChildProcess, spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { cp, mkdir, mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { DEMO_BATCHES, DEMO_VERSION } from "@demo/batches";
import type { FullConfig } from "@playwright/test";
import { dataFolder } from "@/launch/places";
import { jpegPhoto } from "../../tests/support/photos";

export interface Running {
  address: string;
  process: ChildProcess;
  stop: () => Promise<void>;
}

/** `bin/zumbrel start`; resolves when the address is printed. */
export function startZumbrel(dataDir: string, args: string[] = []): Promise<Running> {
  const child = spawn("bin/zumbrel", ["start", ...args], {
    env: { ...process.env, ZUMBREL_DATA: dataDir, ZUMBREL_LOG: "error" },
    stdio: ["ignore", "pipe", "pipe"],
  });
  let text = "";
  return new Promise((resolve, reject) => {
    const stop = () =>
      new Promise<void>((done) => {
        if (child.exitCode !== null || child.signalCode) return done();
        child.once("exit", () => done());
        child.kill("SIGTERM");
      });
    const read = (piece: Buffer) => {
      text += piece.toString();
      const address = /Zumbrel is at (\S+)/.exec(text)?.[1];
      if (address) resolve({ address, process: child, stop });
    };
    child.stdout!.on("data", read);
    child.stderr!.on("data", read);
    child.on("exit", (code) => reject(new Error(`start ended with ${code}: ${text}`)));
  });
}

/** An application for each worker of the test runner, so that none sees what another does. */
export default async function setup({ workers }: FullConfig): Promise<() => Promise<void>> {
  const stops: (() => Promise<void>)[] = [];
  // One after the other: the first builds what has changed.
  for (let place = 0; place < workers; place += 1) stops.push(await startAt(place));
  return async () => void (await Promise.all(stops.map((stop) => stop())));
}

async function startAt(place: number): Promise<() => Promise<void>> {
  const dataDir = await mkdtemp(join(tmpdir(), "zumbrel-e2e-"));
  await smallDemo(join(dataDir, "demo", DEMO_VERSION));
  const running = await startZumbrel(dataDir, ["--empty"]);
  process.env[`ZUMBREL_ADDRESS_${place}`] = running.address;
  return async () => {
    await running.stop();
    await rm(dataDir, { recursive: true, force: true });
  };
}

/**
 * What is there is not drawn: only the first batch of the demo is, and small pictures stand for all others, since
 * drawing and measuring them takes both cores for minutes.
 */
async function smallDemo(folder: string): Promise<void> {
  const [first, ...others] = DEMO_BATCHES;
  await mkdir(folder, { recursive: true });
  const made = join(dataFolder(process.cwd()), "demo", DEMO_VERSION);
  for (const name of first.photos)
    if (existsSync(join(made, name))) await cp(join(made, name), join(folder, name));
  const names = new Set(others.flatMap((batch) => batch.photos));
  for (const [i, name] of [...names].entries())
    await writeFile(join(folder, name), await jpegPhoto(120, 90, 900 + i));
}
