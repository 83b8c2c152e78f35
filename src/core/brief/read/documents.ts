/** Which document a statement is about: "Portrait: …", "For the warden's badge: …", "Consent slip. …". */

import { words } from "./line";
import { beginsFile } from "./parting";
import { SIGNAL } from "./signals";
import type { Statement } from "./statements";
import type { Token } from "./tokens";
import { FORMAT, GENERIC, isName, MANNER, NO_NAME, NOUNS, RULE, speaksOfRule } from "./vocabulary";

const EVERY =
  /\b(both|no (file|document|upload|image|picture|photo|scan)|none of (them|these|the files)|^none (over|above|under|below|larger|bigger|heavier)|all (the |your |of (the|your) )?(files|documents|uploads|images|pictures|photos|photographs|scans|items|attachments)|every (file|document|upload|image|picture|photo|scan)|everything|all of (them|these)|(the )?two files|either file)\b|^all (?:in |as |of them )?(?:jpe?g|png|pdf|tiff?|webp)\b|^all (?:under|below|up to|at most|at least|max|min|not|less|smaller|\d)/;
const EACH = /\beach( (file|document|upload|image|picture|photo|scan|of them))?\b/;
/** Sentences that begin with their document: "The portrait must be …". */
const SUBJECT =
  /^(?:(?:the|your|a|an|for|every|each|our|applicant's)\s)*(portrait|photo|photograph|picture|signature|badge|slip|card|cover|banner|logo|thumbnail|avatar|plate|poster|header|icon|map|figure|headshot|certificate|licence|postcard)\b(?: \w+)?(?: (?:must|should|has|have|is|shall|needs|will|may|weighs|measures|comes|goes)\b| [:,(]|$)|^(?:the )?(?:dimensions?|size|sizes|format|resolution|width|height|weight) (?:of|for) (?:(?:the|your) )?(photo|photograph|picture|signature|portrait|slip|badge|card|cover|banner|logo|thumbnail)\b/;
const ASKS = /^(need|needs|send|upload|submit|supply|provide|attach|require|requires|want|enclose)$/;
const LEAD = /^(us|their|one|two|three|four|five|six|for|the|your|a|an|of|as|our|this|in|case|to|be|on|\d+)$/;

/** The words that such a sentence can begin with. */
const OPENS = new Set(
  (
    "the your a an for every each our portrait photo photograph picture signature badge slip card " +
    "cover banner logo thumbnail avatar plate poster header icon map figure headshot certificate " +
    "licence postcard dimension dimensions size sizes format resolution width height weight"
  ).split(" "),
);

function subjectOf(body: readonly Token[]): string | null {
  if (!body[0] || !OPENS.has(body[0].text)) return null;
  const found = SUBJECT.exec(words(body.slice(0, 8)));
  return found?.[1] ?? found?.[2] ?? null;
}

export interface Heading {
  name: string;
  key: string;
  /** Named by a word for a document; the others only count when they turn out to rule the same things. */
  sure: boolean;
  /** "Photo size: …": the name is repeated with every rule, so that a rule without one is for all. */
  repeated?: boolean;
}

/** What each statement is about: an index into `headings`, or -1 for all of them. */
export interface Documents {
  headings: Heading[];
  of: number[];
  /** Statements that are nothing but a heading. */
  bare: Set<number>;
}

export function findDocuments(statements: readonly Statement[]): Documents {
  const subjects = statements.map((s) => (s.label.length || s.owner ? null : subjectOf(s.body)));
  const severalSubjects =
    new Set(
      subjects
        .filter((subject) => subject !== null)
        .map((subject) => subject.replace(/^(photograph|picture|portrait)$/, "photo")),
    ).size >
    (statements.some(
      (s) =>
        !s.label.length && !s.owner && (spokenName(s.body) ?? (s.item ? itemName(s.body) : null)) !== null,
    )
      ? 0
      : 1);
  // "Photo size", "Picture format" only tell documents apart where another label does so too.
  const specific = statements.some((s) => RULE.test(words(s.label)) && NOUNS.test(nounPart(s.label)));
  const headings: Heading[] = [];
  const [of, bare]: [number[], Set<number>] = [[], new Set()];
  let current = -1;
  let opened = -1;
  for (const [i, statement] of statements.entries()) {
    const subject = severalSubjects && subjects[i] ? subjects[i] : null;
    const found =
      headingOf(statement, statements[i + 1], specific) ??
      (subject ? bySubject(subject, headings) : null) ??
      // Under a heading of its own such a sentence goes on about that.
      (bare.has(i - 1) ? null : formattedName(statement));
    if (found) {
      const known = headings.findIndex((h) => h.key === found.heading.key);
      current = known >= 0 ? known : headings.push(found.heading) - 1;
      opened = statement.paragraph;
      if (found.alone) bare.add(i);
    }
    const { text } = statement;
    if (
      headings.length > 0 &&
      (GENERAL.test(words(statement.label)) || (headings.length > 1 && FOR_EACH.test(text)))
    ) {
      of.push(-1);
      continue;
    }
    const shared =
      (headings.length > 1 && !found && headings[current]?.repeated && isBareRule(statement)) ||
      (headings.length > 0 &&
        !found &&
        (statement.signals & SIGNAL.shared) !== 0 &&
        (EVERY.test(text) || (EACH.test(text) && statement.paragraph !== opened)));
    of.push(shared ? -1 : current);
  }
  return { headings, of, bare };
}

/** "File type: jpg": a label that speaks of a rule and of nothing else. */
const isBareRule = ({ label, opensLine }: Statement): boolean =>
  opensLine &&
  label.length > 0 &&
  speaksOfRule(words(label)) &&
  !NOUNS.test(nounPart(label)) &&
  !GENERIC.test(nounPart(label));

/**
 * A sentence about "the photo" goes on with the document of that name, also where it was called a portrait.
 */
function bySubject(subject: string, headings: readonly Heading[]): { heading: Heading; alone: boolean } {
  const known = headings.find((heading) => heading.key.includes(subject));
  return {
    heading: known ?? { name: subject[0].toUpperCase() + subject.slice(1), key: subject, sure: true },
    alone: false,
  };
}

const nounPart = (label: readonly Token[]) => words(label).replace(new RegExp(RULE, "g"), " ").trim();

function headingOf(
  statement: Statement,
  next: Statement | undefined,
  specific: boolean,
): { heading: Heading; alone: boolean } | null {
  const { owner, tabled } = statement;
  const purpose = purposeName(statement.body);
  if (purpose) return purpose;
  const label = withoutLead(withoutAside(statement.label));
  const body = withoutNumber(statement.body);
  if (DOES.test(words(label)) || GENERAL.test(words(label))) return null;
  if (owner)
    return owner.length && (!RULE.test(words(owner)) || speaksOfRule(words(label)))
      ? named(owner, true, false)
      : null;
  // "For the tender: a plan as PDF; photos as JPEG": what is in front of items only opens them.
  const opens = label.length > 0 && next?.item && next.paragraph === statement.paragraph;
  if (opens && /^for\b/.test(words(label))) return itemName(body);
  if (opens && !isName(words(label)) && !speaksOfRule(words(label)) && itemName(next.body)) {
    const item = itemName(body);
    if (item) return item;
  }
  // "Document type: Signature".
  if (
    SAYS_DOCUMENT.test(words(label)) &&
    body.length <= 6 &&
    isName(words(body)) &&
    !FORMAT.test(words(body))
  )
    return named(body, true, true);
  // "Item 1: Colour photograph.", "Part 2: signature, 600 × 200": the name stands behind the number.
  if (NUMBERED.test(words(label))) {
    if (body.length <= 6 && isName(words(body)) && body.every(({ kind }) => kind === "word"))
      return named(body, true, true);
    const item = itemName(body);
    if (item && isName(item.heading.key)) return item;
  }
  // "Insurance claim: photos of the damage, JPEG. Copy of the invoice, PDF."
  if (label.length && !isName(words(label)) && !speaksOfRule(words(label))) {
    const listed = listedName(body);
    if (listed && next && listedName(next.body)) return listed;
  }
  if (label.length) {
    if (!statement.opensLine && !next && body.length === 0) return null;
    const text = words(label);
    if (!speaksOfRule(text)) return named(label, NOUNS.test(text) || GENERIC.test(text), body.length === 0);
    const noun = nounPart(label);
    if (!NOUNS.test(noun) && !(specific && GENERIC.test(noun))) return null;
    const own = label.filter((token) => !RULE.test(token.text) && token.kind === "word");
    const found = named(own, true, false);
    return found && { ...found, heading: { ...found.heading, repeated: true } };
  }
  const item = statement.item ? itemName(body) : (spokenName(body) ?? listedName(body));
  if (item) return item;
  // A heading on a line of its own, or "Consent slip." in front of its sentences.
  const short =
    body.length > 0 &&
    body.length <= 5 &&
    statement.opensLine &&
    !tabled &&
    body.every((t) => t.kind === "word" || t.text === "-" || t.text === "'");
  if (!short || !next || !body[0].capital) return null;
  const text = words(body);
  // "Product shots" over lines such as "Format: WebP": it counts where another such heading rules the same.
  if (
    body.length <= 4 &&
    isBareRule(next) &&
    next.paragraph !== statement.paragraph &&
    !NO_NAME.test(body[0].text)
  )
    return speaksOfRule(text) ? null : named(body, NOUNS.test(text), true);
  if (speaksOfRule(text) || !(NOUNS.test(text) || /^(\w+'s )?(photo|photograph|picture)$/.test(text)))
    return null;
  if (/\b(is|are|must|should|may|be|as|no|not|with|without|send|upload|please|your|both|all)\b/.test(text))
    return null;
  return named(body, true, true);
}

const SAYS_DOCUMENT =
  /^((type|name|kind) of (the )?document|documents?( (type|name|kind))?|items?|uploads?)$/;
const NUMBERED =
  /^(items?|documents?|files?|uploads?|attachments?|annex|enclosure|no|step|slot|section|part|picture|image|photo) (\. )?(\d+|[a-z])$/;

/** Words of a name: "Letter of recommendation from the head of the institute" is one. */
const [MOST_KNOWN, MOST_UNKNOWN] = [10, 6];
/** "1st picture". */
const ORDINAL = /^(st|nd|rd|th)$/;

/** What is said under such a label, or of each, is said of all. */
const GENERAL =
  /^(general|in general|generally|common|both|all|for (both|all)|(both|all) (files|documents|uploads|pictures|images|photos|photographs|scans|items|attachments))$/;
const FOR_EACH = /^each (at |not |no |must |should |has |to |max|min|under |below |up )/;

/** "Do:", "Don't:" head lists of another kind. */
const DOES = /^(do|dos|don't|don'ts|do not|never|avoid|right|wrong|good|bad|yes|no)$/;

/** "Instructions:" names nothing; of "Slot A – outside view" the number is no part of the name. */
function withoutLead(label: Token[]): Token[] {
  if (INTRODUCES.test(words(label))) return [];
  const dash = label.findIndex((token) => token.text === "-" && !token.glued);
  const numbered = dash > 0 && NUMBERED.test(words(label.slice(0, dash)));
  return numbered ? label.slice(dash + 1) : label;
}

const INTRODUCES =
  /^(instructions?|guidelines?|criteria|procedure|steps|how to|what we need|what you need|you need|we need|documents|uploads?|enclosures|attachments)$/;

/** "Photo ID (front and back in one file)": a name that is long for what stands in brackets. */
function withoutAside(label: Token[]): Token[] {
  const bracket = label.findIndex((token) => token.text === "(");
  return bracket > 0 && label.length > 6 && label.at(-1)!.text === ")" ? label.slice(0, bracket) : label;
}

/** "Section 2 – Photograph": what it is numbered by is no part of the name. */
function withoutNumber(body: readonly Token[]): readonly Token[] {
  const numbered = /^(section|part|step|annex|chapter|paragraph)$/.test(body[0]?.text ?? "");
  return numbered && body[1]?.kind === "number" && /^[-:.]$/.test(body[2]?.text ?? "") ? body.slice(3) : body;
}

/**
 * "A scan of your diploma, PDF, 200 dpi": what an item begins with, up to the first mark, number or word that begins a
 * rule. It only counts where another item rules the same things.
 */
function itemName(body: readonly Token[]): { heading: Heading; alone: boolean } | null {
  // "Send us the plan as a PDF".
  const asks = ASKS.test(body[0]?.text ?? "") && LEAD.test(body[1]?.text ?? "");
  let from = asks || body[0]?.text === "and" ? 1 : 0;
  while (from < body.length && LEAD.test(body[from].text)) from += 1;
  let to = from;
  while (to < body.length && goesOn(body, to)) to += 1;
  // "Signature of 140 × 60 px", "Photo .jpg (max 100 KB)".
  const beyond = to > from + 1 && (body[to - 1].text === "of" || FORMAT.test(body[to - 1].text));
  const name = body.slice(from, beyond ? to - 1 : to);
  if (!name.length || to === body.length) return null;
  if (NO_NAME.test(name[0].text) && name[1]?.text !== "of") return null;
  const text = words(name);
  if (MANNER.test(name[0].text) && !NOUNS.test(text) && !GENERIC.test(text)) return null;
  // Rules in brackets right behind it leave no doubt that it is a name.
  return speaksOfRule(text) || FORMAT.test(text) ? null : named(name, body[to].text === "(", false);
}

/** "A TIFF of at least 4000 px for the catalogue": what a file of its own is for. */
function purposeName(body: readonly Token[]): { heading: Heading; alone: boolean } | null {
  if (!beginsFile(body, body[0]?.text === "and" ? 1 : 0)) return null;
  const is = body.findLastIndex(({ text }) => text === "for") + 1;
  const name = body.slice(is);
  const article = /^(the|your|our|a|an)$/.test(name[0]?.text ?? "");
  const plain = is > 2 && article && name.length <= MOST_SPOKEN && name.every(({ kind }) => kind === "word");
  return plain && !speaksOfRule(words(name)) ? named(name, false, false) : null;
}

/** "Documents in PDF format, max. 2 MB each." */
function formattedName({ label, body }: Statement): { heading: Heading; alone: boolean } | null {
  if (label.length) return null;
  const as = body
    .slice(0, MOST_SPOKEN)
    .findIndex(({ text }, i) => /^(in|as)$/.test(text) && FORMAT.test(body[i + 1]?.text ?? ""));
  const name = body.slice(0, Math.max(0, as));
  const telling =
    name.length > 0 && name[0].capital && !NO_NAME.test(name[0].text) && !speaksOfRule(words(name));
  return telling ? named(name, false, false) : null;
}

/** "Copy of the invoice, PDF, max. 3 MB.": a name and a comma, and then rules. */
function listedName(body: readonly Token[]): { heading: Heading; alone: boolean } | null {
  const comma = body.slice(0, 7).findIndex((token) => token.text === ",");
  const next = body[comma + 1];
  if (comma < 1 || !next || !(next.kind === "number" || FORMAT.test(next.text))) return null;
  const text = words(body.slice(0, comma));
  return NOUNS.test(text) || GENERIC.test(text) || / of /.test(text) ? itemName(body) : null;
}

/** "Detail pictures must have …": likewise. */
function spokenName(body: readonly Token[]): { heading: Heading; alone: boolean } | null {
  const ends = body.at(-1)?.text === ")" ? /^\($/ : MODAL;
  const to = body.slice(0, MOST_SPOKEN + 1).findIndex((token) => ends.test(token.text));
  const name = body.slice(0, Math.max(0, to));
  if (!name.length || !name[0].capital || !name.every((token) => token.kind === "word")) return null;
  const text = words(name);
  if ((NO_NAME.test(name[0].text) && !ARTICLE.test(name[0].text)) || EVERY.test(text)) return null;
  const bare = text.replace(/^(the|your|our|a|an) /, "");
  // "The picture must …" goes on about whatever is spoken of.
  if (!bare || GENERIC_ONLY.test(bare) || speaksOfRule(bare) || FORMAT.test(bare)) return null;
  if (ends !== MODAL && !NOUNS.test(bare) && !GENERIC.test(bare)) return null;
  return named(name, false, false);
}

const ARTICLE = /^(the|your|our|a|an)$/;
const GENERIC_ONLY =
  /^((photo|photograph|picture|image|scan|file|document|upload|attachment|page|copy|one|copies|person|face|head|applicants?|you|it|they|this|that|which|there|name|names|text|colours?|entry|entries|submission|submissions|material|data)s?)$/;
const MOST_SPOKEN = 5;
const MODAL =
  /^(must|should|shall|need|needs|has|have|takes?|gets?|wants?|uses?|requires?|may|can|will|is|are|go|goes|come|comes|measures?|weighs?)$/;

/** A name goes on with words, and with what a hyphen joins. */
const goesOn = (body: readonly Token[], at: number): boolean =>
  body[at].kind === "word" ? !ENDS_NAME.test(body[at].text) : body[at].text === "-" && body[at].glued;

const ENDS_NAME =
  /^(as|upto|less|from|in|with|at|must|should|shall|has|have|is|are|needs?|between|under|below|up|max|min|not|no|only)$/;

function named(
  tokens: readonly Token[],
  sure: boolean,
  alone: boolean,
): { heading: Heading; alone: boolean } | null {
  // "For the year book we need your portrait".
  let from = tokens.findLastIndex((token, i) => ASKS.test(token.text) && i < tokens.length - 1) + 1;
  while (from < tokens.length - 1 && (LEAD.test(tokens[from].text) || tokens[from].kind !== "word")) {
    if (ORDINAL.test(tokens[from + 1].text) && tokens[from + 1].glued) break;
    from += 1;
  }
  const kept = tokens.slice(from).filter((token) => token.text !== "•");
  if (!kept.length || kept.length > (NOUNS.test(words(kept)) ? MOST_KNOWN : MOST_UNKNOWN)) return null;
  let name = "";
  for (const token of kept) name += (token.glued || !name ? "" : " ") + token.raw;
  name = name
    .replace(/ \((mandatory|compulsory|obligatory|required|optional|voluntary)\)$/i, "")
    .replace(/\s+([)\]])/g, "$1")
    .slice(0, 60)
    .trim();
  if (!name) return null;
  return { heading: { name: name[0].toUpperCase() + name.slice(1), key: name.toLowerCase(), sure }, alone };
}
