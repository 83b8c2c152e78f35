/** From JSON text or an unknown value to a {@link Brief}, with one clear sentence when that fails. */
import type { z } from "zod";
import { resolveByteRange, UnitError } from "../units";
import { BriefError, MAX_BRIEF_TEXT } from "./error";
import { jsonFault } from "./json-walk";
import { type Brief, briefSchema } from "./schema";

/** Reads the text of a `.brief.json` file. Throws {@link BriefError}. */
export function parseBriefText(text: string): Brief {
  if (text.length > MAX_BRIEF_TEXT) {
    throw new BriefError(`The brief has ${text.length} characters; at most ${MAX_BRIEF_TEXT} are read.`);
  }
  const fault = jsonFault(text);
  if (fault?.kind === "duplicate")
    throw new BriefError(
      `The brief's ${fault.path} is there twice: wanted each key once. Remove one of them.`,
    );
  if (fault?.kind === "not a number")
    throw new BriefError(`The brief's ${fault.path}: wanted a number, found ${fault.found}.`);
  if (fault)
    throw new BriefError(`The brief's ${fault.path}: wanted a flat brief, found ${fault.found} of braces.`);
  let value: unknown;
  try {
    value = JSON.parse(text.replace(/^\uFEFF/, ""));
  } catch (error) {
    throw new BriefError(
      `The brief is not JSON: ${error instanceof Error ? error.message : String(error)}. Check its ` +
        "commas and quotes.",
    );
  }
  return parseBrief(value);
}

/** Checks a value against the schema and across its keys. Throws {@link BriefError}. */
export function parseBrief(value: unknown): Brief {
  const result = briefSchema.safeParse(value);
  if (!result.success) throw new BriefError(describe(result.error.issues[0], value));
  const brief = result.data;
  try {
    if (brief.fileSize) resolveByteRange(brief.fileSize);
  } catch (error) {
    if (error instanceof UnitError)
      throw new BriefError(`The brief's fileSize: wanted ${error.wanted}, found ${error.found}.`);
    throw error;
  }
  return brief;
}

function describe(issue: z.core.$ZodIssue, root: unknown): string {
  const where = issue.path.map(String).join(".");
  const found = show(
    issue.path.reduce<unknown>((at, key) => (at as Record<PropertyKey, unknown> | undefined)?.[key], root),
  );
  if (issue.code === "unrecognized_keys") {
    const keys = issue.keys.map((key) => `"${key}"`).join(", ");
    return (
      `The brief has an unknown key ${keys}${where ? ` in ${where}` : ""}. Remove it or correct its ` +
      "spelling."
    );
  }
  if (where === "")
    return `The brief must be one JSON object with "zumbrelBrief": 1 and a name; found ${found}.`;
  if (where === "zumbrelBrief")
    return `The brief's zumbrelBrief: wanted 1, found ${found}. Only version 1 is read.`;
  if (issue.code === "invalid_value")
    return (
      `The brief's ${where}: wanted ${issue.values.map((v) => JSON.stringify(v)).join(" or ")}, found ` +
      `${found}.`
    );
  const message = wanted(issue);
  return `The brief's ${where}: ${message}${message.includes("found") ? "" : `, found ${found}`}.`;
}

const KINDS: Record<string, string> = {
  int: "a whole number",
  number: "a number",
  string: "text",
  object: "an object with keys",
  array: "a list",
};

function wanted(issue: z.core.$ZodIssue): string {
  const unit = (origin: string) => ({ string: " characters", array: " entries" })[origin] ?? "";
  if (issue.code === "invalid_type") return `wanted ${KINDS[issue.expected] ?? issue.expected}`;
  if (issue.code === "too_big") return `wanted at most ${String(issue.maximum)}${unit(issue.origin)}`;
  if (issue.code === "too_small") return `wanted at least ${String(issue.minimum)}${unit(issue.origin)}`;
  return issue.message
    .replace(/^Invalid input: expected/, "wanted")
    .replace(/, received .*$/, "")
    .replace(/[.]$/, "");
}

function show(value: unknown): string {
  if (value === undefined) return "nothing";
  if (typeof value === "number" && !Number.isFinite(value)) return String(value);
  const text = JSON.stringify(value) ?? String(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text;
}
