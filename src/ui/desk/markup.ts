/** The files of a row as a page takes them, and markup on its way to the clipboard. */
import type { PageSet, SetFile } from "@/core/delivery/picture-set";
import type { RowView } from "../api";
import { say, sayError } from "../say";

/** Null where there is no set, or nothing is known of it yet. */
export function filesOf({ set }: RowView): SetFile[] | null {
  if (!set?.length || set.some(({ name, bytes }) => name === null || bytes === null)) return null;
  return set.map(({ name, width, height, format, bytes }) => ({
    name: name!,
    width,
    height,
    format,
    bytes: bytes!,
  }));
}

/** The photos of a page: those that become sets. */
export const pageOf = (rows: readonly RowView[]): (PageSet & { row: RowView })[] =>
  rows.flatMap((row) => {
    const files = filesOf(row);
    return files ? [{ row, files, before: row.before.bytes }] : [];
  });

export async function copied(text: string, words: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(text);
    say(words);
  } catch {
    sayError("The browser does not let it be copied. Mark the text and copy it yourself.");
  }
}
