// Made-up originals for benchmarks: parts of the demo's pictures, each another, brought to one size.

import { execFileSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync } from "node:fs";
import { join } from "node:path";
import sharp from "sharp";
import { root } from "./load.mjs";

/**
 * Paths of `count` JPEGs of width × height px under `folder`; from `from`, a folder of photographs, where
 * one is given.
 */
export async function originals(folder, count, width, height, from = null) {
  mkdirSync(folder, { recursive: true });
  let source = from;
  if (!source) {
    source = join(root, ".build/bench-pictures");
    if (!existsSync(join(source, "done"))) {
      execFileSync(process.execPath, ["scripts/build.mjs", "demo", "demo-part"], { cwd: root });
      execFileSync(process.execPath, [join(root, ".build/demo.mjs"), source]);
    }
  }
  const names = readdirSync(source)
    .filter((name) => /\.(jpe?g|png|tif)$/.test(name) && !/small|portrait|signature|label/.test(name))
    .sort();
  const paths = [];
  for (let i = 0; i < count; i += 1) {
    const path = join(folder, `IMG_${String(i + 1).padStart(4, "0")}.JPG`);
    paths.push(path);
    if (existsSync(path)) continue;
    const file = join(source, names[i % names.length]);
    const size = await sharp(file).metadata();
    const share = 0.72 + 0.28 * ((i * 0.37) % 1);
    const part = { width: Math.floor(size.width * share), height: Math.floor(size.height * share) };
    const left = Math.floor((size.width - part.width) * ((i * 0.61) % 1));
    const top = Math.floor((size.height - part.height) * ((i * 0.29) % 1));
    await sharp(file)
      .extract({ left, top, ...part })
      .resize(width, height, { fit: "cover" })
      .flatten()
      .toColourspace("srgb")
      .jpeg({ quality: 90 })
      .toFile(path);
  }
  return paths;
}
