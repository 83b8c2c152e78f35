// What one photo costs, whole processes against the plainest ones, in one run: node bench/one.mjs [PHOTO]
// PHOTO: a JPEG of about 24 megapixels; the demo's moor where none is given. Medians of RUNS pairs after one to warm up.
import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { root } from "./load.mjs";

const RUNS = 7;
const work = mkdtempSync(join(tmpdir(), "zumbrel-one-"));
process.on("exit", () => rmSync(work, { recursive: true, force: true }));
symlinkSync(join(root, "node_modules"), join(work, "node_modules"));
const zumbrel = join(root, "bin/zumbrel");

function photo() {
  if (process.argv[2]) return resolve(process.argv[2]);
  const folder = join(root, ".build/bench-pictures");
  if (!existsSync(join(folder, "done"))) {
    execFileSync(process.execPath, ["scripts/build.mjs", "demo", "demo-part"], { cwd: root });
    execFileSync(process.execPath, [join(root, ".build/demo.mjs"), folder]);
  }
  return join(folder, "moor-at-dusk.jpg");
}

const big = photo();
const brief = (name, clauses) => {
  const path = join(work, `${name}.brief.json`);
  writeFileSync(path, JSON.stringify({ zumbrelBrief: 1, name, format: ["jpeg"], ...clauses }));
  return path;
};
const plain = (side) => {
  const path = join(work, `plain-${side}.mjs`);
  writeFileSync(
    path,
    `import sharp from "sharp"; await sharp(process.argv[2]).autoOrient()
      .resize(${side}, ${side}, { fit: "inside" }).jpeg({ quality: 80 }).toFile(process.argv[3]);`,
  );
  return path;
};

let count = 0;
/** Seconds of one whole process. */
function timed(command, args) {
  const start = performance.now();
  const { status, stderr } = spawnSync(command, args, { cwd: work });
  if (status !== 0) throw new Error(`${command} ${args.join(" ")}: ${stderr}`);
  return (performance.now() - start) / 1000;
}
const middle = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];
/** Ours and theirs by turns, since the machine's clock wanders: medians of seconds and of the ratio of a pair. */
function pairs(ours, theirs) {
  ours();
  theirs();
  const list = Array.from({ length: RUNS }, () => [ours(), theirs()]);
  return [middle(list.map(([a]) => a)), middle(list.map(([, b]) => b)), middle(list.map(([a, b]) => a / b))];
}
const fit = (path) => () =>
  timed(zumbrel, ["fit", big, "--brief", path, "--out", join(work, `out-${(count += 1)}`)]);
function told(what, ours, theirs, most) {
  const [a, b, ratio] = pairs(ours, theirs);
  console.log(`${what}: ${a.toFixed(2)} s, ${b.toFixed(2)} s: ${ratio.toFixed(2)} × (at most ${most})`);
}

told(
  "inspect of a JPEG against a bare node",
  () => timed(zumbrel, ["inspect", big]),
  () => timed(process.execPath, ["-e", "0"]),
  2.5,
);
told(
  "to 1600 px at quality 80 against one plain pipeline",
  fit(brief("fixed", { longSide: { exact: 1600 }, quality: { min: 80, max: 80 } })),
  () => timed(process.execPath, [plain(1600), big, join(work, "plain.jpg")]),
  3,
);
told(
  "to 1024 px under 100 KB against one plain pipeline",
  fit(brief("ceiling", { longSide: { exact: 1024 }, fileSize: { max: "100KB" } })),
  () => timed(process.execPath, [plain(1024), big, join(work, "plain.jpg")]),
  5,
);
