/** The process that finds out what files are: a path comes, their facts or the reason against them go back. */
import { readFile } from "node:fs/promises";
import type { FactsAnswer } from "./facts-aside";
import { readSource } from "./source";

async function answer(path: string): Promise<FactsAnswer> {
  try {
    return { facts: (await readSource(await readFile(path))).facts };
  } catch (error) {
    if (!(error instanceof Error)) return { name: "Error", message: String(error) };
    return { name: error.name, message: error.message };
  }
}

process.on("message", (path: string) => void answer(path).then((value) => process.send?.(value)));
process.on("disconnect", () => process.exit(0));
