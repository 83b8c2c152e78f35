// Reads made-up wordings for a minute (or the seconds given) and prints the slowest, so that no text can
// hold the reader up.
// node bench/read-fuzz.mjs [seconds]

import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { build } from "esbuild";

const root = join(import.meta.dirname, "..");
const seconds = Number(process.argv[2] ?? 60);
mkdirSync(join(root, ".build"), { recursive: true });
const outfile = join(root, ".build/read-fuzz.mjs");
await build({
  stdin: {
    contents:
      `export { holds, wordings } from "./tests/core/brief/reader/fuzz"; export { readWording } from ` +
      `"@/core/brief"; export { default as fc } from "fast-check";`,
    resolveDir: root,
    loader: "ts",
  },
  bundle: true,
  platform: "node",
  format: "esm",
  packages: "external",
  outfile,
  tsconfig: join(root, "tsconfig.json"),
  logLevel: "warning",
});
const { fc, holds, readWording, wordings } = await import(pathToFileURL(outfile).href);

const until = performance.now() + seconds * 1000;
let [texts, slowest, worst, seed] = [0, 0, "", 1];
while (performance.now() < until) {
  for (const piece of fc.sample(wordings, { numRuns: 50, seed: seed++ })) {
    // Every tenth text is blown up to the longest that is read.
    const text =
      texts % 10 === 0 && piece
        ? piece.repeat(Math.ceil(100_000 / piece.length)).slice(0, 100_000)
        : piece.slice(0, 100_000);
    const start = performance.now();
    if (text.length < 100_000) holds(text);
    else readWording(text);
    const took = performance.now() - start;
    texts += 1;
    if (took > slowest)
      [slowest, worst] = [took, `${text.length} characters: ${JSON.stringify(text.slice(0, 80))}`];
  }
}
console.log(
  `${texts} wordings in ${seconds} s, none failed; the slowest took ${slowest.toFixed(0)} ms (${worst})`,
);
