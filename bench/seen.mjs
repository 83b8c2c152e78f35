// Files under a ceiling as people look at them, beside what a short script makes, judged by butteraugli_main
// (Debian's libjxl-devtools), a published measure, at the view size: node bench/seen.mjs FOLDER [single portrait mail time]
// FOLDER holds photographs. Below 1 is closer to the photo than the script's file.
import { execFile, spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import sharp from "sharp";
import { load, root } from "./load.mjs";

const [folder, ...asked] = process.argv.slice(2);
if (!folder) throw new Error("Name a folder with photographs: node bench/seen.mjs FOLDER");
const wants = (part) => !asked.length || asked.includes(part);
const { fitPhoto, readSource, seenAt, Reference } = await load(`
  export { fitPhoto } from "@/imaging";
  export { readSource } from "@/imaging/source";
  export { seenAt } from "@/core/pixels/resample";
  export { Reference } from "@/core/difference";
`);
const work = mkdtempSync(join(tmpdir(), "zumbrel-seen-"));
process.on("exit", () => rmSync(work, { recursive: true, force: true }));
const run = promisify(execFile);
const names = readdirSync(folder).filter((name) => /\.(jpe?g|png)$/i.test(name));
const brief = (clauses) => ({ zumbrelBrief: 1, name: "bench", format: ["jpeg"], ...clauses });
const mean = (list) => list.reduce((a, b) => a + b, 0) / list.length;
const middle = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];

const pixels = async (input) => {
  const { data, info } = await sharp(input, { limitInputPixels: false })
    .rotate()
    .removeAlpha()
    .toColourspace("srgb")
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data: new Uint8Array(data), width: info.width, height: info.height, channels: 3 };
};
const png = async ({ data, width, height }, name) => {
  const path = join(work, `${name}.png`);
  await sharp(data, { raw: { width, height, channels: 3 } })
    .png({ compressionLevel: 1 })
    .toFile(path);
  return path;
};

/** 3-norms of files beside the photo, all brought to the view size. */
async function norms(photo, view, files) {
  const like = seenAt(photo, view);
  const reference = await png(like, "reference");
  const own = new Reference(like);
  return Promise.all(
    files.map(async (file, i) => {
      const shown = seenAt(await pixels(file), view);
      const { stdout } = await run("butteraugli_main", [
        reference,
        await png(shown, `file-${i}`),
        "--pnorm",
        "3",
      ]);
      return { norm: Number(/3-norm: ([\d.]+)/.exec(stdout)[1]), own: own.compare(shown).difference };
    }),
  );
}

/** The highest quality whose file is at most so large. */
async function bestThatFits(image, max) {
  const raw = await image.raw().toBuffer({ resolveWithObject: true });
  let [low, high, best] = [1, 100, null];
  while (low <= high) {
    const quality = (low + high) >> 1;
    const file = await sharp(raw.data, { raw: raw.info }).jpeg({ quality }).toBuffer();
    if (file.length <= max) [best, low] = [{ file, quality }, quality + 1];
    else high = quality - 1;
  }
  return best;
}

const inScreen = ({ width, height }) => {
  const [w, h] = width >= height ? [1920, 1080] : [1080, 1920];
  const share = Math.min(1, w / width, h / height);
  return { width: Math.round(width * share), height: Math.round(height * share) };
};
const ratios = (label, list) =>
  console.log(
    `${label}: mean ${mean(list).toFixed(3)}, worst ${Math.max(...list).toFixed(3)} (${list.length})`,
  );

async function single() {
  for (const kilobytes of [60, 200, 600]) {
    const out = [];
    for (const name of names) {
      const bytes = readFileSync(join(folder, name));
      if (bytes.length <= kilobytes * 1000) continue;
      const source = await readSource(bytes);
      const answer = await fitPhoto({ source, brief: brief({ fileSize: { max: `${kilobytes}kB` } }) });
      const plain = await bestThatFits(
        sharp(bytes).rotate().removeAlpha().resize(1600, 1600, { fit: "inside", withoutEnlargement: true }),
        kilobytes * 1000,
      );
      const photo = await pixels(bytes);
      const [ours, theirs] = await norms(photo, inScreen(photo), [answer.output, plain.file]);
      out.push(ours.norm / theirs.norm);
      const { width, height } = answer.geometry;
      console.log(
        `  ${name.padEnd(16)} ${`${width} × ${height}`.padEnd(12)} ${(answer.output.length / 1000).toFixed(0).padStart(4)} kB ` +
          `${answer.setting?.chroma ?? ""} q${answer.setting?.quality ?? "-"} 3-norm ${ours.norm.toFixed(2)}, script ${theirs.norm.toFixed(2)} ` +
          `(q${plain.quality}), ratio ${(ours.norm / theirs.norm).toFixed(3)}; own measure ${ours.own.toFixed(2)}, ${theirs.own.toFixed(2)}`,
      );
    }
    ratios(`at most ${kilobytes} kB, against 1600 px`, out);
  }
}

