/**
 * Tokens cut into statements: a sentence, an item of a list, a cell of a table, each with the label that
 * stands in front of it.
 */

import { bracketed } from "./brackets";
import { words } from "./line";
import { isShaped, labelsNext, MOST_NAME, namesNext, rulesNext } from "./parting";
import { signalsOf } from "./signals";
import type { Token } from "./tokens";
import { FORMAT, isName, RULE, speaksOfRule } from "./vocabulary";

export interface Statement {
  /** What stands before the colon, or the heading of the table's column and row. */
  label: Token[];
  body: Token[];
  /** Of a table: the cell that names the document this is about. */
  owner: Token[] | null;
  /** The first statement of its line; only such a one can carry a heading. */
  opensLine: boolean;
  /** An item of a list. */
  item: boolean;
  /** The label came from a table or a list of two columns. */
  tabled: boolean;
  /** Asked, not stated. */
  question: boolean;
  /** All its words, label and all, with single spaces: made once, tried often. */
  text: string;
  /** See `signalsOf`. */
  signals: number;
  /** The words of the statement behind it, where that goes on about the same. */
  next: string;
  /** Number of the paragraph. */
  paragraph: number;
}

const SHORTENED = new Set([
  "max",
  "min",
  "approx",
  "ca",
  "incl",
  "resp",
  "dim",
  "res",
  "e",
  "g",
  "i",
  "etc",
  "vs",
  "no",
  "nr",
  "w",
  "h",
  "in",
  "cm",
  "mm",
]);
const UNIT = /^(px|pixels?|k|kb|mb|kib|mib|dpi|ppi|mm|cm|bytes?|kilobytes?|megabytes?)$/;
const MOST_TOKENS = 400;
const MOST_LABEL = 9;
const MOST_BESIDE = 12;

/** More than any page has: what lies behind is left unread, and that is said. */
const MOST_STATEMENTS = 4000;

/** Cuts the text. A statement never has more than 400 tokens, so that no later step can run away. */
export function cutStatements(tokens: readonly Token[]): Statement[] {
  const out: Statement[] = [];
  let paragraph = 0;
  for (const group of lineGroups(tokens)) {
    if (out.length >= MOST_STATEMENTS) break;
    if (group.table) out.push(...tableStatements(group.lines, paragraph));
    else {
      const blocks = paragraphs(group.lines);
      // Lines such as "Teaser 600 × 400 px, JPEG" below each other are items.
      const shaped = blocks.filter((block) => isShaped(block, 0)).length > 1;
      for (const block of blocks) {
        sentences(block, paragraph, out, shaped && isShaped(block, 0));
        paragraph += 1;
        if (out.length >= MOST_STATEMENTS) break;
      }
    }
  }
  out.length = Math.min(out.length, MOST_STATEMENTS);
  for (const [i, statement] of out.entries()) {
    statement.text = statement.label.length
      ? `${words(statement.label)} ${words(statement.body)}`
      : words(statement.body);
    statement.signals = signalsOf(statement.label, statement.body);
    if (i > 0 && out[i - 1].paragraph === statement.paragraph) out[i - 1].next = statement.text.slice(0, 200);
  }
  return out;
}

interface Line {
  tokens: Token[];
  /** An empty line stands before it. */
  gap: boolean;
}

function lineGroups(tokens: readonly Token[]): { table: boolean; lines: Line[] }[] {
  const lines: Line[] = [{ tokens: [], gap: false }];
  for (const token of tokens) {
    if (token.text === "\n" || token.text === "\n\n") lines.push({ tokens: [], gap: token.text === "\n\n" });
    else lines[lines.length - 1].tokens.push(token);
  }
  const groups: { table: boolean; lines: Line[] }[] = [];
  for (const line of lines) {
    if (!line.tokens.length) continue;
    const table = line.tokens.some((token) => token.text === "|");
    const last = groups[groups.length - 1];
    if (last && last.table === table && !(table && line.gap)) last.lines.push(line);
    else groups.push({ table, lines: [line] });
  }
  return groups;
}

const cellsOf = (line: Line): Token[][] => {
  const cells: Token[][] = [[]];
  for (const token of line.tokens) {
    if (token.text === "|") cells.push([]);
    else if (token.text !== "•") cells[cells.length - 1].push(token);
  }
  if (!cells[0].length && line.tokens[0]?.raw === "|") cells.shift();
  if (!cells[cells.length - 1]?.length) cells.pop();
  return cells;
};

const isRuling = ({ kind, text }: Token): boolean => kind === "number" || FORMAT.test(text);
const hasNumber = (cell: readonly Token[]) => cell.some((token) => token.kind === "number");

