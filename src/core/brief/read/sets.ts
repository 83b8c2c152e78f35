/** "In three widths: 480, 960 and 1920 px", "400w, 800w and 1600w": one photo as several files. */
import { PAGE_FORMATS } from "../keys";
import { type Brief, MOST_WIDTHS } from "../schema";
import type { Findings } from "./finding";
import { words } from "./line";
import type { Statement } from "./statements";
import type { Token } from "./tokens";

/** Tokens of a list of widths; `to` exclusive. */
export interface Widths {
  values: number[];
  from: number;
  to: number;
}

const [LEAST, MOST] = [16, 20_000];
const UNIT = /^(px|pixels?|w)$/;
const JOINER = /^(,|and|&|\/|\+)$/;
/** Numbers behind these are the ends of a range, or halves of a pair. */
const NO_LIST = /^(between|from|least|most|than|to|or|×|-)$/;
const NAMED = /\bwidths\b/;
const WIDE = /^(wide|in width|width|widths|across)\b/;
const BEFORE = 8;

/** Null where the statement asks for no set. */
export function widthsOf({ label, body }: Statement): Widths | null {
  for (let from = 0; from < body.length; from += 1) {
    const list = listAt(body, from);
    if (!list) continue;
    if (list.values.length > 1 && means(label, body, list)) return list;
    from = list.to - 1;
  }
  return null;
}

/** Numbers one after the other, each with a unit or none, up to the last. */
function listAt(body: readonly Token[], from: number): (Widths & { unit: string }) | null {
  const values: number[] = [];
  let [to, at, unit] = [from, from, ""];
  while (at < body.length && isWidth(body[at])) {
    values.push(body[at].value!);
    to = at + 1;
    if (body[to] && UNIT.test(body[to].text)) {
      unit = body[to].text;
      to += 1;
    }
    at = to;
    while (at < body.length && at < to + 2 && JOINER.test(body[at].text)) at += 1;
    if (at === to) break;
  }
  return values.length ? { values, from, to, unit } : null;
}

const isWidth = ({ kind, value }: Token): boolean =>
  kind === "number" && value !== null && Number.isInteger(value) && value >= LEAST && value <= MOST;

function means(
  label: readonly Token[],
  body: readonly Token[],
  { from, to, unit }: Widths & { unit: string },
): boolean {
  const [before, after] = [body[from - 1], body[to]];
  if ((before && NO_LIST.test(before.text)) || (after && /^(or|×|to|-)$/.test(after.text))) return false;
  const near = `${words(label)} ${words(body.slice(Math.max(0, from - BEFORE), from))}`;
  return unit === "w" || NAMED.test(near) || (unit !== "" && WIDE.test(words(body.slice(to, to + 2))));
}

/** The set, with the formats of the same statement where all of them are asked. */
export function addSet({ body }: Statement, { values, from, to }: Widths, out: Findings): void {
  const widths = [...new Set(values)];
  if (widths.length > MOST_WIDTHS)
    return out.doubt(body.slice(from, to), `A set has at most ${MOST_WIDTHS} widths. Which are wanted?`);
  const at = out.found.findIndex(({ clause }) => clause === "format");
  const format = out.found[at];
  const list = (format?.value ?? []) as NonNullable<Brief["format"]>;
  const said = format ? body.filter(({ start, end }) => start >= format.start && end <= format.end) : [];
  const all = list.length > 1 && !said.some(({ text }) => text === "or");
  const formats = PAGE_FORMATS.filter((one) => (list as readonly string[]).includes(one));
  if (!all || formats.length < list.length) return out.add("set", { widths }, body.slice(from, to));
  out.found.splice(at, 1);
  const set = { widths, formats };
  out.add("set", set, body.slice(from, to));
  out.add("set", set, said);
}
