/** The markup of sets that were made, as a file beside them. */
import { relative, sep } from "node:path";
import type { OutputFormat } from "@/core/brief";
import { MARKUP_FILE, markupFile, type SetFile } from "@/core/delivery/picture-set";
import { writeIn } from "@/imaging/written";
import type { FitResult } from "./fit";

/**
 * Where it was written, and for how many pictures no words for those who do not see them were found in their photos;
 * null where no file was made. Pictures stand in the order of their photos.
 */
export async function writeMarkup(
  results: readonly FitResult[],
  out: string,
): Promise<{ path: string; silent: number } | null> {
  const sets = new Map<string, { files: SetFile[]; alt: string }>();
  for (const { source, output, facts, before } of results) {
    if (!output || !facts) continue;
    const { width, height, bytes } = facts;
    const name = relative(out, output).split(sep).join("/");
    const file = { name, width, height, bytes, format: facts.format as OutputFormat };
    const one = sets.get(source) ?? { files: [], alt: before?.shows ?? "" };
    one.files.push(file);
    sets.set(source, one);
  }
  if (!sets.size) return null;
  const all = [...sets.values()];
  const path = await writeIn(out, MARKUP_FILE, Buffer.from(markupFile(all)));
  return { path, silent: all.filter(({ alt }) => !alt).length };
}