/** The largest part of that shape, from the middle. */
async function middleOf(photo, { width, height }) {
  const share = Math.min(photo.width / width, photo.height / height);
  const part = { width: Math.round(width * share), height: Math.round(height * share) };
  const region = { left: (photo.width - part.width) >> 1, top: (photo.height - part.height) >> 1, ...part };
  const raw = { width: photo.width, height: photo.height, channels: 3 };
  const data = await sharp(photo.data, { raw }).extract(region).raw().toBuffer();
  return { data: new Uint8Array(data), ...part, channels: 3 };
}

async function portrait() {
  const out = [];
  const [width, height] = [378, 496];
  for (const name of names) {
    const bytes = readFileSync(join(folder, name));
    const source = await readSource(bytes);
    // A photo with too few pixels for 300 ppi is enlarged by the script, and not by the brief.
    if (source.facts.width < width || source.facts.height < height) continue;
    const clauses = {
      shape: "16:21",
      paper: { width: "32mm", height: "42mm" },
      fileSize: { min: "25kB", max: "55kB" },
      frame: "fill",
      enlarge: "never",
    };
    const answer = await fitPhoto({ source, brief: brief(clauses), frame: { x: 0.5, y: 0.5 } });
    const cut = sharp(bytes).rotate().removeAlpha().resize(width, height, { fit: "cover" });
    const plain = await bestThatFits(cut, 55_000);
    const photo = await pixels(bytes);
    const view = { width, height };
    // Whole pixels have the shape to within half a pixel: each file beside just the part that it shows.
    const seen = async (file) =>
      (await norms(await middleOf(photo, await sharp(file).metadata()), view, [file]))[0];
    const [ours, theirs] = [await seen(answer.output), await seen(plain.file)];
    out.push(ours.norm / theirs.norm);
    console.log(
      `  ${name.padEnd(16)} ${answer.geometry.width} × ${answer.geometry.height}, ${(answer.output.length / 1000).toFixed(0)} kB, 3-norm ` +
        `${ours.norm.toFixed(2)}, script ${theirs.norm.toFixed(2)}, ratio ${(ours.norm / theirs.norm).toFixed(3)}`,
    );
  }
  ratios("a portrait of 32 × 42 mm in 25 to 55 kB, against 300 ppi", out);
}

/** Ten of the photographs, of 2 to 10 megapixels. */
const ten = () => names.filter((name) => /\.jpe?g$/i.test(name)).slice(0, 10);
/** The limit of a message, in bytes: these photographs together are just not plain to see under it. */
const MAIL = 2_500_000;
/** What mail adds to a file: base64 with line breaks (RFC 2045) and about 200 bytes of headers. */
const asMail = (bytes) => Math.ceil((Math.ceil(bytes / 3) * 4 * 78) / 76) + 200;

async function plainMail(side, max) {
  const images = await Promise.all(
    ten().map((name) =>
      sharp(join(folder, name))
        .rotate()
        .resize(side, side, { fit: "inside", withoutEnlargement: true })
        .raw()
        .toBuffer({ resolveWithObject: true }),
    ),
  );
  let [low, high, best] = [1, 100, null];
  while (low <= high) {
    const quality = (low + high) >> 1;
    const files = await Promise.all(
      images.map(({ data, info }) => sharp(data, { raw: info }).jpeg({ quality }).toBuffer()),
    );
    if (files.reduce((sum, file) => sum + asMail(file.length), 600) <= max)
      [best, low] = [files, quality + 1];
    else high = quality - 1;
  }
  return best;
}

function zumbrel(args) {
  const start = performance.now();
  const done = spawnSync("/usr/bin/time", ["-v", process.execPath, join(root, ".build/cli.mjs"), ...args], {
    encoding: "utf8",
  });
  const seconds = (performance.now() - start) / 1000;
  const memory =
    Number(/Maximum resident set size \(kbytes\): (\d+)/.exec(done.stderr)?.[1] ?? Number.NaN) / 1000;
  return { seconds, memory, stdout: done.stdout, status: done.status };
}

const briefFile = (clauses) => {
  const path = join(work, "bench.brief.json");
  writeFileSync(path, JSON.stringify(brief(clauses)));
  return path;
};

