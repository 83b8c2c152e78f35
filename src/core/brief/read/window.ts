/**
 * What the words around a number make of it: a floor, a ceiling, a wish, or nothing that may be relied on.
 */
import { Line, words } from "./line";
import type { Quantity } from "./quantities";
import { SIGNAL } from "./signals";
import type { Statement } from "./statements";
import type { Token } from "./tokens";

export type Role = "exact" | "min" | "max" | "unclear";

export interface Around {
  role: Role;
  wish: boolean;
  /** Words before it, back to the number before or the start of the part of the sentence. */
  pre: string;
  /** Words behind it, up to the next number or the end of the part. */
  post: string;
  /** All words from the quantity before to the quantity behind, across commas. */
  wide: string;
  /** A comparison was said to the contrary ("not over"). */
  negated: boolean;
  /** The words behind the number decided, not those before it. */
  byPost: boolean;
  /** It says what is sent back ("we refuse files over …"). */
  refusing: boolean;
  /** Tokens that belong to the rule: the comparison before and behind the quantity. */
  from: number;
  to: number;
}

const NEGATION =
  "not|no|nor|never|nothing|none|neither|without|cannot|nowhere|nobody|can't|mustn't|don't|doesn't|isn't|shouldn't|won't|aren't|avoid";
const HAS_NEGATION = new RegExp(`\\b(${NEGATION})(?![\\w'])`);
const CEILING =
  /\b(at (the )?(very )?most|up to|upto|max|maximum|maximal|maximally|limit|limited to|capped|cap|ceiling|within|(?<!not )may weigh(?! (at|not|no|only|between|up|more|less))|upper limit|takes(?! (pictures|photos|images|files|scans))|accepts|allows|holds|handles)\b|≤/g;
const FLOOR =
  /\b(at (the )?(very )?least|min|minimum|minimal|minimally|starting at|lower limit|floor(?! plans?)|no fewer than)\b|≥/g;
const ABOVE =
  /\b(over|above|more than|larger( in size)? than|bigger than|greater than|exceed|exceeds|exceeding|surpass|(?<=not )pass|beyond|heavier than|in excess of|higher than|longer than|wider than|taller than|larger|bigger|heavier|more)\b|>/g;
const BELOW =
  /\b(under|below|beneath|less than|smaller than|lower than|lighter than|fewer than|short of|shorter than|narrower than|smaller|lighter|less)\b|</g;
const COMPARED =
  /\b(over|above|than|exceed|exceeds|exceeding|surpass|pass|beyond|in excess of|under|below|beneath|short of)\b|[<>]/;
