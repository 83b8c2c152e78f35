/** The reader: a receiver's wording in, briefs out. Pure, one pass over the text, nothing guessed. */
import { BriefError } from "../error";
import type { ClauseKey } from "../keys";
import { parseBrief } from "../parse";
import type { Brief } from "../schema";
import { asBrief, type Combined, combine } from "./combine";
import { type Documents, findDocuments } from "./documents";
import { type Doubt, type Finding, Findings } from "./finding";
import { readFormats } from "./formats";
import { isForeign } from "./language";
import { leftovers, type Span } from "./leftovers";
import { words } from "./line";
import { readMeasures } from "./measures";
import { readPhrases } from "./phrases";
import { findQuantities, unitNamed } from "./quantities";
import { sameUnits } from "./same-units";
import { addSet, widthsOf } from "./sets";
import { cutStatements, type Statement } from "./statements";
import { tokenise } from "./tokens";
import { lookAround, WISH } from "./window";

/** The longest wording that is read, in UTF-16 units. */
export const MAX_WORDING = 100_000;
/** The most briefs that are made of one wording. */
const MOST_BRIEFS = 100;
/** As many spans as a brief file holds. */
const MOST_SPANS = 1000;
const MOST_ONLY_YOU = 200;
/** What a brief is called when its wording has no heading. */
export const UNNAMED = "From pasted wording";

export interface Unread extends Span {
  text: string;
  /** What has to be known to make a clause of it. */
  ask?: string;
}

export interface Reading {
  /** Brief files whose clauses are those that the wording states, in its order. */
  briefs: Brief[];
  unread: Unread[];
  onlyYou: (Span & { text: string })[];
}

interface Part extends Span {
  doc: number;
  text: string;
  ask?: string;
}

/**
 * Reads a receiver's wording. All positions are UTF-16 units in `text`.
 * Throws {@link BriefError} for more than {@link MAX_WORDING} of them; a wording without rules gives no
 * briefs.
 */
export function readWording(text: string): Reading {
  if (text.length > MAX_WORDING) {
    throw new BriefError(
      `The wording has ${text.length} characters; at most ${MAX_WORDING} are read. Paste the part ` +
        "that has the rules.",
    );
  }
  const tokens = tokenise(text);
  const statements = cutStatements(tokens);
  const foreign = isForeign(tokens);
  const documents = findDocuments(statements);
  const read = statements.map((statement) =>
    foreign || isForeign(statement.label, statement.body) ? new Findings() : readStatement(statement),
  );
  wishesOfLists(statements, read);
  dropForbidden(statements, read);
  const groups = group(read, documents);
  const unread: Part[] = [];
  const onlyYou: Part[] = [];
  const cut = (span: Span, doc: number, ask?: string): Part => ({
    ...span,
    doc,
    text: text.slice(span.start, span.end),
    ...(ask ? { ask } : {}),
  });
  for (const [i, statement] of statements.entries()) {
    const doc = groups.docOf(i);
    const { found, doubts, repeats } = read[i];
    const rest = leftovers(
      statement,
      [...found, ...doubts, ...repeats],
      documents.bare.has(i) || groups.isHeading(i),
    );
    if (!documents.bare.has(i)) unread.push(...rest.unread.map((span) => cut(span, doc)));
    onlyYou.push(...rest.onlyYou.map((span) => cut(span, doc)));
    unread.push(...doubts.map(({ ask, ...span }) => cut(span, doc, ask)));
  }
  const asked = new Set<string>();
  const behind = endOf(statements.at(-1));
  const last = tokens.at(-1);
  if (
    behind !== null &&
    last &&
    last.start > behind &&
    tokens.some((token) => token.start >= behind && token.kind !== "mark")
  ) {
    unread.push(
      cut(
        { start: behind, end: last.end },
        -1,
        "The wording has too many separate lines; this part was not read. Paste the part that has the rules.",
      ),
    );
  }
  const briefs = groups.lists.flatMap(({ doc, name, own }) => {
    const doubts: Doubt[] = [];
    const combined = combine(own, groups.shared, doubts);
    for (const { ask, ...span } of doubts) {
      if (asked.has(`${span.start} ${ask}`)) continue;
      asked.add(`${span.start} ${ask}`);
      unread.push(cut(span, doc, ask));
    }
    return combined.length ? [{ doc, name, combined }] : [];
  });
  const beyond = briefs[MOST_BRIEFS]?.combined[0].spans[0];
  if (beyond)
    unread.push(
      cut(
        beyond,
        -1,
        `The wording names ${briefs.length} documents; the first ${MOST_BRIEFS} were read. Paste the rest by itself.`,
      ),
    );
  const order = (a: Span, b: Span) => a.start - b.start || b.end - a.end;
  unread.sort(order);
  onlyYou.sort(order);
  const strip = ({ doc: _, ...rest }: Part) => rest;
  return {
    briefs: briefs.slice(0, MOST_BRIEFS).map(({ doc, name, combined }) =>
      toBrief({
        wording: text,
        name,
        combined,
        unread: unread.filter(reaches(doc)),
        onlyYou: onlyYou.filter(reaches(doc)),
      }),
    ),
    unread: unread.map(strip),
    onlyYou: onlyYou.map(strip),
  };
}

/** Where a statement ends; null where there is none. */
function endOf(statement: Statement | undefined): number | null {
  const token = statement?.body.at(-1) ?? statement?.label.at(-1);
  return statement && token ? Math.max(token.end, statement.label.at(-1)?.end ?? 0) : null;
}

