/** The rules as a receiver would publish them, in words that can be read into briefs. */
import { type FormRules, type Rules, type Slot, typeWords } from "./rules";

const number = (value: number) => String(Number(value.toFixed(2)));

/** Bytes as receivers write them. */
function size(bytes: number): string {
  return bytes % 1_000_000 === 0 || bytes >= 1_000_000
    ? `${number(bytes / 1_000_000)} MB`
    : `${number(bytes / 1000)} KB`;
}

/** One document of a form. */
export function slotWording(slot: Slot): string {
  const lines = [slot.title];
  lines.push(`File type: ${typeWords(slot.formats)}`);
  if (slot.pixels) lines.push(`Dimensions: ${slot.pixels.width} × ${slot.pixels.height} pixels`);
  if (slot.page) lines.push(`Paper size: ${number(slot.page.width)} × ${number(slot.page.height)} mm`);
  // The form counts kilobytes of 1000 bytes; a floor and a ceiling that hold in either reading are on the
  // safe side.
  if (slot.floor !== null && slot.ceiling !== null)
    lines.push(`File size: ${number(slot.floor)} KB to ${number(slot.ceiling)} KB`);
  else if (slot.ceiling !== null) lines.push(`File size: at most ${number(slot.ceiling)} KB`);
  else if (slot.floor !== null) lines.push(`File size: at least ${number(slot.floor)} KB`);
  if (slot.ink) lines.push("Sign in black ink on white paper.");
  return [...lines, ...slot.person].join("\n");
}

const formWording = ({ name, slots }: FormRules) =>
  [`${name}: what to upload`, ...slots.map(slotWording)].join("\n\n");

export function wordingOf(rules: Rules): string {
  switch (rules.kind) {
    case "form":
      return formWording(rules);
    case "mailbox":
      return (
        `Send your pictures to ${rules.address} in one message. The whole message must not be over ` +
        `${size(rules.limit)}; larger ones are returned to their sender.`
      );
    case "print":
      return (
        `Pictures are printed ${number(rules.width)} × ${number(rules.height)} mm. Send ` +
        `${typeWords(rules.formats)} with a resolution of at least ${number(rules.ppi)} ppi.`
      );
    default:
      return (
        `For the wall screen: pictures that fit inside ${rules.width} × ${rules.height} pixels, either ` +
        `way up, ${typeWords(rules.formats)}. All pictures together must not exceed ` +
        `${size(rules.memory)}, which is what its memory holds.`
      );
  }
}
