/**
 * Wording cut into tokens. Every token knows its place in the text (UTF-16 units),
 * so that whatever is read later can point at the words it came from. One pass, no backtracking.
 */
import { readNumber } from "./numbers";

export interface Token {
  kind: "word" | "number" | "mark";
  /** Lower case; dashes, multiplication signs and quotes each in one spelling. */
  text: string;
  /** As it was written. */
  raw: string;
  start: number;
  end: number;
  /** Of a number: its value, or null where it is none that a rule can use (dates, phone numbers). */
  value: number | null;
  /** Of "1,500" or "1.500": the value with a decimal mark instead of a thousands separator. */
  decimal: number | null;
  /** No white space before it. */
  glued: boolean;
  /** Of a word: written with a capital first letter. */
  capital: boolean;
  /** Of a word: the ending of a file name ("badge.jpg"). */
  ending: boolean;
}

const WORD = /\p{L}[\p{L}\p{N}]*(?:['’]\p{L}+)*/uy;
const LETTERS = /\p{L}+/uy;
const NUMBER = /\d+(?:[.,'’\u00a0\u202f\u2009]\d+)*/y;
/** Letters and Roman numerals of a list, up to ten of either. */
const IN_BRACKETS = /\((?:[a-j]|i{1,3}|iv|vi{0,3}|ix|x|\d{1,2})\)(?=\s)/iy;
const BEFORE_BRACKET = /(?:[a-j]|i{1,3}|iv|vi{0,3}|ix|x)\)(?=\s)/iy;
const BEFORE_DOT = /[a-j]\.(?=\s)/iy;
/** What begins a list, and what then follows in it. */
const FIRSTS = {
  brackets: [/(?:^|\s)\((?:a|i|1)\)\s/gi, /\s\((?:b|ii|2)\)\s/i],
  inLine: [/(?:^|\s)(?:1|i|a)\)\s/gi, /\s(?:2|ii|b)\)\s/i],
  dots: [/(?:^|\n)[ \t]*a\.\s/gi, /\n[ \t]*b\.\s/i],
} as const;
/** The second item follows within so many characters; so many beginnings are looked at. */
const [WITHIN, BEGINNINGS] = [4000, 20];

/** Whether a list of a kind begins somewhere: a single "(c)" is none. */
function lists(source: string, kind: keyof typeof FIRSTS): boolean {
  const [first, second] = FIRSTS[kind];
  let looked = 0;
  for (const { index } of source.matchAll(first)) {
    if (second.test(source.slice(index, index + WITHIN))) return true;
    looked += 1;
    if (looked === BEGINNINGS) break;
  }
  return false;
}

const LINK = /https?:\/\/\S{1,2000}/iy;
const TAG = /<[a-z/!][^<>\n]{0,300}>/iy;
const TIMES = new Set(["×", "✕", "✖", "⨯", "✗", "х", "Х", "*", "∗"]);
const DASHES = new Set(["-", "‐", "‑", "‒", "–", "—", "―", "−", "﹣", "-"]);
const BULLETS = new Set(["•", "·", "◦", "▪", "‣", "●", "■", "▸", "➤", "*"]);
const INCHES = new Set(["″", "”", "“", '"', "˝"]);
const UNIT_WORD = /^(px|pixels?|mm|cm|in|inch|inches|w|h)$/;
const UNIT_BEFORE_X = /^(px|pixels?|mm|cm|in|inch|inches)x$/;

const fresh = ({
  kind,
  text,
  raw,
  start,
  glued,
}: {
  kind: Token["kind"];
  text: string;
  raw: string;
  start: number;
  glued: boolean;
}): Token => ({
  kind,
  text,
  raw,
  start,
  end: start + raw.length,
  glued,
  value: null,
  decimal: null,
  capital: false,
  ending: false,
});

export function tokenise(text: string): Token[] {
  return saidOnce(new Scanner(text).run());
}

const IN_WORDS =
  /^(one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|thirteen|fourteen|fifteen|sixteen|eighteen|twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety|hundred|thousand)$/;

/** "Sixteen (16) bits": of a number in words and in figures only the figures stay. */
function saidOnce(tokens: Token[]): Token[] {
  const out: Token[] = [];
  for (let i = 0; i < tokens.length; i += 1) {
    const [word, open, number, close] = tokens.slice(i, i + 4);
    const twice =
      close?.text === ")" && open.text === "(" && number.kind === "number" && IN_WORDS.test(word.text);
    if (twice) out.push(number);
    else out.push(word);
    if (twice) i += 3;
  }
  return out;
}

class Scanner {
  private readonly out: Token[] = [];
  private readonly listsInBrackets: boolean;
  private readonly listsInLine: boolean;
  private readonly listsByDots: boolean;
  private at = 0;
  private spaced = true;
  private lineStart = true;

  constructor(private readonly source: string) {
    this.listsInBrackets = lists(source, "brackets");
    this.listsInLine = lists(source, "inLine");
    this.listsByDots = lists(source, "dots");
  }

  run(): Token[] {
    while (this.at < this.source.length) this.step();
    return this.out;
  }

  private get last(): Token | undefined {
    return this.out[this.out.length - 1];
  }

  private match(pattern: RegExp): string | null {
    pattern.lastIndex = this.at;
    return pattern.exec(this.source)?.[0] ?? null;
  }

  private push(kind: Token["kind"], text: string, length: number): Token {
    const token = fresh({
      kind,
      text,
      raw: this.source.slice(this.at, this.at + length),
      start: this.at,
      glued: !this.spaced,
    });
    this.out.push(token);
    this.at += length;
    this.spaced = false;
    this.lineStart = false;
    return token;
  }

  private step(): void {
    const char = this.source[this.at];
    if (char === "\n" || char === "\r") return this.newline();
    if (this.lettered()) return;
    if (char === "\t" || char === "|") {
      this.push("mark", "|", 1);
      this.spaced = true;
      return;
    }
    if (char === " " || /\s/.test(char)) {
      this.at += 1;
      this.spaced = true;
      return;
    }
    if (char >= "0" && char <= "9") return this.number();
    if (this.afterNumber() && this.times(char)) return;
    if (char === "<") {
      const tag = this.match(TAG);
      if (tag) return void this.push("mark", "tag", tag.length);
    }
    if (
      (char >= "a" && char <= "z") ||
      (char >= "A" && char <= "Z") ||
      (char > "\u007f" && (/\p{L}/u.test(char) || char >= "\ud800"))
    )
      return this.word();
    this.mark(char);
  }

  private newline(): void {
    const start = this.at;
    let lines = 0;
    while (this.at < this.source.length && /[\s]/.test(this.source[this.at])) {
      if (
        this.source[this.at] === "\n" ||
        (this.source[this.at] === "\r" && this.source[this.at + 1] !== "\n")
      )
        lines += 1;
      if (this.source[this.at] === "\t") break;
      this.at += 1;
    }
    this.out.push(fresh({ kind: "mark", text: lines > 1 ? "\n\n" : "\n", raw: "\n", start, glued: false }));
    this.spaced = true;
    this.lineStart = true;
  }

  private number(): void {
    const raw = this.match(NUMBER)!;
    const behind = this.source.slice(this.at + raw.length, this.at + raw.length + 2);
    const listItem =
      /^\d{1,2}$/.test(raw) &&
      (this.lineStart ? /^[.)]\s/.test(behind) : this.spaced && this.listsInLine && /^\)\s/.test(behind));
    if (listItem) return void this.push("mark", "•", raw.length + 1);
    const token = this.push("number", raw, raw.length);
    Object.assign(token, readNumber(raw));
  }

  /** "(a) … ; (b) …" and "a) … ; b) …", also inside one sentence; "A. …" at the beginning of lines. */
  private lettered(): boolean {
    if (!this.spaced) return false;
    const inBrackets = this.source[this.at] === "(" && this.listsInBrackets;
    if (!inBrackets && !this.lineStart && !this.listsInLine) return false;
    const mark =
      this.match(inBrackets ? IN_BRACKETS : BEFORE_BRACKET) ??
      (this.lineStart && this.listsByDots ? this.match(BEFORE_DOT) : null);
    if (mark) this.push("mark", "•", mark.length);
    return mark !== null;
  }

  private afterNumber(): boolean {
    const last = this.last;
    return (
      last !== undefined &&
      (last.kind === "number" || last.kind === "word" || last.text === "in" || last.text === ")")
    );
  }

  /** "×" in any spelling, or the letter x, in front of a number. */
  private times(char: string): boolean {
    const letter = char === "x" || char === "X";
    if (!letter && !TIMES.has(char)) return false;
    if (!/^\s{0,3}[\d(]/.test(this.source.slice(this.at + 1, this.at + 5))) {
      // "W × H", "height x width".
      if (!/^\s{1,3}\p{L}/u.test(this.source.slice(this.at + 1, this.at + 5)) || (letter && !this.spaced))
        return false;
    }
    // "Class X (PDF)": a bracket is multiplied by numbers only.
    if (
      letter &&
      this.last!.kind === "word" &&
      /^\s{0,3}\(/.test(this.source.slice(this.at + 1, this.at + 5))
    )
      return false;
    if (letter && this.last!.kind === "word" && !this.spaced && !UNIT_WORD.test(this.last!.text))
      return false;
    this.push("mark", "×", 1);
    return true;
  }

  /**
   * A word of plain letters, without the cost of a Unicode pattern; null where it goes on with something
   * else.
   */
  private plain(digits: boolean): string | null {
    let end = this.at;
    for (; end < this.source.length; end += 1) {
      const code = this.source.charCodeAt(end);
      const letter = (code >= 97 && code <= 122) || (code >= 65 && code <= 90);
      if (!letter && !(digits && end > this.at && code >= 48 && code <= 57)) break;
    }
    const next = this.source.charCodeAt(end);
    return end === this.at || next > 127 || next === 39 ? null : this.source.slice(this.at, end);
  }

  private word(): void {
    const link = /[hH]/.test(this.source[this.at]) ? this.match(LINK) : null;
    if (link) return void this.push("word", "link", link.length);
    const afterDigits = this.last?.kind === "number" && !this.spaced;
    let raw = this.plain(!afterDigits) ?? this.match(afterDigits ? LETTERS : WORD);
    if (raw === null) {
      this.at += 1;
      return;
    }
    // "28mmx35mm", "330pxX420px".
    const next = this.source[this.at + raw.length] ?? "";
    if (afterDigits && UNIT_BEFORE_X.test(raw.toLowerCase()) && /[\d\s]/.test(next)) raw = raw.slice(0, -1);
    if (next === "@")
      return void this.push(
        "word",
        "address",
        raw.length +
          (/^\S{1,200}/.exec(this.source.slice(this.at + raw.length, this.at + raw.length + 200))?.[0]
            .length ?? 0),
      );
    const dot = !this.spaced && this.last?.text === "." && this.last.glued;
    const token = this.push(
      "word",
      raw.includes("’") ? raw.toLowerCase().replace(/’/g, "'") : raw.toLowerCase(),
      raw.length,
    );
    token.capital = raw[0] !== token.text[0];
    token.ending = dot && this.out[this.out.length - 3]?.kind !== "mark";
  }

  private mark(char: string): void {
    if (
      this.lineStart &&
      (BULLETS.has(char) || (DASHES.has(char) && /\s/.test(this.source[this.at + 1] ?? "")))
    )
      return void this.push("mark", "•", 1);
    if (BULLETS.has(char) && char !== "*" && char !== "·") return void this.push("mark", "•", 1);
    if (DASHES.has(char)) return void this.push("mark", "-", 1);
    if (INCHES.has(char) && this.last?.kind === "number" && !this.spaced)
      return void this.push("mark", "in", 1);
    const two = this.source.slice(this.at, this.at + 2);
    if (two === "<=" || two === ">=") return void this.push("mark", two === "<=" ? "≤" : "≥", 2);
    if (char === "⩽") return void this.push("mark", "≤", 1);
    if (char === "…" || two === "..") {
      const dots = /^[.…]+/.exec(this.source.slice(this.at, this.at + 50))![0];
      return void this.push("mark", "…", dots.length);
    }
    this.push("mark", char, 1);
  }
}
