/** Properties of an XMP packet, however they are spelt: as attributes, as elements, or as lists of items. */
import { SaxesParser } from "saxes";

/** Longer packets hold pictures, not words. */
const LONGEST = 4_000_000;

/**
 * Values by qualified name, in order: of an attribute its text, of an element its own text, or that of the
 * `rdf:li` in it. What stands before a packet goes wrong is still given.
 */
export function xmpProperties(packet: string): Map<string, string[]> {
  const found = new Map<string, string[]>();
  if (packet.length > LONGEST) return found;
  const add = (name: string, text: string) => {
    const value = text.trim();
    if (value) found.set(name, [...(found.get(name) ?? []), value]);
  };
  const open: { name: string; text: string }[] = [];
  const parser = new SaxesParser({ xmlns: false, fragment: true });
  let broken = false;
  parser.on("error", () => {
    broken = true;
  });
  parser.on("opentag", ({ name, attributes }) => {
    if (broken) return;
    for (const [key, value] of Object.entries(attributes)) add(key, value);
    open.push({ name, text: "" });
  });
  parser.on("text", (text) => {
    const inner = open.at(-1);
    if (inner && !broken) inner.text += text;
  });
  parser.on("closetag", () => {
    const closed = open.pop();
    if (!closed || broken) return;
    // An item belongs to the property whose list it stands in.
    const owner = closed.name === "rdf:li" ? open.findLast(({ name }) => !name.startsWith("rdf:")) : closed;
    if (owner) add(owner.name, closed.text);
  });
  parser.write(packet.replace(/^\uFEFF/, "")).close();
  return found;
}
