/** What is left when the clauses are read: rules for a person, and text that was not understood. */

import { words } from "./line";
import { forAPerson } from "./only-you";
import { SIGNAL } from "./signals";
import type { Statement } from "./statements";
import type { Token } from "./tokens";

export interface Span {
  start: number;
  end: number;
}

const FILLER = new Set(
  (
    "a an the and or of to in on for with is are be must should may at by from as your our you we it " +
    "its this that these those please thank thanks hello dear all kindly regards yours sincerely " +
    ("if possible preferably ideally recommended preferred where can will shall has have so also both " +
      "either only but then than there here they them their us i me my one ones each any")
  ).split(" "),
);
/** Rules for a person that may stand in one breath with a rule for the file. */
const IN_PASSING =
  /\b(recent|recently|in person|by (your|their) own hand|own hand|handwritten|plain (wall|expression|background)|plain white wall|without (glasses|hats?|a hat|headgear|make up)|no (glasses|hats?|headgear)|taken (within|in|during) the last( \w+)? (weeks|months|years))\b/;

/** Cut at commas, brackets and dashes. */
function parts(tokens: readonly Token[]): Token[][] {
  const out: Token[][] = [[]];
  for (const token of tokens) {
    const cut =
      token.text === "," ||
      token.text === "(" ||
      token.text === ")" ||
      token.text === "|" ||
      (token.text === "-" && !token.glued);
    if (cut) out.push([]);
    else out[out.length - 1].push(token);
  }
  return out.filter((part) => part.length > 0);
}

const overlaps = (a: Span, b: Span) => a.start < b.end && b.start < a.end;
const spanOf = (tokens: readonly Token[]): Span => ({
  start: tokens[0].start,
  end: tokens[tokens.length - 1].end,
});
const meaningful = (tokens: readonly Token[]) =>
  tokens.some((t) => t.kind === "number" || (t.kind === "word" && !FILLER.has(t.text)));

export interface Leftovers {
  unread: Span[];
  onlyYou: Span[];
}

/**
 * `understood` are the spans of clauses, doubts and repeats; those of doubts are told apart by the caller.
 */
export function leftovers(statement: Statement, understood: readonly Span[], heading: boolean): Leftovers {
  const out: Leftovers = { unread: [], onlyYou: [] };
  if (!statement.body.length && !statement.label.length) return out;
  const inBody =
    statement.body.length > 0 && understood.some((span) => overlaps(span, spanOf(statement.body)));
  const label = statement.label.length && !inBody && !heading ? [statement.label] : [];
  let open = false;
  for (const part of [...label, ...parts(statement.body)]) {
    const here = spanOf(part);
    const found = understood.filter((span) => overlaps(span, here));
    const last = out.unread[out.unread.length - 1];
    if (found.length) {
      rest(part, found, out, (statement.signals & SIGNAL.person) !== 0 && IN_PASSING.test(statement.text));
      open = false;
    } else if (statement.signals & SIGNAL.person && forAPerson(part)) {
      out.onlyYou.push(here);
      open = false;
    } else if (meaningful(part)) {
      if (open && last) last.end = here.end;
      else out.unread.push(here);
      open = true;
    }
  }
  return out;
}

/** In a part that was read: a rule for a person said in passing, and numbers that nothing was made of. */
function rest(part: readonly Token[], found: readonly Span[], out: Leftovers, passing: boolean): void {
  let run: Token[] = [];
  const close = () => {
    if (run.length) {
      if (passing && IN_PASSING.test(words(run))) out.onlyYou.push(trimmed(run));
      else if (run.some((token) => token.kind === "number")) out.unread.push(spanOf(run));
    }
    run = [];
  };
  for (const token of part) {
    if (found.some((span) => overlaps(span, token))) close();
    else run.push(token);
  }
  close();
}

/** Without the small words at its ends. */
function trimmed(run: readonly Token[]): Span {
  let [from, to] = [0, run.length];
  const small = (token: Token) => token.kind === "mark" || (FILLER.has(token.text) && token.text !== "in");
  while (from < to - 1 && small(run[from])) from += 1;
  while (to > from + 1 && small(run[to - 1])) to -= 1;
  return spanOf(run.slice(from, to));
}
