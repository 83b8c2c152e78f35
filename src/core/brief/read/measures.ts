/** From numbers with units to clauses. A number whose meaning is open becomes no clause. */
import type { Brief } from "../schema";
import type { Findings } from "./finding";
import { headOf } from "./head";
import { alternative, sizeList } from "./joined-by-or";
import { words } from "./line";
import type { Quantity } from "./quantities";
import type { Statement } from "./statements";
import type { Token } from "./tokens";
import type { Around } from "./window";

type PixelRange = NonNullable<Brief["width"]>;

const LONG = /\b(longest|longer|long|largest|biggest|greatest) (side|edge|dimension|axis)s?\b/;
const SHORT = /\b(shortest|shorter|short|smallest|lesser) (side|edge|dimension|axis)s?\b/;
const ANY =
  /\b(either|neither|any|each|every|no|both|all|per)( of (the|its) (two )?)? ?(side|edge|dimension|direction|way)s?\b|\bsides\b/;
const WIDTH = /\b(wide|width|widths|wider|w|horizontally|horizontal|across)\b/;
const HEIGHT = /\b(high|height|heights|tall|taller|h|vertically|vertical)\b/;
/** What a number of pixels or a length may belong to other than the picture. */
const OTHER_THING =
  /\b(face|head|heads|eyes|chin|crown|margin|margins|gap|apart|font|letters|lettering|thick|thickness|spacing|radius|corner|corners|ruler|distance|away|metres|envelope|beside|parcel|table|board|trap|box|screen|monitor|camera|sensor|room|seats|stand|booth|sheet|wall|page number|line|lines|stroke)\b/;
const SCREEN =
  /\b(screens?|(picture|photo|digital) frames?|(the|our|this) (\w+ )?frame (shows|has|displays|takes|holds)|display|monitor|projector|panel)\b/;
/** The size of what pictures are looked at on, not of the pictures. */
const SHOWN_ON =
  /\b(shown|displayed|projected|viewed|seen|looked at|presented)( \w+){0,3}? (on|by|with|through|via)( \S+){0,6}? (screens?|displays?|monitors?|projectors?|panels?|televisions?|beamers?)\b/;
const SHOWN_AT =
  /\b(shown|displayed|seen|viewed|appears?|sees?( \w+){0,3}|views?( \w+){0,3}|shows?( \w+){0,3}) at$/;
const FITS =
  /\b(fits? (within|inside|into)|fitted (within|into)|either way up|both ways up|upright or (wide|across)|wide or upright|any orientation|either orientation|whichever way|turned either way|portrait or landscape|landscape or portrait)\b/;
const INSIDE = /\b(fit|fits|fitting|inside|box)\b/;
const ON_PAPER =
  /\b(print|prints|printed|printing|paper|photo|photos|photograph|photographs|picture|pictures|image|images|portrait|portraits|size|sizes|format|measure|measures|measuring|scan|scans|plate|plates|dimension|dimensions|passport|wide|high|width|height|cover|card|postcard|page|column)\b/;
const NOT_STORED =
  /\b(disk|memory|ram|storage|quota|download|bandwidth|space|backup|speed|network|camera|phone|computer|browser|install)\b/;
const TOGETHER =
  /\b(in all|altogether|together|in total|total|combined(?! into)|overall|in sum|sum of|the sum|taken together|(whole|entire|complete|full) (message|mail|e mail|e - mail|email)|(one|the|a) (zip|archive)( file| archive)?|per (message|mail|email|e - mail)|(message|mail|email|e - mail|mailbox|inbox)( size)? (limit|takes|accepts|size|holds|allows)|(message|mail|email|e - mail) with (all )?(its |the )?attachments|size of (a|the|any|each|every) (message|mail|e mail|email|e - mail)|(mail|message|email|e - mail) with (more|over|above)|(message|messages|mails|emails|e - mails) (of|over|above|larger|bigger|up|must|may))\b/;
const APIECE =
  /\b(no attachments?|each|every|per (file|photo|picture|image|attachment|upload|item)|apiece|single|individual|individually|any one|one (file|photo|picture|attachment))\b/;
const MAIL = /\b(message|messages|mail|mails|email|emails|mailbox|inbox|e - mail|e - mails)\b/;

interface Place {
  statement: Statement;
  quantity: Quantity;
  around: Around;
  tokens: Token[];
  out: Findings;
}

