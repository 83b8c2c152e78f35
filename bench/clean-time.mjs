// The time of `fit` with aim clean on twelve photos against a plain script that halves the quality with the
// same difference measure,
// in one run: node bench/clean-time.mjs FOLDER
// FOLDER holds photographs.
import { execFileSync, spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { load, root } from "./load.mjs";
import { plainSmallest } from "./plain.mjs";

const folder = process.argv[2];
if (!folder) throw new Error("Name a folder with photographs: node bench/clean-time.mjs FOLDER");
const { Reference } = await load('export { Reference } from "@/core/difference";');
const work = mkdtempSync(join(tmpdir(), "zumbrel-clean-"));
process.on("exit", () => rmSync(work, { recursive: true, force: true }));
const CLEAN = 0.9;

// Twelve photos of 2 to 24 megapixels, enlarged and grained from the photographs, so that they have detail
// at every size.
const big = join(work, "big");
mkdirSync(big);
const sources = readdirSync(folder)
  .filter((f) => /\.jpe?g$/i.test(f))
  .sort();
for (const [i, megapixels] of [2, 3, 4, 5, 6, 8, 10, 12, 12, 16, 20, 24].entries()) {
  const height = Math.round(Math.sqrt((megapixels * 1e6) / 1.5));
  const image = sharp(join(folder, sources[i % sources.length]))
    .resize(Math.round(height * 1.5), height, { fit: "cover" })
    .removeAlpha();
  const { data, info } = await image.raw().toBuffer({ resolveWithObject: true });
  let seed = i + 1;
  for (let k = 0; k < data.length; k += 1) {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    data[k] = Math.max(0, Math.min(255, data[k] + (seed >>> 29) - 3));
  }
  await sharp(data, { raw: { width: info.width, height: info.height, channels: 3 } })
    .jpeg({ quality: 97, chromaSubsampling: "4:4:4" })
    .toFile(join(big, `${String(i).padStart(2, "0")}-${megapixels}.jpg`));
}
writeFileSync(
  join(work, "clean.brief.json"),
  JSON.stringify({ zumbrelBrief: 1, name: "bench", format: ["jpeg"], fileSize: { aim: "clean" } }),
);
execFileSync(process.execPath, ["scripts/build.mjs", "cli"], { cwd: root });
const start = performance.now();
const { stdout } = spawnSync(
  process.execPath,
  [
    join(root, ".build/cli.mjs"),
    "fit",
    big,
    "--brief",
    join(work, "clean.brief.json"),
    "--out",
    join(work, "out"),
    "--json",
  ],
  { maxBuffer: 1e8 },
);
const ours = performance.now() - start;
const { results } = JSON.parse(stdout.toString());
let halving = 0;
let plainBytes = 0;
for (const file of readdirSync(big).sort()) {
  const begin = performance.now();
  const { data, info } = await sharp(join(big, file)).raw().toBuffer({ resolveWithObject: true });
  const size = { width: info.width, height: info.height };
  plainBytes += (await plainSmallest(data, size, new Reference({ data, ...size, channels: 3 }), CLEAN)) ?? 0;
  halving += performance.now() - begin;
}
const total = results.reduce((sum, r) => sum + (r.facts?.bytes ?? 0), 0);
console.log(
  `12 photos of 2 to 24 megapixels: fit ${(ours / 1000).toFixed(0)} s ` +
    `(${results.filter((r) => r.ok && r.difference <= CLEAN).length} clean, ` +
    `${(total / 1e6).toFixed(1)} MB), halving ${(halving / 1000).toFixed(0)} s ` +
    `(${(plainBytes / 1e6).toFixed(1)} MB): ${(halving / ours).toFixed(2)} × faster`,
);
