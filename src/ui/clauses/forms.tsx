"use client";

/** The forms of the clauses. Units can be typed in any field; the other readings are shown beside it. */
import type { UseFormReturn } from "react-hook-form";
import { type Brief, formatName, type OutputFormat, parseBrief, resolveBrief, WRITABLE } from "@/core/brief";
import {
  formatBytes,
  onPaper,
  parseLength,
  parsePixels,
  parseRange,
  parseResolution,
  rangeText,
  type Typed,
  toBytes,
  toInches,
  trimNumber,
  UnitError,
} from "@/core/units";
import { Choices, Field, Pick, type Values } from "./fields";

export interface Kind {
  start: (brief: Brief) => Values;
  /** The clauses that the typed values mean. Throws where they mean none. */
  read: (values: Values, brief: Brief) => Partial<Brief>;
  Fields: (props: { form: UseFormReturn<Values>; brief: Brief }) => React.ReactNode;
}

const format: Kind = {
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

const pixels: Kind = {
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

function readSize(text: string): { width: number; height: number } {
  const match = SIZE.exec(text);
  if (!match) throw new UnitError("size", 'two sides such as "1640 × 720"', `"${text.trim()}"`);
  return { width: parsePixels(match[1]), height: parsePixels(match[2]) };
}

const sizeText = (size: { width: number; height: number }) => `${size.width} × ${size.height}`;

/** A clause that is one line of text. */
function line({
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

const sizes = line({
  name: "sizes",
  legend: "One of these sizes",
  hint: "Such as 1640 × 720 or 1230 × 540. A photo that has one keeps it; the others get the first.",
  start: (b) => (b.sizes ?? []).map(sizeText).join(" or "),
  read: (text) => ({ sizes: text.split(/\s+or\s+|[,;]/i).map(readSize) }),
});
const box = line({
  name: "box",
  legend: "Inside a box, either way up",
  hint: "Such as 1360 × 800. Upright photos turn the box.",
  start: (b) => (b.box ? sizeText(b.box) : ""),
  read: (text) => ({ box: readSize(text) }),
});
const shape = line({
  name: "shape",
  legend: "Width to height",
  hint: "Such as 16:9 or 1:1.",
  start: (b) => b.shape ?? "",
  read: (text) => ({ shape: text.replace(/\s*[:/×x]\s*/i, ":") }),
});
const scale = line({
  name: "scale",
  legend: "Of the photo's own pixels",
  hint: "Such as 50 %, on both sides.",
  start: (b) => b.scale ?? "",
  read: (text) => ({
    scale: /%$/.test(text) ? text.replace(/\s+/g, "").replace(",", ".") : `${text.replace(",", ".")}%`,
  }),
});
const background = line({
  name: "background",
  legend: "Where background is added, and under what is transparent",
  hint: "A colour such as #f4f1ea, white or black.",
  start: (b) => b.background ?? "",
  read: (text) => ({ background: COLOURS[text.toLowerCase()] ?? text }),
});
const names = line({
  name: "names",
  legend: "How the files are called",
  hint: "{name} the photo's name, {n} or {n:3} a counter, {w} {h} its pixels, {date}, {brief}. The ending " +
    "follows the format.",
  start: (b) => b.names ?? "{name}",
  read: (text) => ({ names: text }),
});

const amount = (value: string | number | undefined) => (value === undefined ? "" : String(value));
const withUnit = (text: string) =>
  /^[0-9.,\s]+$/.test(text) ? `${text.trim().replace(",", ".")}KB` : text.trim();

const fileSize: Kind = {
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

const paper: Kind = {
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

const resolution: Kind = {
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

const readQuality = (text: string): number => {
  const value = Number(text.replace(/\s*%$/, ""));
  if (!Number.isInteger(value) || value < 1 || value > 100)
    throw new UnitError("quality", "a whole number from 1 to 100", `"${text}"`);
  return value;
};

const quality: Kind = {
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

/** A clause with a few fixed values. */
function choice<K extends "frame" | "enlarge" | "metadata" | "padding" | "ink">(
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

const ink = choice("ink", "A picture of ink on paper", "black", [
  ["black", "Clean, black on white"],
  ["original", "Clean, in the ink's own colour on white"],
]);

const COLOURS: Record<string, string> = { white: "#ffffff", black: "#000000" };
const colourCode = (text: string): string => {
  const code = COLOURS[text.trim().toLowerCase()] ?? text.trim();
  if (!/^#[0-9a-f]{6}$/i.test(code))
    throw new UnitError("colour", "black, white or a code such as #4a2f60", `"${text.trim()}"`);
  return code;
};

const border: Kind = {
  start: (brief) => ({
    px: String(brief.border?.px ?? 1),
    colour:
      Object.keys(COLOURS).find((name) => COLOURS[name] === brief.border?.colour?.toLowerCase()) ??
      brief.border?.colour ??
      "black",
  }),
  read: (values) => {
    const px = Number(values.px.trim().replace(/\s*px$/i, ""));
    if (!Number.isInteger(px) || px < 1 || px > 1000)
      throw new UnitError("border", "whole pixels from 1 to 1000", `"${values.px.trim()}"`);
    return { border: { px, colour: colourCode(values.colour) } };
  },
  Fields: ({ form }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">A line around the picture</legend>
      <Field form={form} name="px" label="Width" autoFocus reading={() => "px"} />
      <Field form={form} name="colour" label="Colour" reading={(text) => colourCode(text)} />
      <p className="text-small text-second">
        It lies inside the asked pixels, whose number stays what it is.
      </p>
    </fieldset>
  ),
};

const SPACES: readonly [string, string][] = [
  ["", "sRGB, unless the brief says more"],
  ["srgb", "sRGB"],
  ["display-p3", "Display P3"],
  ["bt2020", "BT.2020"],
  ["gray", "Grey"],
  ["cmyk", "CMYK, by a free profile"],
  ["keep", "The photo's own"],
];
const BITS: readonly [string, string][] = [
  ["", "8"],
  ["8", "8, exactly"],
  ["10", "10 (AVIF)"],
  ["16", "16 (PNG, TIFF)"],
];
const PROFILES: readonly [string, string][] = [
  ["", "embedded"],
  ["embed", "embedded, checked"],
  ["omit", "left out"],
];

const LIGHTS: readonly [string, string][] = [
  ["", "up to white"],
  ["sdr", "up to white, checked"],
  ["hdr", "above white (AVIF)"],
];

const colour: Kind = {
  start: (brief) => ({
    space: brief.colour?.space ?? "",
    bits: String(brief.colour?.bits ?? ""),
    profile: brief.colour?.profile ?? "",
    light: brief.colour?.light ?? "",
  }),
  read: (values) => {
    const { space, bits, profile, light } = values;
    const stated = {
      ...(space && { space }),
      ...(bits && { bits: Number(bits) }),
      ...(profile && { profile }),
      ...(light && { light }),
    };
    if (!Object.keys(stated).length) throw new Error("Choose something, or remove the clause.");
    return { colour: stated as Brief["colour"] };
  },
  Fields: ({ form }) => (
    <fieldset>
      <legend className="mb-2 font-semibold">Colours of the file</legend>
      <Pick form={form} name="space" label="Space" options={SPACES} autoFocus />
      <Pick form={form} name="bits" label="Bits" options={BITS} />
      <Pick form={form} name="profile" label="Profile" options={PROFILES} />
      <Pick form={form} name="light" label="Light" options={LIGHTS} />
      <p className="text-small text-second">
        Colours are converted from what the photo says, so they stay as they look. What falls outside the
        space is told in the plan.
      </p>
    </fieldset>
  ),
};

const sharpen: Kind = {
  start: (brief) => ({ for: brief.sharpen?.for ?? "screen", amount: String(brief.sharpen?.amount ?? 40) }),
  read: (values) => {
    const value = Number(values.amount.trim());
    if (!Number.isInteger(value) || value < 0 || value > 100)
      throw new UnitError("sharpening", "a whole number from 0 to 100", `"${values.amount.trim()}"`);
    return { sharpen: { for: values.for as "screen", amount: value } };
  },
  Fields: ({ form }) => (
    <>
      <Choices
        form={form}
        name="for"
        legend="Sharpened after resizing, for"
        options={[
          ["screen", "a screen"],
          ["print", "print, by the resolution that is written"],
        ]}
      />
      <div className="mt-3">
        <Field form={form} name="amount" label="Amount" reading={() => "of 100"} />
      </div>
      <p className="text-small text-second">
        On lightness only, without bright or dark seams. A file that obeys otherwise is encoded anew for this.
      </p>
    </>
  ),
};

/** Forms by the key of their chip. Clauses that are only read and stored so far have none. */
const total: Kind = {
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

export const FORMS: Partial<Record<string, Kind>> = {
  format,
  pixels,
  sizes,
  box,
  shape,
  scale,
  fileSize,
  total,
  paper,
  resolution,
  quality,
  colour,
  sharpen,
  frame,
  enlarge,
  background,
  border,
  ink,
  metadata,
  padding,
  names,
};

/** Checks typed clauses as a brief file would be. */
export function checkClauses(brief: Brief): void {
  parseBrief(brief);
}

export function messageOf(error: unknown): string {
  if (error instanceof UnitError) return `Wanted ${error.wanted}, found ${error.found}.`;
  return error instanceof Error ? error.message : String(error);
}
