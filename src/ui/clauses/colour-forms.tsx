"use client";

import type { Brief } from "@/core/brief";
import { UnitError } from "@/core/units";
import { Choices, Field, Pick } from "./fields";
import type { Kind } from "./kind";
import { COLOURS } from "./pixel-forms";

const colourCode = (text: string): string => {
  const code = COLOURS[text.trim().toLowerCase()] ?? text.trim();
  if (!/^#[0-9a-f]{6}$/i.test(code))
    throw new UnitError("colour", "black, white or a code such as #4a2f60", `"${text.trim()}"`);
  return code;
};

export const border: Kind = {
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

export const colour: Kind = {
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

export const sharpen: Kind = {
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
