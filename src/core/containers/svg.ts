/**
 * Drawings in SVG: their size, and what is not taken. Sources: W3C Scalable Vector Graphics (SVG) 2, 8.2 to 8.12
 * (size and view box), 5.9 (references); CSS Values and Units 4, 6.2 (a CSS pixel is 1/96 inch).
 */
import { SaxesParser } from "saxes";
import { latin1 } from "./bytes";
import { ContainerError } from "./error";

export interface Svg {
  /** Of the drawing as its file says it, in CSS pixels; not whole. */
  width: number;
  height: number;
  /** Holds text that is set in whatever fonts the machine has. */
  lettering: boolean;
  /** The root's attributes, and where its start tag ends in the text. */
  attributes: Record<string, string>;
  bodyFrom: number;
}

const LARGEST = 20_000_000;
const MOST_ELEMENTS = 200_000;
const MOST_DEPTH = 400;
/** Sides in CSS pixels that a drawing may say it has, and how much longer one may be than the other. */
const MOST_SIDE = 100_000;
const MOST_SHAPE = 200;

const refused = (why: string, instead = "Save it as a plain SVG where it came from") =>
  new ContainerError(`The drawing ${why}. ${instead}.`);

/** CSS pixels of a unit. */
const UNITS: Record<string, number> = {
  "": 1,
  px: 1,
  pt: 96 / 72,
  pc: 16,
  in: 96,
  cm: 96 / 2.54,
  mm: 96 / 25.4,
};

/** Null where it is a share of a page that is not there, or nothing. */
function lengthOf(text: string | undefined): number | null {
  const match = /^\s*\+?(\d*\.?\d+(?:e[+-]?\d+)?)\s*([a-z]*)\s*$/i.exec(text ?? "");
  const unit = match && UNITS[match[2].toLowerCase()];
  return match && unit ? Number(match[1]) * unit : null;
}

/** What begins like a drawing, or like any other XML. */
export function looksLikeSvg(head: Uint8Array): boolean {
  return /^(\xef\xbb\xbf)?\s*<(svg[\s>]|\?xml\s|!--|!DOCTYPE svg)/.test(latin1(head));
}

/** Throws {@link ContainerError} with one sentence. */
export function readSvg(text: string): Svg {
  if (text.length > LARGEST) throw refused(`takes ${Math.round(text.length / 1e6)} MB; up to 20 are read`);
  const parser = new SaxesParser({ xmlns: false });
  const check = new Contents();
  let root: Pick<Svg, "attributes" | "bodyFrom"> | null = null;
  parser.on("doctype", (declared) => {
    if (/<!ENTITY/i.test(declared)) throw refused("declares entities, which can make it endlessly long");
  });
  parser.on("error", () => {
    throw refused("is damaged: its XML is not well formed", "Bring in a sound copy");
  });
  parser.on("opentag", ({ name, attributes }) => {
    if (!root && local(name) !== "svg")
      throw refused("is none: this is XML of another kind", "Bring in the picture itself");
    root ??= { attributes, bodyFrom: parser.position };
    check.open(local(name), attributes);
  });
  parser.on("text", (piece) => check.text(piece));
  parser.on("cdata", (piece) => check.text(piece));
  parser.on("closetag", () => check.close());
  parser.write(text).close();
  if (!root) throw refused("is empty", "Bring in a sound copy");
  const { attributes, bodyFrom } = root as Pick<Svg, "attributes" | "bodyFrom">;
  return { ...sizeOf(attributes), lettering: check.lettering, attributes, bodyFrom };
}

const local = (name: string): string => name.replace(/^.*:/, "").toLowerCase();

/** Goes through a drawing, element by element, and refuses what cannot be drawn as it is meant. */
class Contents {
  lettering = false;
  private readonly names: string[] = [];
  private count = 0;

  open(name: string, attributes: Record<string, string>): void {
    this.count += 1;
    this.names.push(name);
    if (this.count > MOST_ELEMENTS || this.names.length > MOST_DEPTH)
      throw refused(`holds more than ${MOST_ELEMENTS} parts, or ${MOST_DEPTH} inside each other`);
    if (name === "script") throw refused("holds a script, so what it shows is not settled");
    if (name === "foreignobject") throw refused("holds a piece of a web page, which cannot be drawn");
    if (name === "text") this.lettering = true;
    for (const [key, value] of Object.entries(attributes)) {
      if (local(key) === "href" && name !== "a") outside(value);
      else if (value.includes("url(")) styled(value);
    }
  }

  text(piece: string): void {
    if (this.names.at(-1) === "style") styled(piece);
  }

  close(): void {
    this.names.pop();
  }
}

/** Only what lies in the file itself is drawn. */
function outside(reference: string): void {
  const target = reference.trim();
  if (target === "" || /^(#|data:)/i.test(target)) return;
  throw refused(
    `takes a part from outside (${target.slice(0, 60)}), which is not in the file`,
    "Embed it where the drawing came from",
  );
}

function styled(style: string): void {
  for (const [, target] of style.matchAll(/url\(\s*["']?([^"')]*)/gi)) outside(target);
  if (/@import/i.test(style))
    throw refused("takes its styles from outside", "Save it with its styles inside");
}

function sizeOf(attributes: Record<string, string>): { width: number; height: number } {
  const box = viewBoxOf(attributes.viewBox);
  const [w, h] = [lengthOf(attributes.width), lengthOf(attributes.height)];
  const width = w ?? (h && box ? (h * box.width) / box.height : box?.width);
  const height = h ?? (w && box ? (w * box.height) / box.width : box?.height);
  if (!width || !height) throw refused("says neither its width and height nor a view box");
  const [long, short] = [Math.max(width, height), Math.min(width, height)];
  if (long > MOST_SIDE || long / short > MOST_SHAPE)
    throw refused(
      `says it is ${Number(width.toPrecision(4))} × ${Number(height.toPrecision(4))} px; up to ${MOST_SIDE} px, and ` +
        `${MOST_SHAPE} times as long as wide, are drawn`,
      "Save it with a smaller page",
    );
  return { width, height };
}

function viewBoxOf(text: string | undefined): { width: number; height: number } | null {
  const [, , width, height] = (text ?? "")
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  return width > 0 && height > 0 ? { width, height } : null;
}

const escaped = (value: string): string =>
  value.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/"/g, "&quot;");

/** The same drawing, drawn at so many pixels. */
export function svgAt(
  text: string,
  { width, height, attributes, bodyFrom }: Svg,
  size: { width: number; height: number },
): string {
  const root: Record<string, string> = {
    ...attributes,
    width: String(size.width),
    height: String(size.height),
    viewBox: attributes.viewBox ?? `0 0 ${width} ${height}`,
  };
  const written = Object.entries(root)
    .map(([key, value]) => ` ${key}="${escaped(value)}"`)
    .join("");
  // A drawing without parts ends where it begins.
  const closed = text[bodyFrom - 2] === "/" ? "/" : "";
  const name = /<([\w:-]*svg)\b/i.exec(text)![1];
  return `<${name}${written}${closed}>${text.slice(bodyFrom)}`;
}
