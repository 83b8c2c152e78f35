/** The clauses as they are shown and edited: which belong together, and how they read. */
import { type Brief, CLAUSE_KEYS, type ClauseKey, clauseNames, clauseWords, pixelWords } from "@/core/brief";
import { type Change, overrule } from "@/core/plan/disagreements";

export interface Chip {
  key: string;
  title: string;
  clauses: ClauseKey[];
  words: (brief: Brief) => string | null;
}

const one = (key: ClauseKey, title = clauseNames[key]): Chip => ({
  key,
  title,
  clauses: [key],
  words: (brief) => clauseWords(brief, key),
});

export const CHIPS: readonly Chip[] = [
  one("format"),
  one("pick"),
  {
    key: "pixels",
    title: "Pixels",
    clauses: ["width", "height", "longSide", "shortSide"],
    words: pixelWords,
  },
  one("sizes"),
  one("box"),
  one("shape"),
  one("scale"),
  one("set"),
  one("fileSize"),
  one("paper"),
  one("resolution"),
  one("quality"),
  one("colour"),
  one("frame"),
  one("enlarge"),
  one("view"),
  one("background"),
  one("sharpen"),
  one("border"),
  one("ink"),
  one("head"),
  one("layers"),
  one("frames"),
  one("metadata"),
  one("padding"),
  one("total"),
  one("names"),
];

/** Offered at once where they are not stated; the others stand in a list. */
export const USUAL: readonly string[] = ["format", "pixels", "fileSize", "resolution"];
/** Those that can be stated by hand now. */
export const EDITABLE: readonly string[] = [
  ...USUAL,
  "sizes",
  "box",
  "shape",
  "scale",
  "set",
  "paper",
  "quality",
  "colour",
  "sharpen",
  "frame",
  "enlarge",
  "view",
  "background",
  "border",
  "ink",
  "head",
  "frames",
  "metadata",
  "padding",
  "total",
  "names",
];
/** Where "if possible" makes sense. */
export const WISHABLE: readonly string[] = [
  "format",
  "pixels",
  "sizes",
  "box",
  "shape",
  "scale",
  "fileSize",
  "paper",
  "resolution",
  "quality",
  "border",
];

export const chipOf = (clause: ClauseKey): Chip => CHIPS.find((chip) => chip.clauses.includes(clause))!;

export const isStated = (brief: Brief, chip: Chip): boolean =>
  chip.clauses.some((key) => brief[key] !== undefined);
export const isWished = (brief: Brief, chip: Chip): boolean =>
  chip.clauses.some((key) => brief[key] !== undefined && brief.wishes?.includes(key));

/** The chips in the order in which the brief states them: that of the wording where there is one. */
export function statedChips(brief: Brief): Chip[] {
  const start = new Map<string, number>();
  for (const span of brief.read ?? []) {
    const { key } = chipOf(span.clause);
    start.set(key, Math.min(start.get(key) ?? Infinity, span.start));
  }
  return CHIPS.filter((chip) => isStated(brief, chip)).sort(
    (a, b) =>
      (start.get(a.key) ?? Infinity) - (start.get(b.key) ?? Infinity) || CHIPS.indexOf(a) - CHIPS.indexOf(b),
  );
}

/** A change of a chip's clauses: those that are not among the new ones go. Wishes of other clauses stay. */
export function chipChange(brief: Brief, chip: Chip, clauses: Partial<Brief>, wished: boolean): Change {
  const change: Record<string, unknown> = Object.fromEntries(
    chip.clauses.map((key) => [key, clauses[key] ?? null]),
  );
  const wishes = (brief.wishes ?? []).filter((wish) => !chip.clauses.includes(wish));
  if (wished) wishes.push(...chip.clauses.filter((key) => clauses[key] !== undefined));
  return { ...change, wishes } as Change;
}

/**
 * The brief without a chip's clauses, and with others in their place; the receiver's own values stay beside
 * them.
 */
export const withClauses = (
  brief: Brief,
  chip: Chip,
  clauses: Partial<Brief>,
  wished = isWished(brief, chip),
): Brief => overrule(brief, chipChange(brief, chip, clauses, wished));

/** What the receiver asks where a clause was overruled by hand; null where it was not. */
export function receiversWords(brief: Brief, chip: Chip): string | null {
  if (!brief.overruled || !chip.clauses.some((key) => brief.overruled![key] !== undefined)) return null;
  const own: Brief = { zumbrelBrief: 1, name: brief.name };
  for (const key of chip.clauses) Object.assign(own, { [key]: brief.overruled[key] ?? brief[key] });
  return chip.words(own);
}

/** Back to what the receiver asks. */
export function asAsked(brief: Brief, chip: Chip): Brief {
  const change = Object.fromEntries(
    chip.clauses.flatMap((key) =>
      brief.overruled?.[key] !== undefined ? [[key, brief.overruled[key]]] : [],
    ),
  );
  return overrule(brief, change as Change);
}

/** A brief in a few words, for lists. */
export function briefSummary(brief: Brief): string {
  const keys = [
    "pixels",
    "sizes",
    "box",
    "shape",
    "scale",
    "set",
    "paper",
    "fileSize",
    "total",
    "quality",
    "format",
  ];
  const parts = keys.flatMap((key) => CHIPS.find((chip) => chip.key === key)!.words(brief) ?? []);
  return (
    parts.slice(0, 2).join(", ") || `${CLAUSE_KEYS.filter((key) => brief[key] !== undefined).length} clauses`
  );
}
