/** Numbers with their units: "330 × 420 px", "30 to 90 KB", "28 mm x 35 mm", "16:9". */
import { amount, wholePixels } from "./numbers";
import type { Token } from "./tokens";

export type QuantityKind =
  | "px"
  | "bytes"
  | "length"
  | "ppi"
  | "percent"
  | "bits"
  | "ratio"
  | "bare"
  | "other";

export interface Quantity {
  kind: QuantityKind;
  form: "single" | "range" | "pair" | "pairs";
  /** single: [v]; range: [low, high]; pair: [first, second]; pairs (from … to): four. */
  values: number[];
  /** The values as a brief file spells them ("30KB", "28mm", "300ppi"), or the bare numbers. */
  texts: string[];
  /** Which side each number of a pair is said to be. */
  labels: ("w" | "h" | null)[];
  /** Tokens, `to` exclusive. */
  from: number;
  to: number;
}

const BYTES: Record<string, string> = {
  b: "B",
  byte: "B",
  bytes: "B",
  k: "KB",
  kb: "KB",
  kbs: "KB",
  kbyte: "KB",
  kbytes: "KB",
  kilobyte: "KB",
  kilobytes: "KB",
  kib: "KiB",
  kibibytes: "KiB",
  mb: "MB",
  mbs: "MB",
  mbyte: "MB",
  mbytes: "MB",
  megabyte: "MB",
  megabytes: "MB",
  meg: "MB",
  megs: "MB",
  mib: "MiB",
  gb: "GB",
  gbyte: "GB",
  gigabyte: "GB",
  gigabytes: "GB",
  gib: "GiB",
};
const LENGTHS: Record<string, string> = {
  mm: "mm",
  millimetre: "mm",
  millimetres: "mm",
  millimeter: "mm",
  millimeters: "mm",
  cm: "cm",
  cms: "cm",
  centimetre: "cm",
  centimetres: "cm",
  centimeter: "cm",
  centimeters: "cm",
  in: "in",
  inch: "in",
  inches: "in",
};
const PIXELS = new Set(["px", "pixel", "pixels", "pxs", "pxl"]);
const DOTS = new Set(["dot", "dots", "px", "pixel", "pixels"]);
const OTHER = new Set([
  "megapixel",
  "megapixels",
  "mp",
  "mpx",
  "mpix",
  "kbit",
  "kbits",
  "mbit",
  "mbits",
  "mbps",
  "kbps",
  "hz",
  "fps",
  "am",
  "pm",
  "h",
  "hrs",
  "hours",
  "minutes",
  "days",
  "m",
  "metre",
  "metres",
  "km",
  "kg",
  "g",
]);
const AFTER_IN = new Set(["wide", "high", "tall", "by", "at", "or", "and", "on", "across", "with"]);
const SIDES: Record<string, "w" | "h"> = {
  w: "w",
  wide: "w",
  width: "w",
  across: "w",
  h: "h",
  high: "h",
  height: "h",
  tall: "h",
};

interface Unit {
  kind: QuantityKind;
  name: string;
  to: number;
}

