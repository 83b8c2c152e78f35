/** From a purpose and what was typed to a brief. */
import { parseByteText, parseLength, parseResolution, UnitError } from "../units";
import { parseBrief } from "./parse";
import type { Brief } from "./schema";
import type { Starter, StarterField } from "./starters";

/** The brief of a purpose with what was typed. Throws a BriefError, or an Error that names the field that is missing. */
export function starterBrief({ name, fields, clauses }: Starter, typed: Record<string, string>): Brief {
  const value = (key: string): string | undefined => {
    const asked = fields.find((one) => one.key === key)!;
    const text = (typed[key] ?? asked.usual).trim();
    if (text)
      return readable(asked, /^[0-9.,]+$/.test(text) ? `${text.replace(",", ".")} ${asked.unit}` : text);
    if (asked.free) return undefined;
    throw new Error(`${asked.label} is empty. Say it, such as ${asked.usual}.`);
  };
  const px = (key: string): number | undefined => {
    const text = value(key);
    if (text === undefined) return undefined;
    const digits = /^(\d{1,6})\s*(px|pixels?)?$/i.exec(text)?.[1];
    if (digits) return Number(digits);
    const { label } = fields.find((one) => one.key === key)!;
    throw new Error(`${label} is wanted in whole pixels, found "${text}". Say it such as 1600 px.`);
  };
  return parseBrief({ zumbrelBrief: 1, name, ...clauses(value, px) });
}

const READ: Partial<Record<StarterField["unit"], (text: never) => unknown>> = {
  KB: parseByteText,
  MB: parseByteText,
  mm: parseLength,
  ppi: parseResolution,
};

/** The text itself; throws an Error that names its field where it cannot be read. */
function readable({ label, unit }: StarterField, text: string): string {
  try {
    READ[unit]?.(text as never);
    return text;
  } catch (error) {
    if (!(error instanceof UnitError)) throw error;
    throw new Error(`${label} is wanted as ${error.wanted}, found ${error.found}.`);
  }
}
