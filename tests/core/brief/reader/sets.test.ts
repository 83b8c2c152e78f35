/** Wordings that ask one photo as several files, or that speak of what moves. Invented, in the manner of web teams' notes. */
import { describe, expect, it } from "vitest";
import { readWording } from "@/core/brief/read";
import { clausesOf } from "./score";

const read = (text: string) => readWording(text).briefs.map(clausesOf);

describe("several widths", () => {
  it.each([
    [
      "Please supply each picture in three widths: 480, 960 and 1920 px, as WebP and JPEG.",
      { set: { widths: [480, 960, 1920], formats: ["webp", "jpeg"] } },
    ],
    [
      "Photos for the site: widths of 320, 640 and 1280 pixels, JPEG and AVIF, each under 200 KB.",
      { set: { widths: [320, 640, 1280], formats: ["avif", "jpeg"] }, fileSize: { max: "200KB" } },
    ],
    [
      "We need every image at 400w, 800w and 1600w in AVIF and JPEG.",
      { set: { widths: [400, 800, 1600], formats: ["avif", "jpeg"] } },
    ],
    [
      "Deliver each photo as 480, 960 and 1440 px wide JPEG.",
      { set: { widths: [480, 960, 1440] }, format: ["jpeg"] },
    ],
    [
      "Widths: 400, 800, 1600 px\nFormats: WebP or JPEG",
      { set: { widths: [400, 800, 1600] }, format: ["webp", "jpeg"] },
    ],
    [
      "Hero images, srcset 640w / 1280w / 2560w, WebP, at most 400 KB each.",
      { set: { widths: [640, 1280, 2560] }, format: ["webp"], fileSize: { max: "400KB" } },
    ],
    ["Provide the photo 600 px, 1200 px and 1800 px wide.", { set: { widths: [600, 1200, 1800] } }],
    [
      "The page shows pictures in two widths (750 and 1500 px). JPEG, sRGB.",
      { set: { widths: [750, 1500] }, format: ["jpeg"], colour: { space: "srgb" } },
    ],
  ])("%s", (text, clauses) => {
    expect(read(text)).toEqual([clauses]);
  });

  it("of more than a set can have are asked about, and cost nothing else", () => {
    const many = Array.from({ length: 13 }, (_, i) => 100 * (i + 1)).join(", ");
    const { briefs, unread } = readWording(`Widths: ${many} px. JPEG, at most 90 KB.`);
    expect(briefs.map(clausesOf)).toEqual([{ format: ["jpeg"], fileSize: { max: "90KB" } }]);
    expect(unread[0].ask).toContain("at most 12 widths");
  });

  it.each([
    ["JPEG, between 480 and 960 px wide.", { format: ["jpeg"], width: { min: 480, max: 960 } }],
    [
      "Pictures of 1200 × 800 px, JPEG.",
      { width: { exact: 1200 }, height: { exact: 800 }, format: ["jpeg"] },
    ],
    ["At least 800 px wide and at most 2 MB.", { width: { min: 800 }, fileSize: { max: "2MB" } }],
  ])("are not what %s says", (text, clauses) => {
    expect(read(text)).toEqual([clauses]);
  });
});

describe("what moves", () => {
  it.each([
    [
      "Animated GIF, must stay animated, max 2 MB, 480 px wide.",
      { frames: "keep", format: ["gif"], fileSize: { max: "2MB" }, width: { exact: 480 } },
    ],
    [
      "Animations must be kept. WebP, under 500 KB.",
      { frames: "keep", format: ["webp"], fileSize: { max: "500KB" } },
    ],
    [
      "Banner: GIF, no animation, at most 150 KB.",
      { format: ["gif"], frames: "first", fileSize: { max: "150KB" } },
    ],
    [
      "PNG or GIF (not animated), 300 px wide.",
      { format: ["png", "gif"], frames: "first", width: { exact: 300 } },
    ],
  ])("%s", (text, clauses) => {
    expect(read(text)[0]).toEqual(clauses);
  });
});
