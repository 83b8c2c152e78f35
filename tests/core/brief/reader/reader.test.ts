import { describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { MAX_WORDING, readWording } from "@/core/brief/read";
import { BADGE } from "./corpus";
import { EIGHTEENTH } from "./corpus-eighteenth";
import { EIGHTH } from "./corpus-eighth";
import { ELEVENTH } from "./corpus-eleventh";
import { FIFTEENTH } from "./corpus-fifteenth";
import { FIFTH } from "./corpus-fifth";
import { FIRST } from "./corpus-first";
import { FOURTEENTH } from "./corpus-fourteenth";
import { FOURTH } from "./corpus-fourth";
import { NINETEENTH } from "./corpus-nineteenth";
import { NINTH } from "./corpus-ninth";
import { SECOND } from "./corpus-second";
import { SEVENTEENTH } from "./corpus-seventeenth";
import { SEVENTH } from "./corpus-seventh";
import { SIXTEENTH } from "./corpus-sixteenth";
import { SIXTH } from "./corpus-sixth";
import { TENTH } from "./corpus-tenth";
import { THIRD } from "./corpus-third";
import { THIRTEENTH } from "./corpus-thirteenth";
import { TWELFTH } from "./corpus-twelfth";
import { TWENTIETH } from "./corpus-twentieth";
import { clausesOf, measure } from "./score";

const CORPUS = [
  ...FIRST,
  ...SECOND,
  ...THIRD,
  ...FOURTH,
  ...FIFTH,
  ...SIXTH,
  ...SEVENTH,
  ...EIGHTH,
  ...NINTH,
  ...TENTH,
  ...ELEVENTH,
  ...TWELFTH,
  ...THIRTEENTH,
  ...FOURTEENTH,
  ...FIFTEENTH,
  ...SIXTEENTH,
  ...SEVENTEENTH,
  ...EIGHTEENTH,
  ...NINETEENTH,
  ...TWENTIETH,
];

describe("the reader on the corpus", () => {
  it("has at least 80 wordings", () => expect(CORPUS.length).toBeGreaterThanOrEqual(80));

  it("reads no wrong clause, and at least 92 % of those that are stated", () => {
    const { stated, found, wrong, missed, other } = measure(CORPUS);
    expect(wrong).toEqual([]);
    expect(other).toEqual([]);
    expect(found / stated, missed.join("\n")).toBeGreaterThanOrEqual(0.92);
  });

  it("ties every clause to words that lie in the wording", () => {
    for (const { text } of CORPUS) {
      for (const brief of readWording(text).briefs) {
        expect(brief.wording).toBe(text);
        for (const key of Object.keys(clausesOf(brief)))
          expect(
            brief.read!.some((span) => span.clause === key),
            `${key} in ${text}`,
          ).toBe(true);
        for (const { start, end } of brief.read!)
          expect(text.slice(start, end).trim().length).toBeGreaterThan(0);
        expect(() => parseBrief(brief)).not.toThrow();
      }
    }
  });
});

describe("spans", () => {
  const [badge, slip] = readWording(BADGE).briefs;
  const words = (brief: typeof badge, clause: string) =>
    brief.read!.filter((span) => span.clause === clause).map((span) => BADGE.slice(span.start, span.end));

  it("are the very words of the rule", () => {
    expect(words(badge, "format")).toEqual(["PNG or JPEG"]);
    expect(words(badge, "width")).toEqual(["330 px wide by 420 px high"]);
    expect(words(badge, "fileSize")).toEqual(["30 to 90 KB"]);
    expect(words(badge, "paper")).toEqual(["28 mm × 35 mm"]);
    expect(words(slip, "ink")).toEqual(["black pen"]);
    expect(words(slip, "fileSize")).toEqual(["not under 6 KB", "nor over 16 KB"]);
  });

  it("keep the order of the wording among the clauses", () => {
    expect(Object.keys(clausesOf(badge)).length).toBe(5);
    expect(Object.keys(badge).filter((key) => key in clausesOf(badge))).toEqual([
      "format",
      "width",
      "height",
      "fileSize",
      "paper",
    ]);
    expect(Object.keys(slip).filter((key) => key in clausesOf(slip))).toEqual([
      "ink",
      "width",
      "height",
      "fileSize",
    ]);
  });

  it("count UTF-16 units, whatever stands before them", () => {
    const text = "🦋🦋 Größe egal: 640 × 480 px";
    const [brief] = readWording(`${text}, at most 90 KB`).briefs;
    expect(brief.read!.map((span) => text.slice(span.start, span.end))).toContain("640 × 480 px");
  });
});

describe("what becomes no clause", () => {
  const NOTHING = [
    "The moth was 330 x 420 times more beautiful than 90 others.",
    "Phone 0330 420 900, fax 0330-420-901, room 330.",
    "On 30.11.2026 at 16:30 we meet 12 to 14 people.",
    "You don't have to stay below 2 MB.",
    "Pictures under 600 px may be sent too.",
    "It weighs 90 KB.",
    "We used to take 2 MB.",
    "Passwords need at least 8 characters.",
    "Discount of 50 % for members.",
    "Is 330 x 420 px right?",
  ];
  for (const text of NOTHING)
    it(JSON.stringify(text), () => expect(readWording(text).briefs.map(clausesOf)).toEqual([]));

  it("asks about a number whose unit or scale is open, and keeps its words", () => {
    const asks = (text: string) =>
      readWording(text)
        .unread.filter((part) => part.ask)
        .map((part) => [part.text, part.ask]);
    expect(asks("JPEG, quality 8.")).toEqual([["quality 8", expect.stringContaining("On which scale")]]);
    expect(asks("File size 200 KB")).toEqual([["200 KB", expect.stringContaining("the most")]]);
    expect(asks("At least 800 px.")).toEqual([["At least 800 px", expect.stringContaining("Which side")]]);
    expect(asks("A border of 3 px.").length).toBe(1);
  });

  it("leaves two values that exclude each other to the person, and reads neither", () => {
    const { briefs, unread } = readWording("At most 90 KB. JPEG. Never over 60 KB.");
    expect(briefs.map(clausesOf)).toEqual([{ format: ["jpeg"] }]);
    expect(unread.map((part) => part.ask).filter(Boolean)).toHaveLength(2);
  });
});

describe("several documents", () => {
  it("lets what is said of one beat what is said of all", () => {
    const { briefs } = readWording(
      "All files under 2 MB, JPEG.\n\nBanner: 900 x 300 px\nPlate: 700 x 900 px, at most 400 KB",
    );
    expect(briefs.map((brief) => [brief.name, brief.fileSize, brief.format])).toEqual([
      ["Banner", { max: "2MB" }, ["jpeg"]],
      ["Plate", { max: "400KB" }, ["jpeg"]],
    ]);
  });

  it("does not make documents of the labels of rules", () => {
    const { briefs } = readWording(
      "File size: at most 90 KB\nImage format: JPEG\nPicture size: 300 x 400 px\nDeadline: 3 May",
    );
    expect(briefs).toHaveLength(1);
    expect(Object.keys(clausesOf(briefs[0])).sort()).toEqual(["fileSize", "format", "height", "width"]);
  });
});

describe("bad input", () => {
  it("refuses a wording that is too long, with both figures", () => {
    expect(() => readWording("x".repeat(MAX_WORDING + 1))).toThrow(
      "The wording has 100001 characters; at most 100000 are read",
    );
  });

  it("leaves what no page has unread, and says so", () => {
    const { briefs, unread } = readWording(
      `JPEG, at most 90 KB.\n${"Lamp.\n".repeat(5000)}Never over 50 KB.`,
    );
    expect(briefs.map(clausesOf)).toEqual([{ format: ["jpeg"], fileSize: { max: "90KB" } }]);
    expect(unread.at(-1)).toMatchObject({
      text: expect.stringMatching(/50 KB\.$/),
      ask: expect.stringContaining("too many separate lines"),
    });
    expect(readWording("JPEG.\nAt most 90 KB!\n").unread).toEqual([]);
  });

  it("keeps hostile text as text", () => {
    const text = `<img src=x onerror="alert('90 KB')"> at most 60 KB <script>1</script>`;
    const { briefs, unread } = readWording(text);
    expect(briefs.map(clausesOf)).toEqual([{ fileSize: { max: "60KB" } }]);
    for (const part of unread) expect(part.text).toBe(text.slice(part.start, part.end));
  });

  it("finds no rules in other languages and other matters, and returns the text as unread", () => {
    for (const text of [
      "Das Bild darf nicht größer als 90 KB und nicht kleiner als 330 x 420 px sein.",
      "Фото 330 на 420, не более 90 КБ.",
      "写真は330×420ピクセル、90KB以下",
      "Once upon a time there was a moth.",
    ]) {
      const reading = readWording(text);
      expect(reading.briefs, text).toEqual([]);
      expect(reading.unread.length, text).toBeGreaterThan(0);
    }
    expect(readWording("")).toEqual({ briefs: [], unread: [], onlyYou: [] });
  });
});

describe("very many documents", () => {
  const list = (n: number) =>
    Array.from(
      { length: n },
      (_, i) => `${i + 1}. Certificate ${i + 1}: PDF, ${i + 10} KB to ${i + 300} KB`,
    ).join("\n");

  it("are told apart, forty as well as a hundred, and beyond that it is said", () => {
    const { briefs } = readWording(list(40));
    expect(briefs).toHaveLength(40);
    expect(clausesOf(briefs[39])).toEqual({ format: ["pdf"], fileSize: { min: "49KB", max: "339KB" } });
    const many = readWording(list(300));
    expect(many.briefs).toHaveLength(100);
    expect(many.unread.map((one) => one.ask)).toContainEqual(
      "The wording names 300 documents; the first 100 were read. Paste the rest by itself.",
    );
  });

  it("in ragged rows, and in a table as long as a wording may be, end in time", () => {
    const ragged = readWording("Document | Size\nPhoto | 20 KB | JPG | x\nSignature\n| | 10 KB");
    expect(ragged.briefs.length).toBeLessThanOrEqual(2);
    const row = "Certificate | PDF | 50 KB to 300 KB | 210 × 297 mm\n";
    const table = `Document | Type | Size | Paper\n${row.repeat(Math.floor((MAX_WORDING - 40) / row.length))}`;
    const start = performance.now();
    readWording(table);
    // 0.1 to 0.4 s seen; a pattern that runs away takes minutes.
    expect(performance.now() - start).toBeLessThan(20_000);
  });
});
