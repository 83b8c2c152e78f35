// What sharing a limit on the whole costs, and how alike photos end: node bench/total.mjs [COUNT] [FOLDER OF
// PHOTOGRAPHS]
// Against the same photos at one fixed quality with the same pixels, proof and measured difference, in one
// run.
import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { load } from "./load.mjs";
import { originals } from "./pictures.mjs";

const count = Number(process.argv[2] ?? 43);
const { readSource, fitPhoto, prove, shareOut, trace, memoryTrials, oneThreadEach, PixelCache } = await load(
  `export { readSource } from "@/imaging/source"; export { fitPhoto } from "@/imaging"; export { prove } from "@/imaging/proved"; export { shareOut } from "@/imaging";
   export { trace } from "@/imaging/candidates"; export { memoryTrials } from "@/imaging/candidates"; export { oneThreadEach } from "@/imaging/workers";
   export { PixelCache } from "@/imaging/planned";`,
);
oneThreadEach();
const paths = await originals(
  join(tmpdir(), `zumbrel-bench-12mp-${process.argv[3] ? "photos" : "demo"}`),
  count,
  4000,
  3000,
  process.argv[3] ?? null,
);
const brief = { zumbrelBrief: 1, name: "bench", format: ["jpeg"], longSide: { exact: 1600 } };

async function lanes(list, work) {
  const waiting = [...list.keys()];
  const lane = async () => {
    for (let i = waiting.shift(); i !== undefined; i = waiting.shift()) await work(list[i], i);
  };
  await Promise.all([lane(), lane()]);
}
const open = async (path) => readSource(readFileSync(path));
async function timed(name, work) {
  const start = performance.now();
  const value = await work();
  const seconds = (performance.now() - start) / 1000;
  console.log(`${name}: ${seconds.toFixed(1)} s`);
  return { seconds, value };
}
async function made(path, request) {
  const source = await open(path);
  const answer = await fitPhoto({ source, ...request });
  const proof = await prove(brief, Buffer.from(answer.output), {
    before: source.facts,
    frame: answer.frame,
    original: source.bytes,
  });
  if (!proof.ok) throw new Error(`${path}: ${JSON.stringify(proof.checks)}`);
  return answer;
}

const fixedChoice = { format: "jpeg", quality: 80, chroma: "4:2:0", table: 0 };
const fixed = await timed(`${count} photos of 12 megapixels to 1600 px at quality 80`, async () => {
  let bytes = 0;
  await lanes(
    paths,
    async (path) => (bytes += (await made(path, { brief, choice: fixedChoice })).output.length),
  );
  return bytes;
});
console.log(`  ${(fixed.value / 1e6).toFixed(2)} MB`);
for (const share of (process.env.SHARES ?? "1.2 1.8").split(" ").map(Number)) {
  const max = Math.round(fixed.value * share);
  const shared = await timed(`the same within ${(max / 1e6).toFixed(2)} MB in all`, async () => {
    const trials = paths.map(() => memoryTrials());
    const planned = new PixelCache(mkdtempSync(join(tmpdir(), "zumbrel-planned-")), 1e9);
    let encodes = 0;
    const out = await shareOut({
      ids: paths.map((_, i) => String(i)),
      whole: { max, fixed: 0, each: (bytes) => bytes },
      aim: "clean",
      atOnce: 2,
      trace: async (asked, before) => {
        const one = await trace(
          { source: await open(paths[asked.id]), brief, trials: trials[asked.id], planned },
          asked,
          before,
        );
        encodes += one.points.length - (before?.points.length ?? 0);
        return one;
      },
    });
    const { answer: settled, traced } = out;
    if (settled.kind === "cannot") return { cannot: settled };
    const key = settled.side == null ? "all" : String(settled.side);
    const picks = new Map((settled.picks ?? []).map((pick) => [pick.id, pick]));
    let bytes = 0;
    const differences = [];
    await lanes(paths, async (path, i) => {
      const pick = picks.get(String(i));
      const answer = await made(path, {
        brief,
        trials: trials[i],
        planned,
        share: pick && { setting: pick.setting, geometry: traced.get(String(i))[key].geometry, told: [] },
      });
      bytes += answer.output.length;
      differences.push(answer.difference);
    });
    if (process.env.DETAIL)
      for (const [id, { [key]: t }] of traced)
        console.log(
          id,
          picks.get(id).quality,
          picks.get(id).difference.toFixed(3),
          t.points.map((p) => `${p.setting.quality}:${p.difference.toFixed(2)}:${p.bytes}`).join(" "),
          "shape",
          t.shape.map((p) => `${p.setting.quality}:${p.difference.toFixed(2)}`).join(" "),
        );
    return {
      bytes,
      differences: differences.sort((a, b) => a - b),
      level: settled.level,
      encodes: encodes / count,
    };
  });
  const { bytes, differences, level, encodes, cannot } = shared.value;
  if (cannot) {
    console.log(`  cannot: ${(cannot.total / 1e6).toFixed(2)} MB at a difference of 2`);
    continue;
  }
  const at = (p) => differences[Math.floor(p * (differences.length - 1))].toFixed(3);
  console.log(
    `  ${((100 * bytes) / max).toFixed(1)} % of the limit, level ${level.toFixed(3)}, difference ` +
      `${at(0)} to ${at(1)}, median ${at(0.5)}; ${encodes.toFixed(1)} trials a photo; ` +
      `${(shared.seconds / fixed.seconds).toFixed(2)} × the time at a fixed quality`,
  );
}
process.exit(0);
