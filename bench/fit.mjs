// Ratios of `fit` against plain scripts, measured in one run: node bench/fit.mjs
// Pictures are the demo's own; the plain scripts do what a person would write with sharp alone.
import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";

const root = resolve(dirname(fileURLToPath(import.meta.url)), "..");
const work = mkdtempSync(join(tmpdir(), "zumbrel-bench-"));
const pictures = join(work, "pictures");
const cli = join(root, ".build/cli.mjs");
execFileSync(process.execPath, ["scripts/build.mjs", "cli", "demo", "demo-part"], { cwd: root });
console.log("making the pictures …");
execFileSync(process.execPath, [join(root, ".build/demo.mjs"), pictures]);

/** Whole-process time in s and peak memory in MB. */
function run(args, cwd = root) {
  const start = performance.now();
  const { status, stderr } = spawnSync(
    "/usr/bin/env",
    [
      "bash",
      "-c",
      'exec 3>&2; "$@" >/dev/null & pid=$!; peak=0; while kill -0 $pid 2>/dev/null; do now=$(awk ' +
        '"/VmHWM/{print \\$2}" /proc/$pid/status 2>/dev/null); [ -n "$now" ] && peak=$now; sleep 0.02; ' +
        'done; wait $pid; code=$?; echo "peak $peak" >&2; exit $code',
      "-",
      ...args,
    ],
    { cwd },
  );
  const seconds = (performance.now() - start) / 1000;
  if (status !== 0) throw new Error(stderr.toString());
  return { seconds, megabytes: Number(/peak (\d+)/.exec(stderr.toString())[1]) / 1024 };
}
const best = (list) => list.reduce((a, b) => (b.seconds < a.seconds ? b : a));
const repeat = (n, work) => best(Array.from({ length: n }, work));

writeFileSync(
  join(work, "ceiling.brief.json"),
  JSON.stringify({
    zumbrelBrief: 1,
    name: "bench",
    format: ["jpeg"],
    longSide: { max: 1024 },
    fileSize: { max: "100KB" },
  }),
);
writeFileSync(
  join(work, "range.brief.json"),
  JSON.stringify({
    zumbrelBrief: 1,
    name: "bench",
    format: ["jpeg"],
    longSide: { exact: 800 },
    fileSize: { min: "60KB", max: "80KB" },
  }),
);
if (!existsSync(join(work, "node_modules")))
  execFileSync("ln", ["-s", join(root, "node_modules"), join(work, "node_modules")]);
writeFileSync(
  join(work, "plain.mjs"),
  `import sharp from "sharp"; await sharp(process.argv[2]).autoOrient().resize(1024, 1024, { fit: ` +
    `"inside" }).jpeg({ mozjpeg: true, quality: 80 }).toFile(process.argv[3]);`,
);
writeFileSync(
  join(work, "halving.mjs"),
  `import sharp from "sharp"; import { writeFileSync } from "node:fs"; import { basename } from "node:path";
   for (const file of process.argv.slice(3)) { let low = 1, high = 100, found = null;
     while (low <= high) { const q = (low + high) >> 1;
       const bytes = await sharp(file).autoOrient().resize(800, 800, { fit: "inside" }).jpeg({ mozjpeg: true, quality: q }).toBuffer();
       if (bytes.length <= 80_000) { found = bytes; low = q + 1; } else high = q - 1; }
     writeFileSync(process.argv[2] + "/" + basename(file) + ".jpg", found); }`,
);

const big = join(pictures, "moor-at-dusk.jpg");
let n = 0;
const ours = repeat(3, () =>
  run([
    process.execPath,
    cli,
    "fit",
    big,
    "--brief",
    join(work, "ceiling.brief.json"),
    "--out",
    join(work, `out${(n += 1)}`),
  ]),
);
const plain = repeat(3, () =>
  run([process.execPath, join(work, "plain.mjs"), big, join(work, "plain.jpg")], work),
);
console.log(
  `24 megapixels to 1024 px under 100 KB: ${ours.seconds.toFixed(2)} s, plain pipeline ` +
    `${plain.seconds.toFixed(2)} s: ${(ours.seconds / plain.seconds).toFixed(2)} × (wanted at most 3)`,
);
console.log(
  `  peak memory ${ours.megabytes.toFixed(0)} MB (wanted under 600), plain ${plain.megabytes.toFixed(0)} MB`,
);

// Twenty photos: the demo's JPEGs that can become 800 px, the smaller ones twice.
const jpegs = readdirSync(pictures)
  .filter((name) => name.endsWith(".jpg") && !/small/.test(name))
  .map((name) => join(pictures, name));
const twenty = [...jpegs, ...jpegs].slice(0, 20);
mkdirSync(join(work, "halved"));
const searched = repeat(2, () =>
  run([
    process.execPath,
    cli,
    "fit",
    ...twenty,
    "--brief",
    join(work, "range.brief.json"),
    "--out",
    join(work, `many${(n += 1)}`),
  ]),
);
const halved = repeat(2, () =>
  run([process.execPath, join(work, "halving.mjs"), join(work, "halved"), ...twenty], work),
);
console.log(
  `${twenty.length} photos to 60 to 80 KB: ${searched.seconds.toFixed(1)} s, halving with a full ` +
    `decode each time ${halved.seconds.toFixed(1)} s: ` +
    `${(halved.seconds / searched.seconds).toFixed(2)} × faster (wanted at least 2)`,
);
rmSync(work, { recursive: true, force: true });
