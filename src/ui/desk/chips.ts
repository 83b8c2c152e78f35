/** The chips of the brief strip: which clauses each holds, how it reads, and what its form gives back. */
import { byteRangeWords, clauseWords, formatName, pixelWords, rangeWords, type Brief, type ClauseKey } from "@/core/brief";

export type ChipKey = "format" | "pixels" | "fileSize" | "resolution";

export interface Chip {
  key: ChipKey;
  title: string;
  clauses: ClauseKey[];
  words: (brief: Brief) => string | null;
}

export const CHIPS: readonly Chip[] = [
  { key: "format", title: "Format", clauses: ["format"], words: (b) => b.format?.map(formatName).join(" or ") ?? null },
  { key: "pixels", title: "Pixels", clauses: ["width", "height", "longSide", "shortSide"], words: pixelWords },
  { key: "fileSize", title: "File size", clauses: ["fileSize"], words: (b) => (b.fileSize ? byteRangeWords(b.fileSize) : null) },
  { key: "resolution", title: "Resolution", clauses: ["resolution"], words: (b) => (b.resolution ? rangeWords(b.resolution, "ppi") : null) },
];

/** Clauses that have no chip of their own, in words. */
export function otherClauses(brief: Brief): string[] {
  const inChips = new Set(CHIPS.flatMap((chip) => chip.clauses));
  const titles: Partial<Record<ClauseKey, string>> = { names: "names", frame: "frame", colour: "colour", metadata: "metadata", quality: "quality", background: "background", enlarge: "enlarging", padding: "padding" };
  return (Object.keys(titles) as ClauseKey[]).filter((key) => !inChips.has(key) && brief[key] !== undefined).map((key) => `${titles[key]} ${clauseWords(brief, key)}`);
}

/** The brief without a chip's clauses, and with others in their place. */
export function withClauses(brief: Brief, chip: Chip, clauses: Partial<Brief>): Brief {
  const rest = Object.fromEntries(Object.entries(brief).filter(([key]) => !(chip.clauses as string[]).includes(key))) as Brief;
  return { ...rest, ...clauses };
}
