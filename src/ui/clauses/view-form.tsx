"use client";

/** How the finished picture is looked at. */
import { SEEN_PPI } from "@/core/geometry";
import { Choices, Field } from "./fields";
import type { Kind } from "./kind";
import { readSize, sizeText } from "./pixel-forms";

/** Most screens in use have as many pixels, or are looked at as if they had. */
const USUAL = { width: 1920, height: 1080 };

export const view: Kind = {
  start: ({ view }) => ({
    view: typeof view === "object" ? "screen" : (view ?? "screen"),
    screen: sizeText(typeof view === "object" ? view.screen : USUAL),
  }),
  read: ({ view, screen }) => {
    if (view !== "screen") return { view: view as "pixels" | "paper" };
    const size = readSize(screen);
    const usual = size.width === USUAL.width && size.height === USUAL.height;
    return { view: usual ? "screen" : { screen: size } };
  },
  Fields: ({ form }) => (
    <>
      <Choices
        form={form}
        name="view"
        legend="How it is looked at"
        options={[
          ["screen", "Whole, on a screen"],
          ["paper", `At its paper size, ${SEEN_PPI} ppi`],
          ["pixels", "Every pixel, at 100 %"],
        ]}
      />
      {form.watch("view") === "screen" && (
        <div className="mt-2">
          <Field form={form} name="screen" label="Screen, px" />
        </div>
      )}
      <p className="mt-2 text-small text-second">
        Where pixels are free and a ceiling is tight, they are chosen for this view, with the quality.
      </p>
    </>
  ),
};
