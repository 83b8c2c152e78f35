/** A refusal against the brief in use: which clauses change, and whether the proof says what the receiver says. */
import { type Brief, BriefError, type ClauseKey, clauseNames, clauseWords, parseBrief } from "../../brief";
import type { DocumentRefusal, Said } from "../../brief/refusal";
import type { Facts } from "../../proof";
import { formatBytes, formatPpi, formatSize } from "../../units";
import { overrule } from "../disagreements";

export interface ClauseChange {
  clause: ClauseKey;
  name: string;
  /** Null where the brief said nothing of it. */
  old: string | null;
  next: string;
}

export interface Held {
  brief: Brief;
  changes: ClauseChange[];
  /** Asked by the refusal and by the brief alike. */
  same: ClauseChange[];
}

type Asked = DocumentRefusal["asked"];

/** The brief with what a refusal asks; what it says nothing of stays. */
function changeOf(brief: Brief, asked: Asked): Brief {
  const { fileSize, ...rest } = asked;
  const both = fileSize && { ...brief.fileSize, ...fileSize };
  // An end that contradicts the new one is not what the receiver holds to.
  const sized =
    both && holds({ ...brief, fileSize: both })
      ? both
      : fileSize && { aim: brief.fileSize?.aim, ...fileSize };
  return overrule(brief, { ...rest, ...(sized && { fileSize: tidy(sized) }), ...freed(brief, asked) });
}

const tidy = ({ aim, ...rest }: NonNullable<Brief["fileSize"]>) => ({ ...rest, ...(aim && { aim }) });

/** Exact sides leave no room for other rules about pixels that exclude them. */
function freed(brief: Brief, { width, height }: Asked): Partial<Record<ClauseKey, null>> {
  if (width?.exact === undefined || height?.exact === undefined) return {};
  const keys = ["longSide", "shortSide", "box", "sizes", "shape", "scale"] as const;
  return Object.fromEntries(keys.filter((key) => brief[key] !== undefined).map((key) => [key, null]));
}

function holds(brief: Brief): boolean {
  try {
    parseBrief(brief);
    return true;
  } catch (error) {
    if (error instanceof BriefError) return false;
    throw error;
  }
}

export function heldAgainst(brief: Brief, asked: Asked): Held {
  const next = changeOf(brief, asked);
  const lines = (Object.keys(asked) as ClauseKey[]).map((clause) => ({
    clause,
    name: clauseNames[clause],
    old: clauseWords(brief, clause),
    next: clauseWords(next, clause)!,
  }));
  return {
    brief: next,
    changes: lines.filter(({ old, next }) => old !== next),
    same: lines.filter(({ old, next }) => old === next),
  };
}

/** Kilobytes are counted in two ways and rounded in many; beyond this share the figures are not the same. */
const SAME_BYTES = 0.07;

/** Where a receiver says other than the file's own facts: one sentence each. */
export function otherwise(
  said: readonly Said[],
  facts: Pick<Facts, "bytes" | "width" | "height" | "format" | "resolution">,
): string[] {
  return said.flatMap((one) => {
    const found = differs(one, facts);
    return found ? [`It says ${one.words}; the file that was made has ${found}.`] : [];
  });
}

function differs(
  said: Said,
  { bytes, width, height, format, resolution }: Parameters<typeof otherwise>[1],
): string | null {
  switch (said.kind) {
    case "bytes":
      return Math.abs(said.bytes - bytes) > bytes * SAME_BYTES ? formatBytes(bytes) : null;
    case "pixels":
      return said.width === width && said.height === height ? null : `${formatSize(width, height)} px`;
    case "resolution":
      if (!resolution) return "no resolution";
      return Math.abs(resolution[0] - said.ppi) > 1 ? formatPpi(resolution[0]) : null;
    case "format":
      return said.format === format ? null : `the format ${format.toUpperCase()}`;
  }
}
