/** Bundles that run beside this one: threads and child processes. */
import { existsSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const here = fileURLToPath(import.meta.url);

/**
 * Where the bundles of this build lie: beside the one that runs, or where the web server is started from. Run
 * from sources, as tests do, only those that were made for them: what lies about from an earlier build may
 * be of other sources.
 */
function folders(): string[] {
  const { ZUMBREL_BUNDLES } = process.env;
  if (ZUMBREL_BUNDLES) return [ZUMBREL_BUNDLES];
  return here.endsWith(".ts") ? [] : [dirname(here), join(process.cwd(), ".build")];
}

/** The path of a bundle; null where there is none, and the work is done in place. */
export function bundleBeside(name: string): string | null {
  return (
    folders()
      .map((folder) => join(folder, `${name}.mjs`))
      .find((path) => existsSync(path)) ?? null
  );
}
