// Holds the visible difference against butteraugli_main (Debian's libjxl-devtools), a published measure:
// node bench/difference.mjs FOLDER
// FOLDER holds photographs. Prints rank correlations over all pairs and within each photograph and kind, the
// scale, how many pairs of equal bytes it puts in the same order (chroma against chroma, fewer pixels against
// more), and the time of a pair.
import { execFile } from "node:child_process";
import { mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import sharp from "sharp";
import { load } from "./load.mjs";
import { photographs } from "./photographs.mjs";

const folder = process.argv[2];
if (!folder) throw new Error("Name a folder with photographs: node bench/difference.mjs FOLDER");
const { Reference, seenAt } = await load(
  'export { Reference } from "@/core/difference"; export { seenAt } from "@/core/pixels/resample";',
);
const work = mkdtempSync(join(tmpdir(), "zumbrel-difference-"));
process.on("exit", () => rmSync(work, { recursive: true, force: true }));
sharp.concurrency(1);

/** 3-norm at which a careful eye can just see a difference at 100 %. */
const JUST_SEEN = 0.75;

function noise(data, deviation, seed) {
  const random = () => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 4294967296;
  return Uint8ClampedArray.from(
    data,
    (v) => v + deviation * Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random()),
  );
}

function trials({ data, info: { width, height } }) {
  const raw = { raw: { width, height, channels: 3 } };
  const open = () => sharp(data, raw);
  const careful = (quality, chromaSubsampling, quantisationTable) =>
    open().jpeg({
      quality,
      chromaSubsampling,
      quantisationTable,
      trellisQuantisation: true,
      progressive: true,
    });
  return [
    ...[12, 30, 50, 65, 78, 86, 92, 96].flatMap((q) => [
      ["JPEG 4:2:0", careful(q, "4:2:0", 3)],
      ["JPEG 4:4:4", careful(q, "4:4:4", q % 3 ? 3 : 0)],
    ]),
    ...[10, 30, 50, 70, 80, 88, 95].map((quality) => [
      "WebP",
      open().webp({ quality, smartSubsample: true }),
    ]),
    ...[20, 35, 50, 60, 70, 80, 90].map((quality) => [
      "AVIF",
      open().avif({ quality, effort: 2, chromaSubsampling: "4:4:4" }),
    ]),
    ...[0.6, 0.7, 0.85, 1, 1.2, 2].map((sigma) => ["blur", open().blur(sigma).png()]),
    ...[1, 2, 3, 5, 8, 14].map((deviation) => [
      "noise",
      sharp(Buffer.from(noise(data, deviation, 7)), raw).png(),
    ]),
  ].map(([kind, image]) => ({ kind, make: () => image.toBuffer() }));
}

/** The quality whose file comes nearest to so many bytes; null where none is within 5 %. */
async function atBytes(encode, bytes) {
  let [low, high] = [1, 100];
  const made = new Map();
  while (low <= high) {
    const middle = (low + high) >> 1;
    made.set(middle, await encode(middle));
    if (made.get(middle).length <= bytes) low = middle + 1;
    else high = middle - 1;
  }
  const off = (file) => Math.abs(file.length / bytes - 1);
  const [nearest] = [...made.values()].sort((a, b) => off(a) - off(b));
  return off(nearest) < 0.05 ? nearest : null;
}

/** Files of equal bytes that differ only in chroma, and only in pixels (reduced, and enlarged again to be looked at). */
async function rivals({ data, info: { width, height } }) {
  const jpeg = (pixels, size, quality, chromaSubsampling) =>
    sharp(pixels, { raw: { ...size, channels: 3 } })
      .jpeg({
        quality,
        chromaSubsampling,
        quantisationTable: 2,
        trellisQuantisation: true,
        progressive: true,
      })
      .toBuffer();
  const out = [];
  const whole = { width, height };
  for (const quality of [20, 42, 66, 84]) {
    const halved = await jpeg(data, whole, quality, "4:2:0");
    const full = await atBytes((q) => jpeg(data, whole, q, "4:4:4"), halved.length);
    const group = (of) => `${of} at quality ${quality}`;
    out.push({ kind: "JPEG 4:2:0", groups: [group("chroma"), group("pixels")], make: async () => halved });
    if (full) out.push({ kind: "JPEG 4:4:4", groups: [group("chroma")], make: async () => full });
    for (const share of quality < 80 ? [0.85, 0.7] : []) {
      const size = {
        width: Math.round((width * share) / 2) * 2,
        height: Math.round((height * share) / 2) * 2,
      };
      const small = seenAt({ data: new Uint8Array(data), width, height, channels: 3 }, size).data;
      const file = await atBytes((q) => jpeg(small, size, q, "4:2:0"), halved.length);
      if (file) out.push({ kind: "fewer pixels", groups: [group("pixels")], make: async () => file });
    }
  }
  return out;
}

const ranks = (values) => {
  const order = values.map((v, i) => [v, i]).sort((a, b) => a[0] - b[0]);
  const out = [];
  for (let i = 0; i < order.length; ) {
    let j = i;
    while (j < order.length && order[j][0] === order[i][0]) j += 1;
    for (let k = i; k < j; k += 1) out[order[k][1]] = (i + j - 1) / 2;
    i = j;
  }
  return out;
};
function spearman(a, b) {
  const [x, y] = [ranks(a), ranks(b)];
  const mean = (x.length - 1) / 2;
  let [xy, xx, yy] = [0, 0, 0];
  for (let i = 0; i < x.length; i += 1) {
    xy += (x[i] - mean) * (y[i] - mean);
    xx += (x[i] - mean) ** 2;
    yy += (y[i] - mean) ** 2;
  }
  return xy / Math.sqrt(xx * yy);
}

