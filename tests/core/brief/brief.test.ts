import { describe, expect, it } from "vitest";
import { clauseWords, parseBrief, parseBriefText, pixelWords, rebased, resolveBrief } from "@/core/brief";

const minimal = { zumbrelBrief: 1, name: "b" };

/** Every key of brief version 1 with a value that is allowed. */
const everything = {
  ...minimal,
  from: "office",
  format: ["jpeg", "png"],
  pick: "smallest",
  width: { exact: 240 },
  height: { min: 10, max: 300 },
  longSide: { max: 9 },
  shortSide: { min: 3 },
  box: { width: 10, height: 20 },
  sizes: [{ width: 1, height: 2 }],
  shape: "16:9",
  scale: "50%",
  paper: { width: "40mm", height: "2in" },
  resolution: { min: "100ppi", max: "120ppcm" },
  fileSize: { min: "6KB", max: 16_000, aim: "middle" },
  quality: { min: 10, max: 65 },
  colour: { space: "srgb", bits: 8, profile: "omit", light: "sdr" },
  frame: "pad",
  background: "#FFeedd",
  enlarge: "never",
  sharpen: { for: "print", amount: 20 },
  metadata: "none",
  border: { px: 2, colour: "#000000" },
  ink: "black",
  layers: "flatten",
  padding: "never",
  total: { max: "5MB", counted: "mail" },
  names: "{name}-{n:3}",
  wishes: ["width"],
  wording: "w",
  read: [{ clause: "width", start: 0, end: 1 }],
  unread: [{ start: 0, end: 1 }],
  onlyYou: ["a plain wall"],
  overruled: { width: { exact: 200 } },
};

describe("the brief's schema", () => {
  it("takes every key of version 1, and gives back what it took", () => {
    expect(parseBrief(everything)).toEqual(everything);
  });

  const wrong: [string, unknown, RegExp][] = [
    ["an unknown key, by name", { ...minimal, widht: 1 }, /unknown key "widht"/],
    ["an unknown key inside a clause", { ...minimal, fileSize: { mx: 1 } }, /unknown key "mx" in fileSize/],
    ["another version", { ...minimal, zumbrelBrief: 2 }, /wanted 1, found 2/],
    [
      "min above max in pixels",
      { ...minimal, width: { min: 5, max: 4 } },
      /width: wanted min at or below max/,
    ],
    ["min above max in bytes", { ...minimal, fileSize: { min: "9MB", max: "1MB" } }, /min 9MB above max 1MB/],
    ["exact beside a range", { ...minimal, width: { exact: 5, max: 4 } }, /either exact/],
    ["a side of nothing", { ...minimal, width: { exact: 0 } }, /width\.exact/],
    ["an astronomical side", { ...minimal, width: { exact: 1e12 } }, /width\.exact/],
    ["a missing name", { zumbrelBrief: 1 }, /name/],
    ["a format that is none", { ...minimal, format: ["jpg"] }, /format\.0: wanted "jpeg" or .* found "jpg"/],
    ["an unreadable size", { ...minimal, fileSize: { max: "big" } }, /fileSize\.max: wanted .* found "big"/],
    ["a list", [], /one JSON object/],
    ["nothing", null, /one JSON object/],
  ];
  it.each(wrong)("refuses %s", (_what, value, message) => {
    expect(() => parseBrief(value)).toThrow(message);
  });

  it("says in one sentence what is wrong with the text", () => {
    expect(() => parseBriefText("{")).toThrow(/not JSON/);
    expect(() => parseBriefText(`{"zumbrelBrief":1,"name":"${"x".repeat(1_100_000)}"}`)).toThrow(
      /at most 1000000/,
    );
    expect(parseBriefText('\uFEFF{"zumbrelBrief":1,"name":"b"}').name).toBe("b");
  });

  const text = (clauses: string) => `{"zumbrelBrief":1,"name":"b",${clauses}}`;
  const broken: [string, string, string][] = [
    [
      "a key that is there twice",
      text('"width":{"exact":5},"width":{"exact":6}'),
      "The brief's width is there twice",
    ],
    [
      "a key twice inside a clause, in another spelling",
      text('"fileSize":{"max":"1MB","m\\u0061x":"2MB"}'),
      "The brief's fileSize.max is there twice",
    ],
    ["NaN", text('"width":{"exact":NaN}'), "The brief's width.exact: wanted a number, found NaN"],
    [
      "minus infinity in a list",
      text('"sizes":[{"width":5,"height":5},{"width":-Infinity,"height":1}]'),
      "The brief's sizes.1.width: wanted a number, found -Infinity",
    ],
    [
      "a number beyond all numbers",
      text('"width":{"exact":1e999}'),
      "The brief's width.exact: wanted a number, found Infinity",
    ],
    [
      "an astronomical number",
      text('"height":{"max":123456789012}'),
      "The brief's height.max: wanted at most 65535, found 123456789012",
    ],
    [
      "a negative number",
      text('"quality":{"max":-5}'),
      "The brief's quality.max: wanted at least 1, found -5",
    ],
    [
      "half a pixel",
      text('"width":{"exact":2.5}'),
      "The brief's width.exact: wanted a whole number, found 2.5",
    ],
    ["a number as a name", '{"zumbrelBrief":1,"name":5}', "The brief's name: wanted text, found 5"],
    [
      "a later version",
      '{"zumbrelBrief":2,"name":"b","glow":1}',
      "The brief's zumbrelBrief: wanted 1, found 2",
    ],
    [
      "endless nesting",
      text(`"width":${"[".repeat(50_000)}`),
      "wanted a flat brief, found 13 levels of braces",
    ],
    ["five megabytes", text(`"wording":"${"x".repeat(5_000_000)}"`), "at most 1000000 are read"],
  ];
  it.each(broken)("refuses %s by key, wanted and found", (_what, value, message) => {
    expect(() => parseBriefText(value)).toThrow(message);
  });

  it("does not take text inside strings for keys or numbers", () => {
    expect(parseBriefText(text('"from":"a \\"name\\": NaN, {[","names":"{name}"')).from).toBe(
      'a "name": NaN, {[',
    );
  });
});

