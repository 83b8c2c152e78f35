import { describe, expect, it } from "vitest";
import type { Brief } from "@/core/brief";
import { readRefusals } from "@/core/brief/refusal";
import { heldAgainst, otherwise } from "@/core/plan/refusals";

const brief = (rest: Partial<Brief>): Brief => ({ zumbrelBrief: 1, name: "Portrait", ...rest });
const held = (of: Brief, text: string) => heldAgainst(of, readRefusals(text, [])[0].asked);

describe("a refusal against the brief in use", () => {
  it("changes what it asks, keeps the rest, and keeps what the receiver had said first", () => {
    const now = brief({
      fileSize: { min: "24KB", max: "60KB" },
      format: ["jpeg"],
      read: [{ clause: "fileSize", start: 0, end: 5 }],
    });
    const {
      brief: next,
      changes,
      same,
    } = held(now, "Refused: the file has 58 KB, more than the 50 KB that are allowed");
    expect(changes).toEqual([
      { clause: "fileSize", name: "File size", old: "24 to 60 KB", next: "24 to 50 KB" },
    ]);
    expect(same).toEqual([]);
    expect(next.format).toEqual(["jpeg"]);
    expect(next.overruled).toEqual({ fileSize: { min: "24KB", max: "60KB" } });
  });

  it("says what is asked already, and drops an end that the new one excludes", () => {
    const now = brief({ fileSize: { min: "100KB", max: "200KB" }, longSide: { exact: 800 } });
    expect(held(now, "Error: 90 KB. File must be at least 100 KB").same.map((one) => one.next)).toEqual([
      "100 to 200 KB",
    ]);
    const { brief: small } = held(now, "File too large (max 50KB)");
    expect(small.fileSize).toEqual({ max: "50KB" });
    const { brief: exact } = held(now, "Upload failed: image dimensions must be 200 × 230");
    expect([exact.width, exact.height, exact.longSide]).toEqual([{ exact: 200 }, { exact: 230 }, undefined]);
  });

  it("tells where the proof says otherwise, and not where only the counting differs", () => {
    const facts = { bytes: 61_400, width: 240, height: 300, format: "jpeg", resolution: null };
    const said = (text: string) => otherwise(readRefusals(text, [])[0].found, facts);
    // 61,400 bytes are 61.4 KB, or 60 in powers of 1024.
    expect(said("Error: 60 KB. Must be at most 50 KB")).toEqual([]);
    expect(said("Error: 8 KB. Must be between 10 KB and 20 KB")).toEqual([
      "It says 8 KB; the file that was made has 61.4 kB.",
    ]);
    expect(said("Refused: the picture has 180 × 200 pixels, and 240 × 300 are asked")).toEqual([
      "It says 180 × 200 px; the file that was made has 240 × 300 px.",
    ]);
    expect(said("Refused: the file is a PNG, and JPEG is asked")).toHaveLength(1);
  });

  it("finds the document that each part is about", () => {
    const answer =
      "Refused: 2 of 3 documents are not as asked.\n" +
      "Portrait: refused: the file has 58.2 KB, more than the 50 KB that are allowed\n" +
      "Signature: refused: the file has 8.1 KB, less than the 9 KB that are asked\n" +
      "Proof of address: accepted";
    const read = readRefusals(answer, ["Portrait", "Signature", "Proof of address"]);
    expect(read.map(({ name, asked }) => [name, asked])).toEqual([
      ["Portrait", { fileSize: { max: "50KB" } }],
      ["Signature", { fileSize: { min: "9KB" } }],
    ]);
    expect(
      readRefusals("Error: 8 KB. Signature must be between 10 KB and 20 KB", ["Portrait", "Signature"]),
    ).toEqual([
      {
        name: "Signature",
        asked: { fileSize: { min: "10KB", max: "20KB" } },
        found: [{ kind: "bytes", words: "8 KB", bytes: 8000 }],
      },
    ]);
  });
});