function tableStatements(lines: readonly Line[], paragraph: number): Statement[] {
  const rows = lines
    .map(cellsOf)
    .filter((row) => row.some((cell) => cell.some((token) => token.kind !== "mark")));
  const make = (label: Token[], body: Token[], owner: Token[] | null): Statement => ({
    label,
    body: body.slice(0, MOST_TOKENS),
    owner,
    opensLine: true,
    item: false,
    tabled: true,
    question: false,
    text: "",
    signals: 0,
    next: "",
    paragraph,
  });
  const [head, ...rest] = rows;
  if (!head) return [];
  // "icon 64 × 64 png | tile 256 × 256 png": items in a line.
  if (
    !rest.length &&
    head.length > 1 &&
    head.every((cell) => cell[0]?.kind === "word" && cell.some(isRuling))
  ) {
    const items: Statement[] = [];
    for (const cell of head) sentences(cell, paragraph, items, true);
    return items;
  }
  const columns = Math.max(...rows.map((row) => row.length));
  // The first row names the columns when it has no numbers of its own.
  const headed =
    columns > 2 &&
    rest.length > 0 &&
    !head.slice(1).some(hasNumber) &&
    rest.some((row) => row.slice(1).some((cell) => cell.length));
  if (headed) {
    // A head without its corner, or with one: the last columns line up.
    const shift = columns - head.length;
    // Where every column is a rule, rows are documents, whatever they are called.
    const ruled = !shift && head.slice(1).every((cell) => speaksOfRule(words(cell)));
    const owners = ownerColumn(head, shift);
    const ordered = (row: Token[][]) => [row[owners] ?? [], ...row.filter((_, i) => i !== owners)];
    return repeated(rest, columns)
      .map(ordered)
      .flatMap((row) =>
        row.slice(1).flatMap((cell, i) => {
          const column = (owners ? ordered(head) : head)[i + 1 - shift] ?? [];
          if (!cell.length) return [];
          // Documents in rows, or documents in columns.
          return [
            !ruled && RULE.test(words(row[0]))
              ? make(row[0], cell, RULE.test(words(column)) ? null : column)
              : make(column, cell, row[0]),
          ];
        }),
      );
  }
  return rows.flatMap((row) =>
    row.length === 1 ? [make([], row[0], null)] : [make(row[0], joined(row.slice(1)), null)],
  );
}

/** Cells in a row, parted as by commas: "600 × 800 px | max. 200 KB" are two rules. */
function joined(cells: readonly Token[][]): Token[] {
  const out: Token[] = [];
  for (const cell of cells) {
    const last = out.at(-1);
    if (last && cell.length)
      out.push({
        ...last,
        kind: "mark",
        text: ",",
        raw: ",",
        start: last.end,
        value: null,
        decimal: null,
        capital: false,
      });
    out.push(...cell);
  }
  return out;
}

const OWNERS =
  /^(documents?|items?|uploads?|attachments?|(kind|type|name) of (document|picture|photo|image)s?)$/;

/** The column that names the documents, where its heading says so; else the first. */
function ownerColumn(head: readonly Token[][], shift: number): number {
  return shift
    ? 0
    : Math.max(
        0,
        head.findIndex((cell) => OWNERS.test(words(cell))),
      );
}

const AS_ABOVE = /^(as above|see above|same( as above)?|the same|ditto|idem|likewise)$/;

/** Cells that repeat the one above them hold its words. */
function repeated(rows: readonly Token[][][], columns: number): Token[][][] {
  const last: Token[][] = [];
  return rows.map((row) =>
    row.map((cell, i) => {
      const held = row.length === columns && AS_ABOVE.test(words(cell)) ? (last[i] ?? cell) : cell;
      last[i] = held;
      return held;
    }),
  );
}

/** Lines that belong together: a line break inside a rule is no end of it. */
function paragraphs(lines: readonly Line[]): Token[][] {
  const out: Token[][] = [];
  for (const line of lines) {
    const first = line.tokens[0];
    const block = out[out.length - 1];
    const before = block?.at(-1);
    const starts =
      line.gap ||
      (block !== undefined && isHeadLine(block)) ||
      !out.length ||
      first.text === "•" ||
      (first.kind === "word" && (first.capital || labelEnd(line.tokens) > 0)) ||
      (/^(st|nd|rd|th)$/.test(line.tokens[1]?.text ?? "") && labelEnd(line.tokens) > 0);
    // "Not less than 350⏎KB": a number at the end of a line waits for its unit.
    if (starts && (line.gap || !before || before.kind !== "number" || !UNIT.test(first.text)))
      out.push([...line.tokens]);
    else out[out.length - 1].push(...line.tokens);
  }
  return out;
}

