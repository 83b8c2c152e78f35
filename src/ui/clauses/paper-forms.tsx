"use client";

import { parseLength, parseRange, parseResolution, rangeText, toInches, trimNumber } from "@/core/units";
import { Field } from "./fields";
import type { Kind } from "./kind";

export const paper: Kind = {
  start: (brief) => ({ width: brief.paper?.width ?? "", height: brief.paper?.height ?? "" }),
  read: (values) => {
    const [width, height] = [values.width, values.height].map((text) =>
      text.trim() === "" ? undefined : text.trim().replace("″", "in").replace('"', "in"),
    );
    if (width === undefined && height === undefined)
      throw new Error("Say a width or a height, or remove the clause.");
    for (const text of [width, height]) if (text !== undefined) parseLength(text);
    return { paper: { ...(width !== undefined && { width }), ...(height !== undefined && { height }) } };
  },
  Fields: ({ form }) => {
    const reading = (text: string) => {
      const inches = toInches(parseLength(text));
      return /mm|cm/i.test(text) ? `${trimNumber(inches, 2)} in` : `${trimNumber(inches * 25.4, 1)} mm`;
    };
    return (
      <fieldset>
        <legend className="mb-2 font-semibold">Printed size</legend>
        <Field form={form} name="width" label="Width" reading={reading} autoFocus />
        <Field form={form} name="height" label="Height" reading={reading} />
        <p className="text-small text-second">
          Such as 28mm, 3.5 cm or 8in. It says how densely the pixels are printed.
        </p>
      </fieldset>
    );
  },
};

const withPpi = (text: string) => (/^[0-9.,\s]+$/.test(text) ? `${text.trim()}ppi` : text.trim());

const readPpi = (text: string): string => {
  parseResolution(withPpi(text));
  return withPpi(text);
};

export const resolution: Kind = {
  start: (brief) => ({ range: rangeText(brief.resolution) }),
  read: (values) => ({ resolution: parseRange(values.range, readPpi) }),
  Fields: ({ form }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">Written into the file</legend>
      <Field
        form={form}
        name="range"
        label="Resolution"
        autoFocus
        reading={(text) => (/cm/i.test(text) ? `${parseResolution(withPpi(text)).toFixed(1)} ppi` : null)}
      />
      <p className="text-small text-second">
        Such as 300 ppi, at least 240 or 120 px/cm. It changes no pixels.
      </p>
    </fieldset>
  ),
};
