/** "The head 32 to 36 mm high", "face 70 to 80 % of the picture's height", "eyes 28 mm from the lower edge". */
import { words } from "./line";
import type { Quantity } from "./quantities";
import type { Statement } from "./statements";
import type { Token } from "./tokens";
import type { Around } from "./window";

const HEAD = /\b(heads?|faces?|crown|chin)\b/;
const EYES = /\b(eyes?|eye (- )?(line|level)|pupils?)\b/;
/** From where the eyes are counted. */
const FROM_BELOW =
  /\b(from|above|over|off|to) (the )?(lower|bottom|base)( (edge|margin|side|border|of))?\b|\b(lower|bottom) (edge|margin|border)\b/;
/** What is measured at a head that is not its height. */
const OTHERWISE =
  /\b(wide|width|above (the )?(head|crown)|space|gap|margin|between|apart|away|distance|camera|wall|background|tilt|turned|top of the (picture|photo|image|frame))\b/;
/** "Head 32 to 36 mm": nothing stands between. */
const NAMED = /\b(head|face)( size)? ?:?$/;
const FROM_CROWN = /\bcrown\b.*\bchin\b|\bchin\b.*\bcrown\b/;
const HEIGHT_OF =
  /\b(height|high|tall|length|crown|chin|measure[sd]?|occup(y|ies)|fills?|takes? up|covers?|size|should be|must be|has to be|is|of the (picture|photo|photograph|image|frame|portrait|area))\b/;

type HeadRange = { min?: string; max?: string };

/** The clause that a length or a share near a head means; null where it means none. */
export function headOf(
  { label, body }: Statement,
  quantity: Quantity,
  around: Around,
): { height: HeadRange } | { eyes: HeadRange } | null {
  const measured = quantity.kind === "length" || quantity.kind === "percent";
  if (!measured || (quantity.form !== "single" && quantity.form !== "range") || around.role === "unclear")
    return null;
  const before = words(body.slice(lastNumber(body, quantity.from), quantity.from));
  const after = words(body.slice(quantity.to, nextBreak(body, quantity.to)));
  const near = `${words(label)} ${before} # ${after}`;
  const range = rangeOf(quantity, around);
  if (meansEyes(before) ?? meansEyes(after) ?? meansEyes(words(label)))
    return FROM_BELOW.test(near) ? { eyes: range } : null;
  if (!HEAD.test(near) || (OTHERWISE.test(near) && !FROM_CROWN.test(near))) return null;
  return HEIGHT_OF.test(near) || NAMED.test(before || words(label)) ? { height: range } : null;
}

/** Whether the eyes are meant and not the head, by what is named last; null where neither is. */
function meansEyes(text: string): boolean | null {
  const last = (pattern: RegExp) => [...text.matchAll(new RegExp(pattern, "g"))].at(-1)?.index ?? -1;
  const [eyes, head] = [last(EYES), last(HEAD)];
  return eyes < 0 && head < 0 ? null : eyes > head;
}

/** What is said before the number in front belongs to that one. */
function lastNumber(body: readonly Token[], at: number): number {
  for (let i = at - 1; i >= 0; i -= 1) if (body[i].kind === "number") return i + 1;
  return 0;
}

function nextBreak(body: readonly Token[], at: number): number {
  for (let i = at; i < body.length; i += 1)
    if (body[i].kind === "number" || /^[,;]$/.test(body[i].text)) return i;
  return body.length;
}

function rangeOf({ form, texts, kind }: Quantity, { role }: Around): HeadRange {
  const [low, high] = texts.map((text) => (kind === "percent" ? text.replace(/\s*%?$/, "%") : text));
  if (form === "range") return { min: low, max: high };
  return role === "min" || role === "max" ? { [role]: low } : { min: low, max: low };
}
