/** Which photo is likely meant for which of the documents that a form asks for: a proposal, never a decision. */
import type { Brief } from "../../brief";
import type { PhotoKind } from "../../pixels/ink";
import { splitName } from "../names";

export interface DocumentWanted {
  id: string;
  name: string;
  brief: Brief;
}

export interface PhotoAtHand {
  id: string;
  name: string;
  /** Upright px. */
  width: number;
  height: number;
  /** Null where nobody has looked yet: then only its name speaks for it. */
  kind: PhotoKind | null;
}

type Wanted = "ink" | "print" | "portrait";

/** What forms call their documents. Common practice. */
const WORDS: readonly (readonly [Wanted, RegExp])[] = [
  ["ink", /\b(signatures?|signed|initials|specimen|handwrit\w*|thumb ?(print|impression))\b/i],
  [
    "print",
    /\b(certificates?|diplomas?|degrees?|transcripts?|letters?|statements?|proofs?|licen[cs]es?|records?|receipts?|bills?|invoices?|contracts?|references?|scans?|mark ?sheets?|id|identity|cards?|passports?|visas?|cvs?|documents?|forms?)\b/i,
  ],
  ["portrait", /\b(portraits?|photos?|photographs?|face|head ?shots?|pictures?|likeness)\b/i],
];

function wantedBy({ name, brief }: DocumentWanted): Wanted | null {
  if (brief.ink) return "ink";
  // "Passport photo" is a portrait, "photo of your diploma" a page: the last word but for what follows "of" says it.
  const [head, ...rest] = name.split(/\bof\b/i);
  const said = rest.join(" ").trim() || head;
  let [best, at]: [Wanted | null, number] = [null, -1];
  for (const [wanted, pattern] of WORDS)
    for (const match of said.matchAll(new RegExp(pattern, "gi")))
      if (match.index > at) [best, at] = [wanted, match.index];
  if (best) return best;
  return brief.format?.every((format) => format === "pdf") ? "print" : null;
}

const words = (text: string): Set<string> =>
  new Set(
    text
      .toLowerCase()
      .split(/[^\p{L}\p{N}]+/u)
      .filter((word) => word.length >= 4),
  );

/** Points for a photo in a document's place; none is proposed below one. */
function points(document: DocumentWanted, photo: PhotoAtHand): number {
  const mine = words(splitName(photo.name).stem);
  const named = [...words(document.name)].filter((word) => mine.has(word)).length;
  return 4 * named + fitting(wantedBy(document), photo);
}

function fitting(wanted: Wanted | null, { kind, width, height }: PhotoAtHand): number {
  if (kind === null) return 0;
  if (wanted === null) return kind === "picture" ? 1 : 0;
  if (wanted === "portrait") return kind === "picture" ? (height > width ? 3 : 2) : -2;
  if (wanted === "ink") return kind === "ink" ? 3 : -2;
  // A card or a diploma with a seal is seen as a picture.
  return { print: 3, picture: 1, ink: 0 }[kind];
}

/** By document, the photo that is proposed for it. Each photo is proposed once; the surest pairs come first. */
export function proposeSlots(
  documents: readonly DocumentWanted[],
  photos: readonly PhotoAtHand[],
): Map<string, string> {
  const pairs = documents
    .flatMap((document, d) =>
      photos.map((photo, p) => ({
        document: document.id,
        photo: photo.id,
        points: points(document, photo),
        d,
        p,
      })),
    )
    .filter((pair) => pair.points >= 1)
    .sort((a, b) => b.points - a.points || a.d - b.d || a.p - b.p);
  const out = new Map<string, string>();
  const taken = new Set<string>();
  for (const { document, photo } of pairs) {
    if (out.has(document) || taken.has(photo)) continue;
    out.set(document, photo);
    taken.add(photo);
  }
  return out;
}