/** "Passport photo" on a line of its own: what follows is another line, even if it begins with a figure. */
function isHeadLine(tokens: readonly Token[]): boolean {
  if (!tokens[0].capital || tokens.length > 5 || !tokens.every((token) => token.kind === "word"))
    return false;
  const text = words(tokens);
  return isName(text) && !speaksOfRule(text) && !GOES_ON.test(text);
}

const GOES_ON =
  /\b(of|than|to|at|is|are|be|between|with|and|or|the|a|an|in|for|from|by|must|should|may|not|no|more|less|up|least|most|about|least)$/;

/** Index of the colon that ends a label; 0 where there is none. */
function labelEnd(tokens: readonly Token[]): number {
  // What stands in brackets is said of the name, and does not make it longer.
  let beside = 0;
  let open = -1;
  for (let i = 1; i < Math.min(tokens.length, MOST_LABEL + 1 + beside); i += 1) {
    const { text } = tokens[i];
    if (text === "(") open = i;
    if (text === ")" && open > 0) {
      beside += Math.min(MOST_BESIDE, i - open + 1);
      open = -1;
    }
    if (text === ":")
      return tokens[i + 1]?.kind === "number" && tokens[i + 1].glued && tokens[i - 1].kind === "number"
        ? 0
        : i;
    if (text === "." || text === "," || text === ";") return 0;
  }
  return 0;
}

function sentences(tokens: readonly Token[], paragraph: number, out: Statement[], items = false): void {
  let body: Token[] = [];
  let opensLine = true;
  let item = items;
  const close = (question: boolean) => {
    if (body.length)
      out.push({
        ...labelled(body, opensLine || item),
        owner: null,
        opensLine,
        item,
        tabled: false,
        question,
        text: "",
        signals: 0,
        next: "",
        paragraph,
      });
    opensLine = false;
    item = false;
    body = [];
  };
  const groups = bracketed(tokens);
  for (const [i, token] of tokens.entries()) {
    if (groups.has(i)) {
      close(false);
      item = true;
    }
    if (token.text === "•" || token.text === "tag") close(false);
    else if (token.text === ";") {
      // "Avatar 256 × 256; banner 1500 × 500": what such a sentence is parted into may be items.
      item = true;
      close(false);
      item = true;
    } else if (token.text === "!") close(false);
    else if (token.text === "," && namesNext(tokens, i, body)) {
      item = true;
      close(false);
      item = !/^(both|all)$/.test(tokens[i + 1].text);
    } else if (token.text === "/" && labelsNext(tokens, i)) close(false);
    else if (token.text === "and" && rulesNext(tokens, i, body)) {
      close(false);
      item = true;
    } else if (token.text === "?") close(true);
    else if (token.text === ".") {
      // "Section A. Applicant's photo": what it is numbered by is no sentence.
      if (opensLine && NUMBERING.test(words(body))) {
        body = [];
        continue;
      }
      if (endsSentence(tokens, i)) close(false);
    } else body.push(token);
    if (body.length >= MOST_TOKENS) close(false);
    if (out.length >= MOST_STATEMENTS) return;
    if (token.text === "•") opensLine = item = true;
  }
  close(false);
}

const NUMBERING = /^(section|part|annex|step|chapter|item) (\d{1,2}|[a-z])$/;
function endsSentence(tokens: readonly Token[], at: number): boolean {
  const [last, next] = [tokens[at - 1], tokens[at + 1]];
  if (!next) return true;
  // ".png", "badge.jpg", "e.g."
  if (next.glued && next.kind === "word" && !next.capital) return false;
  return !(
    last &&
    SHORTENED.has(last.text) &&
    (next.kind === "number" || (next.kind === "word" && !next.capital))
  );
}

function labelled(tokens: Token[], opensLine: boolean): { label: Token[]; body: Token[] } {
  const end = labelEnd(tokens) || (opensLine ? nameEnd(tokens) : 0);
  return end > 0 ? { label: tokens.slice(0, end), body: tokens.slice(end + 1) } : { label: [], body: tokens };
}

/** Index of the dash in "Signature – 4 × 2 cm", or of the colon in "ID card, front: …"; 0 where there is none. */
function nameEnd(tokens: readonly Token[]): number {
  for (let i = 1; i <= Math.min(MOST_NAME, tokens.length - 2); i += 1) {
    const { text, glued } = tokens[i];
    const ends = text === ":" || (text === "-" && !glued && !tokens[i + 1].glued);
    const name = words(tokens.slice(0, i));
    if (ends) return speaksOfRule(name) || FORMAT.test(name) ? 0 : i;
    if (text === "," ? i === 1 && tokens[0].kind !== "word" : tokens[i].kind !== "word") return 0;
  }
  return 0;
}