/** The unit that stands at `at`, right behind a number. */
function unitAt(tokens: readonly Token[], at: number): Unit | null {
  let i = at;
  if (tokens[i]?.text === "-" && tokens[i].glued && tokens[i + 1]?.glued && tokens[i + 1].kind === "word")
    i += 1;
  const token = tokens[i];
  if (!token) return null;
  const [word, next, third] = [token.text, tokens[i + 1]?.text, tokens[i + 2]?.text];
  const found = (kind: QuantityKind, name: string, length: number): Unit => ({ kind, name, to: i + length });
  if (token.kind === "mark") {
    if (word === "%") return found("percent", "%", 1);
    if (word === "in") return found("length", "in", 1);
    if (word === "/" && (next === "cm" || next === "in"))
      return found("ppi", next === "cm" ? "ppcm" : "ppi", 2);
    return null;
  }
  if (word === "dpi" || word === "ppi") return found("ppi", "ppi", 1);
  if (word === "ppcm" || word === "dpcm") return found("ppi", "ppcm", 1);
  if (
    DOTS.has(word) &&
    (next === "per" || next === "/") &&
    third &&
    LENGTHS[third] &&
    LENGTHS[third] !== "mm"
  )
    return found("ppi", LENGTHS[third] === "cm" ? "ppcm" : "ppi", 3);
  if (word === "per" && next && LENGTHS[next] && LENGTHS[next] !== "mm")
    return found("ppi", LENGTHS[next] === "cm" ? "ppcm" : "ppi", 2);
  if (PIXELS.has(word)) return found("px", "px", 1);
  if (word === "per" && next === "cent") return found("percent", "%", 2);
  if (word === "percent") return found("percent", "%", 1);
  if (word === "bit" || word === "bits") return found("bits", "bit", 1);
  if (OTHER.has(word) && !(SIDES[word] && (token.glued || next === ":"))) return found("other", word, 1);
  if (Object.hasOwn(BYTES, word)) return bytesUnit(tokens, i);
  if (Object.hasOwn(LENGTHS, word)) {
    if (word === "in" && !token.glued && tokens[i + 1]?.kind === "word" && !AFTER_IN.has(next!)) return null;
    return found("length", LENGTHS[word], 1);
  }
  return null;
}

function bytesUnit(tokens: readonly Token[], i: number): Unit | null {
  const token = tokens[i];
  const next = tokens[i + 1]?.text;
  // Speeds are not sizes.
  if ((next === "/" && tokens[i + 2]?.text === "s") || (next === "per" && tokens[i + 2]?.text === "second"))
    return { kind: "other", name: "speed", to: i + 1 };
  if (token.text === "b" && !token.glued) return null;
  // "4K" is a screen, not a file.
  if (token.text === "k" && token.glued && (tokens[i - 1]?.value ?? 0) < 10)
    return { kind: "other", name: "k", to: i + 1 };
  // Small k, capital B is the standard's 1000 bytes; "kb" is how people in a hurry write KB.
  return { kind: "bytes", name: token.raw === "kB" ? "kB" : BYTES[token.text], to: i + 1 };
}

