/** Rules about a portrait's head, read from wordings. Sizes as ICAO Doc 9303 has them; other figures are invented. */
import { describe, expect, it } from "vitest";
import { readWording } from "@/core/brief/read";

const head = (text: string) => {
  const { briefs } = readWording(text);
  return briefs.length === 1 ? (briefs[0].head ?? null) : briefs.length ? "several" : null;
};

describe("rules about the head", () => {
  it.each([
    ["35 × 45 mm. The head must be 32 to 36 mm high.", { height: { min: "32mm", max: "36mm" } }],
    [
      "Photo 35mm × 45mm. The face should occupy 70 to 80 % of the height of the picture, from crown to chin.",
      { height: { min: "70%", max: "80%" } },
    ],
    [
      "Print 40 x 50 mm. Eyes 28 mm from the lower edge. The distance from chin to crown is between 30 and 36 mm.",
      { height: { min: "30mm", max: "36mm" }, eyes: { min: "28mm", max: "28mm" } },
    ],
    [
      "Photograph: 50 mm × 50 mm; head height (chin to crown) 25–35 mm; eye level 28 to 35 mm above the bottom edge.",
      { height: { min: "25mm", max: "35mm" }, eyes: { min: "28mm", max: "35mm" } },
    ],
    [
      "Head size: at least 50% and no more than 69% of the image height.",
      { height: { min: "50%", max: "69%" } },
    ],
  ])("%s", (text, found) => expect(head(text)).toEqual(found));

  it.each([
    "Stand 1.5 m from the camera, your head 10 cm from the wall. 600 x 800 pixels.",
    "600 x 800 pixels. Leave 3 mm above the head.",
    "The head must be straight, both eyes open. JPEG, at most 300 KB.",
  ])("leaves alone: %s", (text) => expect(head(text)).toBeNull());
});
