/** The markup of sets that were made, as a file beside them. */
import { relative, sep } from "node:path";
import type { OutputFormat } from "@/core/brief";
import { pictureMarkup, type SetFile, USUAL_SIZES } from "@/core/delivery/picture-set";
import { writeIn } from "@/imaging/written";
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
  return writeIn(out, NAME, Buffer.from(`${text}\n`));
}
