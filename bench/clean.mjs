// What aims clean and best give on photographs, held against a plain encoder and a published measure: node
// bench/clean.mjs FOLDER
// FOLDER holds photographs. Needs butteraugli_main (Debian's libjxl-devtools).
import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { load } from "./load.mjs";
import { photographs } from "./photographs.mjs";
import { decoded, plainSmallest } from "./plain.mjs";

const folder = process.argv[2];
if (!folder) throw new Error("Name a folder with photographs: node bench/clean.mjs FOLDER");
const { Reference, fitPhoto, readSource } = await load(
  'export { Reference } from "@/core/difference"; export { fitPhoto } from "@/imaging"; ' +
    'export { readSource } from "@/imaging/source";',
);
const work = mkdtempSync(join(tmpdir(), "zumbrel-clean-"));
process.on("exit", () => rmSync(work, { recursive: true, force: true }));
const median = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];
const brief = (clauses) => ({ zumbrelBrief: 1, name: "bench", format: ["jpeg"], ...clauses });

function norm(data, bytes) {
  const [a, b] = [join(work, "a.png"), join(work, "b.png")];
  writeFileSync(a, data);
  writeFileSync(b, bytes);
  return Number(
    /3-norm: ([\d.]+)/.exec(execFileSync("butteraugli_main", [a, b, "--pnorm", "3"]).toString())[1],
  );
}

const shares = [];
const norms = [];
const best = { against: [], ours: [], plain: [] };
for (const {
  name,
  data,
  info: { width, height },
} of await photographs(folder)) {
  const size = { width, height };
  const png = await sharp(data, { raw: { ...size, channels: 3 } })
    .png()
    .toBuffer();
  const reference = new Reference({ data, ...size, channels: 3 });
  const clean = await fitPhoto({
    source: await readSource(png),
    brief: brief({ fileSize: { aim: "clean" } }),
  });
  const plain = await plainSmallest(data, size, reference, clean.difference);
  const seen = norm(
    png,
    await sharp(await decoded(clean.output), { raw: { ...size, channels: 3 } })
      .png()
      .toBuffer(),
  );
  if (plain) shares.push(clean.output.length / plain);
  norms.push(seen);
  // A ceiling that hurts: half of the clean file.
  const max = Math.round(clean.output.length / 2);
  const ours = await fitPhoto({
    source: await readSource(png),
    brief: brief({ fileSize: { max: `${max}B` } }),
  });
  let least = Infinity;
  for (let quality = 100; quality > 0; quality -= 1) {
    const bytes = await sharp(data, { raw: { ...size, channels: 3 } })
      .jpeg({ quality })
      .toBuffer();
    if (bytes.length > max) continue;
    least = reference.compare({ data: await decoded(bytes), ...size, channels: 3 }).difference;
    break;
  }
  best.against.push(ours.difference / least);
  console.log(
    `${name.padEnd(26)} clean ${(clean.output.length / 1000).toFixed(1)} kB, difference ` +
      `${clean.difference.toFixed(2)}, 3-norm ${seen.toFixed(2)}; plain ` +
      `${plain ? (plain / 1000).toFixed(1) : "–"} kB at the same difference ` +
      `(${plain ? `${((100 * clean.output.length) / plain).toFixed(0)} %` : "never"}); ` +
      (`half of it: ${ours.difference.toFixed(2)} against the plain encoder's ${least.toFixed(2)}, ` +
        `clean from ${ours.cleanFrom ? (ours.cleanFrom / 1000).toFixed(1) : "–"} kB`),
  );
}
console.log(
  `clean: ${(median(shares) * 100).toFixed(0)} % of the plain encoder's bytes in the median; 3-norm ` +
    `at most 0.8 on ${norms.filter((v) => v <= 0.8).length} of ${norms.length}`,
);
console.log(
  `best under half of that: ${(median(best.against) * 100).toFixed(0)} % of the plain encoder's ` +
    "difference in the median",
);
