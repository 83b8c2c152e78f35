// The JPEG coder beside the plain encoder's best quality that fits, judged by butteraugli_main (Debian's
// libjxl-devtools), a published measure: node bench/coder.mjs FOLDER [50,100,200] [chroma]
// FOLDER holds photographs. Below 1 is closer to the photo, or smaller, than the plain encoder's file. With `chroma`
// the three samplings are held against each other instead.
import { execFile } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import sharp from "sharp";
import { load } from "./load.mjs";
import { photographs } from "./photographs.mjs";

const [folder, ceilings = "50,100,200", what] = process.argv.slice(2);
if (!folder) throw new Error("Name a folder with photographs: node bench/coder.mjs FOLDER");
const { JpegCoder, Reference } = await load(`
  export { JpegCoder } from "@/core/coding";
  export { Reference } from "@/core/difference";
`);
const work = mkdtempSync(join(tmpdir(), "zumbrel-coder-"));
process.on("exit", () => rmSync(work, { recursive: true, force: true }));
const run = promisify(execFile);
const mean = (list) => list.reduce((a, b) => a + b, 0) / list.length;
const middle = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];
/** Pictures that the plain encoder codes finer than this in the ceiling are no test of anything. */
const FINE = 95;
/** Steps of thrift that are tried, and where they begin. */
const MOST_THRIFTS = 14;
const USUAL_THRIFT = 0.12;

let files = 0;
const png = async (image) => {
  const path = join(work, `${(files += 1)}.png`);
  await image.png({ compressionLevel: 1 }).toFile(path);
  return path;
};
const norm = async (reference, file) => {
  const path = await png(sharp(file));
  const { stdout } = await run("butteraugli_main", [reference, path, "--pnorm", "3"]);
  rmSync(path);
  return Number(/3-norm: ([\d.]+)/.exec(stdout)[1]);
};

/** The finest file of at most so many bytes, by halving. */
async function fill(encode, max, whole) {
  let [low, high, best] = [1, 100, null];
  for (let n = 0; n < (whole ? 8 : 12) && low <= high; n += 1) {
    const quality = whole ? (low + high) >> 1 : (low + high) / 2;
    const file = await encode(quality);
    if (file.length <= max) [best, low] = [{ file, quality }, whole ? quality + 1 : quality];
    else high = whole ? quality - 1 : quality;
  }
  return best;
}

/** What is left of the ceiling filled by what a bit may cost, as the product does. */
function filled(coder, { file, quality }, max) {
  let best = file;
  for (let n = 1; n <= MOST_THRIFTS; n += 1) {
    const next = coder.encode({ quality, table: 9, effort: "careful", thrift: USUAL_THRIFT * 0.85 ** n });
    if (next.length > max) break;
    best = next;
  }
  return best;
}

/** Bytes at a 3-norm: between the two qualities around it. */
async function bytesAt(encode, reference, level) {
  let [coarse, fine] = [null, null];
  let [low, high] = [5, 99];
  while (high - low > 1) {
    const quality = (low + high) >> 1;
    const file = await encode(quality);
    const seen = { norm: await norm(reference, file), bytes: file.length };
    if (seen.norm > level) [coarse, low] = [seen, quality];
    else [fine, high] = [seen, quality];
  }
  if (!coarse || !fine) return null;
  const share = Math.log(coarse.norm / level) / Math.log(coarse.norm / fine.norm);
  return Math.exp(Math.log(coarse.bytes) + share * Math.log(fine.bytes / coarse.bytes));
}

