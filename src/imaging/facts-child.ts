/** The process that finds out what files are: a path comes, their facts or the reason against them go back. */
import { readFile } from "node:fs/promises";
import type { FactsAnswer, FactsQuestion } from "./facts-aside";
import { readSource } from "./source";

async function answer({ n, path }: FactsQuestion): Promise<FactsAnswer> {
  try {
    return { n, facts: (await readSource(await readFile(path))).facts };
  } catch (error) {
    if (!(error instanceof Error)) return { n, name: "Error", message: String(error) };
    return { n, name: error.name, message: error.message };
  }
}

process.on(
  "message",
  (question: FactsQuestion) => void answer(question).then((value) => process.send?.(value)),
);
process.on("SIGINT", () => undefined);
process.on("disconnect", () => process.exit(0));
