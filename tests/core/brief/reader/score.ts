/** Holds what was read against what is stated, clause by clause. */
import { type Brief, CLAUSE_KEYS } from "@/core/brief";
import { readWording } from "@/core/brief/read";
import type { Stated, Wording } from "./corpus";

export interface Score {
  stated: number;
  found: number;
  /** Clauses that are not in the wording, or have another value or standing (wish or demand). */
  wrong: string[];
  missed: string[];
  other: string[];
}

const same = (a: unknown, b: unknown) => JSON.stringify(sorted(a)) === JSON.stringify(sorted(b));
const sorted = (value: unknown): unknown =>
  value && typeof value === "object" && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value;

export function measure(wordings: readonly Wording[]): Score {
  const score: Score = { stated: 0, found: 0, wrong: [], missed: [], other: [] };
  for (const wording of wordings) {
    const reading = readWording(wording.text);
    const where = JSON.stringify(wording.text.slice(0, 50));
    const left = [...reading.briefs];
    for (const stated of wording.briefs) {
      const at = stated.name ? left.findIndex((brief) => brief.name === stated.name) : 0;
      const brief = at >= 0 ? left.splice(at, 1)[0] : undefined;
      if (stated.name && !brief)
        score.other.push(
          `${where}: no brief "${stated.name}" (${reading.briefs.map((b) => b.name).join(", ")})`,
        );
      compare(stated, brief, where, score);
    }
    for (const brief of left)
      score.wrong.push(`${where}: a brief too many: ${brief.name} ${JSON.stringify(clausesOf(brief))}`);
    for (const part of wording.onlyYou ?? [])
      if (!reading.onlyYou.some((o) => o.text.includes(part)))
        score.other.push(`${where}: only you: ${part}`);
    for (const part of wording.unread ?? [])
      if (!reading.unread.some((u) => u.text.includes(part)))
        score.other.push(`${where}: unread: ${part} (${reading.unread.map((u) => u.text).join(" / ")})`);
  }
  return score;
}

export const clausesOf = (brief: Brief) =>
  Object.fromEntries(CLAUSE_KEYS.filter((key) => brief[key] !== undefined).map((key) => [key, brief[key]]));

function compare(stated: Stated, brief: Brief | undefined, where: string, score: Score): void {
  const read: Record<string, unknown> = brief ? clausesOf(brief) : {};
  for (const [key, value] of Object.entries(stated.clauses)) {
    score.stated += 1;
    const wish = stated.wishes?.includes(key) ?? false;
    const wished = (brief?.wishes as string[] | undefined)?.includes(key) ?? false;
    if (!(key in read)) score.missed.push(`${where}: ${key} ${JSON.stringify(value)}`);
    else if (same(read[key], value) && wish === wished) score.found += 1;
    else
      score.wrong.push(
        `${where}: ${key} is ${JSON.stringify(value)}${wish ? " wished" : ""}, read ${JSON.stringify(read[key])}${wished ? " wished" : ""}`,
      );
  }
  for (const key of Object.keys(read))
    if (!(key in stated.clauses))
      score.wrong.push(`${where}: ${key} ${JSON.stringify(read[key])} is not stated`);
}