const own = (coder) => (quality) => coder.encode({ quality, table: 9, effort: "careful" });
const sizes = ceilings.split(",").map((kilobytes) => kilobytes * 1000);
const samplings = what === "chroma" ? ["4:2:0", "4:2:2", "4:4:4"] : ["4:2:0"];
const found = [];
const pictures = await photographs(folder);
async function measure({ name, data, info }) {
  const samples = { data: new Uint8Array(data), width: info.width, height: info.height, channels: 3 };
  const plain = (quality) => sharp(data, { raw: info }).jpeg({ quality }).toBuffer();
  const reference = await png(sharp(data, { raw: info }));
  const coders = samplings.map((chroma) => new JpegCoder(samples, chroma));
  const judge = new Reference(samples);
  const judged = async (file) =>
    judge.compare({ ...samples, data: new Uint8Array(await sharp(file).raw().toBuffer()) }).difference;
  for (const size of sizes) {
    const theirs = await fill(plain, size, true);
    if (!theirs || theirs.quality > FINE) continue;
    const base = await norm(reference, theirs.file);
    const ours = await Promise.all(
      coders.map(async (coder) => {
        const found = await fill(own(coder), size, false);
        const { quality } = found;
        const file = filled(coder, found, size);
        return { norm: await norm(reference, file), seen: await judged(file), quality, bytes: file.length };
      }),
    );
    found.push({ name, size, base, ours });
  }
  if (what !== "chroma") {
    const [less, usual] = [
      await bytesAt(own(coders[0]), reference, 0.7),
      await bytesAt(plain, reference, 0.7),
    ];
    if (less && usual) found.push({ name, equal: less / usual });
  }
}
let next = 0;
await Promise.all(
  [0, 1].map(async () => {
    while (next < pictures.length) await measure(pictures[next++]);
  }),
);

for (const size of sizes) {
  const rows = found.filter((row) => row.size === size);
  for (const { name, base, ours } of rows)
    console.log(
      `${size / 1000} kB ${name.padEnd(28)} plain ${base.toFixed(3)}, ` +
        ours
          .map(
            (one, i) =>
              `${samplings[i]} ${one.norm.toFixed(3)} (q ${one.quality.toFixed(1)}, own ${one.seen.toFixed(2)})`,
          )
          .join(", "),
    );
  const ratios = rows.map(({ base, ours }) => ours[0].norm / base);
  console.log(
    `${size / 1000} kB, ${rows.length} pictures: mean ${mean(ratios).toFixed(3)}, worst ${Math.max(...ratios).toFixed(3)}\n`,
  );
}
const equal = found.filter((row) => row.equal).map((row) => row.equal);
if (equal.length)
  console.log(
    `bytes at a 3-norm of 0.7, ${equal.length} pictures: mean ${mean(equal).toFixed(3)}, worst ${Math.max(...equal).toFixed(3)}`,
  );

// Time on one core, 2 megapixels, medians of five.
const [first] = pictures;
const large = await sharp(first.data, { raw: first.info })
  .resize(1732, 1155, { fit: "fill" })
  .raw()
  .toBuffer({ resolveWithObject: true });
const samples = { data: new Uint8Array(large.data), width: 1732, height: 1155, channels: 3 };
const timed = async (work) => {
  const times = [];
  for (let n = 0; n < 5; n += 1) {
    const start = performance.now();
    await work();
    times.push(performance.now() - start);
  }
  return middle(times);
};
sharp.concurrency(1);
const coder = new JpegCoder(samples, "4:2:0");
const reference = new Reference(samples);
reference.analyse();
const prepare = await timed(() => new JpegCoder(samples, "4:2:0"));
const trial = await timed(() => own(coder)(75));
const judging = await timed(async () =>
  reference.compare({ ...samples, data: new Uint8Array(await sharp(own(coder)(75)).raw().toBuffer()) }),
);
const raw = { raw: { width: 1732, height: 1155, channels: 3 } };
const usual = await timed(() => sharp(large.data, raw).jpeg({ quality: 75 }).toBuffer());
const trellis = await timed(() => sharp(large.data, raw).jpeg({ quality: 75, mozjpeg: true }).toBuffer());
console.log(
  `2 megapixels: preparing ${prepare.toFixed(0)} ms, a trial ${trial.toFixed(0)} ms, a judged one ${judging.toFixed(0)} ms; ` +
    `the plain encoder ${usual.toFixed(0)} ms, the library's trellis ${trellis.toFixed(0)} ms`,
);
process.exit(0);
