/** `inspect`: the facts of files. */
import { publicFacts } from "@/core/proof";
import { readWritten, sentence } from "@/imaging/source";
import type { Call } from "./args";
import { readBounded } from "./photo-file";
import { factWords, print } from "./print";

export async function inspect({ paths, json }: Extract<Call, { command: "inspect" }>): Promise<number> {
  const files = [];
  for (const path of paths) {
    try {
      files.push({
        path,
        error: null,
        facts: publicFacts((await readWritten(await readBounded(path))).facts),
      });
    } catch (error) {
      files.push({ path, error: sentence(error), facts: null });
    }
  }
  if (json) print(JSON.stringify({ files }));
  else
    for (const file of files)
      print(file.facts ? `${file.path}: ${factWords(file.facts)}` : `${file.path}: ${file.error}`);
  return files.every((file) => file.facts) ? 0 : 1;
}
