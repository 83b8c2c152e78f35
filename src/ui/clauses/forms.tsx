"use client";

import { type Brief, formatName, type OutputFormat, WRITABLE } from "@/core/brief";
/** The forms of the clauses. Units can be typed in any field; the other readings are shown beside it. */
import { border, colour, sharpen } from "./colour-forms";
import { Choices } from "./fields";
import { head } from "./head-form";
import type { Kind } from "./kind";
import { paper, resolution } from "./paper-forms";
import { background, box, names, pixels, scale, shape, sizes } from "./pixel-forms";
import { set } from "./set-form";
import { view } from "./view-form";
import { fileSize, quality, total } from "./weight-forms";

export const format: Kind = {
  start: (brief) =>
    Object.fromEntries(formatsFor(brief).map((f) => [f, brief.format?.includes(f) ? "1" : ""])),
  read: (values, brief) => {
    const kept = (brief.format ?? []).filter((f) => values[f]);
    const chosen = [...kept, ...formatsFor(brief).filter((f) => values[f] && !kept.includes(f))];
    if (!chosen.length) throw new Error("Choose at least one format, or remove the clause.");
    return { format: chosen };
  },
  Fields: ({ form, brief }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">The file may be</legend>
      {formatsFor(brief).map((f) => (
        <label key={f} className="mb-1 flex items-center gap-2">
          <input
            type="checkbox"
            checked={form.watch(f) === "1"}
            onChange={(event) => form.setValue(f, event.target.checked ? "1" : "")}
            className="size-4 accent-plum"
          />
          {formatName(f)}
        </label>
      ))}
      <p className="mt-2 text-small text-second">
        Of several, the first is tried first; the next where it cannot meet the brief.
      </p>
    </fieldset>
  ),
};

/** Those that can be written, and those that the receiver named. */
const formatsFor = (brief: Brief): OutputFormat[] => [
  ...new Set([...(brief.format ?? []), ...(brief.overruled?.format ?? []), ...WRITABLE]),
];

/** A clause with a few fixed values. */
function choice<K extends "frame" | "enlarge" | "frames" | "metadata" | "padding" | "ink">(
  key: K,
  legend: string,
  first: string,
  options: readonly [string, string][],
): Kind {
  return {
    start: (brief) => ({ [key]: (brief[key] as string | undefined) ?? first }),
    read: (values) => ({ [key]: values[key] }) as Partial<Brief>,
    Fields: ({ form }) => <Choices form={form} name={key} legend={legend} options={options} />,
  };
}

const frame = choice("frame", "When the photo has another shape", "fill", [
  ["fill", "Cut it to shape"],
  ["pad", "Add background around it"],
  ["whole", "Keep all of it"],
  ["stretch", "Distort it, always warned"],
]);
const enlarge = choice("enlarge", "Photos with too few pixels", "never", [
  ["allow", "May be enlarged"],
  ["never", "Are never enlarged"],
]);
const metadata = choice("metadata", "Data beside the picture", "private", [
  ["private", "Nothing private: no place, owner, serial number"],
  ["none", "None at all"],
  ["keep", "All of it, put right for the new picture"],
]);
const padding = choice("padding", "A file under its floor", "allow", [
  ["allow", "May be filled up with a comment"],
  ["never", "Is never filled up"],
]);

const frames = choice("frames", "An animation", "first", [
  ["keep", "Keeps moving, in GIF, WebP or AVIF"],
  ["first", "Becomes one picture, its first"],
]);
const ink = choice("ink", "A picture of ink on paper", "black", [
  ["black", "Clean, black on white"],
  ["original", "Clean, in the ink's own colour on white"],
]);

export const FORMS: Partial<Record<string, Kind>> = {
  format,
  pixels,
  sizes,
  box,
  shape,
  scale,
  set,
  fileSize,
  total,
  paper,
  resolution,
  quality,
  colour,
  sharpen,
  frame,
  enlarge,
  view,
  background,
  border,
  frames,
  ink,
  head,
  metadata,
  padding,
  names,
};
