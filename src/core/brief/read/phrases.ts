/**
 * Clauses that are said in words: colour, background, border, ink, layers, metadata, names, enlarging,
 * cutting, scale.
 */
import type { ClauseKey } from "../keys";
import type { Brief } from "../schema";
import type { Findings } from "./finding";
import { Line, words } from "./line";
import type { Quantity } from "./quantities";
import { SIGNAL } from "./signals";
import type { Statement } from "./statements";
import type { Token } from "./tokens";
import { leadingPart, ownPart, WISH } from "./window";

interface Rule<K extends ClauseKey = ClauseKey> {
  clause: K;
  pattern: RegExp;
  value: (match: RegExpExecArray, near: string) => NonNullable<Brief[K]> | null;
  /** A "no" in front of it is part of the pattern, or does not matter. */
  ownNegation?: boolean;
}

const rule = <K extends ClauseKey>(
  clause: K,
  pattern: RegExp,
  value: Rule<K>["value"],
  ownNegation = false,
): Rule => ({ clause, pattern, value, ownNegation }) as unknown as Rule;

const PLAIN: Record<string, string> = { white: "#ffffff", black: "#000000" };
/** Sheets by name: ISO 216, and ANSI/ASME Y14.1 (letter), from memory. */
const SHEETS: Record<string, { width: string; height: string }> = {
  a0: { width: "841mm", height: "1189mm" },
  a1: { width: "594mm", height: "841mm" },
  a2: { width: "420mm", height: "594mm" },
  a3: { width: "297mm", height: "420mm" },
  a4: { width: "210mm", height: "297mm" },
  a5: { width: "148mm", height: "210mm" },
  a6: { width: "105mm", height: "148mm" },
  letter: { width: "8.5in", height: "11in" },
  legal: { width: "8.5in", height: "14in" },
};
const METADATA = "(meta data|metadata|exif|exif data|exif information)";
const NO =
  "(no|without|without any|not any|free of|remove|remove all|remove any|strip|strip " +
  "all|delete|drop|omit|clear of)";
const ENLARGED =
  "(enlarge|enlarged|enlarging|enlargement|enlargements|upscale|upscaled|upscaling|blow up|blown " +
  "up|interpolate|interpolated|interpolation|upsample|upsampled|upsampling|scale up|scaled " +
  "up|scaling up|stretch up|made larger|make them larger)";
const HANDWRITING = /\b(signature|signed|sign|mark|autograph|initials|slip)\b/;
const FORM_FILLING = /\b(fill|filled|form|complete|capital|capitals|letters|label|labels|name)\b/;

