/** File types in a refusal: the one that came, and those that are taken. */

const TYPES: Record<string, string> = {
  jpg: "jpeg",
  jpeg: "jpeg",
  jpe: "jpeg",
  png: "png",
  webp: "webp",
  avif: "avif",
  tif: "tiff",
  tiff: "tiff",
  gif: "gif",
  bmp: "bmp",
  pdf: "pdf",
  heic: "heif",
  heif: "heif",
  svg: "svg",
};
/** Those that a brief can ask for. */
const WRITTEN = new Set(["jpeg", "png", "webp", "avif", "tiff", "gif", "bmp", "pdf"]);
const NAME =
  /(?<![\w])\.?(?:image\/|application\/)?(jpe?g|jpe|png|webp|avif|tiff?|gif|bmp|pdf|hei[cf]|svg)\b/gi;
/** Behind a type that was turned down, up to the next type. */
const TURNED_DOWN =
  /^[^.;]{0,24}?\b(not (an? )?(allowed|accepted|supported|permitted|valid|possible)|unsupported|invalid)\b/i;
const CAME =
  /\b((is|was|got|received|found|uploaded|sent|detected|chosen|yours is)( an?)?|(unsupported|invalid|wrong) (file )?(type|format)?:?|not (accept|allow|support|take)( an?)?)\W{0,3}$/i;
const TAKEN =
  /\b(only|must be|should be|has to be|needs to be|accepts?|accepted|allowed|permitted|supported|expected|required|convert(ed)? (it )?to|save (it )?as|use|upload|asked)\b[^.;]{0,40}$/i;
const TAKEN_BEHIND =
  /^[^.;]{0,24}?\b(is|are|only|files?|images?)?\s*(asked|required|expected|accepted|allowed|supported|permitted|only)\b/i;

export function formatsOf(text: string): { asked: string[]; found: string | null } {
  const asked = new Set<string>();
  let found: string | null = null;
  let open = false;
  let end = 0;
  for (const match of text.matchAll(NAME)) {
    // "photo.png" is a name.
    if (match[0].startsWith(".") && /\w$/.test(text.slice(0, match.index))) continue;
    const type = TYPES[match[1].toLowerCase()];
    const before = text
      .slice(Math.max(0, match.index - 60), match.index)
      .split(/[.;\n]\s/)
      .at(-1)!;
    const after = text.slice(match.index + match[0].length, match.index + match[0].length + 40);
    const joined = open && /^\s*(,|or|and|\/|, or|, and)\s*$/i.test(text.slice(end, match.index));
    end = match.index + match[0].length;
    if (TURNED_DOWN.test(after) || (CAME.test(before) && !/\b(must|should|has to)\b/.test(before))) {
      found ??= type;
      open = false;
    } else if (joined || TAKEN.test(before) || TAKEN_BEHIND.test(after)) {
      if (WRITTEN.has(type)) asked.add(type);
      open = true;
    }
  }
  return { asked: [...asked].filter((type) => type !== found), found };
}
