// Bundles sources of the project so that a benchmark can call them: load("export { … } from '@/…';").

import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { build } from "esbuild";

export const root = resolve(fileURLToPath(import.meta.url), "../..");

export async function load(entry) {
  mkdirSync(join(root, ".build"), { recursive: true });
  const work = mkdtempSync(join(root, ".build", "bench-"));
  process.on("exit", () => rmSync(work, { recursive: true, force: true }));
  writeFileSync(join(work, "entry.ts"), entry);
  const threads = {
    "work-thread": join(root, "src/imaging/workers/thread.ts"),
    "encode-child": join(root, "src/imaging/encode/encode-child.ts"),
  };
  const common = {
    bundle: true,
    platform: "node",
    format: "esm",
    packages: "external",
    tsconfig: join(root, "tsconfig.json"),
    outExtension: { ".js": ".mjs" },
    outdir: work,
    logLevel: "error",
  };
  await build({ ...common, entryPoints: { entry: join(work, "entry.ts"), ...threads } });
  return import(pathToFileURL(join(work, "entry.mjs")).href);
}
