/**
 * The house: imports run one way, and a folder is entered by its index. Read by a parser, so that types,
 * re-exports and `import()` count too; that there are no circles is held by the linter.
 */
import { existsSync, readdirSync, readFileSync, statSync } from "node:fs";
import { isBuiltin } from "node:module";
import { basename, dirname, join } from "node:path";
import { parseSync } from "oxc-parser";
import { describe, expect, it } from "vitest";

/** Areas that an area may import beside itself. */
const BELOW: Record<string, readonly string[]> = {
  core: [],
  imaging: ["core"],
  store: ["core"],
  delivery: ["core", "imaging"],
  receivers: ["core", "imaging"],
  demo: ["core"],
  launch: ["core", "imaging", "store", "demo"],
  jobs: ["core", "imaging", "delivery", "store", "launch"],
  ui: ["core", "receivers"],
  app: ["core", "imaging", "delivery", "store", "jobs", "launch", "receivers", "ui"],
  cli: ["core", "imaging", "delivery", "demo"],
};
/** Rooms of the core from the ground up: each imports only rooms before it. */
const CORE = [
  "units",
  "containers",
  "photo",
  "brief",
  "geometry",
  "pixels",
  "difference",
  "coding",
  "proof",
  "plan",
  "budget",
  "delivery",
];
/** Rooms of the pixels of files, likewise. */
const IMAGING = [
  "workers",
  "encode",
  "foreign",
  "source",
  "headers",
  "decode",
  "planned",
  "candidates",
  "chosen",
  "written",
  "proved",
  "shown",
];
/** Packages that only these areas may import; core and ui have no others. */
const OWN_PACKAGES: Record<string, readonly RegExp[]> = {
  core: [/^(zod|saxes)$/],
  ui: [
    /^react(-dom|-hook-form)?$/,
    /^file-selector$/,
    /^recharts$/,
    /^@(tanstack|use-gesture)\//,
    /^radix-ui$/,
    /^lucide-react$/,
    /^sonner$/,
    /^zod$/,
    /^next\/(dynamic|link|navigation)$/,
  ],
};
const SHARP = new Set(["imaging", "demo"]);
const MOST_LINES = 450;

interface Import {
  specifier: string;
  /** Null for a package. */
  path: string | null;
}

const files = ["src", "demo"].flatMap((root) =>
  readdirSync(root, { recursive: true, encoding: "utf8" })
    .filter((f) => /\.tsx?$/.test(f) && !f.endsWith(".d.ts"))
    .map((f) => join(root, f)),
);

const areaOf = (path: string) => (path.startsWith("demo/") ? "demo" : path.split("/")[1]);
const isFile = (path: string) => existsSync(path) && statSync(path).isFile();

function resolved(from: string, specifier: string): string | null {
  const base = specifier.startsWith("@/")
    ? join("src", specifier.slice(2))
    : specifier.startsWith("@demo/")
      ? join("demo", specifier.slice(6))
      : specifier.startsWith(".")
        ? join(dirname(from), specifier)
        : null;
  if (base === null) return null;
  const found = [base, `${base}.ts`, `${base}.tsx`, join(base, "index.ts")].find(isFile);
  if (!found) throw new Error(`${from}: nothing lies at ${specifier}`);
  return found;
}

/** Every specifier in a file: `import`, `export … from`, `import()`, `import type`. */
function importsOf(path: string): Import[] {
  const { program } = parseSync(path, readFileSync(path, "utf8"));
  const found: string[] = [];
  const look = (node: unknown): void => {
    if (Array.isArray(node)) return node.forEach(look);
    if (node === null || typeof node !== "object") return;
    const { type, source } = node as { type?: string; source?: { value?: unknown } };
    if (type && /^(Import|Export|TSImport)/.test(type) && typeof source?.value === "string")
      found.push(source.value);
    Object.values(node).forEach(look);
  };
  look(program);
  return found.map((specifier) => ({ specifier, path: resolved(path, specifier) }));
}

const imported = new Map(files.map((path) => [path, importsOf(path)]));

describe("the house", () => {
  it("sees every way to import", () => {
    expect(files.length).toBeGreaterThan(300);
    expect([...imported.values()].flat().length).toBeGreaterThan(1000);
    expect(imported.get("src/cli/briefs.ts")!.map(({ path }) => path)).toContain("demo/briefs.ts");
  });

  it.each(Object.keys(BELOW))("%s imports only what lies below it", (area) => {
    for (const path of files.filter((one) => areaOf(one) === area)) {
      for (const { specifier, path: to } of imported.get(path)!) {
        if (to !== null && areaOf(to) !== area)
          expect(BELOW[area], `${path}: ${specifier}`).toContain(areaOf(to));
        if (to === null && OWN_PACKAGES[area])
          expect(
            OWN_PACKAGES[area].some((own) => own.test(specifier)),
            `${path}: ${specifier}`,
          ).toBe(true);
        if (specifier === "sharp") expect(SHARP, path).toContain(area);
      }
    }
  });

  it.each([
    ["core", CORE],
    ["imaging", IMAGING],
  ] as const)("the rooms of %s lie one upon the other", (area, order) => {
    const roomOf = (path: string) => (path.startsWith(`src/${area}/`) ? path.split("/")[2] : null);
    for (const path of files) {
      const room = roomOf(path);
      if (room === null || room.endsWith(".ts")) continue;
      expect(order, path).toContain(room);
      for (const { path: to } of imported.get(path)!) {
        const other = to && roomOf(to);
        if (other && other !== room)
          expect(order.indexOf(other), `${path}: ${to}`).toBeLessThan(order.indexOf(room));
      }
    }
  });

  it("enters a folder by its index only", () => {
    const pages = (folder: string) => /^src\/app(\/(?!server)|$)/.test(folder) || folder === "demo";
    for (const [path, list] of imported) {
      for (const { specifier, path: to } of list) {
        if (to === null || !/\.tsx?$/.test(to)) continue;
        const folder = dirname(to);
        if (!path.startsWith(`${folder}/`) && !pages(folder))
          expect(basename(to), `${path}: ${specifier}`).toBe("index.ts");
      }
    }
  });

  it("imports no package that is installed for tests only", () => {
    const { dependencies } = JSON.parse(readFileSync("package.json", "utf8"));
    for (const [path, list] of imported) {
      for (const { specifier, path: to } of list) {
        if (to !== null || isBuiltin(specifier)) continue;
        const [first, second] = specifier.split("/");
        const name = first.startsWith("@") ? `${first}/${second}` : first;
        expect(Object.keys(dependencies), `${path}: ${specifier}`).toContain(name);
      }
    }
  });

  it("keeps files short", () => {
    for (const path of files.filter((one) => !one.endsWith("-wasm.ts")))
      expect(readFileSync(path, "utf8").split("\n").length, path).toBeLessThan(MOST_LINES);
  });
});
