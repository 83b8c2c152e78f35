// Compiles src/core/resample/rows.wat into rows-wasm.ts. Run it after every change of the .wat file; a test holds the two together.
import { readFileSync, writeFileSync } from "node:fs";
import { resolve } from "node:path";
import { fileURLToPath } from "node:url";
import wabt from "wabt";

const folder = resolve(fileURLToPath(import.meta.url), "../../src/core/resample");

export async function compileRows() {
  const { parseWat } = await wabt();
  const module = parseWat("rows.wat", readFileSync(`${folder}/rows.wat`, "utf8"), { simd: true });
  return Buffer.from(module.toBinary({}).buffer).toString("base64");
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const lines = (await compileRows()).match(/.{1,140}/g).map((line) => `  "${line}"`);
  writeFileSync(`${folder}/rows-wasm.ts`, `/** Made from rows.wat by scripts/rows.mjs; not written by hand. */\nexport const ROWS_WASM =\n${lines.join(" +\n")};\n`);
}