/** The unit that a label gives to bare numbers: "Width (px)", "File size in KB", "KB" over a column. */
export function unitNamed(label: readonly Token[]): { kind: QuantityKind; name: string } | null {
  for (const [i, token] of label.entries()) {
    const alone = label.length === 1;
    if (token.kind !== "word" || !(alone || /^[([,]$|^in$/.test(label[i - 1]?.text ?? ""))) continue;
    const unit = unitAt(label, i);
    if (unit && unit.kind !== "other" && token.text !== "in") return { kind: unit.kind, name: unit.name };
  }
  return null;
}

/** "(W)", "wide", "high" behind a number; jumps over it. */
function labelAt(tokens: readonly Token[], at: number): { label: "w" | "h" | null; to: number } {
  const [a, b, c] = [tokens[at], tokens[at + 1], tokens[at + 2]];
  if (a?.text === "(" && b && SIDES[b.text] && c?.text === ")") return { label: SIDES[b.text], to: at + 3 };
  if (a?.text === "in" && b && SIDES[b.text]) return { label: SIDES[b.text], to: at + 2 };
  if (a?.kind === "word" && SIDES[a.text] && b?.text !== ":" && a.text !== "width" && a.text !== "height")
    return { label: SIDES[a.text], to: at + 1 };
  return { label: null, to: at };
}

interface Part {
  number: Token;
  unit: Unit | null;
  label: "w" | "h" | null;
  from: number;
  to: number;
}

function partAt(tokens: readonly Token[], at: number): Part | null {
  const number = tokens[at];
  if (number?.kind !== "number") return null;
  const unit = unitAt(tokens, at + 1);
  const { label, to } = labelAt(tokens, unit?.to ?? at + 1);
  return { number, unit, label, from: at, to };
}

const isTimes = (tokens: readonly Token[], at: number) =>
  tokens[at]?.text === "×" || tokens[at]?.text === "by";

/**
 * All quantities of a run of tokens, in order. `fallback` is the unit that a label or a table heading gives
 * to bare numbers.
 */
export function findQuantities(
  tokens: readonly Token[],
  fallback: { kind: QuantityKind; name: string } | null = null,
): Quantity[] {
  const out: Quantity[] = [];
  let at = 0;
  while (at < tokens.length) {
    const found = tokens[at].kind === "number" ? quantityAt(tokens, at, fallback) : null;
    if (found) {
      out.push(found);
      at = found.to;
    } else at += 1;
  }
  return withUnitsFromBehind(tokens, out);
}

const ONWARDS =
  /^(and|but|nor|,|, and|, but) (not |no |nor )?(more than|less than|larger than|smaller than|over|under|above|below|at most|at least|max|min|maximum|minimum|exceed|exceeding)$/;

/** "No less than 20 and no more than 300 KB": both are kilobytes. */
function withUnitsFromBehind(tokens: readonly Token[], found: Quantity[]): Quantity[] {
  for (const [i, quantity] of found.entries()) {
    const next = found[i + 1];
    if (
      quantity.kind !== "bare" ||
      quantity.form !== "single" ||
      !next ||
      next.form !== "single" ||
      next.kind === "bare" ||
      next.kind === "other"
    )
      continue;
    const between = tokens.slice(quantity.to, next.from).map((token) => token.text);
    const unit = /[^\d.]*$/.exec(next.texts[0])![0];
    // "Quality 80, max 350 KB": a quality has no unit.
    if (!quantity.values.length || before(tokens, quantity.from, ["quality"])) continue;
    if (!ONWARDS.test(between.join(" "))) continue;
    const factor = next.values[0] / Number.parseFloat(next.texts[0]);
    found[i] = {
      ...quantity,
      kind: next.kind,
      values: [quantity.values[0] * factor],
      texts: [`${quantity.values[0]}${unit}`],
    };
  }
  return found;
}

function quantityAt(
  tokens: readonly Token[],
  at: number,
  fallback: { kind: QuantityKind; name: string } | null,
): Quantity | null {
  const first = partAt(tokens, at)!;
  if (tokens[first.to]?.text === ":" && tokens[first.to].glued && !first.unit) {
    const second = partAt(tokens, first.to + 1);
    if (second?.number.glued) return ratio(first, second);
  }
  if (isTimes(tokens, first.to)) {
    const pair = pairAt(tokens, first, fallback);
    if (pair) return pair;
  }
  const joint = rangeJoint(tokens, first);
  const second = joint === null ? null : partAt(tokens, joint);
  if (second && !isTimes(tokens, second.to)) {
    const unit = second.unit ?? (first.unit && !second.unit ? first.unit : null) ?? fallbackUnit(fallback);
    if (unit && (!first.unit || !second.unit || first.unit.kind === second.unit.kind)) {
      const parts = [first, second].map((part) => ({ ...part, unit: part.unit ?? unit }));
      return build("range", parts, second.to);
    }
  }
  const unit = first.unit ?? fallbackUnit(fallback);
  if (!unit)
    return {
      kind: "bare",
      form: "single",
      values: first.number.value === null ? [] : [first.number.value],
      texts: [first.number.text],
      labels: [first.label],
      from: at,
      to: first.to,
    };
  return build("single", [{ ...first, unit }], first.to);
}

const fallbackUnit = (fallback: { kind: QuantityKind; name: string } | null): Unit | null =>
  fallback ? { ...fallback, to: 0 } : null;

/** Where the second number of a range stands: behind "to", "-", "…", or "and" after "between". */
function rangeJoint(tokens: readonly Token[], first: Part): number | null {
  const [a, b, c] = [tokens[first.to], tokens[first.to + 1], tokens[first.to + 2]];
  if (!a) return null;
  const number = (token: Token | undefined) => token?.kind === "number";
  if ((a.text === "-" || a.text === "…" || a.text === "to" || a.text === "till") && number(b))
    return first.to + 1;
  if (a.text === "up" && b?.text === "to" && number(c))
    return before(tokens, first.from, ["from"]) ? first.to + 2 : null;
  if (a.text === "and" && number(b) && before(tokens, first.from, ["between"])) return first.to + 1;
  return null;
}

function before(tokens: readonly Token[], at: number, words: readonly string[]): boolean {
  for (let i = at - 1; i >= Math.max(0, at - 3); i -= 1) if (words.includes(tokens[i].text)) return true;
  return false;
}

function pairAt(
  tokens: readonly Token[],
  first: Part,
  fallback: { kind: QuantityKind; name: string } | null,
): Quantity | null {
  const second = partAt(tokens, first.to + 1);
  if (!second) return null;
  const open: Quantity = {
    kind: "other",
    form: "pair",
    values: [],
    texts: [],
    labels: [],
    from: first.from,
    to: second.to,
  };
  // Three sides are a thing, not a picture.
  if (isTimes(tokens, second.to) && tokens[second.to + 1]?.kind === "number")
    return { ...open, to: second.to + 2 };
  const unit = second.unit ?? first.unit ?? fallbackUnit(fallback);
  if (first.unit && second.unit && first.unit.kind !== second.unit.kind) return open;
  if (tokens[first.to].text === "by" && !unit) return open;
  const parts = [first, second].map((part) => ({
    ...part,
    unit: part.unit ?? unit ?? { kind: "bare" as const, name: "", to: 0 },
  }));
  const pair = build("pair", parts, second.to);
  // "between 300 × 300 and 600 × 600 px", "300×300 to 600×600".
  const joint = tokens[pair.to]?.text;
  const joins =
    joint === "to" || joint === "-" || (joint === "and" && before(tokens, first.from, ["between"]));
  const third = joins ? partAt(tokens, pair.to + 1) : null;
  if (third && isTimes(tokens, third.to)) {
    const other = pairAt(
      tokens,
      third,
      pair.kind === "bare" ? fallback : { kind: pair.kind, name: parts[1].unit.name },
    );
    if (other?.form === "pair" && (other.kind === pair.kind || pair.kind === "bare")) {
      const kind = other.kind;
      const low = kind === pair.kind ? pair : { ...pair, kind };
      return {
        ...low,
        form: "pairs",
        values: [...low.values, ...other.values],
        texts: [...low.texts, ...other.texts],
        to: other.to,
      };
    }
  }
  return pair;
}

function ratio(first: Part, second: Part): Quantity {
  const values = [first.number.value, second.number.value];
  const good = values.every((v) => v !== null && Number.isInteger(v) && v >= 1 && v <= 100) && !second.unit;
  return {
    kind: good ? "ratio" : "other",
    form: "pair",
    values: good ? (values as number[]) : [],
    texts: [first.number.text, second.number.text],
    labels: [],
    from: first.from,
    to: second.to,
  };
}

/** The quantity of parts that all have a unit; of kind "other" where a number makes no sense in it. */
function build(form: Quantity["form"], parts: readonly (Part & { unit: Unit })[], to: number): Quantity {
  const kind = parts[0].unit.kind;
  const read = parts.map((part) => readPart(part));
  const bad = read.some((part) => part === null) || parts.some((part) => part.unit.kind !== kind);
  const values = bad ? [] : read.map((part) => part!.value);
  const falling = form === "range" && values.length === 2 && values[0] > values[1];
  return {
    kind: bad || falling ? "other" : kind,
    form,
    values,
    texts: bad ? [] : read.map((part) => part!.text),
    labels: parts.map((part) => part.label),
    from: parts[0].from,
    to,
  };
}

function readPart({ number, unit }: Part & { unit: Unit }): { value: number; text: string } | null {
  const value = { value: number.value, decimal: number.decimal };
  if (unit.kind === "px" || unit.kind === "bare" || unit.kind === "bits") {
    const px = wholePixels(value);
    return px === null ? null : { value: px, text: String(px) };
  }
  if (unit.kind === "bytes") {
    const size = amount(value, unit.name !== "MB" && unit.name !== "GB", number.raw);
    if (size === null || size > 2 ** 40) return null;
    const power = unit.name === "B" ? 1 : /^k/i.test(unit.name) ? 1e3 : /^m/i.test(unit.name) ? 1e6 : 1e9;
    return { value: size * power, text: `${size}${unit.name}` };
  }
  const size = amount(value, false, number.raw);
  if (size === null || size > 100_000) return null;
  return { value: unit.name === "ppcm" ? size * 2.54 : size, text: `${size}${unit.name}` };
}
