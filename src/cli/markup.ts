/** The markup of sets that were made, as a file beside them. */
import { relative, sep } from "node:path";
import type { OutputFormat } from "@/core/brief";
import { MARKUP_FILE, markupFile, type SetFile } from "@/core/delivery/picture-set";
import { writeIn } from "@/imaging/written";
import type { FitResult } from "./fit";

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
  const text = markupFile([...sets.values()].map((files) => ({ files, alt: "" })));
  return writeIn(out, MARKUP_FILE, Buffer.from(text));
}
