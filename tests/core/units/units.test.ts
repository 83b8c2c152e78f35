import { describe, expect, it } from "vitest";
import {
  formatBytes,
  onPaper,
  parseLength,
  parsePixels,
  parseResolution,
  resolveByteRange,
  toBytes,
  toInches,
} from "@/core/units";
import { lengthToPixels } from "@/core/units/length";

describe("bytes", () => {
  it("counts prefixes as SI and IEC 80000-13 define them", () => {
    expect(toBytes("1kB", "min")).toBe(1000);
    expect(toBytes("1KiB", "max")).toBe(1024);
    expect(toBytes("1MiB", "max")).toBe(1024 ** 2);
    expect(toBytes("2 GiB", "max")).toBe(2 * 1024 ** 3);
    expect(toBytes(61440, "max")).toBe(61440);
    expect(toBytes("512B", "min")).toBe(512);
  });

  it("meets either reading of KB: the smaller as a ceiling, the larger as a floor", () => {
    expect(toBytes("60KB", "max")).toBe(60_000);
    expect(toBytes("24KB", "min")).toBe(24_576);
    expect(toBytes("1,5 MB", "max")).toBe(1_500_000);
  });

  it("counts both in thousands, and says so, where the cautious reading leaves no room", () => {
    const range = resolveByteRange({ min: "99KB", max: "100KB" });
    expect(range.min).toBe(99_000);
    expect(range.max).toBe(100_000);
    expect(range.note).toMatch(/powers of 1000/);
    expect(resolveByteRange({ min: "24KB", max: "60KB" }).note).toBeNull();
  });

  it("refuses what it cannot read, with wanted and found", () => {
    for (const text of ["", "KB", "-5KB", "1e9KB", "12 parsecs", "NaN", "60KB or so"])
      expect(() => toBytes(text, "max"), text).toThrow(/wanted .* found/);
    expect(() => toBytes(-1, "max")).toThrow();
    expect(() => resolveByteRange({ min: "90KB", max: "30KB" })).toThrow(/min 90KB above max 30KB/);
  });

  it("writes measured counts in thousands", () => {
    expect(["812 B", "57.3 kB", "334 kB", "1.20 MB", "21.4 MB"]).toEqual(
      [812, 57_312, 333_800, 1_200_000, 21_392_412].map(formatBytes),
    );
    expect(formatBytes(999_600)).toBe("1.00 MB");
  });
});

describe("lengths and resolution", () => {
  it("knows that an inch is 25.4 mm and a point a 72nd of it", () => {
    expect(toInches(parseLength("25.4mm"))).toBeCloseTo(1, 12);
    expect(toInches(parseLength("2,54 cm"))).toBeCloseTo(1, 12);
    expect(toInches(parseLength("72pt"))).toBeCloseTo(1, 12);
    expect(toInches(parseLength('8"'))).toBe(8);
  });

  it("turns paper into pixels", () => {
    // Common practice: 10 in at 300 ppi is 3000 px; 17 × 11 in at 400 ppi is 6800 × 4400 px.
    expect(lengthToPixels(parseLength("10in"), 300)).toBe(3000);
    expect([17, 11].map((v) => lengthToPixels(parseLength(`${v}in`), 400))).toEqual([6800, 4400]);
    // ISO 216: A4 is 210 × 297 mm; 2480 × 3508 px at 300 ppi. ICAO 9303: 35 × 45 mm is 413 × 531 px.
    expect(
      ["210mm", "297mm", "35mm", "45mm"].map((t) => Math.round(lengthToPixels(parseLength(t), 300))),
    ).toEqual([2480, 3508, 413, 531]);
  });

  it("reads pixels, and lengths only with a resolution beside them", () => {
    expect(parsePixels("480px")).toBe(480);
    expect(parsePixels(" 480 ")).toBe(480);
    expect(parsePixels("28 mm", 300)).toBe(331);
    expect(() => parsePixels("28 mm")).toThrow(/resolution/);
    for (const text of ["0", "70000", "4.5", "px", "-3"]) expect(() => parsePixels(text), text).toThrow();
    expect(onPaper(240, 152.4)).toBe("40 mm, 1.57 in");
  });

  it("keeps resolution in pixels per inch", () => {
    expect(parseResolution("120ppcm")).toBeCloseTo(304.8, 9);
    expect(parseResolution("300 dpi")).toBe(300);
    for (const text of ["0ppi", "300", "1000000ppi", "fine"])
      expect(() => parseResolution(text), text).toThrow();
  });
});