describe("defaults", () => {
  it("fills in what brief-format says", () => {
    const free = resolveBrief(parseBrief(minimal));
    expect(free).toMatchObject({
      formats: null,
      frame: "whole",
      enlarge: "never",
      metadata: "private",
      padding: "allow",
      names: "{name}",
      profile: "embed",
    });
    expect(free.fileSize).toMatchObject({ min: null, max: null, aim: "clean" });
    // Brief version 1: hdr alone means display-p3 and 10 bits.
    expect(resolveBrief(parseBrief({ ...minimal, colour: { light: "hdr" } }))).toMatchObject({
      space: "display-p3",
      bits: 10,
      light: "hdr",
      layers: "flatten",
    });
    const form = resolveBrief(
      parseBrief({ ...minimal, width: { exact: 240 }, height: { exact: 300 }, fileSize: { max: "60KB" } }),
    );
    expect(form).toMatchObject({ frame: "fill", enlarge: "allow" });
    expect(form.fileSize.aim).toBe("best");
  });
});

describe("plain wording", () => {
  const brief = parseBrief(everything);
  it("says clauses as people do", () => {
    expect(clauseWords(brief, "format")).toBe("JPEG or PNG");
    expect(clauseWords(parseBrief({ ...minimal, fileSize: { min: "24KB", max: "60KB" } }), "fileSize")).toBe(
      "24 to 60 KB",
    );
    expect(clauseWords(parseBrief({ ...minimal, fileSize: { max: "1.5MB" } }), "fileSize")).toBe(
      "at most 1.5 MB",
    );
    expect(clauseWords(brief, "resolution")).toBe("100 ppi to 120 ppcm");
    expect(pixelWords(parseBrief({ ...minimal, width: { exact: 240 }, height: { exact: 300 } }))).toBe(
      "240 × 300",
    );
    expect(pixelWords(parseBrief({ ...minimal, longSide: { max: 1100 } }))).toBe("long side at most 1100 px");
    expect(pixelWords(parseBrief(minimal))).toBeNull();
  });
});

describe("an edit of a brief that has changed meanwhile", () => {
  const border = { px: 8, colour: "#ffffff" };
  const from = parseBrief({ ...minimal, width: { exact: 240 }, fileSize: { max: "90KB" } });
  const now = parseBrief({ ...minimal, name: "renamed", format: ["jpeg"], width: { exact: 240 } });

  it("changes what it was about, and keeps the rest", () => {
    const to = parseBrief({ ...minimal, width: { exact: 300 }, fileSize: { max: "90KB" }, border });
    expect(rebased(from, to, now)).toEqual({ ...now, width: to.width, border });
  });

  it("takes away what it took away", () => {
    const { width: _, ...to } = from;
    const { width: __, ...left } = now;
    expect(rebased(from, to, now)).toEqual(left);
  });

  it("is the whole edit where nothing has changed, and done twice is done once", () => {
    const to = parseBrief({ ...minimal, format: ["png"] });
    expect(rebased(from, to, from)).toEqual(to);
    expect(rebased(from, to, rebased(from, to, now))).toEqual(rebased(from, to, now));
  });
});
