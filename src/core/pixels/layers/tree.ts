/** The tree of layered artwork: places in it, and other choices of what takes part. */
import type { LayerChoice } from "../../photo";
import type { Artwork, Group, Layer, Node } from "./types";

/** A node's place: the numbers of the children on the way to it, from the top, such as "0.2". */
export interface Placed {
  place: string;
  node: Node;
  /** It and all groups around it are visible. */
  seen: boolean;
}

/** All layers and groups below the outermost, from the top. */
export function* placed(group: Group, before = "", seen = true): Generator<Placed> {
  for (const [i, node] of group.children.entries()) {
    const place = before ? `${before}.${i}` : String(i);
    const visible = seen && node.visible;
    yield { place, node, seen: visible };
    if (node.kind === "group") yield* placed(node, place, visible);
  }
}

/** The same artwork with other layers and groups shown and hidden. */
export function chosen(artwork: Artwork, { shown, hidden }: LayerChoice): Artwork {
  const [show, hide] = [new Set(shown), new Set(hidden)];
  const within = (group: Group, before: string): Group => ({
    ...group,
    children: group.children.map((node, i) => {
      const place = before ? `${before}.${i}` : String(i);
      const visible = show.has(place) ? true : hide.has(place) ? false : node.visible;
      return node.kind === "group" ? { ...within(node, place), visible } : { ...node, visible };
    }),
  });
  return { ...artwork, root: within(artwork.root, "") };
}

/** Without what is hidden. */
export function withoutHidden(group: Group): Group {
  return {
    ...group,
    children: group.children
      .filter((node) => node.visible)
      .map((node) => (node.kind === "group" ? withoutHidden(node) : node)),
  };
}

/** Each layer replaced, from the top; groups stay. */
export function mapLayers(group: Group, change: (layer: Layer) => Layer): Group {
  return {
    ...group,
    children: group.children.map((node) => (node.kind === "group" ? mapLayers(node, change) : change(node))),
  };
}

const escaped = (text: string) =>
  text.replace(/[&<>"]/g, (sign) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[sign]!);
const attributes = (all: Readonly<Record<string, string>>) =>
  Object.entries(all)
    .map(([key, value]) => ` ${key}="${escaped(value)}"`)
    .join("");

/** `stack.xml` with places and sizes as they stand in the artwork; everything else as it was read. */
export function writeStack({ width, height, root, attributes: all }: Artwork): string {
  const written = (node: Node, depth: number): string => {
    const indent = "  ".repeat(depth);
    if (node.kind === "layer")
      return `${indent}<layer${attributes({ ...node.attributes, src: node.source, x: String(node.x), y: String(node.y) })}/>`;
    return [
      `${indent}<stack${attributes(node.attributes)}>`,
      ...node.children.map((child) => written(child, depth + 1)),
      `${indent}</stack>`,
    ].join("\n");
  };
  return `<?xml version="1.0" encoding="UTF-8"?>\n<image${attributes({ ...all, w: String(width), h: String(height) })}>\n${written(root, 1)}\n</image>\n`;
}