async function mail() {
  const out = join(work, "mail");
  const paths = ten().map((name) => join(folder, name));
  const made = zumbrel([
    "fit",
    ...paths,
    "--brief",
    briefFile({ total: { max: MAIL, counted: "mail" } }),
    "--out",
    out,
    "--mail",
    "--json",
  ]);
  const { totals, results } = JSON.parse(made.stdout);
  const plain = await plainMail(1024, MAIL);
  const list = [];
  for (const [i, name] of ten().entries()) {
    const photo = await pixels(join(folder, name));
    const [ours, theirs] = await norms(photo, inScreen(photo), [readFileSync(results[i].output), plain[i]]);
    list.push(ours.norm / theirs.norm);
    console.log(
      `  ${name.padEnd(16)} ${results[i].facts.width} × ${results[i].facts.height} 3-norm ${ours.norm.toFixed(2)}, ` +
        `script ${theirs.norm.toFixed(2)}, own measure ${ours.own.toFixed(2)}, ${theirs.own.toFixed(2)}`,
    );
  }
  console.log(
    `  ${totals.messages} message of ${totals.mailBytes} bytes, ${made.seconds.toFixed(1)} s with start`,
  );
  ratios("ten photos in one message of 2.5 MB, against 1024 px at one quality", list);
}

/** A photograph of 24 megapixels, put together from parts of the others. */
async function large() {
  const tiles = [];
  for (let i = 0; i < 6; i += 1) {
    const input = await sharp(join(folder, ten()[i])).resize(2000, 2000, { fit: "cover" }).toBuffer();
    tiles.push({ input, left: (i % 3) * 2000, top: Math.floor(i / 3) * 2000 });
  }
  const path = join(work, "large.jpg");
  await sharp({ create: { width: 6000, height: 4000, channels: 3, background: "#888" } })
    .composite(tiles)
    .jpeg({ quality: 92 })
    .toFile(path);
  return path;
}

async function time() {
  const path = await large();
  const bytes = readFileSync(path);
  const times = { ours: [], plain: [] };
  for (let i = 0; i < 6; i += 1) {
    let start = performance.now();
    await sharp(path).resize(1600, 1600, { fit: "inside" }).jpeg({ quality: 80 }).toBuffer();
    times.plain.push(performance.now() - start);
    start = performance.now();
    const source = await readSource(bytes);
    await fitPhoto({ source, brief: brief({ fileSize: { max: "200KB" } }) });
    times.ours.push(performance.now() - start);
  }
  const [ours, plain] = [middle(times.ours.slice(1)), middle(times.plain.slice(1))];
  const alone = zumbrel([
    "fit",
    path,
    "--brief",
    briefFile({ fileSize: { max: "200KB" } }),
    "--out",
    join(work, "one"),
  ]);
  console.log(
    `24 megapixels under 200 kB: ${(ours / plain).toFixed(2)} × a plain pipeline to 1600 px (${ours.toFixed(0)} ms, ` +
      `${plain.toFixed(0)} ms; medians of 5); the command line in ${alone.seconds.toFixed(1)} s and ${alone.memory.toFixed(0)} MB`,
  );
  const paths = ten().map((name) => join(folder, name));
  const script = `const sharp=(await import("sharp")).default;await Promise.all(${JSON.stringify(paths)}.map(async (p,i)=>
    sharp(p).rotate().resize(1024,1024,{fit:"inside"}).jpeg({quality:75,mozjpeg:true}).toFile(${JSON.stringify(work)}+"/p"+i+".jpg")));`;
  const seconds = { ours: [], plain: [] };
  for (let i = 0; i < 3; i += 1) {
    const start = performance.now();
    spawnSync(process.execPath, ["--input-type=module", "-e", script], { cwd: root });
    seconds.plain.push((performance.now() - start) / 1000);
    seconds.ours.push(
      zumbrel([
        "fit",
        ...paths,
        "--brief",
        briefFile({ total: { max: MAIL, counted: "mail" } }),
        "--out",
        join(work, `m${i}`),
      ]).seconds,
    );
  }
  console.log(
    `ten photos in one message: ${(middle(seconds.ours) / middle(seconds.plain)).toFixed(2)} × a plain script that makes them ` +
      `all once (${middle(seconds.ours).toFixed(1)} s, ${middle(seconds.plain).toFixed(1)} s, whole processes; medians of 3)`,
  );
}

for (const part of [single, portrait, mail, time]) if (wants(part.name)) await part();
process.exit(0);
