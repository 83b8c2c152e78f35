/** Where one sentence speaks of several documents: by commas, strokes and "and". */

import { words } from "./line";
import type { Token } from "./tokens";
import { FORMAT, isName, NO_NAME, speaksOfRule } from "./vocabulary";

/** Words that name a document in front of a dash, a colon or what is said of it may be so many. */
export const MOST_NAME = 6;

const SAYS =
  /^(as|in|with|up|upto|max|min|maximum|minimum|at|between|from|under|over|less|more|not|no|of|should|must|shall)$/;

/** "Photograph up to 60 KB, signature up to 20 KB": the comma ends what is said of the first. */
export function namesNext(tokens: readonly Token[], at: number, body: readonly Token[]): boolean {
  const [next, after] = [tokens[at + 1], tokens[at + 2]];
  // "Both JPEG, photograph 50 KB, signature 25 KB".
  const formatted =
    /^(both|all) /.test(words(body.slice(0, 3))) && body.some(({ text }) => FORMAT.test(text));
  if (formatted && isName(next?.text ?? "") && after?.kind === "number") return true;
  const colon = body.findLastIndex((token) => token.text === ":");
  if (beginsFile(body, colon + 1) && next?.text === "and" && beginsFile(tokens, at + 2)) return true;
  if (saysFormat(body, 0) && saysFormat(tokens, next?.text === "and" ? at + 2 : at + 1)) return true;
  if (!body.some((token) => token.kind === "number")) return false;
  if (
    next?.text === "all" &&
    after &&
    (after.kind === "number" || SAYS.test(after.text) || FORMAT.test(after.text))
  )
    return true;
  if (isShaped(body, colon + 1) && (next?.text === "both" || isShaped(tokens, at + 1))) return true;
  if (!isName(body[0]?.text ?? "")) return false;
  if (next?.text === "both") return true;
  return (
    isName(next?.text ?? "") && after !== undefined && (after.kind === "number" || SAYS.test(after.text))
  );
}

/** "… and a JPEG of 1500 px …": a file of its own, named by its format. */
export const beginsFile = (tokens: readonly Token[], from: number): boolean =>
  /^(an?|one)$/.test(tokens[from]?.text ?? "") &&
  FORMAT.test(tokens[from + 1]?.text ?? "") &&
  !/^(or|and|,|\/)$/.test(tokens[from + 2]?.text ?? "");

/** "Photograph size must be between … and signature size must be between …": each is a sentence of its own. */
export function rulesNext(tokens: readonly Token[], at: number, body: readonly Token[]): boolean {
  const says = (from: readonly Token[]) =>
    isName(from[0]?.text ?? "") && from.slice(1, 4).some(({ text }) => /^(must|should|shall|is)$/.test(text));
  return body.some(({ kind }) => kind === "number") && says(body) && says(tokens.slice(at + 1, at + 5));
}

/** "the plan as a PDF", "photos of the site as JPEG": a name, and how it comes. */
function saysFormat(tokens: readonly Token[], from: number): boolean {
  const as = tokens.slice(from, from + MOST_NAME + 2).findIndex(({ text }) => text === "as");
  const name = tokens.slice(from, from + Math.max(0, as));
  const [one, two] = [tokens[from + as + 1], tokens[from + as + 2]];
  // "As a multi-page PDF".
  const few = tokens.slice(from + as + 2, from + as + 6).find(({ text }) => FORMAT.test(text));
  const format = /^an?$/.test(one?.text ?? "") ? (few ?? two) : one;
  return (
    name.length > 0 &&
    name.every(({ kind }) => kind === "word") &&
    FORMAT.test(format?.text ?? "") &&
    !speaksOfRule(words(name)) &&
    (isName(words(name)) || name.some(({ text }) => /^(the|a|an|your|our)$/.test(text)))
  );
}

/** "Item: Photo / Format: JPEG": a stroke with a label behind it parts two rules. */
export function labelsNext(tokens: readonly Token[], at: number): boolean {
  const next = tokens.slice(at + 1, at + 4);
  const colon = next.findIndex(({ text }) => text === ":");
  return colon > 0 && !next[0].glued && next.slice(0, colon).every(({ kind }) => kind === "word");
}

/** "mood picture 2400 × 1600": one to three words that are no rule, and a size. */
export function isShaped(tokens: readonly Token[], from: number): boolean {
  const to = tokens.slice(from, from + 4).findIndex((token) => token.kind === "number");
  const name = tokens.slice(from, from + to);
  return (
    to > 0 &&
    tokens[from + to + 1]?.text === "×" &&
    name.every(({ kind, text }) => kind === "word" && !SAYS.test(text) && !NO_NAME.test(text)) &&
    !speaksOfRule(words(name)) &&
    !FORMAT.test(words(name))
  );
}
