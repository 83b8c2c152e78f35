/**
 * XMP packets, as far as the picture's own data and its copyright stand in them. Source: ISO 16684-1; TIFF
 * and EXIF namespaces of XMP part 2.
 */
import { latin1 } from "./bytes";
import { xmpProperties } from "./xml";

export interface XmpFacts {
  width: number;
  height: number;
  /** Null takes resolutions away. */
  ppi: number | null;
}

const read = (xmp: Uint8Array) => new TextDecoder().decode(xmp);

/**
 * Sets a property, written as attribute or as element, wherever it occurs; null takes it away. In place, since
 * every other byte of the packet stays.
 */
function set(text: string, name: string, value: string | null): string {
  const attribute = new RegExp(`\\s${name}\\s*=\\s*("[^"]*"|'[^']*')`, "g");
  const element = new RegExp(`<${name}>[^<]*</${name}>`, "g");
  return text
    .replace(attribute, value === null ? "" : ` ${name}="${value}"`)
    .replace(element, value === null ? "" : `<${name}>${value}</${name}>`);
}

/** The packet with pixels, resolution and orientation of the output, and without embedded thumbnails. */
export function correctXmp(xmp: Uint8Array, { width, height, ppi }: XmpFacts): Uint8Array {
  let text = read(xmp);
  const density = ppi === null ? null : `${Math.round(ppi * 10_000)}/10000`;
  const values: [string, string | null][] = [
    ["tiff:Orientation", "1"],
    ["tiff:ImageWidth", String(width)],
    ["tiff:ImageLength", String(height)],
    ["exif:PixelXDimension", String(width)],
    ["exif:PixelYDimension", String(height)],
    ["tiff:XResolution", density],
    ["tiff:YResolution", density],
    ["tiff:ResolutionUnit", ppi === null ? null : "2"],
  ];
  for (const [name, value] of values) text = set(text, name, value);
  text = text.replace(/<(xmp|xap):Thumbnails>[\s\S]*?<\/\1:Thumbnails>/g, "");
  return new TextEncoder().encode(text);
}

/** The resolution alone: for pictures whose pixels stay as they are. */
export function withXmpResolution(xmp: Uint8Array, ppi: number): Uint8Array {
  let text = read(xmp);
  const density = `${Math.round(ppi * 10_000)}/10000`;
  for (const [name, value] of [
    ["tiff:XResolution", density],
    ["tiff:YResolution", density],
    ["tiff:ResolutionUnit", "2"],
  ])
    text = set(text, name, value);
  return new TextEncoder().encode(text);
}

/** The longest notice that is taken along. */
const LONGEST_NOTICE = 500;

/** The copyright notice (dc:rights), or null. */
export function xmpRights(xmp: Uint8Array | null): string | null {
  const [notice = ""] = xmp ? (xmpProperties(read(xmp)).get("dc:rights") ?? []) : [];
  return notice !== "" && notice.length <= LONGEST_NOTICE ? notice : null;
}

/** The longest alternative text that is taken along. */
const LONGEST_WORDS = 500;

/** What it shows, for those who do not see it (IPTC Photo Metadata 2021.1, from memory); null where it does not say. */
export function xmpAlt(xmp: Uint8Array | null): string | null {
  const [words = ""] = xmp ? (xmpProperties(read(xmp)).get("Iptc4xmpCore:AltTextAccessibility") ?? []) : [];
  return words.replace(/\s+/g, " ").slice(0, LONGEST_WORDS) || null;
}

/** The copyright notice of IPTC data (record 2, data set 116; IIM 4.2), or null. */
export function iptcRights(iptc: Uint8Array | null): string | null {
  for (let at = 0; iptc && at + 5 <= iptc.length; at += 1) {
    if (iptc[at] !== 0x1c || iptc[at + 1] !== 2 || iptc[at + 2] !== 116) continue;
    const size = (iptc[at + 3] << 8) | iptc[at + 4];
    if (size > 0 && size <= 500 && at + 5 + size <= iptc.length)
      return latin1(iptc.subarray(at + 5, at + 5 + size)).trim() || null;
  }
  return null;
}
