/** What a run made of what, as a table and as JSON. */
import type { Check, Facts } from "../../proof";

export interface ManifestRow {
  source: string;
  output: string;
  before: Facts;
  after: Facts;
  checks: readonly Check[];
  difference: number | null;
}

const COLUMNS = [
  "source",
  "output",
  "source bytes",
  "output bytes",
  "source pixels",
  "output pixels",
  "source format",
  "output format",
  "difference",
  "met",
  "checks",
];

/**
 * RFC 4180: commas, CRLF, quotes doubled. A cell that a spreadsheet would take for a formula is led by an
 * apostrophe.
 */
function cell(value: string | number): string {
  const text = typeof value === "number" ? String(value) : /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

const pixels = ({ width, height }: Facts): string => `${width}x${height}`;
const rounded = (difference: number): number => Math.round(difference * 1000) / 1000;
const met = (checks: readonly Check[]): boolean => checks.every((check) => check.ok !== false);
const checkWords = (checks: readonly Check[]): string =>
  checks.map((check) => `${check.clause}: asked ${check.asked}, found ${check.found}`).join("; ");

/** With a line of headings and a byte order mark, without which spreadsheets misread names. */
export function manifestCsv(rows: readonly ManifestRow[]): string {
  const lines = rows.map(({ source, output, before, after, checks, difference }) => [
    source,
    output,
    before.bytes,
    after.bytes,
    pixels(before),
    pixels(after),
    before.format,
    after.format,
    difference === null ? "" : rounded(difference),
    met(checks) ? "yes" : "no",
    checkWords(checks),
  ]);
  return `\ufeff${[COLUMNS, ...lines].map((line) => `${line.map(cell).join(",")}\r\n`).join("")}`;
}

export function manifestJson(title: string, rows: readonly ManifestRow[]): string {
  const facts = ({ format, width, height, bytes, resolution, bits, colourSpace, quality }: Facts) => ({
    format,
    width,
    height,
    bytes,
    resolution,
    bits,
    colourSpace,
    quality,
  });
  const files = rows.map(({ before, after, difference, ...row }) => ({
    ...row,
    before: facts(before),
    after: facts(after),
    difference: difference === null ? null : rounded(difference),
    met: met(row.checks),
  }));
  return `${JSON.stringify({ title, files }, null, 2)}\n`;
}