const EXACT = /\b(exactly|precisely|exact|equal to)\b/g;
const REJECTS =
  /\b(reject|rejects|rejected|refuse|refuses|refused|return|returned|bounce|bounces|bounced|turned away|discard|discarded|delete|deleted|fail|fails|decline|declined|sent back|not (get|come) through|not arrive|not reach us|disqualified|unacceptable|not (be )?(accepted|allowed|permitted|considered|processed|used|uploaded)|cannot be (accepted|processed|used|uploaded|considered)|can't be (accepted|processed|used|uploaded))\b/;
const NOT_REJECTED = /\b(not|never|won't) (be )?(rejected|refused|returned|deleted|bounced|turned away)\b/;
const AFTER_CEILING =
  /^(\( )?((or|and) (less|below|smaller|under|fewer|lower|lighter)|max|maximum|at (the )?most|tops|limit|and under|upper limit|ceiling|is the (limit|maximum|ceiling|most|upper limit))\b/;
const AFTER_FLOOR =
  /^(\( )?((or|and) (more|above|larger|bigger|over|higher|greater|better|up|upwards|wider|taller|longer)|min|minimum|at (the )?least|upwards|\+|is the (minimum|least|lower limit)|(<|≤) (file )?(size|weight|width|height))(?![\w])/;
/** Words that make a number something else than a rule. */
const LOOSE =
  /\b(example|e g|such as|for instance|previously|formerly|used to|last year|was|were|had|instead of|rather than|unless|except|other than|about|around|approximately|approx|roughly|nearly|circa|ca|some|average|usually|typically|typical|often|normally|once|double|twice|guess|think|heard|formerly|outdated|old|earlier|until|unlike)\b|~|≈/;
const EXAMPLE = /\b(for example|for instance|e g|such as|an example)\b/;
/** What may stand between a number and its "or less". */
const SUBJECT_BEHIND =
  /^(quality|wide|high|tall|horizontally|vertically|across|in (width|height|size)|each|(on|along|for) (the )?(longest|longer|long|shortest|shorter|short|either|each|any) (side|edge)) /;
const CONDITION = /^(if|when|in case|should you|where|whenever|while|although|though)\b/;
const MUST = /\b(must|should|shall|has to|have to|need to|needs to|be|keep|stay|remain|weigh|only)\b/;
/** "900 pixels wide is plenty" says what would do. */
const WOULD_DO =
  /\b(plenty|enough|sufficient|fine|will do|would do|too (small|large|big|much|little)|suffices|suffice)\b/;
const ALLOWS = /\b(may|can|could|might)\b/;
const COMPARISON = new RegExp(
  [CEILING, FLOOR, ABOVE, BELOW, EXACT].map((pattern) => pattern.source).join("|"),
);
const PERMITS =
  /\b(needn't|need not|(don't|doesn't|do not|does not|not) (have to|need to)|no need to|not necessary|not necessarily|free to|welcome to)\b/;
export const WISH =
  /\b(prefer|prefers|preferred|preferably|preference|recommend|recommends|recommended|(?<!letters? of )recommendation|ideal|ideally|if (at all )?possible|where possible|when possible|whenever possible|if you can|suggest|suggests|suggested|desirable|desired|would be (nice|best|good|great|better)|best(?! (?:quality|shots?|pictures?|photos?|photographs?|images?|work|works|ones?))|advise|advised|advisable|optimal|optimally|as far as possible|we would like|we'd like|better still)\b/;
const DEMAND =
  /\b(must|required|mandatory|has to|have to|need to|needs to|shall|obligatory|compulsory|accepted|allowed)\b/;

const has = (signals: number, kind: keyof typeof SIGNAL) => (signals & SIGNAL[kind]) !== 0;

/** What is said anywhere in a statement; what is not there need not be looked for around each number. */
interface Said {
  wish: boolean;
  loose: boolean;
  permits: boolean;
  refused: boolean;
  enough: boolean;
}

/**
 * Of the words behind something those of its own part of the sentence: up to a comma, or an "if possible"
 * between commas.
 */
export function ownPart(behind: string): string {
  if (/^, (if possible|preferably|ideally|where possible|if you can)( ,|$)/.test(behind)) return behind;
  return /^[,;(]/.test(behind) ? "" : behind.split(/ [,;(] /)[0];
}

/** Of the words before something those of its own part of the sentence. */
export const leadingPart = (before: string): string =>
  /[,;()]$/.test(before) ? "" : before.split(/ [,;()] /).at(-1)!;

const CUTS = new Set([",", "(", ")", "but", "though", "yet", "however", "whereas"]);
/** "40 KB and up" goes on; "40 KB and a border" does not. */
const UPWARDS = new Set([
  "up",
  "upwards",
  "above",
  "more",
  "over",
  "larger",
  "below",
  "less",
  "under",
  "smaller",
]);
/** A bare number is only looked at where one of these stands near. */
const MEANT = /\b(quality|width|height|size|weight|pixels|resolution|side|edge|or|wide|high)\b/;
const IDLE: Around = {
  role: "unclear",
  negated: false,
  refusing: false,
  byPost: false,
  wish: false,
  pre: "",
  post: "",
  wide: "#",
  from: 0,
  to: 0,
};

/**
 * Reads the surroundings of each quantity of one statement, in order: an "or over" leans on what was said
 * before it.
 */
export function lookAround(
  { label, body, text, signals }: Statement,
  quantities: readonly Quantity[],
): Around[] {
  const out: Around[] = [];
  const said: Said = {
    wish: has(signals, "wish") && WISH.test(text),
    loose: has(signals, "loose") && (LOOSE.test(text) || EXAMPLE.test(text)),
    permits: has(signals, "permits") && PERMITS.test(text),
    refused: has(signals, "refused") && (REJECTS.test(text) || NOT_REJECTED.test(text)),
    enough: has(signals, "enough") && WOULD_DO.test(text),
  };
  const line = new Line(body);
  // A view "from above" compares nothing.
  const labelWords = words(label).replace(/\bfrom (above|below)\b/, "");
  for (const [i, quantity] of quantities.entries()) {
    const near = line.cut(Math.max(0, quantity.from - 6), Math.min(body.length, quantity.to + 4));
    const bare = (quantity.kind === "bare" || quantity.kind === "other") && quantity.form === "single";
    if (bare && !MEANT.test(near) && !MEANT.test(labelWords))
      out.push({ ...IDLE, from: quantity.from, to: quantity.to });
    else out.push(around({ line, labelWords, quantities, i, out, said }));
  }
  return out;
}

function around({
  line,
  labelWords,
  quantities,
  i,
  out,
  said,
}: {
  line: Line;
  labelWords: string;
  quantities: readonly Quantity[];
  i: number;
  out: readonly Around[];
  said: Said;
}): Around {
  const body = line.tokens;
  const quantity = quantities[i];
  const before = out[i - 1] ?? null;
  // What was said behind the number before is used up.
  const last = before ? (before.byPost ? Math.min(before.to, quantity.from) : quantities[i - 1].to) : 0;
  const next = quantities[i + 1]?.from ?? body.length;
  const reach = Math.max(last, quantity.from - 24);
  let start = quantity.from;
  while (start > reach && !CUTS.has(body[start - 1].text)) start -= 1;
  // "not under 6 KB, nor over 16 KB": a part that is empty, or opens with a comma, looks further back.
  if (start === quantity.from && start > reach && body[start - 1].text === ",") {
    start -= 1;
    while (start > reach && !CUTS.has(body[start - 1].text)) start -= 1;
    // "Not older than six months, 4.5 cm high": what is said of time compares nothing else.
    if (OF_TIME.test(line.cut(start, quantity.from))) start = quantity.from;
  }
  const far = Math.min(next, quantity.to + 14);
  let end = quantity.to;
  while (
    end < far &&
    !CUTS.has(body[end].text) &&
    (body[end].text !== "and" || (UPWARDS.has(body[end + 1]?.text) && !compares(body[end + 2])))
  )
    end += 1;
  let behind = line.cut(quantity.to, end);
  if (end === quantity.to && body[end]?.text === "(") {
    const close = body.slice(end, Math.min(far, end + 5)).findIndex((token) => token.text === ")");
    if (close >= 0) behind = line.cut(end, end + close + 1);
  }
  const opened = start > 0 && body[start - 1].text === "(" && i > 0;
  const pre = [last === 0 && !opened ? labelWords : "", line.cut(start, quantity.from).replace(/,/g, " ")]
    .filter(Boolean)
    .join(" ")
    .trim();
  const wide =
    `${last === 0 ? labelWords : ""} ${line.cut(Math.max(last, quantity.from - 40), quantity.from)} # ` +
    `${line.cut(quantity.to, Math.min(next, quantity.to + 40))}`;
  const tail = line.cut(quantity.to, Math.min(body.length, quantity.to + 60));
  const own = line.cut(quantity.to, next);
  const refusedIf = said.refused && REFUSED_IF.test(line.cut(0, quantity.from));
  const ranged = quantity.form === "range" || quantity.form === "pairs";
  let standing = ranged
    ? rangeRole(pre, behind)
    : roleOf({
        pre,
        behind,
        wide,
        tail,
        own,
        refusedIf,
        before,
        more: quantities[i + 1] !== undefined,
        said,
      });
  // "Minimum 5 × 7 in (1500 × 2100 px)": the brackets repeat the rule in other units.
  const twin =
    opened && standing.role === "exact" && size(quantity)
      ? quantities.slice(Math.max(0, i - 3), i).findLastIndex(size)
      : -1;
  if (twin >= 0) standing = { ...standing, role: out[Math.max(0, i - 3) + twin].role };
  return {
    ...standing,
    wish: said.wish && wished(pre, behind, wide, i === 0),
    pre,
    post: behind,
    wide,
    ...extent(line, quantity, start, standing.byPost),
  };
}

/** "And less than 300 KB" begins another rule. */
const compares = (token: Token | undefined): boolean => token?.text === "than" || token?.kind === "number";

const REFUSED_IF =
  /\b(rejected|refused|returned|turned down|sent back|discarded|not accepted|not taken) (if|when|where|in case)\b/;

const OF_TIME = /\b(older|younger|newer|months?|years?|weeks?|days?|hours?)\b/;

const size = (quantity: Quantity) =>
  quantity.form === "pair" &&
  (quantity.kind === "px" || quantity.kind === "length" || quantity.kind === "bare");

type Standing = Pick<Around, "role" | "negated" | "refusing" | "byPost">;

function rangeRole(pre: string, post: string): Standing {
  const loose =
    LOOSE.test(pre) ||
    LOOSE.test(post) ||
    HAS_NEGATION.test(pre.replace(/\bno\b(?= (file|picture|photo|image))/, "")) ||
    CONDITION.test(pre);
  return { role: loose ? "unclear" : "exact", negated: false, refusing: false, byPost: false };
}

function lastMatch(pattern: RegExp, text: string): number {
  let at = -1;
  for (const match of text.matchAll(pattern)) at = match.index;
  return at;
}

function roleOf({
  pre,
  behind,
  wide,
  tail,
  own,
  refusedIf,
  before,
  more,
  said,
}: {
  pre: string;
  behind: string;
  wide: string;
  tail: string;
  /** What stands before the next quantity. */
  own: string;
  /** "It is rejected if it is smaller than …, or if it exceeds …": the condition is what is refused. */
  refusedIf: boolean;
  before: Around | null;
  more: boolean;
  said: Said;
}): Standing {
  const as = (role: Role, byPost = false): Standing => ({ role, negated: false, refusing: false, byPost });
  const unclear = as("unclear");
  if (said.enough && WOULD_DO.test(behind)) return unclear;
  if (said.loose && (LOOSE.test(pre) || EXAMPLE.test(wide.split("#")[0]))) return unclear;
  if (/^(on average|instead|usually|or so|approx\w*|roughly)\b/.test(behind)) return unclear;
  const post = behind.replace(SUBJECT_BEHIND, "");
  if (said.permits && PERMITS.test(pre)) return unclear;
  if (CONDITION.test(pre) && !WISH.test(pre) && !refusedIf) return unclear;
  const places = !COMPARISON.test(pre)
    ? null
    : {
        max: lastMatch(CEILING, pre),
        min: lastMatch(FLOOR, pre),
        above: lastMatch(ABOVE, pre),
        below: lastMatch(BELOW, pre),
        exact: lastMatch(EXACT, pre),
      };
  const [[kind, at]] = places ? Object.entries(places).sort((a, b) => b[1] - a[1]) : [["none", -1] as const];
  const rejectedAfter = said.refused && (REJECTS.test(own) || (!more && REJECTS.test(tail)));
  if (at < 0) {
    // "not more than 900 px in width and 600 px in height".
    if (
      /^(and|,|by|and by|×)$/.test(pre) &&
      before &&
      (before.role === "min" || before.role === "max") &&
      !AFTER_CEILING.test(post) &&
      !AFTER_FLOOR.test(post)
    ) {
      return { ...before, byPost: false };
    }
    if (rejectedAfter || /\bthan\b/.test(pre)) return unclear;
    if (AFTER_CEILING.test(post)) return HAS_NEGATION.test(pre) ? unclear : as("max", true);
    if (AFTER_FLOOR.test(post)) return HAS_NEGATION.test(pre) ? unclear : as("min", true);
    return HAS_NEGATION.test(lastWords(pre)) ? unclear : as("exact");
  }
  // "No artefacts and a file size below 5 MB": the "no" is over before the size.
  const ahead = pre.slice(0, at).replace(/\bno (?:\w+ ){1,3}and (?=(?:an?|the|its|their) )/g, "");
  const refusing =
    /\b(reject|rejects|refuse|refuses|return|bounce|bounces|discard|discards|delete|deletes|decline|declines|turn away|turns away|send back|sends back|fail|fails)\b/.test(
      ahead,
    ) ||
    refusedIf ||
    // "Wider ones will be refused, so will heavier ones".
    (/^(and|or|nor|so (will|are|is|do|does))\b/.test(pre) && before?.refusing === true);
  const leaning =
    !refusedIf &&
    /^(or|nor)\b/.test(pre) &&
    before !== null &&
    (before.role === "min" || before.role === "max") &&
    before.negated;
  const negated = (HAS_NEGATION.test(ahead) || /^nor\b/.test(pre) || leaning) !== refusing;
  if (kind === "exact") return negated || rejectedAfter ? unclear : as("exact");
  if (kind === "max" || kind === "min") {
    // "there is no maximum of 90 KB" is no rule that one should guess at; "nothing over the limit of" is one.
    if (rejectedAfter && NOT_REJECTED.test(tail)) return unclear;
    return HAS_NEGATION.test(lastWords(ahead)) || rejectedAfter || refusing ? unclear : as(kind);
  }
  if (!COMPARED.test(pre.slice(at)) || /\b(slow|slowly|load|loads)\b/.test(ahead)) return unclear;
  if (said.refused && NOT_REJECTED.test(tail)) return unclear;
  const flipped = negated !== rejectedAfter;
  if (!flipped && ALLOWS.test(ahead)) return unclear;
  // "Pictures larger than 1200 px are scaled down by us" tells what happens, not what is asked.
  if (
    !flipped &&
    !rejectedAfter &&
    /\b(are|is|will|get|gets|may|can|count|counts|makes?|causes?|slows?|takes?)\b/.test(
      tail.split(" , ")[0],
    ) &&
    !MUST.test(ahead)
  )
    return unclear;
  return {
    role: (kind === "above") === flipped ? "max" : "min",
    negated,
    refusing: refusing || rejectedAfter,
    byPost: false,
  };
}

const lastWords = (text: string) => text.split(" ").slice(-4).join(" ");

/** "preferably 330 px", "330 px (recommended)", "330 px if possible"; a "must" in between takes it back. */
function wished(pre: string, post: string, wide: string, first: boolean): boolean {
  const found = WISH.exec(pre);
  if (found && !DEMAND.test(pre.slice(found.index))) return true;
  const behind = WISH.exec(post.replace(/^\( /, ""));
  if (behind && !DEMAND.test(post.slice(0, behind.index))) return true;
  const [before, after] = wide.split("#");
  // "…, if possible, …" between commas belongs to what was said before it, or opens the sentence.
  if (/^ ?, (if possible|preferably|ideally|where possible|if you can)( ,|$| $)/.test(after)) return true;
  return first && /^(if possible|preferably|ideally|where possible) ,/.test(before.trim());
}

/** The words of a comparison belong to the rule: "not under 6 KB", "3 MB max". */
function extent(
  line: Line,
  quantity: Quantity,
  start: number,
  byPost: boolean,
): { from: number; to: number } {
  const body = line.tokens;
  const STARTS =
    /^(not|no|nor|never|nothing|at|up|max|maximum|min|minimum|less|more|under|over|above|below|between|from|exactly|smaller|larger|neither|≤|≥|<|>)$/;
  let from = quantity.from;
  for (let i = quantity.from - 1; i >= Math.max(start, quantity.from - 6); i -= 1)
    if (STARTS.test(body[i].text)) from = i;
  let to = quantity.to;
  const behind = byPost ? line.cut(quantity.to, Math.min(body.length, quantity.to + 4)) : "";
  const found = AFTER_CEILING.exec(behind) ?? AFTER_FLOOR.exec(behind);
  if (byPost && found && !found[0].startsWith("(")) to = quantity.to + found[0].split(" ").length;
  return { from, to: Math.min(to, body.length) };
}