/** Reads every quantity of a statement. */
export function readMeasures(
  statement: Statement,
  quantities: readonly Quantity[],
  arounds: readonly Around[],
  out: Findings,
): void {
  const { body } = statement;
  arounds = sharedEnds(body, quantities, arounds);
  for (let i = 0; i < quantities.length; i += 1) {
    const [quantity, around] = [quantities[i], arounds[i]];
    const place: Place = { statement, quantity, around, tokens: body.slice(around.from, around.to), out };
    const sizes = sizeList(body, quantities, arounds, i);
    if (sizes > 1 && sizes <= 50) {
      const last = quantities[i + sizes - 1];
      if (around.role === "exact") {
        const list = quantities
          .slice(i, i + sizes)
          .map((q) => sided(q, statement, around))
          .filter((s) => s !== null);
        if (list.length === sizes) out.add("sizes", list, body.slice(quantity.from, last.to), around.wish);
      }
      i += sizes - 1;
    } else if (!alternative(body, quantities, i)) readOne(place);
    else out.doubt(body.slice(quantity.from, quantity.to), "Which of the two is asked?");
  }
}

/** "1920 pixels across, 1200 pixels down at the most": what stands behind the second holds for both. */
function sharedEnds(
  body: readonly Token[],
  quantities: readonly Quantity[],
  arounds: readonly Around[],
): readonly Around[] {
  return arounds.map((around, i) => {
    const [quantity, next, behind] = [quantities[i], quantities[i + 1], arounds[i + 1]];
    const sides = next && quantity.kind === "px" && next.kind === "px" && quantity.form === "single";
    if (!sides || around.role !== "exact" || !behind.byPost) return around;
    const between = words(body.slice(quantity.to, next.from));
    return /^(\w+ )?(, |and |, and )?$/.test(`${between} `) && (sideIn(between) || quantity.labels[0])
      ? { ...around, role: behind.role }
      : around;
  });
}

function readOne(place: Place): void {
  const { quantity } = place;
  const head = headOf(place.statement, quantity, place.around);
  if (head) return place.out.add("head", head, place.tokens, place.around.wish);
  if (quantity.kind === "px" || quantity.kind === "bare")
    return quantity.form === "pair" || quantity.form === "pairs" ? pixelPair(place) : pixels(place);
  if (quantity.kind === "bytes") return bytes(place);
  if (quantity.kind === "length") return paper(place);
  if (quantity.kind === "ppi") return resolution(place);
  if (quantity.kind === "percent") return percent(place);
  if (quantity.kind === "ratio") return shape(place);
}

/** Width and height of a pair, by what its numbers or its label call them. Null where that makes no sense. */
function sided(
  quantity: Quantity,
  statement: Statement,
  around: Around,
  offset = 0,
): { width: number; height: number } | null {
  const [a, b] = [quantity.values[offset], quantity.values[offset + 1]];
  if (a === undefined || b === undefined) return null;
  if (quantity.kind === "bare" && (a < 50 || b < 50)) return null;
  return heightFirst(quantity, statement, around) ? { width: b, height: a } : { width: a, height: b };
}

const HEIGHT_FIRST = /\b(h|height|high) ?(×|x|by|\/|,|and|\*) ?(w|width|wide)\b/;
const heightFirst = (quantity: Quantity, statement: Statement, around: Around) =>
  quantity.labels[0] === "h" ||
  quantity.labels[1] === "w" ||
  HEIGHT_FIRST.test(around.wide) ||
  HEIGHT_FIRST.test(words(statement.label));

function pixelPair({ quantity, around, statement, tokens, out }: Place): void {
  const size = sided(quantity, statement, around);
  if (!size || around.role === "unclear") return;
  const text = `${words(statement.label)} ${around.wide}`;
  const screen = SCREEN.test(text);
  const fits = `${text} ${screen ? statement.next : ""}`;
  if (/\b(metres|camera|sensor|grid)\b/.test(text)) return;
  if (quantity.kind === "bare" && /\b(room|seats|table|plot|field)\b/.test(text)) return;
  if (quantity.form === "pairs") {
    const other = sided(quantity, statement, around, 2);
    if (!other || other.width < size.width || other.height < size.height) return;
    out.add("width", { min: size.width, max: other.width }, tokens, around.wish);
    out.add("height", { min: size.height, max: other.height }, tokens, around.wish);
    return;
  }
  if (around.role !== "min" && (FITS.test(fits) || (screen && INSIDE.test(fits))))
    return out.add("box", size, tokens, around.wish);
  if (around.role === "exact" && SHOWN_ON.test(text))
    return out.add("view", { screen: size }, tokens, around.wish);
  if (around.role === "exact" && SHOWN_AT.test(around.pre))
    return out.doubt(tokens, "Is this how it is shown, or the size that it has to have?");
  if (screen && !/\b(pictures?|photos?|images?)\b(?! frame)/.test(text))
    return out.doubt(tokens, "Is this the size of the picture, or of a screen?");
  const range = (px: number): PixelRange => (around.role === "exact" ? { exact: px } : { [around.role]: px });
  out.add("width", range(size.width), tokens, around.wish);
  out.add("height", range(size.height), tokens, around.wish);
}