const reaches = (doc: number) => (part: Part) => part.doc === doc || part.doc === -1;

function readStatement(statement: Statement): Findings {
  const out = new Findings();
  if (statement.question) return out;
  const widths = widthsOf(statement);
  const quantities = findQuantities(statement.body, unitNamed(statement.label)).filter(
    ({ from, to }) => !widths || to <= widths.from || from >= widths.to,
  );
  const arounds = quantities.length ? lookAround(statement, quantities) : [];
  readMeasures(statement, sameUnits(statement.body, quantities, arounds), arounds, out);
  readFormats(statement, out);
  readPhrases(statement, quantities, out);
  if (widths) addSet(statement, widths, out);
  return out;
}

/** "Recommended:" on a line of its own makes wishes of the lines of its list. */
function wishesOfLists(statements: readonly Statement[], read: readonly Findings[]): void {
  let wishing = -1;
  for (const [i, { label, body, paragraph }] of statements.entries()) {
    const alone = label.length > 0 && body.length === 0;
    if (alone) wishing = WISH.test(words(label)) ? paragraph : -1;
    else if (wishing >= 0 && paragraph - wishing > 12) wishing = -1;
    if (wishing >= 0) for (const finding of read[i].found) finding.wish = true;
  }
}

const FORBIDS = /^(don't|don'ts|do not|never|avoid|wrong|bad|not (allowed|accepted|permitted|wanted))$/;

/** What stands in a list under "Don't:" is no rule that one could follow as it stands. */
function dropForbidden(statements: readonly Statement[], read: Findings[]): void {
  let from = -1;
  for (const [i, { label, body, paragraph }] of statements.entries()) {
    const alone = label.length > 0 && body.length === 0;
    if (alone) from = FORBIDS.test(words(label)) ? paragraph : -1;
    else if (from >= 0 && paragraph - from > 12) from = -1;
    else if (from >= 0) read[i] = new Findings();
  }
}

interface Groups {
  shared: Finding[];
  lists: { doc: number; name: string; own: Finding[] }[];
  docOf(statement: number): number;
  isHeading(statement: number): boolean;
}

/** The clauses that tell documents apart: two headings that rule the same of these are two documents. */
const TELLING: ReadonlySet<ClauseKey> = new Set<ClauseKey>([
  "width",
  "height",
  "longSide",
  "sizes",
  "fileSize",
  "paper",
  "format",
  "ink",
]);

function group(read: readonly Findings[], { headings, of, bare }: Documents): Groups {
  const per = headings.map((_, doc) =>
    read.filter((__, i) => of[i] === doc).flatMap((findings) => findings.found),
  );
  const keys = per.map(
    (list) => new Set(list.map((finding) => finding.clause).filter((clause) => TELLING.has(clause))),
  );
  const counts = headings.map(
    (heading, doc) =>
      per[doc].length > 0 &&
      (heading.sure || keys.some((other, o) => o !== doc && [...other].some((key) => keys[doc].has(key)))),
  );
  // What stands under a heading that is no document belongs to the document before it.
  const target: number[] = [];
  let last = -1;
  for (const [doc, counted] of counts.entries())
    target.push(counted ? (last = doc) : headings[doc].sure ? -1 : last);
  const docOf = (i: number) => (of[i] < 0 ? -1 : target[of[i]]);
  const at = (doc: number) => read.filter((_, i) => docOf(i) === doc).flatMap((findings) => findings.found);
  const docs = counts.flatMap((counted, doc) => (counted ? [doc] : []));
  const isHeading = (i: number) => bare.has(i) || of[i] >= 0;
  if (docs.length === 0)
    return { shared: [], lists: [{ doc: -1, name: UNNAMED, own: at(-1) }], docOf, isHeading };
  // A limit of the whole is one of all documents, wherever it is said.
  const whole = docs.flatMap((doc) => at(doc).filter((finding) => finding.clause === "total"));
  const lists = docs.map((doc) => ({
    doc,
    name: headings[doc].name,
    own: at(doc).filter((finding) => finding.clause !== "total"),
  }));
  return { shared: [...at(-1), ...whole], lists, docOf, isHeading };
}

function toBrief({
  wording,
  name,
  combined,
  unread,
  onlyYou,
}: {
  wording: string;
  name: string;
  combined: readonly Combined[];
  unread: readonly Part[];
  onlyYou: readonly Part[];
}): Brief {
  const wishes = combined.filter((clause) => clause.wish).map((clause) => clause.clause);
  const read = combined
    .flatMap(({ clause, spans }) => spans.map((span) => ({ clause, ...span })))
    .sort((a, b) => a.start - b.start);
  // The order of the wording is kept; the check is the same that a brief file has to pass.
  const clauses: Brief = {
    zumbrelBrief: 1,
    name,
    ...asBrief(combined),
    ...(wishes.length ? { wishes } : {}),
  };
  parseBrief(clauses);
  const brief: Brief = {
    ...clauses,
    wording,
    read: read.slice(0, MOST_SPANS),
    ...(unread.length
      ? { unread: unread.slice(0, MOST_SPANS).map(({ start, end }) => ({ start, end })) }
      : {}),
    ...(onlyYou.length
      ? { onlyYou: [...new Set(onlyYou.map((part) => part.text.slice(0, 1000)))].slice(0, MOST_ONLY_YOU) }
      : {}),
  };
  return brief;
}
