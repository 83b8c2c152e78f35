/**
 * The description of layered artwork: `stack.xml` of OpenRaster. Documents that declare entities are refused.
 */
import { SaxesParser } from "saxes";
import { ContainerError } from "../../containers";
import { type Artwork, type Group, type Node, OPERATORS, type Operator } from "./types";

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
  const tree = new Tree();
  const parser = new SaxesParser({ xmlns: false });
  parser.on("doctype", () => {
    throw damaged("their description declares entities, which none needs");
  });
  parser.on("error", () => {
    throw damaged("their description is not well formed");
  });
  parser.on("opentag", ({ name, attributes }) => tree.open(name, attributes));
  parser.on("closetag", ({ name }) => tree.close(name));
  parser.write(xml.replace(/^\uFEFF/, "")).close();
  const { image, root } = tree;
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
    unknown: [...tree.unknown],
  };
}

/** Layers and groups as they come, tag by tag. */
class Tree {
  image: Record<string, string> | null = null;
  root: Group | null = null;
  /** Parts of other kinds inside the picture. */
  readonly unknown = new Set<string>();
  private readonly groups: Group[] = [];
  private nodes = 0;

  open(name: string, attributes: Record<string, string>): void {
    if (name === "image") this.image = attributes;
    if (name !== "stack" && name !== "layer") {
      if (this.groups.length) this.unknown.add(name);
      return;
    }
    this.nodes += 1;
    if (this.nodes > MOST_NODES) throw damaged(`it has more than ${MOST_NODES} layers`);
    const parent = this.groups.at(-1);
    const node = name === "layer" ? layerOf(attributes) : groupOf(attributes, !parent);
    if (parent) parent.children.push(node);
    else if (node.kind === "group") this.root ??= node;
    if (node.kind === "group") this.groups.push(node);
    if (this.groups.length > MOST_DEPTH) throw damaged(`its groups lie more than ${MOST_DEPTH} deep`);
  }

  close(name: string): void {
    if (name === "stack") this.groups.pop();
  }
}

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