/** "Our display is 7680 px wide": the size of what pictures are shown on. */
const OF_SCREEN = /^(our|the|this|each|all) (\w+ )?(screens?|displays?|monitors?|projectors?|panels?)\b/;

type Side = "width" | "height" | "longSide" | "shortSide" | "any";

function sideIn(text: string): Side | null {
  if (/\bboth( the| in)? (height|width)\b/.test(text)) return "any";
  if (LONG.test(text)) return "longSide";
  if (SHORT.test(text)) return "shortSide";
  const [w, h] = [WIDTH.test(text), HEIGHT.test(text)];
  if (w && h) return null;
  if (w) return "width";
  if (h) return "height";
  return ANY.test(text) ? "any" : null;
}

/** "Height 400 px width 300 px": what stands right in front is meant, not what follows. */
const lastWords = (text: string): string =>
  /^(height|width|high|wide)$/.exec(text.split(" ").at(-1) ?? "")?.[0] ?? "";

/** Whose pixels these are: the words right behind them first, then those before. */
function sideOf({ quantity, around, statement }: Place): Side | null {
  if (quantity.labels[0] !== null && quantity.form === "single")
    return quantity.labels[0] === "w" ? "width" : "height";
  if (quantity.form === "range" && quantity.labels[1] !== null)
    return quantity.labels[1] === "w" ? "width" : "height";
  return (
    sideIn(lastWords(around.pre)) ??
    sideIn(around.post) ??
    sideIn(around.pre) ??
    (around.pre.length < 12 ? sideIn(around.wide.split("#")[0].split(" ").slice(-8).join(" ")) : null) ??
    sideIn(words(statement.label))
  );
}

function pixels(place: Place): void {
  const { quantity, around, tokens, out } = place;
  if (quantity.kind === "bare") return bareNumber(place);
  if (
    around.role === "unclear" ||
    OTHER_THING.test(around.pre) ||
    OTHER_THING.test(around.post) ||
    OF_SCREEN.test(words(place.statement.body.slice(0, 4))) ||
    /\bborder|outline\b/.test(around.wide)
  )
    return;
  const side =
    sideOf(place) ?? (around.role === "max" && !/\b(and|by)\b/.test(around.post) ? "longSide" : null);
  if (!side) return out.doubt(tokens, "Which side is meant: width, height, the longest or the shortest?");
  const [low, high] = quantity.values;
  const range: PixelRange =
    quantity.form === "range"
      ? { min: low, max: high }
      : around.role === "exact"
        ? { exact: low }
        : { [around.role]: low };
  if (side !== "any") return out.add(side, range, tokens, around.wish);
  if (around.role === "exact" && quantity.form === "single")
    return out.doubt(tokens, "Is every side to have exactly this many pixels, or is this a limit?");
  if (range.max !== undefined) out.add("longSide", { max: range.max }, tokens, around.wish);
  if (range.min !== undefined) out.add("shortSide", { min: range.min }, tokens, around.wish);
}

function bareNumber({ quantity, around, statement, out }: Place): void {
  const { body, label } = statement;
  const rule = /\bquality\b/.test(`${around.pre} ${around.post}`);
  const outOf = body[quantity.to];
  const hundred =
    (outOf?.text === "/" ||
      (outOf?.text === "out" && body[quantity.to + 1]?.text === "of") ||
      outOf?.text === "of") &&
    body.slice(quantity.to, quantity.to + 4).some((t) => t.value === 100);
  if (rule && hundred) return quality(quantity, around, body.slice(around.from, quantity.to), out);
  const all = [...label, ...body.slice(Math.max(0, quantity.from - 8), quantity.to)];
  if (rule && ofJpeg(statement, quantity)) {
    // "Quality 75 to 85": the second figure was read with the first.
    if (joins(body[quantity.from - 1]) && body[quantity.from - 2]?.kind === "number") return;
    const upper = joins(body[quantity.to]) ? body[quantity.to + 1] : undefined;
    if (upper?.value == null) return quality(quantity, around, body.slice(around.from, around.to), out);
    const range: Quantity = { ...quantity, form: "range", values: [quantity.values[0], upper.value] };
    return quality(range, around, body.slice(around.from, around.to + 2), out);
  }
  if (rule)
    return out.doubt(
      all.slice(
        Math.max(
          0,
          all.findIndex((t) => t.text === "quality"),
        ),
      ),
      "On which scale is this quality counted? Per cent could be read; other scales differ from " +
        "program to program.",
    );
  if (
    /\b(width|height|size|weight|pixels|resolution|side|edge)\b/.test(around.pre) &&
    !/\b(page|room|annex|form|step|rule|section)\b/.test(around.pre) &&
    quantity.values[0] >= 5
  ) {
    out.doubt(body.slice(quantity.from, quantity.to), "In which unit is this number?");
  }
}

