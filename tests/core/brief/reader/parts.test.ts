/** The parts of the reader one by one, where the corpus would only show that something is wrong. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readWording } from "@/core/brief/read";
import { isForeign } from "@/core/brief/read/language";
import { words } from "@/core/brief/read/line";
import { amount, readNumber, wholePixels } from "@/core/brief/read/numbers";
import { findQuantities } from "@/core/brief/read/quantities";
import { signalsOf } from "@/core/brief/read/signals";
import { cutStatements } from "@/core/brief/read/statements";
import { tokenise } from "@/core/brief/read/tokens";
import { clausesOf } from "./score";

describe("tokens", () => {
  it("know their place, and lose nothing but white space", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", maxLength: 200 }), (text) => {
        let at = 0;
        for (const token of tokenise(text)) {
          expect(token.start).toBeGreaterThanOrEqual(at);
          expect(token.raw).toBe(text.slice(token.start, token.end));
          at = token.end;
        }
      }),
    );
  });

  const texts = (text: string) => tokenise(text).map((token) => token.text);
  it.each([
    ["330×420px", ["330", "×", "420", "px"]],
    ["330 X 420", ["330", "×", "420"]],
    ["28mmx35mm", ["28", "mm", "×", "35", "mm"]],
    ["6″ – 8″", ["6", "in", "-", "8", "in"]],
    ["30kb—90kb", ["30", "kb", "-", "90", "kb"]],
    ["70 % or 70%", ["70", "%", "or", "70", "%"]],
    ["- one\n* two\n3) three", ["•", "one", "\n", "•", "two", "\n", "•", "three"]],
    ["a\tb | c", ["a", "|", "b", "|", "c"]],
    ["<=90 KB >= 3", ["≤", "90", "kb", "≥", "3"]],
    ["see https://quillmoor.example/330x420.jpg now", ["see", "link", "now"]],
    ["don’t", ["don't"]],
    ["A4 P3 16:9", ["a4", "p3", "16", ":", "9"]],
  ])("of %j", (text, wanted) => expect(texts(text)).toEqual(wanted));
});

describe("numbers", () => {
  it.each([
    ["330", 330, null],
    ["1,5", 1.5, null],
    ["0.75", 0.75, null],
    ["1,920", 1920, 1.92],
    ["1.500", 1500, 1.5],
    ["250,000", 250_000, 250],
    ["1,048,576", 1_048_576, null],
    ["1'200", 1200, null],
    ["1\u202f920", 1920, null],
    ["12,345.6", 12_345.6, null],
    ["12.345,6", 12_345.6, null],
    ["0330", null, null],
    ["30.11.2026", null, null],
    ["1,2,3", null, null],
    ["00.5", null, null],
  ] as const)("%s", (raw, value, decimal) => expect(readNumber(raw)).toEqual({ value, decimal }));

  it("are thousands in pixels, and left open where a decimal mark would make sense too", () => {
    expect(wholePixels(readNumber("1.920"))).toBe(1920);
    expect(wholePixels(readNumber("2.5"))).toBeNull();
    expect(wholePixels(readNumber("70000"))).toBeNull();
    expect(amount(readNumber("1,500"), true, "1,500")).toBe(1500);
    expect(amount(readNumber("1.500"), true, "1.500")).toBeNull();
    expect(amount(readNumber("1,500"), false, "1,500")).toBeNull();
  });

  it("agree with the platform's own way of writing them", () => {
    // Intl (ECMA-402, CLDR data) in English, German and French spelling; whole numbers and halves.
    fc.assert(
      fc.property(
        fc.integer({ min: 10_000, max: 9_999_999 }),
        fc.constantFrom("en", "de", "fr"),
        fc.boolean(),
        (n, locale, half) => {
          const value = half ? n + 0.5 : n;
          expect(
            readNumber(new Intl.NumberFormat(locale, { maximumFractionDigits: 1 }).format(value)).value,
          ).toBe(half && locale === "fr" ? null : value);
        },
      ),
    );
  });
});

describe("quantities", () => {
  const all = (text: string) =>
    findQuantities(tokenise(text)).map(({ kind, form, texts }) => [kind, form, ...texts]);
  it.each([
    ["330 by 420 pixels", [["px", "pair", "330", "420"]]],
    ["330 px wide by 420 px high", [["px", "pair", "330", "420"]]],
    ["from 20 KB up to 60 KB", [["bytes", "range", "20KB", "60KB"]]],
    ["between 20 and 60 kB", [["bytes", "range", "20kB", "60kB"]]],
    ["300x300 to 600x600 px", [["px", "pairs", "300", "300", "600", "600"]]],
    ["3.5 x 4.5 cm", [["length", "pair", "3.5cm", "4.5cm"]]],
    ["120 pixels per cm", [["ppi", "single", "120ppcm"]]],
    ["12 per cent", [["percent", "single", "12%"]]],
    ["10 x 12 x 20 cm", [["other", "pair"]]],
    ["60 to 20 KB", [["other", "range", "60KB", "20KB"]]],
    [
      "24 MP and 5 MB/s",
      [
        ["other", "single", "24mp"],
        ["other", "single", "5speed"],
      ],
    ],
    [
      "4K or 700 K",
      [
        ["other", "single", "4k"],
        ["bytes", "single", "700KB"],
      ],
    ],
    [
      "3 in all, 3 in. at 5 in",
      [
        ["bare", "single", "3"],
        ["length", "single", "3in"],
        ["length", "single", "5in"],
      ],
    ],
  ] as const)("of %j", (text, wanted) => expect(all(text)).toEqual(wanted));
});

describe("statements", () => {
  const cut = (text: string) =>
    cutStatements(tokenise(text)).map(({ label, body, owner }) => [
      words(label),
      words(body),
      owner && words(owner),
    ]);
  it("end where sentences and list items end, not at shortened words, endings and line breaks inside", () => {
    expect(cut("Max. 90 KB, e.g. small.jpg\nor less. JPEG!")).toEqual([
      ["", "max 90 kb , e g small jpg or less", null],
      ["", "jpeg", null],
    ]);
    expect(cut("Size: 90 KB\nformat: PNG\n• square")).toEqual([
      ["size", "90 kb", null],
      ["format", "png", null],
      ["", "square", null],
    ]);
    expect(cut("Not under 350\nKB.")).toEqual([["", "not under 350 kb", null]]);
  });

  it("of a table carry the head of their column and the document of their row, or the other way round", () => {
    expect(cut("Document|Width\nMap|300\nPlan|200")).toEqual([
      ["document", "width", null],
      ["map", "300", null],
      ["plan", "200", null],
    ]);
    expect(cut("Document|Width (px)|Type\nMap|300|PNG")).toEqual([
      ["width ( px )", "300", "map"],
      ["type", "png", "map"],
    ]);
    expect(cut("|Map|Plan\nWidth|300 px|200 px")).toEqual([
      ["width", "300 px", "map"],
      ["width", "200 px", "plan"],
    ]);
  });
});

describe("what a statement holds", () => {
  it("is told by single words wherever a pattern could match", () => {
    const signal = (text: string) => signalsOf(tokenise(text));
    expect(signal("the moths came at dusk")).toBe(0);
    for (const text of [
      "preferably",
      "flattened",
      "recently taken",
      "both",
      "plenty",
      "we reject",
      "needn't",
      "for example",
    ])
      expect(signal(text), text).not.toBe(0);
  });

  it("is foreign when more small words are", () => {
    expect(isForeign(tokenise("Das Foto darf nicht größer sein als 90 KB"))).toBe(true);
    expect(isForeign(tokenise("JPEG, 330 x 420, 90 KB"))).toBe(false);
    expect(isForeign(tokenise("La photo doit peser moins de 90 Ko"))).toBe(true);
    expect(isForeign(tokenise("The picture must be under 90 KB"))).toBe(false);
  });
});

describe("floors and ceilings", () => {
  const MIN = { fileSize: { min: "40KB" } };
  const MAX = { fileSize: { max: "40KB" } };
  it.each([
    ["no more than 40 KB", MAX],
    ["not less than 40 KB", MIN],
    ["must not be below 40 KB", MIN],
    ["may not exceed 40 KB", MAX],
    ["nothing over 40 KB", MAX],
    ["files over 40 KB are refused", MAX],
    ["anything under 40 KB will not be accepted", MIN],
    ["we reject files above 40 KB", MAX],
    ["files not under 40 KB are refused", MAX],
    ["40 KB or less", MAX],
    ["40 KB minimum", MIN],
    ["a maximum of 40 KB", MAX],
    ["never lighter than 40 KB", MIN],
    ["File size limit: 40 KB", MAX],
    ["≥ 40 KB", MIN],
    ["it has to weigh more than 40 KB", MIN],
    ["keep it under 40 KB", MAX],
    ["without exceeding 40 KB", MAX],
    ["40 KB and up", MIN],
    // None of these says what is asked.
    ["files over 40 KB may be sent too", null],
    ["you need not stay below 40 KB", null],
    ["about 40 KB", null],
    ["unless it is over 40 KB", null],
    ["the limit was 40 KB", null],
    ["there is no maximum of 40 KB", null],
    ["files over 40 KB are scaled down by us", null],
    ["40 KB is enough", null],
    ["no heftier than 40 KB", null],
  ] as const)("%s", (text, wanted) =>
    expect(readWording(text).briefs.map(clausesOf)).toEqual(wanted ? [wanted] : []),
  );
});