const RULES: readonly Rule[] = [
  rule("colour", /\bs ?(- )?rgb\b/, () => ({ space: "srgb" })),
  rule("colour", /\bdisplay (- )?p3\b/, () => ({ space: "display-p3" })),
  rule("colour", /\b(rec|bt) ?(\. ?|- )?2020\b/, () => ({ space: "bt2020" })),
  rule("colour", /\bcmyk\b/, () => ({ space: "cmyk" })),
  rule(
    "colour",
    /\b(grey|gray) ?(- )?(scale|scales)\b|\b(greyscale|grayscale)\b|\b(in|as) (grey|gray|black (- )?and (- )?white|monochrome)\b(?! (ink|pen|background|frame|border|wall))|^(grey|gray|monochrome)$|(?:^|, |be )(grey|gray|monochrome|black (?:- )?and (?:- )?white)(?= ,|$)|\b(grey|gray|black (- )?and (- )?white|monochrome)( only)? (images?|pictures?|photos?|photographs?|scans?|only)\b|\bcolou?rs? ?:? (grey|gray)\b/,
    (_, near) => (/^[^,]* for\b/.test(near) ? null : { space: "gray" }),
  ),
  rule(
    "colour",
    /\b(no|without|without a|do not embed a|omit the) (embedded )?(colou?r |icc )*profile\b|\bprofile (left out|omitted|removed)\b/,
    () => ({ profile: "omit" }),
    true,
  ),
  rule(
    "colour",
    /\b(with|with an|with the|embed the|embed a|embed|include the|keep the) (embedded )?(colou?r |icc )*profile( embedded)?\b|\bprofile (must be |should be )?(embedded|included)\b|\bembedded (colou?r |icc )*profile\b/,
    () => ({ profile: "embed" }),
  ),
  rule("colour", /\b(in|as|for) hdr\b|\bhdr (picture|pictures|image|images|photo|photos|only)\b/, () => ({
    light: "hdr",
  })),
  rule("background", /\b(white|black) (?:background|ground)\b/, (m) => PLAIN[m[1]]),
  rule(
    "background",
    /\bbackground( colou?r)?( (must be|should be|has to be|shall be|is|in|of|must be plain|plain|pure))? ?:? ?(plain |pure |solid )?(white|black)\b/,
    (m) => PLAIN[m.at(-1)!],
  ),
  rule("border", /\bno border\b|\bwithout (a )?border\b/, () => null, true),
  rule(
    "frames",
    /\b(stay|stays|remain|remains|keep|keeps|kept) (it |them |the file )?(animated|moving)\b|\b(keep|keeps|preserve|retain) (the |its |their |all )*(animation|animations|frames)\b|\banimations? (must |should |has to |have to |is to |are to )?(be )?(kept|preserved|retained|intact|stay|remain)\b/,
    () => "keep",
  ),
  rule("frames", /\banimated (gif|webp|avif)s?\b/, () => "keep"),
  rule(
    "frames",
    /\b(no|without|not|never|non)( - | -| |- )(any )?(animation|animations|animated)( (gif|gifs|image|images|picture|pictures|file|files))?\b|\b(animations?|animated (gif|image|picture|file)s?) (is|are|will be) (not (accepted|allowed|permitted|supported)|rejected|refused)\b/,
    () => "first",
    true,
  ),
  rule(
    "layers",
    /\b(flattened|flatten|flat file|no layers|without layers|single layer|layers merged|merge all layers)\b/,
    () => "flatten",
    true,
  ),
  rule(
    "layers",
    /\b(keep (the |all )?layers|layers (kept|intact|preserved|must stay|must be kept)|with (all )?layers|layered (file|files|tiff))\b/,
    () => "keep",
  ),
  rule(
    "metadata",
    new RegExp(
      `\\b${NO} (the |embedded )?${METADATA}\\b|\\b${METADATA} (must be |should be |has to be |to be ` +
        "|is |are )?(removed|stripped|deleted|dropped|none)\\b",
    ),
    () => "none",
    true,
  ),
  rule(
    "metadata",
    /\b(no|without|without any|remove|remove the|remove any|strip|strip the|delete|drop) (gps|location|place|position)( (data|information|tags|details|coordinates))?\b/,
    () => "private",
    true,
  ),
  rule(
    "metadata",
    new RegExp(
      `\\b(keep|retain|preserve|leave) (all |the |your )*${METADATA}\\b|\\b(have|has|with|hold) (its|their|the|all)? ?(original|all|full|complete) ${METADATA}\\b|\\b${METADATA} (must |should ` +
        "|has to )?(be kept|kept|preserved|intact|stay|remain|left in)\\b",
    ),
    () => "keep",
  ),
  rule(
    "names",
    /\b(keep|leave|retain)( (the|your|their|all|original|its|own))*( file| picture| photo)? ?(- )?(name|names|filename|filenames)\b( as (they are|it is|is))?|\b(file ?)?(name|names|filename|filenames) (must|should|have to|has to|are to|shall|may|can)? ?(not be changed|not change|stay|remain|be kept|be left|unchanged|stay as they are)\b|\b(do not|don't|never|without) (rename|renaming|change the (file ?)?names?)\b( the files| your files| files| pictures)?/,
    () => "{name}",
    true,
  ),
  rule(
    "enlarge",
    new RegExp(
      "\\b(not|no|never|don't|nor|neither|without|avoid)( (be|to|please|any|be " +
        `digitally|digitally|simply))* ${ENLARGED}\\b|\\b${ENLARGED} (is|are) (not ` +
        `(allowed|permitted|accepted|wanted)|forbidden|ruled out|prohibited)\\b|\\b${ENLARGED} ` +
        "(pictures|photos|images|files|scans) (are|will be) (refused|rejected|returned|not accepted)\\b",
    ),
    () => "never",
    true,
  ),
  rule(
    "enlarge",
    new RegExp(
      `\\b(may|can) be ${ENLARGED}\\b|\\b${ENLARGED} (is|are) ` +
        `(allowed|fine|permitted|accepted|ok|okay|welcome)\\b|\\b${ENLARGED} (if|where|when) ` +
        "(necessary|needed|required|they are too small)\\b",
    ),
    () => "allow",
    true,
  ),
  rule(
    "frame",
    /\b(not|never|don't|nor)( (be|please|to))* (crop|cropped|trim|trimmed|cut)( off)?\b|\b(uncropped|no cropping|without cropping|untrimmed)\b|\bnothing (may be |must be |should be |is to be |be )?(cut off|cropped|trimmed)\b/,
    () => "whole",
    true,
  ),
  rule(
    "frame",
    /\bcrop(ped)? (it |them |the picture |the photo |the image |pictures |photos )?to (fit |fill |the shape|this|these|that|exactly|\d)/,
    () => "fill",
  ),
  rule(
    "frame",
    /\b(pad|padded|padding|fill up|filled up) (it |them |the rest |the picture )?(with|to|out with)\b/,
    () => "pad",
  ),
  rule(
    "view",
    /\b(viewed|judged|inspected|examined|assessed|looked at)( \w+){0,2}? (at|in) (full|actual|original|true) (size|resolution|pixels)\b|\b(judged|inspected|examined|assessed|checked) pixel by pixel\b/,
    () => "pixels",
  ),
  rule(
    "pick",
    /\bwhichever (file |one )?(is|comes out|turns out) (the )?(smaller|smallest|lighter)\b/,
    () => "smallest",
  ),
  rule(
    "fileSize",
    /\bas (small|light) as (possible|can be|it can be|they can be|you can)( \w+){0,3} (with no|without|with no) visible (loss|difference|damage)\b/,
    () => ({ aim: "clean" }),
    true,
  ),
  rule(
    "fileSize",
    /\bas (near|close) to (it|the limit|the ceiling|this limit|the maximum|that) as (possible|can be|it can be|you can)\b/,
    () => ({ aim: "best" }),
    true,
  ),
  rule(
    "scale",
    /\b(at |to |in )?half( (the|their|its|of the|of their|of its))?( (original|full|present))? (size|dimensions|scale)\b/,
    () => "50%",
  ),
  // ISO 216, trimmed sizes. A sheet to sign on is not the size of the picture.
  rule(
    "paper",
    /^(din |iso )?(a[0-6])$|\b(?:print|prints|printed|printing|enlarged|format|size|page size|paper size)( (?:size|at|in|on|to|is|as|format|:))* (din |iso )?(a[0-6])\b|, (din |iso )?(a[0-6]) (?:,|at \d)|, (din |iso )?(a[0-6])$|(?:^|[,(] |\b(?:in|as|at|format|size) )(din |iso )?(a[0-6]) (?:landscape|portrait|upright)\b|(?:^|[,(-] |\b(?:in|as|at) )(din |iso )?(a[0-6])(?= [,)-]|$)|^(din |iso )?(a[0-6]) (?:size|,|at \d)|\b(?:scan|scans|scanned|pages?) (?:on|of) (din |iso )?(a[0-6])\b|\b(din |iso )?(a[0-6]) (?:pages?|sheets?|scans?)\b|\b(din |iso )?(a[0-6]) (?:,|at) \d+ (?:dpi|ppi)\b|\b(?:pages?|paper|sheets?|scans?) (?:must|should|has to|have to|shall|is to) be (din |iso )?(a[0-6])\b/,
    (m, near) => {
      const sheet = SHEETS[m.find((part) => part !== undefined && /^a[0-6]$/.test(part))!];
      return /\ba[0-6] (landscape|across|sideways)\b/.test(near)
        ? { width: sheet.height, height: sheet.width }
        : sheet;
    },
  ),
  rule(
    "paper",
    /\b(letter|legal) (?:size|sized|format|paper)\b|\b(?:us|ansi) (letter|legal)\b/,
    (m) => SHEETS[m[1] ?? m[2]],
  ),
  rule("shape", /\bsquare\b/, (_, near) =>
    /\bsquare (bracket|brackets|metre|metres|meter|meters|mile|miles|cm|inch|inches|root|pixel|pixels|foot|feet|centimetre|centimetres|edges|corners)\b/.test(
      near,
    )
      ? null
      : "1:1",
  ),
];

const NEGATED =
  /\b(no|not|never|without|nor|neither|don't|isn't|avoid|instead of|rather than|except|neither)( (a|an|the|any|be|in|as|use|send|have|convert to|on))*$/;
const TURNED_DOWN =
  /^( (pictures?|photos?|photographs?|images?|files?|scans?))?( \w+)? ?(is|are|will be|be)? ?(not|never|rejected|refused|returned|unacceptable|discouraged)\b/;
const HAPPENED = /\b(was|were|had been|used to|if|when|unless|example|e g)\b[^,]*$/;

/** Reads what a statement says in words. */
export function readPhrases(statement: Statement, quantities: readonly Quantity[], out: Findings): void {
  if (statement.question || !(statement.signals & SIGNAL.phrase)) return;
  const all = [...statement.label, ...statement.body];
  const phrase = new Line(all);
  const spaces = new Set<string>();
  for (const { clause, pattern, value, ownNegation } of RULES) {
    const match =
      pattern.exec(phrase.text) ?? (clause === "paper" ? behind(pattern, phrase, statement) : null);
    if (!match) continue;
    const before = leadingPart(phrase.text.slice(0, match.index).trim()).split(" ").slice(-6).join(" ");
    const after = ownPart(phrase.text.slice(match.index + match[0].length).trimStart())
      .split(" ")
      .slice(0, 6)
      .join(" ");
    if (!ownNegation && (NEGATED.test(before) || TURNED_DOWN.test(` ${after}`))) continue;
    if (HAPPENED.test(before)) continue;
    const read = value(match, `${match[0]} ${after}`);
    const covered = phrase.cover(match.index, match[0].length);
    if (read === null || (clause === "shape" && streetName(all, covered))) continue;
    const space = clause === "colour" ? (read as { space?: string }).space : undefined;
    if (space) spaces.add(space);
    const wish = WISH.test(`${before} ${after}`) && !/\b(must|required)\b/.test(`${before} ${after}`);
    out.add(clause, read, covered, wish);
  }
  // Two colour spaces in one sentence are a choice that a brief cannot hold.
  if (spaces.size > 1) dropSpaces(out, phrase);
  readBits(all, quantities, statement, out);
  readBorder(statement, out);
  readInk(phrase, out);
  readHexBackground(all, out);
}

/** "Handout: A4, PDF": what stands behind a label begins anew. */
function behind(pattern: RegExp, phrase: Line, { label }: Statement): RegExpExecArray | null {
  const from = label.length ? words(label).length + 1 : 0;
  const match = from ? pattern.exec(phrase.text.slice(from)) : null;
  if (match) match.index += from;
  return match;
}

/** "Market Square" is a place. */
function streetName(all: readonly Token[], covered: readonly Token[]): boolean {
  const at = all.indexOf(covered[0]);
  return covered[0].capital && at > 0 && all[at - 1].kind === "word" && all[at - 1].capital;
}

function dropSpaces(out: Findings, phrase: Line): void {
  for (let i = out.found.length - 1; i >= 0; i -= 1) {
    const { clause, value, start } = out.found[i];
    if (clause !== "colour" || !(value as { space?: string }).space || start < phrase.tokens[0].start)
      continue;
    out.doubt(
      phrase.tokens.filter((t) => t.start >= start && t.end <= out.found[i].end),
      "Which of the colour spaces is it to be?",
    );
    out.found.splice(i, 1);
  }
}

const DEPTH_CONTEXT =
  /\b(colou?rs?|channels?|images?|pictures?|photos?|scans?|s?rgb|gr[ae]y|greyscale|grayscale|tiffs?|tif|png|jpe?g|depth|per)\b/;
const DEPTHS: Record<number, 8 | 10 | 16> = { 8: 8, 10: 10, 16: 16 };

/** "8 bit", "16 bits per channel"; "24-bit colour" is three channels of 8. */
function readBits(
  all: readonly Token[],
  quantities: readonly Quantity[],
  { body }: Statement,
  out: Findings,
): void {
  for (const quantity of quantities) {
    if (quantity.kind !== "bits" || quantity.form !== "single") continue;
    const after = words(body.slice(quantity.to, quantity.to + 3));
    const before = words(body.slice(Math.max(0, quantity.from - 3), quantity.from));
    if (
      /\b(least|most|than|not|no|or|never|about)\b/.test(before) ||
      /^(or|png quality|windows|system|computer)\b/.test(after)
    )
      continue;
    const value = quantity.values[0];
    if (!DEPTH_CONTEXT.test(words(all)) && all.length > 4) continue;
    const bits = value === 24 && /^colou?r\b/.test(after) ? 8 : DEPTHS[value];
    const per = /^(per|a|\/) (channel|colou?r|sample)\b/.test(after) ? 2 : 0;
    if (bits) out.add("colour", { bits }, body.slice(quantity.from, quantity.to + per));
  }
}

/** "a black border of 2 pixels", "1 px black border". The colour has to be said. */
function readBorder({ body, label }: Statement, out: Findings): void {
  const all = [...label, ...body];
  const at = all.findIndex((token) => /^(border|borders|outline|keyline)$/.test(token.text));
  if (at < 0) return;
  const from = Math.max(0, at - 7);
  const near = all.slice(from, at + 9);
  const text = words(near);
  if (/\b(no|not|without|never|free)\b/.test(words(all.slice(Math.max(0, at - 4), at)))) return;
  const i = near.findIndex(
    (token, k) =>
      token.kind === "number" &&
      /^(px|pixel|pixels)$/.test(near[k + 1]?.text === "-" ? near[k + 2]?.text : (near[k + 1]?.text ?? "")),
  );
  const number = i >= 0 ? near[i].value : null;
  if (number === null || /×/.test(words(near.slice(Math.max(0, i - 1), i + 3)))) return;
  const colour = /\b(white|black)\b/.exec(text)?.[1] ?? null;
  const code = hexAt(near);
  const span = near.slice(Math.min(i, at - from), Math.max(i + 2, at - from + 1));
  if (!colour && !code) return out.doubt(span, "Which colour is the border to have?");
  if (
    !Number.isInteger(number) ||
    number < 1 ||
    number > 1000 ||
    /\b(most|least|than|max|min|maximum|minimum|up to)\b/.test(text)
  )
    return;
  const first = near.findIndex((token) => token.text === colour);
  out.add(
    "border",
    { px: number, colour: code?.code ?? PLAIN[colour!] },
    near.slice(Math.min(i, at - from, first < 0 ? i : first), Math.max(i + 2, at - from + 1)),
  );
}

function readInk(phrase: Line, out: Findings): void {
  const match =
    /\b(in |with |using )?(a )?((black|blue|dark blue)( or (black|blue|dark blue))?) (ink|pen|ballpoint|ballpoint pen|biro|felt pen|felt tip|fountain pen|marker|fineliner)( pen)?\b( ink)?/.exec(
      phrase.text,
    );
  const onWhite = /\b(in )?black on (plain )?white\b/.exec(phrase.text);
  if (FORM_FILLING.test(phrase.text) && !HANDWRITING.test(phrase.text)) return;
  if (match) {
    const before = phrase.text.slice(Math.max(0, match.index - 14), match.index);
    if (/\b(no|not|never|without)\b/.test(before)) return;
    const skip = (match[1] ?? "").length + (match[2] ?? "").length;
    return out.add(
      "ink",
      match[3] === "black" ? "black" : "original",
      phrase.cover(match.index + skip, match[0].length - skip),
    );
  }
  if (onWhite && HANDWRITING.test(phrase.text))
    out.add("ink", "black", phrase.cover(onWhite.index, onWhite[0].length));
}

/** "#f4f4f4" comes as a mark and one or more tokens. */
function hexAt(tokens: readonly Token[]): { code: string; from: number; to: number } | null {
  for (const [i, token] of tokens.entries()) {
    if (token.text !== "#") continue;
    let code = "";
    let to = i + 1;
    while (
      to < tokens.length &&
      tokens[to].glued &&
      code.length < 6 &&
      /^[0-9a-f]+$/.test(tokens[to].raw.toLowerCase())
    )
      code += tokens[to++].raw.toLowerCase();
    if (/^[0-9a-f]{6}$/.test(code)) return { code: `#${code}`, from: i, to };
    if (/^[0-9a-f]{3}$/.test(code)) return { code: `#${[...code].map((c) => c + c).join("")}`, from: i, to };
  }
  return null;
}

function readHexBackground(all: readonly Token[], out: Findings): void {
  const at = all.findIndex((token) => token.text === "background");
  if (at < 0) return;
  const near = all.slice(Math.max(0, at - 5), at + 8);
  const code = hexAt(near);
  if (code) out.add("background", code.code, near.slice(code.from, code.to));
}
