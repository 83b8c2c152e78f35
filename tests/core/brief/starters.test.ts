import { describe, expect, it } from "vitest";
import { BriefError, resolveBrief, STARTERS, starterBrief } from "@/core/brief";
import { findDisagreements } from "@/core/plan/disagreements";

const starter = (id: string) => STARTERS.find((one) => one.id === id)!;

describe("briefs for a purpose", () => {
  it.each(STARTERS.map((one) => [one.name, one] as const))(
    "%s: what is usual makes a brief that holds no contradiction",
    (name, one) => {
      const brief = starterBrief(one, {});
      expect(brief.name).toBe(name);
      expect(findDisagreements(brief)).toEqual([]);
      expect(() => resolveBrief(brief)).not.toThrow();
      expect(one.fields.length).toBeLessThanOrEqual(4);
    },
  );

  it("part a page's widths evenly, whichever is typed first", () => {
    const widths = (from: string, to: string) => starterBrief(starter("page-set"), { from, to }).set!.widths;
    expect(widths("480", "1920 px")).toEqual([480, 760, 1210, 1920]);
    expect(widths("1920", "480")).toEqual([480, 760, 1210, 1920]);
    expect(widths("600", "600")).toEqual([600]);
    expect(widths("600", "900")).toEqual([600, 900]);
  });

  it("take what is typed, with a unit or without", () => {
    expect(
      starterBrief(starter("form"), { min: "", max: "60", width: "200", height: "230 px" }),
    ).toMatchObject({
      fileSize: { max: "60 KB" },
      width: { exact: 200 },
      height: { exact: 230 },
    });
    expect(starterBrief(starter("form"), {}).width).toBeUndefined();
    expect(starterBrief(starter("print"), { width: "4 in", height: "6 in" }).paper).toEqual({
      width: "4 in",
      height: "6 in",
    });
    expect(starterBrief(starter("mail"), { total: "7,5" }).total).toEqual({ max: "7.5 MB", counted: "mail" });
  });

  it("say in one sentence what is missing or cannot be read", () => {
    expect(() => starterBrief(starter("web"), { side: " " })).toThrow(
      "Long side is empty. Say it, such as 1600 px.",
    );
    expect(() => starterBrief(starter("web"), { side: "wide" })).toThrow(/whole pixels, found "wide"/);
    expect(() => starterBrief(starter("form"), { max: "little" })).toThrow(
      /^At most is wanted as a size such as .*, found "little"\.$/,
    );
    expect(() => starterBrief(starter("form"), { min: "90 KB", max: "50 KB" })).toThrow(BriefError);
  });
});