const joins = (token: Token | undefined): boolean => /^(to|-|till|until)$/.test(token?.text ?? "");

/** JPEG's own scale goes to 100; numbers up to 30 may be of another program's. */
const LEAST_QUALITY = 31;
const ofJpeg = ({ label, body }: Statement, { values }: Quantity): boolean =>
  /\b(jpe?g|webp|avif)\b/.test(`${words(label)} ${words(body)}`) &&
  values.every((value) => value >= LEAST_QUALITY);

function bytes({ quantity, around, tokens, out, statement }: Place): void {
  const near = `${around.pre} ${around.post}`;
  if (around.role === "unclear" || NOT_STORED.test(near)) return;
  const [ahead, behind] = around.wide.split("#");
  const aside =
    /^ ?, (in all|in total|altogether|together|all together|combined|each|per \w+|apiece)\b/.exec(
      behind,
    )?.[0] ?? "";
  const wide = `${words(statement.label)} ${ahead} ${around.post} ${aside}`;
  const [low, high] = quantity.texts;
  // "In all no more than 8 MB, each picture …": what stands right beside the figure counts.
  const right = words(statement.body.slice(quantity.to, quantity.to + 2));
  const together = TOGETHER_RIGHT.test(right);
  const apiece = !together && (APIECE_RIGHT.test(right) || APIECE.test(TOGETHER.test(near) ? near : wide));
  if (together || (!apiece && TOGETHER.test(wide))) {
    const max = quantity.form === "range" ? undefined : around.role === "min" ? undefined : low;
    if (max === undefined || (around.role === "exact" && !TOTAL_STATES.test(wide)))
      return out.doubt(tokens, "What is the limit of the whole?");
    return out.add("total", MAIL.test(wide) ? { max, counted: "mail" } : { max }, tokens, around.wish);
  }
  if (!apiece && /\battachments\b/.test(wide))
    return out.doubt(tokens, "Is this the limit of each attachment, or of all together?");
  if (quantity.form === "range") return out.add("fileSize", { min: low, max: high }, tokens, around.wish);
  if (around.role === "exact") {
    if (
      /^\( /.test(
        statement.body
          .slice(Math.max(0, quantity.from - 1), quantity.from + 1)
          .map((t) => t.text)
          .join(" "),
      ) &&
      out.found.some((f) => f.clause === "fileSize")
    ) {
      out.repeats.push({ start: tokens[0].start, end: tokens[tokens.length - 1].end });
      return;
    }
    // "JPEG, 2 MB each": said of each, a bare figure is the room that each has.
    if (APIECE_RIGHT.test(right)) return out.add("fileSize", { max: low }, tokens, around.wish);
    return out.doubt(tokens, "Is this the most a file may weigh, or the least?");
  }
  out.add("fileSize", { [around.role]: low }, tokens, around.wish);
}

/** What stands right behind a figure says whose it is, whatever else the sentence speaks of. */
const APIECE_RIGHT = /^(each|apiece|a piece|per (file|photo|picture|image|attachment|upload|item))\b/;
const TOGETHER_RIGHT = /^(together|altogether|in all|in total|combined|overall|all together)\b/;

/** A total may be stated without a comparison: "5 MB in all". */
const TOTAL_STATES = /\b(in all|altogether|in total|limit|takes|accepts|holds|allows)\b/;

function paper({ quantity, around, tokens, out, statement }: Place): void {
  const text = `${words(statement.label)} ${words(statement.owner ?? [])} ${words(statement.body)}`;
  const near = `${around.pre} ${around.post}`;
  if (/\b(kg|kilos?|kilograms?|tonnes?)\b/.test(text)) return;
  if (OTHER_THING.test(`${near} ${words(statement.body.slice(quantity.from, quantity.to))}`)) return;
  if (
    around.role !== "exact" ||
    quantity.form === "range" ||
    quantity.form === "pairs" ||
    /\bborder\b/.test(near)
  ) {
    return out.doubt(tokens, "Is this the size on paper? Only an exact size can be kept.");
  }
  if (quantity.form === "pair") {
    const [a, b] = quantity.texts;
    if (!ON_PAPER.test(text) && /\b(the|a|your|its) \w+ ,?$/.test(around.pre))
      return out.doubt(tokens, "Is this the size of the picture on paper?");
    return out.add(
      "paper",
      heightFirst(quantity, statement, around) ? { width: b, height: a } : { width: a, height: b },
      tokens,
      around.wish,
    );
  }
  const label = quantity.labels[0];
  const side = label ? (label === "w" ? "width" : "height") : (sideIn(around.post) ?? sideIn(around.pre));
  if ((side === "width" || side === "height") && ON_PAPER.test(text))
    return out.add("paper", { [side]: quantity.texts[0] }, tokens, around.wish);
  out.doubt(tokens, "Which side of the picture on paper is this?");
}

function resolution({ quantity, around, tokens, out }: Place): void {
  if (around.role === "unclear" || /\b(printer|scanner|mouse|screen|sensor)\b/.test(around.pre)) return;
  if (quantity.form === "pairs") return;
  const [low, high] = quantity.texts;
  if (quantity.form === "pair") {
    if (low === high && around.role === "exact") out.add("resolution", { exact: low }, tokens, around.wish);
    return;
  }
  const range =
    quantity.form === "range"
      ? { min: low, max: high }
      : around.role === "exact"
        ? { exact: low }
        : { [around.role]: low };
  out.add("resolution", range, tokens, around.wish);
}

const SCALED = /\b(scale|scaled|reduce|reduced|resize|resized|shrink|shrunk|sized|down)\b/;
const OF_SOURCE =
  /\b(of|of the|of its|of their) (the )?(original|source|full|present|current)\b|^size\b|\boriginal size\b/;

function percent({ quantity, around, tokens, out }: Place): void {
  if (around.role === "unclear" || quantity.form === "pair") return;
  if (/\bquality\b/.test(`${around.pre} ${around.post}`)) return quality(quantity, around, tokens, out);
  if (/\bby\b/.test(around.pre) || OTHER_THING.test(`${around.pre} ${around.post}`)) return;
  const scaled =
    (SCALED.test(around.pre) && /\b(to|at)$/.test(around.pre)) ||
    (OF_SOURCE.test(around.post) && /\b(to|at|size|scale)\b/.test(around.pre)) ||
    /\bscale$/.test(around.pre);
  if (scaled && around.role === "exact" && quantity.form === "single")
    out.add("scale", `${quantity.texts[0].replace("%", "")}%`, tokens, around.wish);
}

function quality(quantity: Quantity, around: Around, tokens: readonly Token[], out: Findings): void {
  const [low, high] = quantity.values;
  if (around.role === "unclear" || quantity.values.some((v) => v < 1 || v > 100 || !Number.isInteger(v)))
    return;
  const range =
    quantity.form === "range"
      ? { min: low, max: high }
      : around.role === "exact"
        ? { min: low, max: low }
        : { [around.role]: low };
  out.add("quality", range, tokens, around.wish);
}

const SHAPED =
  /\b(shape|ratio|aspect|proportion|proportions|format|picture|pictures|photo|photos|image|images|crop|cropped|cover|banner|landscape|portrait|wide|widescreen)\b/;

/** A time of day looks like a shape: without a word for it, only ratios that are no times are read. */
function shape({ quantity, around, tokens, out, statement }: Place): void {
  const [w, h] = quantity.values;
  const text = `${words(statement.label)} ${around.wide}`;
  const said = SHAPED.test(text);
  const timely = quantity.texts[1].length === 2;
  // "4:4:4" is how finely colours are kept.
  if (statement.body[quantity.to]?.text === ":") return;
  if (
    around.role !== "exact" ||
    (/\b(at|by|until|before|from|after|scale|map|dilute|mix|score|won|lost)$/.test(around.pre) && !said)
  )
    return;
  if (/\b(scale|map|mix|score|o'clock|closes|opens)\b/.test(text) || (timely && !said)) return;
  out.add("shape", `${w}:${h}`, tokens, around.wish);
}
