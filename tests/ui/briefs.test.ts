import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readWording } from "@/core/brief/read";
import { linkOf, numbersOf, piecesOf, sourceWords } from "@/ui/briefs/spans";
import { BADGE } from "../core/brief/reader/corpus";
import { wordings } from "../core/brief/reader/fuzz";

describe("the wording in pieces", () => {
  const { briefs } = readWording(BADGE);
  const pieces = piecesOf(BADGE, briefs);

  it("is whole again when the pieces are put together, whatever the text", () => {
    expect(pieces.map((piece) => piece.text).join("")).toBe(BADGE);
    fc.assert(
      fc.property(wordings, (text) => {
        const reading = readWording(text);
        expect(
          piecesOf(text, reading.briefs)
            .map((piece) => piece.text)
            .join(""),
        ).toBe(text);
      }),
      { numRuns: 200 },
    );
  });

  it("ties words to clauses, numbered as they stand", () => {
    const read = pieces
      .filter((piece) => piece.kind === "read")
      .map((piece) => [piece.number, piece.text, piece.keys]);
    expect(read).toEqual([
      [1, "PNG or JPEG", ["0.format"]],
      [2, "330 px wide by 420 px high", ["0.pixels"]],
      [3, "30 to 90 KB", ["0.fileSize"]],
      [4, "28 mm × 35 mm", ["0.paper"]],
      [5, "black pen", ["1.ink"]],
      [6, "200x90", ["1.pixels"]],
      [7, "not under 6 KB", ["1.fileSize"]],
      [7, "nor over 16 KB", ["1.fileSize"]],
    ]);
  });

  it("gives a rule that holds for several briefs one number, and lights up both", () => {
    const text = "Portrait: 300 x 400 px. Signature: 200 x 90 px. Both as JPEG.";
    const both = readWording(text).briefs;
    expect(numbersOf(both).get(linkOf(0, "format"))).toBe(3);
    expect(numbersOf(both).get(linkOf(1, "format"))).toBe(3);
    expect(piecesOf(text, both).find((piece) => piece.text === "JPEG")!.keys).toEqual([
      "0.format",
      "1.format",
    ]);
  });

  it("marks what only a person can check, and what was not understood", () => {
    const text = "No hats, JPEG, label it as the annex says.";
    const kinds = piecesOf(text, readWording(text).briefs).map((piece) => [piece.kind, piece.text]);
    expect(kinds).toContainEqual(["you", "No hats"]);
    expect(kinds).toContainEqual(["unread", "label it as the annex says"]);
  });

  it("quotes the words of a clause, and says where there are none", () => {
    expect(sourceWords(briefs[1], "fileSize")).toBe("not under 6 KB, nor over 16 KB");
    expect(sourceWords(briefs[1], "format")).toBeNull();
  });
});
