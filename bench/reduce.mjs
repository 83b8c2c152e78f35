// Linear-light reduction of 24 megapixels to 2400 px against the library's plain resize, in one run: node
// bench/reduce.mjs
// Both decode the same PNG or TIFF and end with the same number of raw pixels in memory.
import sharp from "sharp";
import { load } from "./load.mjs";

const { readSource, preparePicture, destinationOf, resolveBrief, planGeometry, CENTRED } = await load(`
  export { readSource } from "@/imaging/source"; export { preparePicture } from "@/imaging/planned"; export { destinationOf } from "@/imaging/headers";
  export { resolveBrief } from "@/core/brief"; export { planGeometry } from "@/core/geometry"; export { CENTRED } from "@/core/photo";`);

const [width, height] = [6000, 4000];
const data = new Uint8Array(width * height * 3);
let seed = 1;
for (let i = 0; i < data.length; i += 1) {
  seed = (Math.imul(seed, 1_103_515_245) + 12_345) & 0x7fffffff;
  data[i] = 90 + 80 * Math.sin(i / 40_000) + ((seed >> 16) % 24);
}
const photo = () => sharp(data, { raw: { width, height, channels: 3 } });
const files = {
  PNG: await photo().png().toBuffer(),
  "TIFF, LZW": await photo().tiff({ compression: "lzw" }).toBuffer(),
};
const best = async (work) => {
  let least = Infinity;
  for (let k = 0; k < 4; k += 1) {
    const start = performance.now();
    await work();
    least = Math.min(least, performance.now() - start);
  }
  return least / 1000;
};
for (const [name, file] of Object.entries(files)) {
  const brief = resolveBrief({ zumbrelBrief: 1, name: "bench", longSide: { exact: 2400 } });
  const source = await readSource(file);
  const geometry = planGeometry(brief, source.facts);
  const plan = {
    geometry,
    frame: CENTRED,
    to: destinationOf(brief, source),
    bits: 8,
    background: "#ffffff",
    opaque: true,
    sharpen: null,
    ppi: null,
  };
  const ours = await best(() => preparePicture(source, plan));
  const plain = await best(() => sharp(file).resize(2400, 1600).raw().toBuffer());
  const linear = await best(() =>
    sharp(file).pipelineColourspace("scrgb").resize(2400, 1600).toColourspace("srgb").raw().toBuffer(),
  );
  console.log(
    `${name}, 24 megapixels to 2400 px in linear light: ${ours.toFixed(2)} s, plain resize ` +
      `${plain.toFixed(2)} s: ${(ours / plain).toFixed(2)} × (wanted at most 4); the library's own ` +
      `linear pipeline ${(linear / plain).toFixed(2)} ×`,
  );
}
process.exit(0);
