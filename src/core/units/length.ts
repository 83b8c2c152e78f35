/** Lengths on paper. 1 in = 25.4 mm exactly (international inch, 1959); 1 pt = 1/72 in (CSS Values, PDF). */
import { UnitError } from "./error";

export const LENGTH_UNITS = ["mm", "cm", "in", "pt"] as const;
export type LengthUnit = (typeof LENGTH_UNITS)[number];
const INCHES: Record<LengthUnit, number> = { mm: 1 / 25.4, cm: 10 / 25.4, in: 1, pt: 1 / 72 };

export interface Length {
  value: number;
  unit: LengthUnit;
}

/**
 * Parses "40mm", "8.5 in", "2,5 cm", `8"`. Throws {@link UnitError} otherwise, and for lengths of 0 or less.
 */
export function parseLength(text: string): Length {
  const match = /^([0-9]+(?:[.,][0-9]+)?)\s*(mm|cm|in|pt|"|″)$/i.exec(text.trim());
  const value = match ? Number(match[1].replace(",", ".")) : 0;
  if (!match || value <= 0)
    throw new UnitError("length", 'a length with its unit, such as "40mm" or "8in"', `"${text}"`);
  const unit = match[2] === '"' || match[2] === "″" ? "in" : (match[2].toLowerCase() as LengthUnit);
  return { value, unit };
}

/** Inches of a length. */
export function toInches(length: Length): number {
  return length.value * INCHES[length.unit];
}

/** Pixels (not rounded) that a length holds at a resolution in ppi. */
export function lengthToPixels(length: Length, ppi: number): number {
  return toInches(length) * ppi;
}

/** Points in an inch. */
export const POINTS_PER_INCH = 72;
