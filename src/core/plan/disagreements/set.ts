/** Clauses that fix the pixels of one file, beside a set that names widths of its own. */
import { type Brief, type ClauseKey, clauseNames, clauseWords, formatName } from "../../brief";
import type { Disagreement } from "./types";

/** Ways to fix the pixels of one file; a ceiling on a side holds for a set too. */
const FIXING: readonly ClauseKey[] = ["width", "height", "longSide", "shortSide", "box", "sizes", "scale"];

const fixes = (brief: Brief, key: ClauseKey): boolean => {
  const value = brief[key];
  if (value === undefined) return false;
  return typeof value !== "object" || !("max" in value) || "min" in value;
};

export function setDisagreements(brief: Brief): Disagreement[] {
  if (!brief.set) return [];
  const words = clauseWords(brief, "set");
  const out: Disagreement[] = FIXING.filter((key) => fixes(brief, key)).map((key) => ({
    clauses: ["set", key],
    why: `A set is asked (${words}), and ${clauseNames[key].toLowerCase()} ${clauseWords(brief, key)} for one file.`,
    wins: "The set wins unless you choose otherwise.",
    choices: [
      { label: "Make the set", effect: `drops ${clauseNames[key].toLowerCase()}`, change: { [key]: null } },
      { label: "Make one file", effect: `${clauseWords(brief, key)}`, change: { set: null } },
    ],
  }));
  const others = brief.set.formats?.filter((format) => !(brief.format ?? [format]).includes(format)) ?? [];
  if (others.length)
    out.push({
      clauses: ["set", "format"],
      why: `The set has ${others.map(formatName).join(" and ")}, and the file is to be ${clauseWords(brief, "format")}.`,
      wins: "The set wins unless you choose otherwise.",
      choices: [
        { label: "Make the set", effect: "drops the format", change: { format: null } },
        {
          label: `Only ${clauseWords(brief, "format")}`,
          effect: "in every width",
          change: { set: { widths: brief.set.widths } },
        },
      ],
    });
  if (brief.total)
    out.push({
      clauses: ["set", "total"],
      why:
        `The whole may take ${clauseWords(brief, "total")}, and a set is asked. A page never loads all files of a ` +
        "set, so a limit on all of them is not shared out.",
      wins: "The set wins unless you choose otherwise.",
      choices: [
        { label: "Make the set", effect: "drops the total", change: { total: null } },
        { label: "Keep the total", effect: "one file a photo", change: { set: null } },
      ],
    });
  if (brief.layers === "keep")
    out.push({
      clauses: ["set", "layers"],
      why: "A page shows flat pictures, and layers are to be kept.",
      wins: "The set wins: its files are flattened.",
      choices: [
        { label: "Make the set", effect: "flattens layers", change: { layers: null } },
        { label: "Keep the layers", effect: "one file a photo", change: { set: null } },
      ],
    });
  if (brief.frames === "keep")
    out.push({
      clauses: ["set", "frames"],
      why: "A set is made of still pictures, and animations are to be kept moving.",
      wins: "The set wins: the first frame of an animation is taken.",
      choices: [
        { label: "Make the set", effect: "takes the first frame", change: { frames: null } },
        { label: "Keep animations", effect: "one file a photo", change: { set: null } },
      ],
    });
  return out;
}
