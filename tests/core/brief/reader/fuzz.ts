/** Text made of the words of rules, broken in every way, for property tests and for the long run of `bench/read-fuzz.mjs`. */
import fc from "fast-check";
import { parseBrief } from "@/core/brief";
import { readWording } from "@/core/brief/read";

const PIECES = [
  "330",
  "420",
  "1,500",
  "1.5",
  "0330",
  "30.11.2026",
  "px",
  "pixels",
  "KB",
  "MB",
  "kB",
  "KiB",
  "mm",
  "cm",
  "in",
  "″",
  "dpi",
  "ppi",
  "%",
  "bit",
  "×",
  "x",
  "by",
  "to",
  "-",
  "–",
  "and",
  "or",
  "nor",
  "not",
  "no",
  "under",
  "over",
  "at most",
  "at least",
  "up to",
  "between",
  "max",
  "min",
  "≤",
  ">",
  "<",
  "preferred",
  "if possible",
  "must",
  "JPEG",
  "PNG",
  ".png",
  "only",
  "sRGB",
  "grey",
  "CMYK",
  "width",
  "height",
  "longest side",
  "either side",
  "quality",
  "square",
  "16:9",
  "half size",
  "all attachments together",
  "each",
  "message",
  "background",
  "white",
  "#f4f1ea",
  "border",
  "black",
  "pen",
  "signature",
  "Portrait:",
  "Consent slip.",
  "for",
  "the",
  "badge",
  ",",
  ".",
  ";",
  ":",
  "(",
  ")",
  "?",
  "!",
  "\n",
  "\n\n",
  "\t",
  "|",
  "•",
  "1)",
  "<b>",
  "</td>",
  "is refused",
  "other than",
  "A4",
  "🦋",
  "é",
  "的",
];

export const wordings = fc.oneof(
  fc
    .array(fc.constantFrom(...PIECES), { maxLength: 60 })
    .chain((words) => fc.constantFrom(" ", "", "  ").map((gap) => words.join(gap))),
  fc.string({ maxLength: 400, unit: "binary" }),
  fc
    .array(fc.tuple(fc.constantFrom(...PIECES), fc.nat(400)), { maxLength: 6 })
    .map((parts) => parts.map(([word, times]) => `${word} `.repeat(times)).join("")),
);

/** What must hold for any text at all. Throws where it does not. */
export function holds(text: string): void {
  const reading = readWording(text);
  const inside = ({ start, end }: { start: number; end: number }) => {
    if (!(start >= 0 && start < end && end <= text.length))
      throw new Error(`A span ${start}–${end} lies outside the text of ${text.length}.`);
  };
  for (const brief of reading.briefs) {
    parseBrief(brief);
    brief.read!.forEach(inside);
    (brief.unread ?? []).forEach(inside);
  }
  for (const part of [...reading.unread, ...reading.onlyYou]) {
    inside(part);
    if (part.text !== text.slice(part.start, part.end))
      throw new Error("A part is not the text of its span.");
  }
}
