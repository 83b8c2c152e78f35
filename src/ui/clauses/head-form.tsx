"use client";

/** How large the head of a portrait is to be, and where its eyes lie. */
import { parseMeasure, parseRange, rangeText, type Typed } from "@/core/units";
import { Field } from "./fields";
import type { Kind } from "./kind";

function read(text: string): string {
  parseMeasure(text);
  return text.trim();
}

/** One figure is asked with a little room on both sides of none: exactly that. */
function readRange(text: string): Typed<string> | undefined {
  if (text.trim() === "") return undefined;
  const { exact, min, max } = parseRange(text, read);
  return exact === undefined ? { ...(min && { min }), ...(max && { max }) } : { min: exact, max: exact };
}

const shown = (range: { min?: string; max?: string } | undefined): string =>
  range?.min !== undefined && range.min === range.max ? range.min : rangeText(range);

export const head: Kind = {
  start: (brief) => ({ height: shown(brief.head?.height), eyes: shown(brief.head?.eyes) }),
  read: (values) => {
    const [height, eyes] = [readRange(values.height), readRange(values.eyes)];
    if (!height && !eyes)
      throw new Error("Say how high the head is or where its eyes are, or remove the clause.");
    return { head: { ...(height && { height }), ...(eyes && { eyes }) } };
  },
  Fields: ({ form }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">The head in the picture</legend>
      <Field form={form} name="height" label="Crown to chin" autoFocus />
      <Field form={form} name="eyes" label="Eyes above the lower edge" />
      <p className="text-small text-second">
        Such as 32–36mm or 70–80%. Crown, chin and eyes are marked by you, on Frame.
      </p>
    </fieldset>
  ),
};
