/** Which clauses are carried out. What is not is refused by name, never ignored. */
import { CLAUSE_KEYS, type Brief, type ClauseKey, type OutputFormat } from "./schema";

export const WRITABLE: readonly OutputFormat[] = ["jpeg", "png", "webp", "avif", "tiff", "gif", "bmp", "pdf"];
const CARRIED_OUT: ReadonlySet<ClauseKey> = new Set<ClauseKey>([
  "format", "pick", "width", "height", "longSide", "shortSide", "box", "sizes", "shape", "scale", "paper", "resolution", "fileSize", "quality",
  "colour", "frame", "background", "enlarge", "sharpen", "metadata", "border", "ink", "layers", "padding", "total", "names",
]);
/** The order in which wishes are given up when a photo cannot have them all: the dearest last. */
export const WISHES_GIVEN_UP: readonly ClauseKey[] = [
  "resolution", "paper", "quality", "fileSize", "scale", "shape", "box", "sizes", "shortSide", "longSide", "height", "width", "format",
];

/** The clauses, with values where only some are open, that cannot be carried out yet; empty when all can. */
export function notCarriedOut(brief: Brief): string[] {
  const found: string[] = CLAUSE_KEYS.filter((key) => brief[key] !== undefined && !CARRIED_OUT.has(key));
  for (const format of brief.format ?? []) if (!WRITABLE.includes(format)) found.push(`format ${format}`);
  return found;
}

/** The brief's clauses that cannot be carried out yet, as one sentence; null where all can. */
export function refusal(brief: Brief): string | null {
  const missing = notCarriedOut(brief);
  return missing.length ? `not carried out yet: ${missing.join(", ")}` : null;
}

/** Clauses that a proof of an existing file cannot judge. */
export function notChecked(brief: Brief): string[] {
  const unread: ClauseKey[] = ["sharpen", "total"];
  return unread.filter((key) => brief[key] !== undefined);
}
