/**
 * The names of all files of a run, worked out before it: unique on every common file system, with what is
 * worth knowing of each.
 */
import { freeName, type NameFacts, outputName, safeFolder, sameName, splitName } from "./name";

export interface NameRequest extends NameFacts {
  id: string;
  pattern: string;
  /** Below the output folder, as it was brought in. */
  folder: string;
}

export type NameNote =
  /** The format asks for another ending. */
  | { kind: "ending"; from: string; to: string }
  /** Another file has the name already. */
  | { kind: "taken"; name: string }
  /** Signs that some systems refuse were replaced, or the name was cut. */
  | { kind: "signs" }
  /** The pattern gives every file another name than its photo has. */
  | { kind: "pattern" };

export interface PlannedName {
  id: string;
  /** With folders, parted by "/". */
  path: string;
  folder: string;
  name: string;
  notes: NameNote[];
}

/** In the order given: of two that would be one, the later gets -2. */
export function planNames(requests: readonly NameRequest[]): PlannedName[] {
  const taken = new Set<string>();
  return requests.map((request) => {
    const folder = safeFolder(request.folder);
    const at = (name: string) => (folder ? `${folder}/${name}` : name);
    const wished = outputName(request.pattern, request);
    const name = freeName(wished, (one) => taken.has(sameName(at(one))));
    taken.add(sameName(at(name)));
    return { id: request.id, path: at(name), folder, name, notes: notesOf(request, wished, name) };
  });
}

function notesOf(request: NameRequest, wished: string, name: string): NameNote[] {
  const notes: NameNote[] = [];
  const [before, after] = [splitName(request.source), splitName(name)];
  if (request.pattern !== "{name}") notes.push({ kind: "pattern" });
  // A field that is filled in may bring signs of its own; only the photo's name is compared.
  else if (splitName(wished).stem !== before.stem.normalize("NFC")) notes.push({ kind: "signs" });
  if (before.ending && before.ending !== after.ending)
    notes.push({ kind: "ending", from: before.ending, to: after.ending });
  if (name !== wished) notes.push({ kind: "taken", name: wished });
  return notes;
}

/** One short sentence a note. */
export function nameNoteWords(note: NameNote): string {
  switch (note.kind) {
    case "ending":
      return `ends in .${note.to} instead of .${note.from}, because it is another format`;
    case "taken":
      return `another file is called ${note.name}`;
    case "signs":
      return "signs that some systems refuse were replaced, or the name was cut";
    default:
      return "another name than the photo";
  }
}
