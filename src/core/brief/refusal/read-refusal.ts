/**
 * A receiver's message after a refused upload or a returned mail: what it found, and what it asks. The two are kept
 * apart: "Error: 8 KB. Signature must be between 10 KB and 20 KB" asks nothing of 8 KB.
 */

import { toBytes } from "../../units";
import type { OutputFormat } from "../keys";
import type { Brief } from "../schema";
import { formatName } from "../words";
import { type Figure, figuresOf, withoutCodes } from "./figures";
import { formatsOf } from "./formats";

/** One thing that a receiver says of what it got. */
export type Said =
  | { kind: "bytes"; words: string; bytes: number }
  | { kind: "pixels"; words: string; width: number; height: number }
  | { kind: "resolution"; words: string; ppi: number }
  | { kind: "format"; words: string; format: string };

export interface Refusal {
  /** What it asks, as far as it says so. */
  asked: Pick<Brief, "fileSize" | "total" | "width" | "height" | "resolution" | "paper" | "format">;
  found: Said[];
}

/** A longer message is a page of rules. */
const LONGEST = 4000;

/** Said of what has happened to a file, not of what happens to files. */
const HAPPENED: readonly RegExp[] = [
  /^\W*(error|refused|rejected|failed|failure|sorry|warning|invalid|upload failed|delivery failed)\b/im,
  /\b(upload|submission|delivery|validation|transfer) (has )?(failed|was (refused|rejected|unsuccessful)|unsuccessful|error)\b/i,
  /\b(was|were|has been|have been|could|is) (refused|rejected|returned|bounced|declined|not (be )?(accepted|uploaded|delivered|sent|processed|saved))\b/i,
  /\b(cannot|can't|could not|couldn't|unable to) (be )?(upload|uploaded|accept|accepted|deliver|delivered|process|processed|send|sent)\b/i,
  /\b(undeliver\w*|mail delivery|delivery status|postmaster)\b/i,
  /(?<!\b(?:that|which|if|when)\b[^.]{0,20})\btoo (large|big|small|heavy|wide|tall|low|high|long|short)\b/i,
  /(?<!\b(?:that|which|if|when|not|never|must|may|cannot|should)\b[^.]{0,24})\b(exceeds|exceeded|does not match|did not match|does not meet|is not (allowed|accepted|supported|valid))\b/i,
  /\b(yours|you (sent|uploaded|submitted)|your (file|image|photo|photograph|picture|message|upload|signature|scan|document|attachment|portrait)) (is|was|has|have|weighs|measures|does not|did not|exceeds)\b/i,
  /\bthe (file|picture|image|photo|page) (has|is|was|measures) \d/i,
  /(?:^|\s)5\d\d[ -](?:5\.\d{1,3}\.\d{1,3})?/m,
];

const isRefusal = (text: string): boolean =>
  text.length <= LONGEST && HAPPENED.some((pattern) => pattern.test(text));

/** Null for what is no refusal, or says nothing that could be held against a brief. */
export const readRefusal = (text: string): Refusal | null => (isRefusal(text) ? partOf(text) : null);

/** A refusal, and the document that it is about; null where it names none. */
export interface DocumentRefusal extends Refusal {
  name: string | null;
}

/** A message about several documents, by what each is called in it. Empty for what is no refusal. */
export function readRefusals(text: string, names: readonly string[]): DocumentRefusal[] {
  if (!isRefusal(text)) return [];
  const parts: { name: string | null; text: string }[] = [{ name: null, text: "" }];
  for (const line of text.split(/\n|(?<=[.;])\s+(?=\p{Lu})/u)) {
    const name = named(line, names);
    if (name && name !== parts.at(-1)!.name) parts.push({ name, text: "" });
    parts.at(-1)!.text += `${line}\n`;
  }
  const known = [...new Set(parts.flatMap(({ name }) => name ?? []))];
  // With one document named, all of it is about that one.
  const told = known.length > 1 ? parts : [{ name: known[0] ?? null, text }];
  return told.flatMap((part) => {
    const refusal = partOf(part.text);
    return refusal ? [{ name: part.name, ...refusal }] : [];
  });
}

/** The longest name that a line mentions. */
function named(line: string, names: readonly string[]): string | null {
  const plain = (words: string) =>
    ` ${words
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, " ")
      .trim()} `;
  const said = plain(line);
  const found = names.filter((name) => plain(name).trim() !== "" && said.includes(plain(name)));
  return found.sort((a, b) => b.length - a.length)[0] ?? null;
}

