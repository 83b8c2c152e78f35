/** Resolution: how densely pixels are printed. Kept in pixels per inch. */
import { UnitError } from "./error";

/** The most that is accepted; the rational of an EXIF field would hold more. */
export const MAX_PPI = 100_000;

/** Parses "300ppi", "300 dpi", "120ppcm" to pixels per inch. Throws {@link UnitError} otherwise. */
export function parseResolution(text: string): number {
  const match = /^([0-9]+(?:[.,][0-9]+)?)\s*(ppi|dpi|ppcm|px\/cm|px\/in)$/i.exec(text.trim());
  const value = match ? Number(match[1].replace(",", ".")) : 0;
  if (!match || value <= 0)
    throw new UnitError("resolution", 'a resolution such as "300ppi" or "120ppcm"', `"${text}"`);
  const ppi = /cm$/i.test(match[2]) ? value * 2.54 : value;
  if (ppi > MAX_PPI) throw new UnitError("resolution", `at most ${MAX_PPI} ppi`, `"${text}"`);
  return ppi;
}

/** "300 ppi", "152.4 ppi". */
export function formatPpi(ppi: number): string {
  return `${trimNumber(ppi, 2)} ppi`;
}

/** A number with at most `digits` decimals and no trailing zeros. */
export function trimNumber(value: number, digits: number): string {
  return String(Number(value.toFixed(digits)));
}
