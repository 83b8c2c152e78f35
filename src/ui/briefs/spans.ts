/**
 * The wording cut into pieces: what was read (with the clauses it became), what only a person can check,
 * what was not understood.
 */
import type { Brief } from "@/core/brief";
import { chipOf } from "../clauses";

export type PieceKind = "plain" | "read" | "you" | "unread";

export interface Piece {
  text: string;
  kind: PieceKind;
  /** Of a read piece: "brief.chip" of every clause that came from it. */
  keys: string[];
  /** Number in the order of the wording; null where it is no clause. */
  number: number | null;
  start: number;
}

interface Mark {
  start: number;
  end: number;
  kind: PieceKind;
  keys: string[];
}

/** Which clause of which brief: the same on both sides of the screen. */
export const linkOf = (brief: number, chip: string): string => `${brief}.${chip}`;

function marksOf(briefs: readonly Brief[], wording: string): Mark[] {
  const marks = new Map<string, Mark>();
  const put = (start: number, end: number, kind: PieceKind, key?: string) => {
    if (start < 0 || end > wording.length || start >= end) return;
    const id = `${start} ${end}`;
    const mark = marks.get(id) ?? { start, end, kind, keys: [] };
    if (kind === "read") mark.kind = "read";
    if (key && !mark.keys.includes(key)) mark.keys.push(key);
    marks.set(id, mark);
  };
  for (const [i, brief] of briefs.entries()) {
    for (const span of brief.read ?? [])
      put(span.start, span.end, "read", linkOf(i, chipOf(span.clause).key));
    for (const rule of brief.onlyYou ?? [])
      put(wording.indexOf(rule), wording.indexOf(rule) + rule.length, "you");
    for (const span of brief.unread ?? []) put(span.start, span.end, "unread");
  }
  const rank = { read: 0, you: 1, unread: 2, plain: 3 };
  return [...marks.values()].sort((a, b) => rank[a.kind] - rank[b.kind] || a.start - b.start);
}

/** Pieces in order; together they are the wording. Where marks overlap, what was read comes first. */
export function piecesOf(wording: string, briefs: readonly Brief[]): Piece[] {
  const taken: Mark[] = [];
  for (const mark of marksOf(briefs, wording))
    if (!taken.some((t) => t.start < mark.end && mark.start < t.end)) taken.push(mark);
  taken.sort((a, b) => a.start - b.start);
  const out: Piece[] = [];
  const numbers = numbersOf(briefs);
  let at = 0;
  for (const mark of taken) {
    if (mark.start > at)
      out.push({ text: wording.slice(at, mark.start), kind: "plain", keys: [], number: null, start: at });
    const number = mark.keys.length ? (numbers.get(mark.keys[0]) ?? null) : null;
    out.push({
      text: wording.slice(mark.start, mark.end),
      kind: mark.kind,
      keys: mark.keys,
      number,
      start: mark.start,
    });
    at = mark.end;
  }
  if (at < wording.length)
    out.push({ text: wording.slice(at), kind: "plain", keys: [], number: null, start: at });
  return out;
}

/** Numbers of the clauses in the order of the wording; one that holds for several briefs has one number. */
export function numbersOf(briefs: readonly Brief[]): Map<string, number> {
  const firsts = new Map<string, { start: number; keys: string[] }>();
  for (const [i, brief] of briefs.entries()) {
    const seen = new Map<string, number>();
    for (const span of brief.read ?? []) {
      const { key } = chipOf(span.clause);
      seen.set(key, Math.min(seen.get(key) ?? Infinity, span.start));
    }
    for (const [key, start] of seen) {
      const id = `${start} ${key}`;
      const first = firsts.get(id) ?? { start, keys: [] };
      first.keys.push(linkOf(i, key));
      firsts.set(id, first);
    }
  }
  const out = new Map<string, number>();
  for (const [n, { keys }] of [...firsts.values()].sort((a, b) => a.start - b.start).entries())
    for (const key of keys) out.set(key, n + 1);
  return out;
}

/** The words that a clause came from; null where the receiver did not say it. */
export function sourceWords(brief: Brief, chip: string): string | null {
  const spans = (brief.read ?? []).filter((span) => chipOf(span.clause).key === chip);
  const texts = [
    ...new Set(spans.map((span) => (brief.wording ?? "").slice(span.start, span.end).replace(/\s+/g, " "))),
  ];
  return texts.length ? texts.join(", ") : null;
}
