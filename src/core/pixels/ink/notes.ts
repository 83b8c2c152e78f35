/** What has to be said about found ink, each as one sentence with what to do. */
import type { InkFound } from "./types";

export function inkNotes({ touches, groups }: Pick<InkFound, "touches" | "groups">): string[] {
  const notes: string[] = [];
  if (touches)
    notes.push(
      "The ink touches the edge of the picture: a part of it may be missing. Look at it, or " +
        "photograph it with more paper around.",
    );
  if (groups > 1)
    notes.push(
      `The sheet holds ${groups} groups of strokes, and all of them are taken. Frame the one that is wanted.`,
    );
  return notes;
}
