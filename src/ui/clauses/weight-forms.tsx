"use client";

import { formatBytes, parseRange, rangeText, toBytes, UnitError } from "@/core/units";
import { Field, Pick } from "./fields";
import type { Kind } from "./kind";

export const amount = (value: string | number | undefined) => (value === undefined ? "" : String(value));

const withUnit = (text: string) =>
  /^[0-9.,\s]+$/.test(text) ? `${text.trim().replace(",", ".")}KB` : text.trim();

export const fileSize: Kind = {
  start: (brief) => ({ min: amount(brief.fileSize?.min), max: amount(brief.fileSize?.max) }),
  read: (values, brief) => {
    const [min, max] = [values.min, values.max].map((text) =>
      text.trim() === "" ? undefined : withUnit(text),
    );
    if (min === undefined && max === undefined)
      throw new Error("Say a floor or a ceiling, or remove the clause.");
    if (min !== undefined) toBytes(min, "min");
    if (max !== undefined) toBytes(max, "max");
    const aim = brief.fileSize?.aim;
    return {
      fileSize: { ...(min !== undefined && { min }), ...(max !== undefined && { max }), ...(aim && { aim }) },
    };
  },
  Fields: ({ form }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">The file weighs</legend>
      <Field
        form={form}
        name="min"
        label="At least"
        autoFocus
        reading={(text) => `${toBytes(withUnit(text), "min")} bytes`}
      />
      <Field
        form={form}
        name="max"
        label="At most"
        reading={(text) =>
          `${toBytes(withUnit(text), "max")} bytes, ${formatBytes(toBytes(withUnit(text), "max"))}`
        }
      />
      <p className="text-small text-second">
        KB and MB can mean two things, so a ceiling is met in the smaller reading and a floor in the larger.
      </p>
    </fieldset>
  ),
};

const readQuality = (text: string): number => {
  const value = Number(text.replace(/\s*%$/, ""));
  if (!Number.isInteger(value) || value < 1 || value > 100)
    throw new UnitError("quality", "a whole number from 1 to 100", `"${text}"`);
  return value;
};

export const quality: Kind = {
  start: (brief) => ({
    range:
      brief.quality?.min !== undefined && brief.quality.min === brief.quality.max
        ? String(brief.quality.min)
        : rangeText(brief.quality),
  }),
  read: (values) => {
    const range = parseRange(values.range, readQuality);
    return { quality: range.exact !== undefined ? { min: range.exact, max: range.exact } : range };
  },
  Fields: ({ form }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">Quality of the encoding</legend>
      <Field form={form} name="range" label="Quality" autoFocus />
      <p className="text-small text-second">
        Such as at most 65 %, on the scale of 1 to 100 of the JPEG standard&apos;s own tables.
      </p>
    </fieldset>
  ),
};

/** Forms by the key of their chip. Clauses that are only read and stored so far have none. */
export const total: Kind = {
  start: (brief) => ({ max: amount(brief.total?.max), counted: brief.total?.counted ?? "files" }),
  read: (values) => {
    if (values.max.trim() === "") throw new Error("Say a limit, or remove the clause.");
    const max = /^[0-9.,\s]+$/.test(values.max)
      ? `${values.max.trim().replace(",", ".")}MB`
      : values.max.trim();
    toBytes(max, "max");
    return { total: { max, counted: values.counted === "mail" ? "mail" : "files" } };
  },
  Fields: ({ form }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">All files together</legend>
      <Field
        form={form}
        name="max"
        label="At most"
        autoFocus
        reading={(text) =>
          formatBytes(toBytes(/^[0-9.,\s]+$/.test(text) ? `${text.trim().replace(",", ".")}MB` : text, "max"))
        }
      />
      <Pick
        form={form}
        name="counted"
        label="Counted"
        options={[
          ["files", "the files alone"],
          ["mail", "the whole message, as it is sent"],
        ]}
      />
      <p className="mt-2 text-small text-second">
        Inside a message files grow by about 37 %; that is counted. The limit is shared so that all photos end
        alike to the eye.
      </p>
    </fieldset>
  ),
};
