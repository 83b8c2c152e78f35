/** Figures of a message: "8 KB", "200 × 230", "300 dpi", each with the words around it. */

export type FigureKind = "bytes" | "pixels" | "width" | "height" | "ppi" | "length";

export interface Figure {
  kind: FigureKind;
  /** As a brief spells them: one number, or two of a pair. */
  texts: string[];
  values: number[];
  start: number;
  end: number;
  /** What is said between the figure before, or the sentence's beginning, and this one; and behind it. */
  before: string;
  after: string;
  /** How the figure before is joined to it: "to", "and"; null where it is not. */
  joint: string | null;
}

const UNIT =
  "kb|kbytes?|kilobytes?|kib|k|mb|mbytes?|megabytes?|megs?|mib|bytes?|octets|b|px|pixels?|dpi|ppi|mm|cm";
const FIGURE = new RegExp(
  `(?<![\\w.,])(\\d+(?:[.,]\\d+)*)(?:\\s*(${UNIT})(?![\\w%]))?` +
    `(?:\\s*(?:×|x|\\*|by)\\s*(\\d+(?:[.,]\\d+)*)(?:\\s*(${UNIT})(?![\\w%]))?)?(?![\\w%])`,
  "gi",
);
const UNITS: readonly (readonly [RegExp, Figure["kind"], string])[] = [
  [/^kb$|^kbytes?$|^kilobytes?$|^k$/i, "bytes", "KB"],
  [/^kib$/i, "bytes", "KiB"],
  [/^mb$|^mbytes?$|^megabytes?$|^megs?$/i, "bytes", "MB"],
  [/^mib$/i, "bytes", "MiB"],
  [/^b$|^bytes?$|^octets$/i, "bytes", "B"],
  [/^px$|^pixels?$/i, "pixels", ""],
  [/^dpi$|^ppi$/i, "ppi", "ppi"],
  [/^mm$/i, "length", "mm"],
  [/^cm$/i, "length", "cm"],
];
/** Codes of mail servers are no figures. RFC 5321 4.2.1 and RFC 3463. */
const CODES =
  /^\W*[245]\d\d[ -](?:[245]\.\d{1,3}\.\d{1,3}\b|(?!\s*(?:x|×|by|[kmg]i?b|bytes?|px|pixels?|[dp]pi|mm|cm)\b))|\b[245]\.\d{1,3}\.\d{1,3}\b/gim;

/** The text with what must not be read as a figure made blank; positions stay. */
export const withoutCodes = (text: string): string => text.replace(CODES, (code) => " ".repeat(code.length));

interface Raw {
  numbers: string[];
  unit: string | null;
  start: number;
  end: number;
}

export function figuresOf(text: string): Figure[] {
  const raws = [...withoutCodes(text).matchAll(FIGURE)].map(rawOf);
  // "between 20 and 50 KB": the first has its unit from the second.
  for (const [i, raw] of raws.entries()) {
    const next = raws[i + 1];
    if (raw.unit === null && next && JOINT.test(text.slice(raw.end, next.start))) raw.unit = next.unit;
  }
  const out: Figure[] = [];
  let last = 0;
  for (const [i, raw] of raws.entries()) {
    const before = sentence(text.slice(last, raw.start), "end");
    const after = sentence(text.slice(raw.end, raws[i + 1]?.start ?? text.length), "start");
    const figure = figureOf(raw, before, after);
    if (!figure) continue;
    const gap = out.length ? text.slice(out.at(-1)!.end, raw.start) : "";
    out.push({ ...figure, joint: out.length && JOINT.test(gap) ? gap.trim() : null });
    last = raw.end;
  }
  return out;
}

const JOINT = /^\s*(to|and|till|until|-|–|—|…)\s*$/i;

function rawOf(match: RegExpMatchArray): Raw {
  const [whole, first, unit, second, other] = match;
  const start = match.index!;
  const end = start + whole.trimEnd().length;
  if (second !== undefined) return { numbers: [first, second], unit: other ?? unit ?? null, start, end };
  return { numbers: [first], unit: unit ?? null, start, end };
}

/** Only what belongs to the same sentence. */
function sentence(text: string, side: "start" | "end"): string {
  const parts = text.split(/[.!?;\n]+(?:\s|$)/);
  return (side === "end" ? parts.at(-1)! : parts[0]).toLowerCase();
}

function figureOf(
  { numbers, unit, start, end }: Raw,
  before: string,
  after: string,
): Omit<Figure, "joint"> | null {
  const [, kind, name] = UNITS.find(([is]) => unit && is.test(unit)) ?? [null, "pixels" as const, ""];
  const values = numbers.map(numberOf);
  if (values.some((value) => value === null || value <= 0)) return null;
  const common = { values: values as number[], start, end, before, after };
  if (kind !== "pixels") {
    if ((kind === "length") !== (numbers.length === 2)) return null;
    return { ...common, kind, texts: values.map((value) => `${value}${name}`) };
  }
  if (!values.every((value) => Number.isInteger(value))) return null;
  const texts = values.map(String);
  if (numbers.length === 2) return { ...common, kind, texts };
  const side = /\bwidth|\bwide\b/.test(before) ? "width" : /\bheight|\bhigh\b/.test(before) ? "height" : null;
  return side ? { ...common, kind: side, texts } : null;
}

/** "1,200" is twelve hundred, "1,5" one and a half. */
function numberOf(text: string): number | null {
  const plain = /^\d{1,3}(,\d{3})+$/.test(text) ? text.replaceAll(",", "") : text.replace(",", ".");
  const value = Number(plain);
  return Number.isFinite(value) ? value : null;
}
