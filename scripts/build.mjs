// Bundles what runs outside Next into .build/ with esbuild. Packages stay outside the bundles.
import { build } from "esbuild";

const entries = process.argv.slice(2);
const all = {
  cli: "src/cli/main.ts",
  start: "src/launch/start.ts",
  web: "src/app/main.ts",
  worker: "src/jobs/worker.ts",
  "work-thread": "src/imaging/workers/thread.ts",
  "encode-child": "src/imaging/encode/encode-child.ts",
  "foreign-child": "src/imaging/foreign/child.ts",
  demo: "demo/main.ts",
  "demo-part": "demo/part.ts",
};
// The command line develops on threads and encodes beside itself too.
const named = entries.includes("cli")
  ? [...entries, "work-thread", "encode-child", "foreign-child"]
  : entries;
const wanted = named.length ? Object.fromEntries(named.map((e) => [e, all[e]])) : all;

await build({
  entryPoints: wanted,
  outdir: ".build",
  outExtension: { ".js": ".mjs" },
  bundle: true,
  splitting: false,
  platform: "node",
  target: "node20",
  format: "esm",
  packages: "external",
  sourcemap: "linked",
  logLevel: "warning",
});
