/** The markup of sets that were made, as a file beside them. */
import { dirname, join, relative, sep } from "node:path";
import type { OutputFormat } from "@/core/brief";
import { pictureMarkup, type SetFile, USUAL_SIZES } from "@/core/delivery/picture-set";
import { freeName } from "@/core/plan/names";
import { writeNewFile } from "@/imaging/written";
import type { FitResult } from "./fit";

const NAME = "pictures.html";

/** Where it was written; null where no file was made. Pictures stand in the order of their photos. */
export async function writeMarkup(results: readonly FitResult[], out: string): Promise<string | null> {
  const sets = new Map<string, SetFile[]>();
  for (const { source, output, facts } of results) {
    if (!output || !facts) continue;
    const { width, height, bytes } = facts;
    const name = relative(out, output).split(sep).join("/");
    const file = { name, width, height, bytes, format: facts.format as OutputFormat };
    sets.set(source, [...(sets.get(source) ?? []), file]);
  }
  if (!sets.size) return null;
  const options = { alt: "", sizes: USUAL_SIZES, loading: "lazy", standIn: null } as const;
  const text = [...sets.values()].map((files) => pictureMarkup(files, options)).join("\n\n");
  const refused = new Set<string>();
  for (;;) {
    const path = join(
      out,
      freeName(NAME, (name) => refused.has(name)),
    );
    try {
      await writeNewFile(path, Buffer.from(`${text}\n`));
      return path;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== "EEXIST") throw error;
      refused.add(path.slice(dirname(path).length + 1));
    }
  }
}