const run = promisify(execFile);
const pairs = [];
for (const picture of await photographs(folder)) {
  const {
    name,
    data,
    info: { width, height },
  } = picture;
  const plain = join(work, "reference.png");
  await sharp(data, { raw: { width, height, channels: 3 } })
    .png({ compressionLevel: 1 })
    .toFile(plain);
  const reference = new Reference({ data, width, height, channels: 3 });
  const jobs = [...trials(picture), ...(await rivals(picture))];
  const lane = async (n) => {
    for (let job = jobs.shift(); job; job = jobs.shift()) {
      const made = await sharp(await job.make())
        .toColourspace("srgb")
        .raw()
        .toBuffer({ resolveWithObject: true });
      const shown = { ...made.info, data: new Uint8Array(made.data) };
      const pixels = seenAt(shown, { width, height }).data;
      const path = join(work, `trial-${n}.png`);
      await sharp(pixels, { raw: { width, height, channels: 3 } })
        .png({ compressionLevel: 1 })
        .toFile(path);
      const norm = Number(
        /3-norm: ([\d.]+)/.exec((await run("butteraugli_main", [plain, path, "--pnorm", "3"])).stdout)[1],
      );
      pairs.push({
        name,
        kind: job.kind,
        groups: job.groups ?? [],
        norm,
        difference: reference.compare({ data: pixels, width, height, channels: 3 }).difference,
      });
    }
  };
  await Promise.all([lane(0), lane(1)]);
}

const column = (list, key) => list.map((p) => p[key]);
const rho = (list) => spearman(column(list, "difference"), column(list, "norm"));
console.log(`${pairs.length} pairs of ${new Set(column(pairs, "name")).size} pictures`);
console.log(`rank correlation over all pairs: ${rho(pairs).toFixed(4)}`);
const groups = Object.values(
  Object.groupBy
    ? Object.groupBy(pairs, (p) => `${p.name} ${p.kind}`)
    : pairs.reduce((all, p) => ((all[`${p.name} ${p.kind}`] ??= []).push(p), all), {}),
);
const within = groups.map(rho);
console.log(
  `within one picture and kind: ${Math.min(...within).toFixed(4)} at least, ` +
    `${(within.reduce((a, b) => a + b) / within.length).toFixed(4)} on average`,
);
/** Two files of one photograph and equal bytes, whose 3-norms differ by more than this, in the same order? */
const APART = 1.05;
for (const of of ["chroma", "pixels"]) {
  let [same, all] = [0, 0];
  for (const [i, one] of pairs.entries())
    for (const other of pairs.slice(0, i)) {
      const rivals =
        one.name === other.name && one.groups.some((g) => g.startsWith(of) && other.groups.includes(g));
      const ratio = one.norm / other.norm;
      if (!rivals || Math.max(ratio, 1 / ratio) < APART) continue;
      all += 1;
      if (ratio > 1 === one.difference > other.difference) same += 1;
    }
  console.log(
    `equal bytes, other ${of}: ${same} of ${all} pairs in the same order (${((same / all) * 100).toFixed(1)} %)`,
  );
}
const near = pairs.filter((p) => p.norm > 0.3 && p.norm < 2);
const off = (list) => {
  const logs = list.map((p) => Math.log(p.norm / JUST_SEEN / p.difference));
  const mean = logs.reduce((a, b) => a + b, 0) / logs.length;
  return { mean, spread: Math.sqrt(logs.reduce((a, b) => a + (b - mean) ** 2, 0) / logs.length) };
};
const percent = (log) => `${((Math.exp(log) - 1) * 100).toFixed(1)} %`;
console.log(
  `near what can just be seen (3-norm 0.3 to 2, ${near.length} pairs): 3-norm over ${JUST_SEEN} is ` +
    `${percent(off(near).mean)} off the difference, spread ${percent(off(near).spread)}`,
);
for (const key of ["kind", "name"])
  for (const value of new Set(column(near, key)))
    console.log(`  ${String(value).padEnd(26)} ${percent(off(near.filter((p) => p[key] === value)).mean)}`);

const [width, height] = [1728, 1157];
const large = await sharp(
  join(
    folder,
    readdirSync(folder)
      .filter((f) => /\.jpe?g$/i.test(f))
      .sort()[0],
  ),
)
  .resize(width, height, { fit: "fill" })
  .removeAlpha()
  .raw()
  .toBuffer();
const coded = await sharp(
  await sharp(large, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 80 })
    .toBuffer(),
)
  .raw()
  .toBuffer();
const times = { once: [], again: [] };
for (let i = 0; i < 15; i += 1) {
  const start = performance.now();
  const reference = new Reference({ data: large, width, height, channels: 3 });
  reference.compare({ data: coded, width, height, channels: 3 });
  times.once.push(performance.now() - start);
  const second = performance.now();
  reference.compare({ data: coded, width, height, channels: 3 });
  times.again.push(performance.now() - second);
}
const median = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];
console.log(
  `a pair of ${width} × ${height} px: ${median(times.once).toFixed(0)} ms, the next trial of the ` +
    `same picture ${median(times.again).toFixed(0)} ms (medians of 15, one thread)`,
);