function partOf(text: string): Refusal | null {
  const asked: Refusal["asked"] = {};
  const found: Said[] = [];
  const figures = figuresOf(text);
  for (const [i, figure] of figures.entries()) {
    const next = figures[i + 1];
    if (figure.joint && figures[i - 1]?.kind === figure.kind) continue;
    if (next?.joint && next.kind === figure.kind) {
      ask(asked, figure.kind, { min: figure.texts, max: next.texts });
      continue;
    }
    const role = roleOf(figure);
    if (role === "found") tell(found, figure);
    else if (role) ask(asked, figure.kind, { [role]: figure.texts });
  }
  const formats = formatsOf(text);
  if (formats.asked.length) asked.format = formats.asked as OutputFormat[];
  if (formats.found) found.push({ kind: "format", words: formatName(formats.found), format: formats.found });
  if (ofMail(text) && asked.fileSize?.max !== undefined) {
    asked.total = { max: asked.fileSize.max, counted: "mail" };
    delete asked.fileSize;
  }
  return Object.keys(asked).length || found.length ? { asked, found } : null;
}

const ofMail = (text: string): boolean =>
  withoutCodes(text) !== text || /\b(message|e-?mail|mailbox|recipient|attachments?)\b/i.test(text);

type Role = "found" | "min" | "max" | "exact";

const OVER =
  /\b(more|larger|bigger|greater|heavier|higher|over|above|exceeds?|exceeded|exceeding|beyond|wider|taller)\b/;
const UNDER = /\b(less|smaller|lower|fewer|under|below|lighter|narrower|shorter)\b/;
const MODAL = /\b(must|should|has to|have to|needs? to|may|can|cannot|can't|could|ought)\b/;
const NOT = /\b(not|no|never|cannot|can't|mustn't|n't)\b/;
const CEILING = /\b(max\w*|limit\w*|at most|up to|ceiling|capped|allowed size)\b/;
const FLOOR = /\b(min\w*|at least|floor)\b/;
const DEMANDS =
  /\b(must (be|have)|should (be|have)|has to be|have to be|needs? to be|expect(s|ed)|requires?|required|wanted|asked|needed)\b[^.]*$/;
const DEMANDED_BEHIND =
  /^\W*(is|are|was|were|that are|that is)?\s*(asked|required|expected|needed|wanted|allowed|permitted)\b/;
const FOUND_BEHIND =
  /^\W*(is|was|are)?\s*(too|exceeds?|exceeded|less|more|larger|smaller|below|above|under|over|not enough|found|received)\b/;
const FOUND_BEFORE =
  /(\b(is|was|are|were|has|have|had|weighs|measures?|of|got|received|found|uploaded|detected|actual|currently|current|only|just|error|refused|rejected|failed|invalid|size|dimensions?|file|image|photo|picture|message|yours)|\btoo (large|big|small|heavy|wide|tall|low|high))\W*$/;

/** What a figure is, by the words around it; null where that stays open. */
function roleOf({ before, after }: Figure): Role | null {
  if (FOUND_BEHIND.test(after) && !MODAL.test(before) && !CEILING.test(before) && !FLOOR.test(before))
    return "found";
  const over = OVER.test(before);
  if (over || UNDER.test(before)) {
    // "Must be less than" asks for less; "has less than" says what was missing.
    const turned = MODAL.test(before) && !NOT.test(before);
    return over === turned ? "min" : "max";
  }
  if (CEILING.test(before) || /^\W*(max\w*|at most|or (less|smaller)|limit)\b/.test(after)) return "max";
  if (FLOOR.test(before) || /^\W*(min\w*|or (more|larger))\b/.test(after)) return "min";
  if (DEMANDS.test(before) || DEMANDED_BEHIND.test(after)) return "exact";
  return FOUND_BEFORE.test(before) || !/[a-z]/.test(before) ? "found" : null;
}

function tell(found: Said[], { kind, values, texts }: Figure): void {
  const words = texts.map((text) => text.replace(/(?<=\d)(?=[a-z])/i, " ")).join(" × ");
  if (kind === "bytes") found.push({ kind: "bytes", words, bytes: toBytes(texts[0], "max") });
  if (kind === "pixels")
    found.push({ kind: "pixels", words: `${words} px`, width: values[0], height: values[1] });
  if (kind === "ppi") found.push({ kind: "resolution", words, ppi: values[0] });
}

type Asked = Partial<Record<"min" | "max" | "exact", string[]>>;

function ask(asked: Refusal["asked"], kind: Figure["kind"], { min, max, exact }: Asked): void {
  if (kind === "bytes") {
    if (exact) return;
    asked.fileSize = { ...asked.fileSize, ...(min && { min: min[0] }), ...(max && { max: max[0] }) };
  } else if (kind === "ppi") {
    asked.resolution = exact
      ? { exact: exact[0] }
      : { ...(min && { min: min[0] }), ...(max && { max: max[0] }) };
  } else if (kind === "length") {
    if (exact) asked.paper = { width: exact[0], height: exact[1] };
  } else {
    const sides = kind === "pixels" ? (["width", "height"] as const) : [kind];
    for (const [i, side] of sides.entries()) asked[side] = range({ min, max, exact }, i);
  }
}

function range({ min, max, exact }: Asked, i: number) {
  if (exact) return { exact: Number(exact[i]) };
  return { ...(min && { min: Number(min[i]) }), ...(max && { max: Number(max[i]) }) };
}
