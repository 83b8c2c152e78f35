// What aims clean and best give on photographs, held against a plain encoder and a published measure: node bench/clean.mjs FOLDER
// FOLDER holds photographs. Needs butteraugli_main (Debian's libjxl-devtools). Then the time of `fit` with aim clean against
// a plain script that halves the quality with the same difference measure.
import { execFileSync, spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { load, root } from "./load.mjs";

const folder = process.argv[2];
if (!folder) throw new Error("Name a folder with photographs: node bench/clean.mjs FOLDER");
const { Reference, fitPhoto, readSource, visibleDifference } = await load('export { Reference, visibleDifference } from "@/core/difference"; export { fitPhoto } from "@/imaging/fit-photo"; export { readSource } from "@/imaging/facts";');
const work = mkdtempSync(join(tmpdir(), "zumbrel-clean-"));
process.on("exit", () => rmSync(work, { recursive: true, force: true }));
const CLEAN = 0.9;
const median = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];
const brief = (clauses) => ({ zumbrelBrief: 1, name: "bench", format: ["jpeg"], ...clauses });

/** The photographs, reduced and in parts, as PNG: nothing was lost before. */
async function photographs() {
  const out = [];
  for (const name of readdirSync(folder).filter((f) => /\.(jpe?g|png|tiff?)$/i.test(f)).sort()) {
    const { width, height } = await sharp(join(folder, name)).metadata();
    const open = () => sharp(join(folder, name)).removeAlpha().toColourspace("srgb");
    if (width < 1400) out.push([name, open()]);
    else {
      out.push([`${name} reduced`, open().resize(960)]);
      out.push([`${name} part`, open().extract({ left: Math.round(width * 0.35), top: Math.round(height * 0.43), width: 720, height: Math.min(540, Math.round(height * 0.5)) })]);
    }
  }
  return Promise.all(out.map(async ([name, image]) => ({ name, ...(await image.raw().toBuffer({ resolveWithObject: true })) })));
}

const decoded = (bytes) => sharp(bytes).toColourspace("srgb").raw().toBuffer();

/** The plain encoder's smallest file within a difference: every whole quality, 4:2:0, as the library comes. */
async function plainSmallest(data, size, reference, limit) {
  let [low, high, found] = [1, 100, null];
  while (low <= high) {
    const quality = (low + high) >> 1;
    const bytes = await sharp(data, { raw: { ...size, channels: 3 } }).jpeg({ quality }).toBuffer();
    if (reference.compare({ data: await decoded(bytes), ...size, channels: 3 }).difference <= limit) [found, high] = [bytes.length, quality - 1];
    else low = quality + 1;
  }
  return found;
}

function norm(data, size, bytes) {
  const [a, b] = [join(work, "a.png"), join(work, "b.png")];
  writeFileSync(a, data);
  writeFileSync(b, bytes);
  return Number(/3-norm: ([\d.]+)/.exec(execFileSync("butteraugli_main", [a, b, "--pnorm", "3"]).toString())[1]);
}

const shares = [];
const norms = [];
const best = { against: [], ours: [], plain: [] };
for (const { name, data, info: { width, height } } of await photographs()) {
  const size = { width, height };
  const png = await sharp(data, { raw: { ...size, channels: 3 } }).png().toBuffer();
  const reference = new Reference({ data, ...size, channels: 3 });
  const clean = await fitPhoto({ source: await readSource(png), brief: brief({ fileSize: { aim: "clean" } }) });
  const plain = await plainSmallest(data, size, reference, clean.difference);
  const seen = norm(png, size, await sharp(await decoded(clean.output), { raw: { ...size, channels: 3 } }).png().toBuffer());
  if (plain) shares.push(clean.output.length / plain);
  norms.push(seen);
  // A ceiling that hurts: half of the clean file.
  const max = Math.round(clean.output.length / 2);
  const ours = await fitPhoto({ source: await readSource(png), brief: brief({ fileSize: { max: `${max}B` } }) });
  let least = Infinity;
  for (let quality = 100; quality > 0; quality -= 1) {
    const bytes = await sharp(data, { raw: { ...size, channels: 3 } }).jpeg({ quality }).toBuffer();
    if (bytes.length > max) continue;
    least = reference.compare({ data: await decoded(bytes), ...size, channels: 3 }).difference;
    break;
  }
  best.against.push(ours.difference / least);
  console.log(
    `${name.padEnd(26)} clean ${(clean.output.length / 1000).toFixed(1)} kB, difference ${clean.difference.toFixed(2)}, 3-norm ${seen.toFixed(2)}; plain ${plain ? (plain / 1000).toFixed(1) : "–"} kB at the same difference (${plain ? `${((100 * clean.output.length) / plain).toFixed(0)} %` : "never"}); ` +
      `half of it: ${ours.difference.toFixed(2)} against the plain encoder's ${least.toFixed(2)}, clean from ${ours.cleanFrom ? (ours.cleanFrom / 1000).toFixed(1) : "–"} kB`,
  );
}
console.log(`clean: ${(median(shares) * 100).toFixed(0)} % of the plain encoder's bytes in the median; 3-norm at most 0.8 on ${norms.filter((v) => v <= 0.8).length} of ${norms.length}`);
console.log(`best under half of that: ${(median(best.against) * 100).toFixed(0)} % of the plain encoder's difference in the median`);

// Twelve photos of 2 to 24 megapixels, enlarged and grained from the photographs, so that they have detail at every size.
const big = join(work, "big");
mkdirSync(big);
const sources = readdirSync(folder).filter((f) => /\.jpe?g$/i.test(f)).sort();
for (const [i, megapixels] of [2, 3, 4, 5, 6, 8, 10, 12, 12, 16, 20, 24].entries()) {
  const height = Math.round(Math.sqrt((megapixels * 1e6) / 1.5));
  const image = sharp(join(folder, sources[i % sources.length])).resize(Math.round(height * 1.5), height, { fit: "cover" }).removeAlpha();
  const { data, info } = await image.raw().toBuffer({ resolveWithObject: true });
  let seed = i + 1;
  for (let k = 0; k < data.length; k += 1) {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    data[k] = Math.max(0, Math.min(255, data[k] + (seed >>> 29) - 3));
  }
  await sharp(data, { raw: { width: info.width, height: info.height, channels: 3 } }).jpeg({ quality: 97, chromaSubsampling: "4:4:4" }).toFile(join(big, `${String(i).padStart(2, "0")}-${megapixels}.jpg`));
}
writeFileSync(join(work, "clean.brief.json"), JSON.stringify(brief({ fileSize: { aim: "clean" } })));
execFileSync(process.execPath, ["scripts/build.mjs", "cli"], { cwd: root });
const start = performance.now();
const { stdout } = spawnSync(process.execPath, [join(root, ".build/cli.mjs"), "fit", big, "--brief", join(work, "clean.brief.json"), "--out", join(work, "out"), "--json"], { maxBuffer: 1e8 });
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
console.log(`12 photos of 2 to 24 megapixels: fit ${(ours / 1000).toFixed(0)} s (${results.filter((r) => r.ok && r.difference <= CLEAN).length} clean, ${(total / 1e6).toFixed(1)} MB), halving ${(halving / 1000).toFixed(0)} s (${(plainBytes / 1e6).toFixed(1)} MB): ${(halving / ours).toFixed(2)} × faster`);
