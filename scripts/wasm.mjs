// Compiles the AssemblyScript of assembly/ into TypeScript that holds the bytes, beside the code that uses them.
// Run it after every change of one; tests hold text and bytes together.
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { resolve } from "node:path";
import { fileURLToPath } from "node:url";
import asc from "assemblyscript/asc";

const root = resolve(fileURLToPath(import.meta.url), "../..");
/** What is compiled, and the file that holds its bytes. */
export const MODULES = {
  rows: "src/core/pixels/resample/rows-wasm.ts",
  spectrum: "src/core/pixels/develop/spectrum-wasm.ts",
  kernels: "src/core/difference/kernels-wasm.ts",
  jpeg: "src/core/coding/jpeg/jpeg-wasm.ts",
};
/** No runtime of its own: memory comes from outside, and nothing is allocated or checked. */
const FLAGS = [
  "-O3",
  "--runtime",
  "stub",
  "--importMemory",
  "--enable",
  "simd",
  "--use",
  "abort=",
  "--noAssert",
];

/** The bytes of one of {@link MODULES} in base64. */
export async function compile(name) {
  let bytes = null;
  const { error, stderr } = await asc.main([`${name}.ts`, "--outFile", "out.wasm", ...FLAGS], {
    readFile: (path) => {
      const file = resolve(root, "assembly", path);
      return existsSync(file) ? readFileSync(file, "utf8") : null;
    },
    writeFile: (path, contents) => {
      if (path === "out.wasm") bytes = contents;
    },
    listFiles: () => [],
  });
  if (error) throw new Error(`${error.message}\n${stderr}`);
  return Buffer.from(bytes).toString("base64");
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  for (const [name, path] of Object.entries(MODULES)) {
    const lines = (await compile(name)).match(/.{1,100}/g).map((line) => `  "${line}"`);
    const head = `/** Made from assembly/${name}.ts by scripts/wasm.mjs; not written by hand. */\nexport const ${name.toUpperCase()}_WASM =\n`;
    writeFileSync(resolve(root, path), `${head}${lines.join(" +\n")};\n`);
  }
}
