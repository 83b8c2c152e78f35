/** Names whose rules stand in brackets behind them: "a label scan (PNG, 600 dpi) and a plant picture (JPEG, 300 dpi)". */
import { words } from "./line";
import type { Token } from "./tokens";
import { FORMAT, isName, speaksOfRule } from "./vocabulary";

const UNIT = /^(px|pixels?|k|kb|mb|kib|mib|dpi|ppi|mm|cm|in|inch|inches|%|×|bytes?|-)$/;
const ARTICLE = /^(a|an|the|your|our|one|each|and|or|plus|us)$/;
const OPENS = /^(of|for|as|with|wants?|needs?|send|upload|submit|attach|like|have|provide)$/;
/** Words of a name that no list of nouns knows. */
const MOST_UNKNOWN = 3;
const MOST_WORDS = 6;

/** Where each name begins; empty where there are fewer than two. */
export function bracketed(tokens: readonly Token[]): ReadonlySet<number> {
  const starts = new Set<number>();
  let rules = false;
  let open = -1;
  for (const [i, token] of tokens.entries()) {
    if (token.text === "(") [open, rules] = [i, false];
    else if (open >= 0 && isRuling(token, tokens[i + 1])) rules = true;
    else if (token.text === ")" && open >= 0) {
      const from = nameBefore(tokens, open);
      if (rules && from !== null) starts.add(from);
      open = -1;
    }
  }
  return starts.size > 1 ? starts : new Set();
}

const isRuling = ({ kind, text }: Token, next: Token | undefined): boolean =>
  FORMAT.test(text) || (kind === "number" && UNIT.test(next?.text ?? ""));

/** Where a name begins that ends before `end`; null where there is none. */
function nameBefore(tokens: readonly Token[], end: number): number | null {
  // "Photo .jpg (max 100 KB)".
  if (end > 2 && FORMAT.test(tokens[end - 1].text) && tokens[end - 2].text === ".")
    return nameBefore(tokens, end - 2);
  let from = end;
  const known = () => isName(words(tokens.slice(from, end)));
  // "A photo of the front": an article behind "of" belongs to the name.
  const begins = (at: number) =>
    (OPENS.test(tokens[at].text) && known() && !ofName(at)) ||
    (ARTICLE.test(tokens[at].text) && !/^(of|for|from|in|on)$/.test(tokens[at - 1]?.text ?? ""));
  const ofName = (at: number) =>
    tokens[at].text === "of" &&
    /^(scan|copy|photo|photograph|picture|proof)$/.test(tokens[at - 1]?.text ?? "");
  while (from > 0 && end - from < MOST_WORDS && tokens[from - 1].kind === "word" && !begins(from - 1))
    from -= 1;
  const opened = from > 0 && (ARTICLE.test(tokens[from - 1].text) || tokens[from - 1].text === ",");
  while (from < end && (OPENS.test(tokens[from].text) || ARTICLE.test(tokens[from].text))) from += 1;
  const text = words(tokens.slice(from, end));
  // "Logo as PNG (…)" is one, "PNG (…)" is none.
  if (from >= end || speaksOfRule(text) || FORMAT.test(tokens[from].text)) return null;
  return isName(text) || (opened && end - from <= MOST_UNKNOWN) ? from : null;
}
