/** What is written, what is given up first, and what a proof cannot see. */
import type { ClauseKey, OutputFormat } from "./keys";
import type { Brief } from "./schema";

export const WRITABLE: readonly OutputFormat[] = ["jpeg", "png", "webp", "avif", "tiff", "gif", "bmp", "pdf"];
/** The order in which wishes are given up when a photo cannot have them all: the dearest last. */
export const WISHES_GIVEN_UP: readonly ClauseKey[] = [
  "resolution",
  "paper",
  "quality",
  "fileSize",
  "scale",
  "shape",
  "box",
  "sizes",
  "shortSide",
  "longSide",
  "height",
  "width",
  "format",
];

/** Clauses that a proof of an existing file cannot judge. */
export function notChecked(brief: Brief): string[] {
  const unread: ClauseKey[] = ["sharpen", "view", "total"];
  return unread.filter((key) => brief[key] !== undefined);
}
