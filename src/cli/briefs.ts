/** Where `--brief` comes from: a path, the name of a brief that ships with Zumbrel, or standard input. */
import { readFile, stat } from "node:fs/promises";
import { type Brief, BriefError, MAX_BRIEF_TEXT, parseBriefText } from "@/core/brief";
import { CallError } from "./args";

export async function loadBrief(from: string): Promise<Brief> {
  try {
    if (from === "-") return parseBriefText(await readStandardInput());
    const found = await stat(from).catch(() => null);
    if (!found) {
      // They are read from their wordings, which takes a moment that a call with a file does not need.
      const { STARTER_BRIEFS } = await import("@demo/briefs");
      const shipped = STARTER_BRIEFS.find((brief) => brief.name.toLowerCase() === from.toLowerCase());
      if (shipped) return shipped;
      const names = STARTER_BRIEFS.map((brief) => `"${brief.name}"`).join(", ");
      throw new CallError(
        `There is no brief file "${from}" and no brief of that name. Shipped briefs: ${names}.`,
      );
    }
    if (!found.isFile()) throw new CallError(`"${from}" is not a file; a brief file was expected.`);
    if (found.size > MAX_BRIEF_TEXT)
      throw new CallError(`The brief file has ${found.size} bytes; at most ${MAX_BRIEF_TEXT} are read.`);
    return parseBriefText(await readFile(from, "utf8"));
  } catch (error) {
    if (error instanceof BriefError) throw new CallError(error.message);
    throw error;
  }
}

/** Standard input as text, bounded. Throws {@link CallError} for more than `most` characters. */
export async function readStandardInput(most = MAX_BRIEF_TEXT): Promise<string> {
  let text = "";
  for await (const piece of process.stdin.setEncoding("utf8")) {
    text += piece as string;
    if (text.length > most)
      throw new CallError(`Standard input has over ${most} characters; at most that many are read.`);
  }
  return text;
}
