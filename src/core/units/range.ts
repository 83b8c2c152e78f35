/** Ranges typed by people: "480", "300–600", "at most 1100 px", "≥ 600". */

export interface Typed<T> {
  exact?: T;
  min?: T;
  max?: T;
}

const CEILING = /^(?:at most|up to|max(?:imum)?[.]?|no more than|≤|<=|<)\s*/i;
const FLOOR = /^(?:at least|from|min(?:imum)?[.]?|no less than|≥|>=|>)\s*/i;
const BETWEEN = /^(.+?)\s*(?:-|–|—|\bto\b|…)\s*(.+)$/i;

/**
 * Reads a range whose values `parse` reads; it throws where they cannot be. A unit may stand with the last
 * value only.
 */
export function parseRange<T>(text: string, parse: (value: string) => T): Typed<T> {
  const typed = text.trim();
  if (CEILING.test(typed)) return { max: parse(typed.replace(CEILING, "")) };
  if (FLOOR.test(typed)) {
    const rest = typed.replace(FLOOR, "");
    const upper = BETWEEN.exec(rest);
    return upper
      ? { min: parse(withUnitOf(upper[1], upper[2])), max: parse(upper[2]) }
      : { min: parse(rest) };
  }
  const between = BETWEEN.exec(typed);
  return between
    ? { min: parse(withUnitOf(between[1], between[2])), max: parse(between[2]) }
    : { exact: parse(typed) };
}

function withUnitOf(value: string, other: string): string {
  return /^[0-9.,\s]+$/.test(value) ? `${value.trim()}${/[^0-9.,\s].*$/.exec(other)?.[0] ?? ""}` : value;
}

/** The same in a field: "480", "300–600", "at most 1100". */
export function rangeText(range: Typed<string | number> | undefined): string {
  if (!range) return "";
  if (range.exact !== undefined) return String(range.exact);
  if (range.min !== undefined && range.max !== undefined) return `${range.min}–${range.max}`;
  return range.min !== undefined ? `at least ${range.min}` : `at most ${range.max}`;
}
