/** File types: lists, and which of them are ruled out. */
import type { OutputFormat } from "../keys";
import type { Findings } from "./finding";
import { words } from "./line";
import type { Statement } from "./statements";
import type { Token } from "./tokens";
import { leadingPart, ownPart, WISH } from "./window";

const NAMES: Record<string, OutputFormat> = {
  jpg: "jpeg",
  jpeg: "jpeg",
  jpgs: "jpeg",
  jpegs: "jpeg",
  jpe: "jpeg",
  jfif: "jpeg",
  png: "png",
  pngs: "png",
  webp: "webp",
  avif: "avif",
  tif: "tiff",
  tiff: "tiff",
  tiffs: "tiff",
  gif: "gif",
  gifs: "gif",
  bmp: "bmp",
  bmps: "bmp",
  bitmap: "bmp",
  pdf: "pdf",
  pdfs: "pdf",
};
const OTHERS = new Set([
  "heic",
  "heif",
  "raw",
  "svg",
  "eps",
  "dng",
  "ico",
  "doc",
  "docx",
  "psd",
  "zip",
  "jxl",
  "jp2",
]);
const NOT_BEFORE =
  /\b(not|no|nor|never|without|except|excluding|instead of|rather than|from|than a|than the|neither|cannot|don't|avoid)( (a|an|the|any|as|in|be|send|upload|use|save|accept|submit|open|read|take|as))*( \w+ (or|and|nor|,))*( file| files)?$/;
const TURNED_DOWN =
  /^( ?(files?|pictures?|images?|photos?|format|formats))? ?((is|are|will be|files? are|can|may|must|should|do|does)? ?(not|no longer|never|n't|cannot|rejected|refused|returned|bounced|turned away|excluded|ruled out|unacceptable|discouraged)(?! (bigger|larger|more|over|exceed|exceeding|heavier|smaller|less|above|below|under|greater|beyond)\b)|isn't|aren't|won't|can't|cannot)\b/;
const OTHER_THAN = /\b(other than|anything but|except|apart from|besides)( (a|an|the|as))?$/;
const REFUSED =
  /\b(rejected|refused|returned|bounced|not (be )?(accepted|allowed|permitted|read|opened)|turned away|no other)\b/;
/** A PDF that is only spoken of: the form itself, a guide to read. */
const SPOKEN_OF =
  /^ ?(form|guide|instructions|leaflet|annex|handbook|below|above|attached|explains|says|version of (this|the))\b/;
const SPOKEN_BEFORE =
  /\b(this|the attached|attached|enclosed|see the|see|download the|download|read the|our|in the|example|e g|like|such as|(form|guide|leaflet|annex|template|instructions|page|text|notice) (is|are|comes|come)( (a|an|as|in|also|only))*)$/;

interface Mention {
  format: OutputFormat | null;
  at: number;
}

/** Reads the formats of a statement. */
export function readFormats(statement: Statement, out: Findings): void {
  const { body } = statement;
  const mentions: Mention[] = [];
  for (const [at, token] of body.entries()) {
    if (token.kind !== "word" || token.ending) continue;
    const format = Object.hasOwn(NAMES, token.text) ? NAMES[token.text] : null;
    if (format || (OTHERS.has(token.text) && mentions.length)) mentions.push({ format, at });
  }
  if (statement.question) return;
  for (const list of lists(body, mentions)) readList(statement, list, out);
}

/** Mentions that are joined by commas, slashes, "or" and "and". */
function lists(body: readonly Token[], mentions: readonly Mention[]): Mention[][] {
  const out: Mention[][] = [];
  for (const mention of mentions) {
    const last = out[out.length - 1]?.at(-1);
    const between = last ? words(body.slice(last.at + 1, mention.at)) : "";
    if (
      last &&
      /^(,|\/|or|and|&|, or|, and|\||\.|, \.|or \.|\( ?\.?|or a|or an|or as|\/ \.|, or \.|preferred ,|\( preferred \) or|or if not ,|and \/ or|, else|, otherwise|or else)?$/.test(
        between,
      )
    )
      out[out.length - 1].push(mention);
    else out.push([mention]);
  }
  return out;
}

function readList({ body, label }: Statement, list: readonly Mention[], out: Findings): void {
  const [first, last] = [list[0].at, list[list.length - 1].at];
  const before = [words(label), words(body.slice(Math.max(0, first - 8), first))]
    .join(" ")
    .replace(/ \.$/, "")
    .trim();
  const after = words(body.slice(last + 1, last + 9));
  const near = leadingPart(before);
  const otherThan = OTHER_THAN.test(near);
  if (otherThan && !REFUSED.test(after) && !/\b(no|not|nothing|never|none)\b/.test(near)) return;
  if (
    /\b(not (accepted|allowed|permitted|possible)|no longer|rejected|refused|forbidden|excluded|unaccepted|avoid)\b/.test(
      words(label),
    )
  )
    return;
  // "PDFs up to 5 MB" speaks of those that are PDFs.
  if (
    first === 0 &&
    !label.length &&
    /s$/.test(body[first].text) &&
    /^(up to|must|may|under|over|can|should|are|of|at most|below)\b/.test(after)
  )
    return;
  if (!otherThan && (NOT_BEFORE.test(near) || TURNED_DOWN.test(after))) return;
  if (
    SPOKEN_BEFORE.test(near) ||
    /\b(for example|for instance|e g|such as) ,$/.test(before) ||
    (list.length === 1 && SPOKEN_OF.test(after)) ||
    /^ ?2000\b/.test(after) ||
    (/\b((no|not|non|without|never|any)( -)? animated|layered and)$/.test(near) && list[0].format === "gif")
  )
    return;
  // "JPEG quality 70 %" is about the quality; "as JPEG quality 70 %" also says the type.
  if (
    list.length === 1 &&
    /^(quality|compression|setting|artefacts|artifacts)\b/.test(after) &&
    !/\b(as|in|to|a|an)$/.test(near)
  )
    return;
  const formats = [...new Set(list.map((mention) => mention.format).filter((format) => format !== null))];
  if (!formats.length) return;
  const only = body[last + 1]?.text === "only" ? 1 : 0;
  const part = `${near} # ${ownPart(after)}`;
  const wish =
    WISH.test(part) &&
    !/\b(must|only|required|accepted|accepts|allowed)\b/.test(part) &&
    formats.length === 1 &&
    !/\bor\b/.test(ownPart(after));
  out.add(
    "format",
    formats,
    body.slice(body[first - 1]?.text === "." ? first - 1 : first, last + 1 + only),
    wish,
  );
}
