// Bundles what runs outside Next into .build/ with esbuild. Packages stay outside the bundles,
// but for a few.
import { createRequire } from "node:module";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";

/** The command line, and what it runs beside itself: node scripts/build.mjs cli builds only these. */
const cli = {
  cli: "src/cli/main.ts",
  "cli-inspect": "src/cli/inspect.ts",
  "cli-read-brief": "src/cli/read-brief.ts",
  "cli-check": "src/cli/check.ts",
  "cli-fit": "src/cli/fit-command.ts",
  "cli-total": "src/cli/total.ts",
  "cli-watch": "src/cli/watch.ts",
  "cli-messages": "src/cli/messages.ts",
  "work-thread": "src/imaging/workers/thread.ts",
  "encode-child": "src/imaging/encode/encode-child.ts",
  "tight-child": "src/imaging/encode/tight-child.ts",
  "foreign-child": "src/imaging/foreign/child.ts",
  "foreign-decoders": "src/imaging/foreign/decoders.ts",
};
const all = {
  ...cli,
  "facts-child": "src/imaging/facts-child.ts",
  start: "src/launch/start.ts",
  prepare: "src/launch/prepare.ts",
  web: "src/app/main.ts",
  worker: "src/jobs/worker.ts",
  maker: "src/jobs/maker.ts",
  demo: "demo/main.ts",
  "demo-part": "demo/part.ts",
};
const asked = process.argv.slice(2);
const entryPoints = asked.length
  ? Object.assign({}, ...asked.map((name) => (name === "cli" ? cli : { [name]: all[name] })))
  : all;

/**
 * A module that is imported only when it is needed is a bundle of its own: inlined, its packages would be
 * loaded at the start.
 */
const onDemand = {
  name: "on-demand",
  setup(bundler) {
    const bundles = new Map(Object.entries(cli).map(([name, path]) => [path.replace(/\.ts$/, ""), name]));
    bundler.onResolve({ filter: /^\.\// }, ({ kind, path, importer }) => {
      if (kind !== "dynamic-import") return undefined;
      const folder = importer.slice(process.cwd().length + 1).replace(/[^/]*$/, "");
      const name = bundles.get(folder + path.slice(2));
      return name ? { path: `./${name}.mjs`, external: true } : undefined;
    });
  },
};

/** Packages of many small files that every process and thread reads at its start: taken in, they are one. */
const TAKEN_IN = /^(zod|lru-cache|saxes|xmlchars\/.*)$/;
const { resolve } = createRequire(import.meta.url);
const takenIn = {
  name: "taken-in",
  setup(bundler) {
    bundler.onResolve({ filter: TAKEN_IN }, ({ kind, path }) => ({
      path: kind === "require-call" ? resolve(path) : fileURLToPath(import.meta.resolve(path)),
    }));
  },
};

await build({
  entryPoints,
  // Tests have bundles of their own.
  outdir: process.env.ZUMBREL_BUNDLES ?? ".build",
  outExtension: { ".js": ".mjs" },
  bundle: true,
  splitting: false,
  platform: "node",
  target: "node20",
  format: "esm",
  packages: "external",
  sourcemap: "linked",
  logLevel: "warning",
  plugins: [onDemand, takenIn],
});
