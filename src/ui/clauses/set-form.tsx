"use client";

import { formatName, PAGE_FORMATS } from "@/core/brief";
import { parsePixels, UnitError } from "@/core/units";
import { Field } from "./fields";
/** The form of a set: widths in one line, and the formats that each comes in. */
import type { Kind } from "./kind";

const USUAL = "480, 960, 1440, 1920";

/** "480, 960 and 1440px": whole pixels, parted by anything. */
function widthsOf(text: string): number[] {
  const widths = text
    .split(/[\s,;]+|\band\b/)
    .filter(Boolean)
    .map((part) => parsePixels(part));
  if (!widths.length) throw new UnitError("widths", `widths such as "${USUAL}"`, `"${text}"`);
  return [...new Set(widths)].sort((a, b) => a - b);
}

export const set: Kind = {
  start: (brief) => ({
    widths: brief.set?.widths.join(", ") ?? USUAL,
    ...Object.fromEntries(
      PAGE_FORMATS.map((format) => [
        format,
        (brief.set?.formats ?? (brief.set ? [] : ["avif", "jpeg"])).includes(format) ? "1" : "",
      ]),
    ),
  }),
  read: (values) => {
    const formats = PAGE_FORMATS.filter((format) => values[format]);
    return { set: { widths: widthsOf(values.widths), ...(formats.length && { formats }) } };
  },
  Fields: ({ form }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">Several files of each photo</legend>
      <Field form={form} name="widths" label="Widths, px" autoFocus wide />
      <p className="mb-1 text-small text-second">Each of them as</p>
      <div className="mb-2 flex flex-wrap gap-x-4 gap-y-1">
        {PAGE_FORMATS.map((format) => (
          <label key={format} className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={form.watch(format) === "1"}
              onChange={(event) => form.setValue(format, event.target.checked ? "1" : "")}
              className="size-4 accent-plum"
            />
            {formatName(format)}
          </label>
        ))}
      </div>
      <p className="text-small text-second">
        For a web page: each screen loads the file that suits it. None is enlarged, and all other clauses hold
        for each file. AVIF is lightest and slowest to make; JPEG is for browsers that know no other.
      </p>
    </fieldset>
  ),
};
