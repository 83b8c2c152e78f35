/**
 * Briefs for people without a wording: plain purposes, each with two or three figures and defaults that suit most
 * receivers (common practice, from memory).
 */
import { parseByteText, parseLength, parseResolution, UnitError } from "../units";
import { parseBrief } from "./parse";
import type { Brief } from "./schema";

export interface StarterField {
  key: string;
  label: string;
  /** What is typed unless somebody says otherwise; "" leaves it free. */
  usual: string;
  /** Of a bare number. */
  unit: "px" | "KB" | "MB" | "mm" | "ppi";
  /** May be left empty. */
  free?: boolean;
}

export interface Starter {
  id: string;
  /** Also the name of its brief. */
  name: string;
  /** What it is for, in one line. */
  about: string;
  fields: StarterField[];
  clauses(
    value: (key: string) => string | undefined,
    px: (key: string) => number | undefined,
  ): Partial<Brief>;
}

const field = (
  key: string,
  label: string,
  usual: string,
  unit: StarterField["unit"],
  free = false,
): StarterField => ({ key, label, usual, unit, free });

export const STARTERS: readonly Starter[] = [
  {
    id: "mail",
    name: "Mail",
    about: "All photos in one message that a mailbox still takes",
    fields: [field("total", "Message", "20 MB", "MB")],
    clauses: (value) => ({ format: ["jpeg"], total: { max: value("total")!, counted: "mail" } }),
  },
  {
    id: "web",
    name: "Web page",
    about: "Quick to load, without the camera's notes",
    fields: [field("side", "Long side", "1600 px", "px"), field("max", "At most", "300 KB", "KB")],
    clauses: (value, px) => ({
      format: ["jpeg"],
      longSide: { max: px("side") },
      fileSize: { max: value("max") },
      colour: { space: "srgb" },
      metadata: "private",
    }),
  },
  {
    id: "screen",
    name: "Screen",
    about: "Shown whole on a screen or projector, without visible loss",
    fields: [field("width", "Width", "1920 px", "px"), field("height", "Height", "1080 px", "px")],
    clauses: (_, px) => ({
      format: ["jpeg"],
      box: { width: px("width")!, height: px("height")! },
      fileSize: { aim: "clean" },
      colour: { space: "srgb" },
    }),
  },
  {
    id: "print",
    name: "Print",
    about: "On paper of a size, cut to its shape",
    fields: [
      field("width", "Width", "100 mm", "mm"),
      field("height", "Height", "150 mm", "mm"),
      field("resolution", "Resolution", "300 ppi", "ppi"),
    ],
    clauses: (value) => ({
      format: ["jpeg"],
      paper: { width: value("width")!, height: value("height")! },
      resolution: { min: value("resolution") },
      frame: "fill",
    }),
  },
  {
    id: "form",
    name: "Form",
    about: "An upload with a floor and a ceiling",
    fields: [
      field("min", "At least", "20 KB", "KB", true),
      field("max", "At most", "50 KB", "KB"),
      field("width", "Width", "", "px", true),
      field("height", "Height", "", "px", true),
    ],
    clauses: (value, px) => ({
      format: ["jpeg"],
      fileSize: { max: value("max"), ...(value("min") && { min: value("min") }) },
      ...(px("width") !== undefined && { width: { exact: px("width") } }),
      ...(px("height") !== undefined && { height: { exact: px("height") } }),
    }),
  },
  {
    id: "hand-in",
    name: "Hand-in",
    about: "A course, a contest, an archive: large, under their own names",
    fields: [field("side", "Long side", "2400 px", "px"), field("max", "At most", "5 MB", "MB")],
    clauses: (value, px) => ({
      format: ["jpeg"],
      longSide: { max: px("side") },
      fileSize: { max: value("max") },
      names: "{name}",
    }),
  },
];

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
