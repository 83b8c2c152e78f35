import { describe, expect, it } from "vitest";
import { parseBrief, resolveBrief } from "@/core/brief";
import { clauseGauge, NOTHING } from "@/core/proof/gauge";
import { parsePixels, parseRange, parseResolution, rangeText } from "@/core/units";

describe("typed ranges", () => {
  const px = (text: string) => parseRange(text, (value) => parsePixels(value, 254));
  it.each([
    ["480", { exact: 480 }],
    ["480 px", { exact: 480 }],
    ["28mm", { exact: 280 }],
    ["8in", { exact: 2032 }],
    ["300–600", { min: 300, max: 600 }],
    ["300 to 600 px", { min: 300, max: 600 }],
    ["10-20mm", { min: 100, max: 200 }],
    ["at most 1100", { max: 1100 }],
    ["<= 1100 px", { max: 1100 }],
    ["≥ 600", { min: 600 }],
    ["at least 600px", { min: 600 }],
    ["min. 600 - 900", { min: 600, max: 900 }],
  ])("%s", (text, wanted) => expect(px(text)).toEqual(wanted));

  it("say what is wrong with them", () => {
    for (const text of ["", "many", "5 - ", "at most", "12 moths"]) expect(() => px(text), text).toThrow();
  });

  it("come back as they can be typed again", () => {
    for (const range of [{ exact: 480 }, { min: 300, max: 600 }, { max: 1100 }, { min: 600 }])
      expect(px(rangeText(range))).toEqual(range);
    expect(rangeText(undefined)).toBe("");
    expect(parseRange(rangeText({ min: "240ppi", max: "360ppi" }), parseResolution)).toEqual({
      min: 240,
      max: 360,
    });
  });
});

describe("gauges of clauses", () => {
  const brief = resolveBrief(
    parseBrief({
      zumbrelBrief: 1,
      name: "b",
      width: { exact: 400 },
      height: { exact: 900 },
      fileSize: { min: "6KB", max: "9kB" },
      resolution: { min: "100ppi" },
      quality: { max: 70 },
    }),
  );
  const now = { size: { width: 1600, height: 900 }, bytes: 5000, ppi: 72, quality: 95 };
  it("have the allowed band, where the photo is and where it will be", () => {
    expect(clauseGauge("pixels", brief, now, NOTHING)).toEqual({ min: 600, max: 600, now: 1200, will: null });
    expect(clauseGauge("fileSize", brief, now, { ...NOTHING, bytes: 7000 })).toEqual({
      min: 6144,
      max: 9000,
      now: 5000,
      will: 7000,
    });
    expect(clauseGauge("resolution", brief, now, NOTHING)).toEqual({
      min: 100,
      max: null,
      now: 72,
      will: null,
    });
    expect(clauseGauge("quality", brief, now, NOTHING)).toEqual({ min: 1, max: 70, now: 95, will: null });
  });

  it("are none where a clause is not stated or has no line", () => {
    const free = resolveBrief(parseBrief({ zumbrelBrief: 1, name: "b" }));
    expect([
      clauseGauge("resolution", free, now, NOTHING),
      clauseGauge("quality", free, now, NOTHING),
      clauseGauge("names", free, now, NOTHING),
    ]).toEqual([null, null, null]);
  });
});
