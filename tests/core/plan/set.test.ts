import { describe, expect, it } from "vitest";
import { type Brief, BriefError, clauseWords, parseBrief, resolveBrief } from "@/core/brief";
import { AUTO } from "@/core/photo";
import { findDisagreements } from "@/core/plan/disagreements";
import { alikeNotes, idleNotes, partBrief, planSet, withoutSet, worthOffering } from "@/core/plan/set";
import { checkFacts, type Facts } from "@/core/proof";

const photo = {
  format: "jpeg",
  width: 2400,
  height: 1600,
  bytes: 3_000_000,
  bits: 8,
  pages: 1,
  alpha: false,
  orientation: 1,
} as unknown as Facts;
const make = (clauses: Partial<Brief>) => parseBrief({ zumbrelBrief: 1, name: "Page", ...clauses });
const parts = (clauses: Partial<Brief>, facts: Partial<Facts> = {}) =>
  planSet(make(clauses), { ...photo, ...facts }, AUTO);

describe("a set", () => {
  it("is one file for each width and format, the widest first, and never enlarged", () => {
    const {
      parts: files,
      notes,
      full,
    } = parts({ set: { widths: [480, 2000, 960, 3200], formats: ["webp", "jpeg"] } });
    expect(files.map(({ width, format }) => `${width} ${format}`)).toEqual([
      "2000 jpeg",
      "2000 webp",
      "960 jpeg",
      "960 webp",
      "480 jpeg",
      "480 webp",
    ]);
    expect(full).toEqual({ width: 2400, height: 1600 });
    expect(notes).toEqual(["3200 px was left out: the picture is 2400 px wide, and none is enlarged."]);
  });

  it("of a photo that is narrower than all of them is one file of its own width", () => {
    const { parts: files, notes } = parts({ set: { widths: [640, 1280] } }, { width: 500, height: 400 });
    expect(files).toEqual([{ width: 500, format: "jpeg" }]);
    expect(notes[0]).toContain("narrower than every width that is asked (640 px, 1280 px)");
  });

  it("keeps the shape and its own ceilings, and names each file by its width", () => {
    const brief = make({
      set: { widths: [300, 600] },
      shape: "1:1",
      fileSize: { max: "90KB" },
      names: "{n:2}-moth",
      longSide: { max: 500 },
    });
    const { parts: files } = planSet(brief, photo, AUTO);
    // The ceiling on the long side holds for the set too.
    expect(files.map(({ width }) => width)).toEqual([300]);
    expect(partBrief(brief, files[0])).toMatchObject({
      width: { exact: 300 },
      shape: "1:1",
      fileSize: { max: "90KB" },
      names: "{n:2}-moth-{w}",
      longSide: { max: 500 },
      format: ["jpeg"],
    });
    expect(partBrief(brief, files[0]).set).toBeUndefined();
    expect(resolveBrief(make({ set: { widths: [300] }, names: "{w:4}_{name}" })).names).toBe("{w:4}_{name}");
    expect(clauseWords(brief, "set")).toBe("300 and 600 px wide");
    expect(withoutSet(brief).enlarge).toBe("never");
  });

  it("of forty widths, of none, of the same twice or of an icon's is refused by name", () => {
    const refusal = (set: unknown) => {
      try {
        parseBrief({ zumbrelBrief: 1, name: "x", set });
        return null;
      } catch (error) {
        expect(error).toBeInstanceOf(BriefError);
        return (error as Error).message;
      }
    };
    expect(refusal({ widths: Array.from({ length: 40 }, (_, i) => 100 + i) })).toContain(
      "wanted at most 12 entries",
    );
    expect(refusal({ widths: [1, 600] })).toContain("set");
    expect(refusal({ widths: [] })).toContain("set");
    expect(refusal({ widths: [600, 600] })).toContain("each width once");
    expect(refusal({ widths: [70_000] })).toContain("set");
    expect(refusal({ widths: [600], formats: ["tiff"] })).toContain("set");
    // Wider than any photo, but a width: it is left out.
    expect(parts({ set: { widths: [600, 60_000] } }).parts).toHaveLength(1);
  });

  it("disagrees with what fixes one file's pixels, and with a total, with ways out", () => {
    const all = findDisagreements(
      make({ set: { widths: [600] }, width: { exact: 300 }, total: { max: "2MB" }, shortSide: { max: 900 } }),
    );
    expect(all.map(({ clauses }) => clauses)).toEqual([
      ["set", "width"],
      ["set", "total"],
    ]);
    const kinds = findDisagreements(
      make({ format: ["jpeg"], set: { widths: [600], formats: ["avif", "jpeg"] } }),
    );
    expect(kinds[0].why).toBe("The set has AVIF, and the file is to be JPEG.");
    expect(all[1].choices.map(({ change }) => change)).toEqual([{ total: null }, { set: null }]);
  });
});

describe("a file that somebody else made", () => {
  const check = (facts: Partial<Facts>) => {
    const brief = make({ set: { widths: [480, 960], formats: ["webp", "jpeg"] } });
    const file = { ...photo, resolutionStep: 0, resolution: null, privateData: [], ...facts } as Facts;
    return checkFacts({ brief, resolved: resolveBrief(brief), facts: file })[0];
  };

  it("is one of a set by its width and format, or narrower than all", () => {
    expect(check({ width: 960 })).toMatchObject({ clause: "set", found: "960 px wide, JPEG", ok: true });
    expect(check({ width: 300 }).ok).toBe(true);
    expect(check({ width: 700 }).ok).toBe(false);
    expect(check({ width: 960, format: "png" }).ok).toBe(false);
  });
});

describe("what is told of a set", () => {
  const made = [
    { width: 900, format: "jpeg", bytes: 100_000 },
    { width: 800, format: "jpeg", bytes: 90_000 },
    { width: 400, format: "jpeg", bytes: 30_000 },
    { width: 900, format: "webp", bytes: 99_000 },
    { width: 400, format: "webp", bytes: 29_900 },
    { width: 900, format: "avif", bytes: 70_000 },
    { width: 400, format: "avif", bytes: 20_000 },
  ] as const;

  it("names neighbours whose bytes differ by less than a fifth", () => {
    expect(alikeNotes(made)).toEqual([
      "800 and 900 px hardly differ in bytes (90.0 kB and 100 kB); one of them could be left out.",
    ]);
  });

  it("offers only formats that save something over the one that every browser knows", () => {
    const pairs = made.filter(({ width }) => width !== 800);
    expect(worthOffering(pairs)).toEqual(["avif", "jpeg"]);
    expect(idleNotes(pairs)).toEqual(["WebP saves nothing over JPEG here, so the markup leaves it out."]);
    expect(worthOffering([{ format: "webp", bytes: 1 }])).toEqual(["webp"]);
  });
});
