"use client";

import { type Brief, resolveBrief } from "@/core/brief";
import { onPaper, parsePixels, parseRange, rangeText, type Typed, trimNumber, UnitError } from "@/core/units";
import { Field } from "./fields";
/** Forms of the clauses on pixels, and of those that are one line of text. */
import type { Kind } from "./kind";

/** The ppi at which a typed length is counted; null where the brief leaves it open. */
function ppiOf(brief: Brief): number | null {
  return resolveBrief(brief).resolution?.exact ?? null;
}

const SIDES = [
  ["width", "Width"],
  ["height", "Height"],
  ["longSide", "Long side"],
  ["shortSide", "Short side"],
] as const;

export const pixels: Kind = {
  start: (brief) => Object.fromEntries(SIDES.map(([key]) => [key, rangeText(brief[key])])),
  read: (values, brief) => {
    const ppi = ppiOf(brief);
    const read = SIDES.flatMap(([key]) =>
      (values[key] ?? "").trim() === ""
        ? []
        : [[key, parseRange(values[key], (text) => parsePixels(text, ppi))] as const],
    );
    if (!read.length) throw new Error("Say at least one side, or remove the clause.");
    return Object.fromEntries(read);
  },
  Fields: ({ form, brief }) => {
    const ppi = ppiOf(brief);
    const reading = (text: string) => {
      const range = parseRange(text, (value) => parsePixels(value, ppi));
      if (range.exact === undefined) return rangeReading(range);
      const typedPixels = /^\s*\d+\s*(px)?\s*$/i.test(text);
      if (!typedPixels) return `${range.exact} px`;
      return ppi ? onPaper(range.exact, ppi) : "px, exactly";
    };
    return (
      <fieldset>
        <legend className="mb-2 font-semibold">Pixels of each side</legend>
        {SIDES.map(([key, label], i) => (
          <Field key={key} form={form} name={key} label={label} reading={reading} autoFocus={i === 0} />
        ))}
        <p className="text-small text-second">
          Such as 480, 300–600 or at most 1100.{" "}
          {ppi
            ? `Lengths such as 28 mm are counted at ${trimNumber(ppi, 2)} ppi.`
            : "With an exact resolution, lengths such as 28 mm can be typed too."}
        </p>
      </fieldset>
    );
  },
};

function rangeReading({ min, max }: Typed<number>): string {
  if (min !== undefined && max !== undefined) return `${min} to ${max} px`;
  return min !== undefined ? `≥ ${min} px` : `≤ ${max} px`;
}

const SIZE = /^\s*(\d{1,5})\s*(?:px)?\s*(?:×|x|\*|by)\s*(\d{1,5})\s*(?:px)?\s*$/i;

export function readSize(text: string): { width: number; height: number } {
  const match = SIZE.exec(text);
  if (!match) throw new UnitError("size", 'two sides such as "1640 × 720"', `"${text.trim()}"`);
  return { width: parsePixels(match[1]), height: parsePixels(match[2]) };
}

export const sizeText = (size: { width: number; height: number }) => `${size.width} × ${size.height}`;

/** A clause that is one line of text. */
export function line({
  name,
  legend,
  hint,
  start,
  read,
}: {
  name: "sizes" | "box" | "shape" | "scale" | "background" | "names";
  legend: string;
  hint: string;
  start: (brief: Brief) => string;
  read: (text: string) => Partial<Brief>;
}): Kind {
  return {
    start: (brief) => ({ [name]: start(brief) }),
    read: (values) => {
      if ((values[name] ?? "").trim() === "") throw new Error("Say a value, or remove the clause.");
      return read(values[name].trim());
    },
    Fields: ({ form }) => (
      <fieldset>
        <legend className="mb-2 font-semibold">{legend}</legend>
        <Field form={form} name={name} label="Value" autoFocus wide />
        <p className="text-small text-second">{hint}</p>
      </fieldset>
    ),
  };
}

export const sizes = line({
  name: "sizes",
  legend: "One of these sizes",
  hint: "Such as 1640 × 720 or 1230 × 540. A photo that has one keeps it; the others get the first.",
  start: (b) => (b.sizes ?? []).map(sizeText).join(" or "),
  read: (text) => ({ sizes: text.split(/\s+or\s+|[,;]/i).map(readSize) }),
});

export const box = line({
  name: "box",
  legend: "Inside a box, either way up",
  hint: "Such as 1360 × 800. Upright photos turn the box.",
  start: (b) => (b.box ? sizeText(b.box) : ""),
  read: (text) => ({ box: readSize(text) }),
});

export const shape = line({
  name: "shape",
  legend: "Width to height",
  hint: "Such as 16:9 or 1:1.",
  start: (b) => b.shape ?? "",
  read: (text) => ({ shape: text.replace(/\s*[:/×x]\s*/i, ":") }),
});

export const scale = line({
  name: "scale",
  legend: "Of the photo's own pixels",
  hint: "Such as 50 %, on both sides.",
  start: (b) => b.scale ?? "",
  read: (text) => ({
    scale: /%$/.test(text) ? text.replace(/\s+/g, "").replace(",", ".") : `${text.replace(",", ".")}%`,
  }),
});

export const background = line({
  name: "background",
  legend: "Where background is added, and under what is transparent",
  hint: "A colour such as #f4f1ea, white or black.",
  start: (b) => b.background ?? "",
  read: (text) => ({ background: COLOURS[text.toLowerCase()] ?? text }),
});

export const names = line({
  name: "names",
  legend: "How the files are called",
  hint:
    "{name} the photo's name, {n} or {n:3} a counter, {w} {h} its pixels, {date}, {brief}. The ending " +
    "follows the format.",
  start: (b) => b.names ?? "{name}",
  read: (text) => ({ names: text }),
});

export const COLOURS: Record<string, string> = { white: "#ffffff", black: "#000000" };
