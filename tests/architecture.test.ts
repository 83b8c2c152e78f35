/** Imports run one way: app, cli → ui | runs | receivers → imaging, packing, store → core. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";

const ALLOWED: Record<string, readonly string[]> = {
  core: [],
  imaging: ["core"],
  packing: ["core"],
  store: ["core"],
  runs: ["core", "imaging", "packing", "store", "demo"],
  receivers: ["imaging"],
  ui: ["core", "receivers"],
  app: ["core", "imaging", "packing", "store", "runs", "receivers", "ui"],
  cli: ["core", "imaging", "packing", "demo"],
  demo: ["core"],
};
const PACKAGES: Record<string, readonly RegExp[]> = {
  core: [/^zod$/],
  ui: [
    /^react/,
    /^recharts$/,
    /^@tanstack/,
    /^radix-ui$/,
    /^lucide-react$/,
    /^sonner$/,
    /^zod$/,
    /^next\/(link|navigation)$/,
  ],
};

const files = ["src", "demo"].flatMap((root) =>
  readdirSync(root, { recursive: true, encoding: "utf8" })
    .filter((f) => /\.tsx?$/.test(f))
    .map((f) => join(root, f)),
);
const layerOf = (path: string) => (path.startsWith("demo/") ? "demo" : path.split("/")[1]);
const imports = (path: string) =>
  [...readFileSync(path, "utf8").matchAll(/(?:from|import)\s+"([^"]+)"/g)].map((m) => m[1]);

function targetOf(path: string, wanted: string): string | null {
  if (wanted.startsWith("@/")) return layerOf(`src/${wanted.slice(2)}`);
  if (wanted.startsWith("@demo/")) return "demo";
  return wanted.startsWith(".") ? layerOf(join(path, "..", wanted)) : null;
}

describe("the house", () => {
  it.each(files)("%s imports only what lies below it", (path) => {
    const layer = layerOf(path);
    for (const wanted of imports(path)) {
      const target = targetOf(path, wanted);
      if (target !== null && target !== layer) expect(ALLOWED[layer], wanted).toContain(target);
      if (target === null && PACKAGES[layer])
        expect(
          PACKAGES[layer].some((p) => p.test(wanted)),
          wanted,
        ).toBe(true);
    }
  });

  it("keeps files short, and sharp where it belongs", () => {
    for (const path of files) {
      const text = readFileSync(path, "utf8");
      expect(text.split("\n").length, path).toBeLessThan(420);
      if (/from "sharp"/.test(text)) expect(["imaging", "demo"], path).toContain(layerOf(path));
      expect(/: any\b|as any\b/.test(text), path).toBe(false);
    }
  });
});
