/** A part of a picture's height: a length on its paper, or per cent. */
import { UnitError } from "./error";
import { parseLength, toInches } from "./length";

export interface Measure {
  /** Inches of paper, or a share of the picture, 1 being all of it. */
  of: "paper" | "picture";
  value: number;
}

/** Parses "32mm", "1.25 in", "70%". Throws {@link UnitError} otherwise, and for shares of 0 or above 100 %. */
export function parseMeasure(text: string): Measure {
  const percent = /^([0-9]+(?:[.,][0-9]+)?)\s*%$/.exec(text.trim());
  if (!percent) {
    if (/%/.test(text)) throw new UnitError("share", 'per cent such as "70%"', `"${text}"`);
    return { of: "paper", value: toInches(parseLength(text)) };
  }
  const value = Number(percent[1].replace(",", ".")) / 100;
  if (value <= 0 || value > 1) throw new UnitError("share", "more than 0 and at most 100 %", `"${text}"`);
  return { of: "picture", value };
}
