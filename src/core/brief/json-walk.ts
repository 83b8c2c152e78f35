/** What `JSON.parse` passes over in silence or says without a place: keys given twice, NaN and Infinity. */

export interface JsonFault {
  /** "width.exact", from the root. */
  path: string;
  kind: "duplicate" | "not a number" | "too deep";
  found: string;
}

/** No brief nests deeper than this. */
const MAX_DEPTH = 12;
const STRING = /"(?:[^"\\]|\\.)*"/y;
const NOT_A_NUMBER = /[+-]?(?:NaN|Infinity)/y;

interface Level {
  keys: Set<string> | null;
  key: string;
  index: number;
}

/** The first fault, or null. Text that is no JSON at all is left to the parser. */
export function jsonFault(text: string): JsonFault | null {
  const levels: Level[] = [];
  const path = () => levels.map(({ keys, key, index }) => (keys ? key : String(index))).join(".");
  let wantsKey = false;
  for (let at = 0; at < text.length; at += 1) {
    const char = text[at];
    const top = levels[levels.length - 1];
    if (char === '"') {
      STRING.lastIndex = at;
      const raw = STRING.exec(text)?.[0];
      if (raw === undefined) return null;
      if (wantsKey && top?.keys) {
        top.key = unquoted(raw);
        if (top.keys.has(top.key)) return { path: path(), kind: "duplicate", found: top.key };
        top.keys.add(top.key);
        wantsKey = false;
      }
      at += raw.length - 1;
    } else if (char === "{" || char === "[") {
      levels.push({ keys: char === "{" ? new Set() : null, key: "", index: 0 });
      if (levels.length > MAX_DEPTH)
        return { path: path().slice(0, 100), kind: "too deep", found: `${levels.length} levels` };
      wantsKey = char === "{";
    } else if (char === "}" || char === "]") {
      levels.pop();
      wantsKey = false;
    } else if (char === ",") {
      if (top && !top.keys) top.index += 1;
      wantsKey = Boolean(top?.keys);
    } else if (char === "N" || char === "I" || char === "-" || char === "+") {
      NOT_A_NUMBER.lastIndex = at;
      const found = NOT_A_NUMBER.exec(text)?.[0];
      if (found) return { path: path(), kind: "not a number", found };
    }
  }
  return null;
}

function unquoted(raw: string): string {
  try {
    return JSON.parse(raw) as string;
  } catch {
    return raw.slice(1, -1);
  }
}
