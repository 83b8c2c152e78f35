/** Threads and child processes of the sources under test, made once for all test files. */
import { execFileSync } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import { join } from "node:path";

export default async function setup(): Promise<() => Promise<void>> {
  // Another project of this run has made them already.
  if (process.env.ZUMBREL_BUNDLES) return async () => undefined;
  // Below the project, so that the bundles find its packages.
  const folder = await mkdtemp(join(process.cwd(), "node_modules", ".zumbrel-test-"));
  execFileSync(process.execPath, ["scripts/build.mjs", "cli", "facts-child"], {
    env: { ...process.env, ZUMBREL_BUNDLES: folder },
    stdio: ["ignore", "ignore", "inherit"],
  });
  process.env.ZUMBREL_BUNDLES = folder;
  return () => rm(folder, { recursive: true, force: true });
}
