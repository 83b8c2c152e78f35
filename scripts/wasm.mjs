// Compiles every .wat file of the core into the .ts file beside it. Run it after every change of one; tests hold text and bytes together.
import { readFileSync, writeFileSync } from "node:fs";
import { basename, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import wabt from "wabt";

const core = resolve(fileURLToPath(import.meta.url), "../../src/core");
export const TEXTS = ["pixels/resample/rows.wat", "difference/kernels.wat"];

/** The bytes of one of {@link TEXTS} in base64. */
export async function compile(text) {
  const { parseWat } = await wabt();
  const module = parseWat(basename(text), readFileSync(resolve(core, text), "utf8"), { simd: true });
  return Buffer.from(module.toBinary({}).buffer).toString("base64");
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  for (const text of TEXTS) {
    const name = basename(text, ".wat");
    const lines = (await compile(text)).match(/.{1,140}/g).map((line) => `  "${line}"`);
    const head = `/** Made from ${name}.wat by scripts/wasm.mjs; not written by hand. */\nexport const ${name.toUpperCase()}_WASM =\n`;
    writeFileSync(resolve(core, text.replace(/\.wat$/, "-wasm.ts")), `${head}${lines.join(" +\n")};\n`);
  }
}
