/** `read-brief`: a receiver's wording in, briefs and their disagreements out. */
import { type Brief, BriefError, CLAUSE_KEYS, type ClauseKey, clauseNames, clauseWords } from "@/core/brief";
import { MAX_WORDING, readWording } from "@/core/brief/read";
import { findDisagreements } from "@/core/plan/disagreements";
import { type Call, CallError } from "./args";
import { readStandardInput } from "./briefs";

export async function readBrief(call: Extract<Call, { command: "read-brief" }>): Promise<number> {
  const text = call.text === "-" ? await readStandardInput(MAX_WORDING) : call.text;
  let reading: ReturnType<typeof readWording>;
  try {
    reading = readWording(text);
  } catch (error) {
    if (error instanceof BriefError) throw new CallError(error.message);
    throw error;
  }
  const conflicts = reading.briefs.flatMap((brief, i) =>
    findDisagreements(brief).map((found) => ({ brief: i, ...found })),
  );
  const onlyYou = reading.onlyYou.map((part) => part.text);
  if (call.json) {
    process.stdout.write(
      `${JSON.stringify({ briefs: reading.briefs, unread: reading.unread, conflicts, onlyYou })}\n`,
    );
    return 0;
  }
  const lines: string[] = [];
  if (!reading.briefs.length) lines.push("Found no rules here.");
  for (const [i, brief] of reading.briefs.entries()) {
    lines.push(brief.name, ...clauseLines(brief, text));
    for (const found of conflicts) {
      if (found.brief !== i) continue;
      lines.push(
        `  ! ${found.why} ${found.wins}`,
        ...found.choices.map((choice) => `      ${choice.label}: ${choice.effect}`),
      );
    }
    lines.push("");
  }
  if (onlyYou.length) lines.push("Only you can check", ...onlyYou.map((rule) => `  ${oneLine(rule)}`), "");
  if (reading.unread.length)
    lines.push(
      "Not understood",
      ...reading.unread.map((part) => `  ${oneLine(part.text)}${part.ask ? `  (${part.ask})` : ""}`),
      "",
    );
  process.stdout.write(`${lines.join("\n").trimEnd()}\n`);
  return 0;
}

const oneLine = (text: string) => text.replace(/\s+/g, " ");

/** One line a clause: its name, what was understood, and the words that it came from. */
function clauseLines(brief: Brief, text: string): string[] {
  const keys = Object.keys(brief).filter((key): key is ClauseKey =>
    (CLAUSE_KEYS as readonly string[]).includes(key),
  );
  return keys.map((key) => {
    const from = (brief.read ?? [])
      .filter((span) => span.clause === key)
      .map((span) => `"${oneLine(text.slice(span.start, span.end))}"`);
    const wish = brief.wishes?.includes(key) ? " (wished)" : "";
    return (
      `  ${clauseNames[key].padEnd(12)} ${`${clauseWords(brief, key)}${wish}`.padEnd(26)} ` +
      `${from.join(", ")}`
    ).trimEnd();
  });
}
