/**
 * The description of layered artwork: `stack.xml` of OpenRaster. Only what the format uses of XML is read;
 * documents that declare entities are refused.
 */
import { ContainerError } from "../../containers";
import { type Artwork, type Group, type Node, OPERATORS, type Operator } from "./types";

const TAG = /<(\/?)([A-Za-z][\w:.-]*)((?:\s+[\w:.-]+\s*=\s*(?:"[^"<]*"|'[^'<]*'))*)\s*(\/?)>/y;
const ATTRIBUTE = /([\w:.-]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g;
const ENTITIES: Record<string, string> = { lt: "<", gt: ">", amp: "&", quot: '"', apos: "'" };
const MOST_NODES = 1000;
const MOST_DEPTH = 40;
const LARGEST_TEXT = 2_000_000;
const MOST_SIDE = 100_000;

const damaged = (why: string) =>
  new ContainerError(
    `The layers of this artwork cannot be read: ${why}. Save it anew in the program it came from.`,
  );

/** Throws {@link ContainerError} with one sentence. */
export function readStack(xml: string): Artwork {
  if (xml.length > LARGEST_TEXT) throw damaged("their description is too long");
  if (/<!(DOCTYPE|ENTITY)/i.test(xml)) throw damaged("their description declares entities, which none needs");
  let image: Record<string, string> | null = null;
  let root: Group | null = null;
  const open: Group[] = [];
  const unknown = new Set<string>();
  let nodes = 0;
  for (const { closing, name, attributes, empty } of tags(xml)) {
    if (closing) {
      if (name === "stack") open.pop();
      continue;
    }
    if (name === "image") image = attributes;
    if (name !== "stack" && name !== "layer") {
      if (open.length) unknown.add(name);
      continue;
    }
    nodes += 1;
    if (nodes > MOST_NODES) throw damaged(`it has more than ${MOST_NODES} layers`);
    const node = name === "layer" ? layerOf(attributes) : groupOf(attributes, open.length === 0);
    const parent = open[open.length - 1];
    if (parent) parent.children.push(node);
    else if (node.kind === "group") root ??= node;
    if (node.kind === "group" && !empty) open.push(node);
    if (open.length > MOST_DEPTH) throw damaged(`its groups lie more than ${MOST_DEPTH} deep`);
  }
  if (!image || !root) throw damaged("there is no picture in their description");
  const side = (key: string) => wholeOf(image[key], key, 1, MOST_SIDE);
  const ppi = (key: string) => (image[key] === undefined ? null : Number(image[key]));
  const [x, y] = [ppi("xres"), ppi("yres")];
  return {
    width: side("w"),
    height: side("h"),
    resolution: x && y && x > 0 && y > 0 ? [x, y] : null,
    root,
    attributes: image,
    unknown: [...unknown],
  };
}

function* tags(
  xml: string,
): Generator<{ closing: boolean; name: string; attributes: Record<string, string>; empty: boolean }> {
  for (let at = xml.indexOf("<"); at >= 0; at = xml.indexOf("<", at)) {
    const skipped = (
      [
        ["<!--", "-->"],
        ["<?", "?>"],
        ["<![CDATA[", "]]>"],
      ] as const
    ).find(([start]) => xml.startsWith(start, at));
    if (skipped) {
      const end = xml.indexOf(skipped[1], at);
      if (end < 0) throw damaged("their description breaks off");
      at = end + skipped[1].length;
      continue;
    }
    TAG.lastIndex = at;
    const match = TAG.exec(xml);
    if (!match) throw damaged("their description is not well formed");
    at = TAG.lastIndex;
    const attributes = Object.fromEntries(
      [...match[3].matchAll(ATTRIBUTE)].map((found) => [found[1], plain(found[2] ?? found[3])]),
    );
    yield { closing: match[1] === "/", name: match[2], attributes, empty: match[4] === "/" };
  }
}

const plain = (text: string): string =>
  text.replace(/&(#x?[0-9a-f]+|\w+);/gi, (all, code: string) =>
    code[0] === "#"
      ? String.fromCodePoint(
          Math.min(
            0x10ffff,
            code[1].toLowerCase() === "x"
              ? Number.parseInt(code.slice(2), 16) || 0
              : Number(code.slice(1)) || 0,
          ),
        )
      : (ENTITIES[code] ?? all),
  );

function wholeOf(text: string | undefined, what: string, min: number, max: number): number {
  const value = Number(text ?? "0");
  if (!Number.isInteger(value) || value < min || value > max)
    throw damaged(
      `${what} is "${(text ?? "").slice(0, 20)}", and a whole number from ${min} to ${max} is wanted`,
    );
  return value;
}

function commonOf(attributes: Record<string, string>) {
  const opacity = Number(attributes.opacity ?? "1");
  const operator = (attributes["composite-op"] ?? "svg:src-over").replace(/^svg:/, "");
  if (!(OPERATORS as readonly string[]).includes(operator))
    throw damaged(`a layer is laid on by "${operator.slice(0, 30)}", which the format does not know`);
  return {
    name: attributes.name ?? "",
    opacity: Number.isFinite(opacity) ? Math.min(1, Math.max(0, opacity)) : 1,
    visible: attributes.visibility !== "hidden",
    operator: operator as Operator,
    attributes,
  };
}

function layerOf(attributes: Record<string, string>): Node {
  const source = attributes.src ?? "";
  if (!source || source.startsWith("/") || source.includes("\\") || source.split("/").includes(".."))
    throw damaged(`a layer lies at "${source.slice(0, 60)}", outside of the file`);
  return {
    kind: "layer",
    ...commonOf(attributes),
    source,
    x: wholeOf(attributes.x, "x", -MOST_SIDE, MOST_SIDE),
    y: wholeOf(attributes.y, "y", -MOST_SIDE, MOST_SIDE),
  };
}

/**
 * A group is put together on its own where it says so, or where it could not be told otherwise. The
 * outermost always is.
 */
function groupOf(attributes: Record<string, string>, outermost: boolean): Group {
  const common = commonOf(attributes);
  return {
    kind: "group",
    ...common,
    isolated:
      outermost || attributes.isolation === "isolate" || common.opacity < 1 || common.operator !== "src-over",
    children: [],
  };
}
