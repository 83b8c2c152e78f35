import { describe, expect, it } from "vitest";
import { type Brief, parseBrief, resolveBrief } from "@/core/brief";
import { planGeometry } from "@/core/geometry";
import { verdictOf } from "@/core/plan";
import { freeName, outputName, safeName, splitName } from "@/core/plan/names";
import { checkFacts, type Facts, meets } from "@/core/proof";
import { gaugeModel } from "@/core/proof/gauge";

describe("names", () => {
  const facts = {
    source: "IMG 0412.JPG",
    n: 7,
    width: 240,
    height: 300,
    date: "2026-05-14",
    brief: "Permit",
    format: "jpeg" as const,
  };

  it("fills patterns and keeps an ending that means the format already", () => {
    expect(outputName("{name}-{n:3}-{w}x{h}-{date}-{brief}", facts)).toBe(
      "IMG 0412-007-240x300-2026-05-14-Permit.JPG",
    );
    expect(outputName("{name}", { ...facts, format: "png" })).toBe("IMG 0412.png");
    expect(outputName("{name}", { ...facts, source: "a.jpeg" })).toBe("a.jpeg");
    expect(outputName("{name}", { ...facts, source: "trap.night" })).toBe("trap.night.jpg");
    expect(outputName("{name} {other}", { ...facts, date: null })).toBe("IMG 0412 {other}.JPG");
  });

  it("never leaves the folder, and takes what file systems refuse", () => {
    expect(outputName("{name}", { ...facts, source: "../../etc/passwd.jpg" })).toBe("passwd.jpg");
    expect(outputName("../{name}", facts)).not.toContain("/");
    expect(safeName('a\u0000b\u202ec:d*?"<>|')).toBe("abc_d______");
    expect(safeName("..")).toBe("photo");
    expect(safeName("moth 🦋 night")).toBe("moth 🦋 night");
    expect(
      new TextEncoder().encode(outputName("{name}", { ...facts, source: `${"ü".repeat(300)}.jpg` })).length,
    ).toBeLessThan(256);
    expect(splitName(".jpg")).toEqual({ stem: ".jpg", ending: "" });
  });

  it("counts on where a name is taken", () => {
    const taken = new Set(["a.jpg", "a-2.jpg"]);
    expect(freeName("a.jpg", (name) => taken.has(name))).toBe("a-3.jpg");
    expect(freeName("b.jpg", (name) => taken.has(name))).toBe("b.jpg");
  });
});

describe("the gauge", () => {
  it("puts band, now and will in order on a logarithmic line", () => {
    const m = gaugeModel({ min: 24_000, max: 60_000, now: 8_400_000, will: 59_000 });
    expect(m.nowBeyond).toBe("right");
    expect(m.band!.from).toBeGreaterThan(0.2);
    expect(m.will!).toBeGreaterThan(m.band!.from);
    expect(m.will!).toBeLessThan(m.band!.to);
    const same = (a: number, b: number) => Math.log(a) - Math.log(b);
    const g = gaugeModel({ min: 10, max: 40, now: 20, will: 80 });
    expect((g.now! - g.band!.from) / same(20, 10)).toBeCloseTo((g.band!.to - g.now!) / same(40, 20), 9);
  });

  it("draws exact values as two close ticks, open ends to the end of the line, and nothing for nothing", () => {
    const exact = gaugeModel({ min: 300, max: 300, now: 300, will: 300 });
    expect(exact.band!.to - exact.band!.from).toBeCloseTo(0.05, 9);
    expect(exact.will).toBeCloseTo(0.5, 9);
    expect(gaugeModel({ min: null, max: 100, now: 1, will: 90 })).toMatchObject({
      band: { from: 0, openLeft: true, openRight: false },
      nowBeyond: "left",
    });
    expect(gaugeModel({ min: 100, max: null, now: null, will: null }).band).toMatchObject({
      to: 1,
      openRight: true,
    });
    expect(gaugeModel({ min: null, max: null, now: null, will: null }).band).toBeNull();
    expect(gaugeModel({ min: null, max: null, now: 10, will: 20 }).band).toBeNull();
  });
});

const facts: Facts = {
  format: "jpeg",
  width: 240,
  height: 300,
  bytes: 57_312,
  resolution: [152.4, 152.4],
  resolutionStep: 0,
  bits: 8,
  colourSpace: "srgb",
  quality: 92,
  qualityExact: true,
  chroma: "4:4:4",
  orientation: 1,
  alpha: false,
  profile: true,
  pages: 1,
  privateData: [],
  metadata: true,
  date: null,
};

describe("checks", () => {
  const check = (clauses: Partial<Brief>, change: Partial<Facts> = {}) => {
    const brief = parseBrief({ zumbrelBrief: 1, name: "b", ...clauses });
    return checkFacts({ brief, resolved: resolveBrief(brief), facts: { ...facts, ...change } });
  };

  it("holds each stated clause against what was found", () => {
    const checks = check({
      format: ["jpeg"],
      width: { exact: 240 },
      height: { exact: 300 },
      fileSize: { min: "24KB", max: "60KB" },
      resolution: { exact: "152.4ppi" },
    });
    expect(checks.map((c) => c.clause)).toEqual(["format", "width", "height", "resolution", "fileSize"]);
    expect(checks.find((c) => c.clause === "fileSize")).toEqual({
      clause: "fileSize",
      asked: "24 to 60 KB",
      found: "57.3 kB",
      ok: true,
      gaveWay: false,
    });
    expect(meets(checks)).toBe(true);
  });

  it("has no tolerance in pixels and bytes", () => {
    expect(meets(check({ width: { exact: 241 } }))).toBe(false);
    expect(meets(check({ fileSize: { max: 57_311 } }))).toBe(false);
    expect(meets(check({ fileSize: { max: 57_312 } }))).toBe(true);
    // Common practice: an 8 KB signature fails a range of 10 to 20 KB.
    expect(meets(check({ fileSize: { min: "10KB", max: "20KB" } }, { bytes: 8_192 }))).toBe(false);
  });

  it("takes a resolution within 0.05 ppi, or half of what the field can hold", () => {
    expect(meets(check({ resolution: { exact: "152.44ppi" } }))).toBe(true);
    expect(meets(check({ resolution: { exact: "152.5ppi" } }))).toBe(false);
    expect(
      meets(check({ resolution: { exact: "152.4ppi" } }, { resolution: [152, 152], resolutionStep: 0.5 })),
    ).toBe(true);
    expect(meets(check({ resolution: { min: "300ppi" } }))).toBe(false);
    expect(meets(check({ resolution: { exact: "300ppi" } }, { resolution: null }))).toBe(false);
  });

  it("lets wishes give way, and says so", () => {
    const [width] = check({ width: { exact: 200 }, wishes: ["width"] });
    expect(width).toMatchObject({ ok: null, gaveWay: true });
    expect(meets([width])).toBe(true);
  });

  it("judges colour, quality, metadata, shape, sizes and box", () => {
    expect(meets(check({ colour: { space: "srgb", bits: 8, profile: "embed" } }))).toBe(true);
    expect(meets(check({ colour: { space: "srgb" } }, { colourSpace: "display-p3" }))).toBe(false);
    expect(meets(check({ quality: { max: 65 } }))).toBe(false);
    expect(meets(check({ metadata: "none" }))).toBe(false);
    expect(meets(check({ metadata: "private" }, { privateData: ["place"] }))).toBe(false);
    expect(meets(check({ shape: "4:5" }))).toBe(true);
    expect(meets(check({ shape: "16:9" }))).toBe(false);
    expect(meets(check({ sizes: [{ width: 240, height: 300 }] }))).toBe(true);
    expect(meets(check({ box: { width: 300, height: 240 } }))).toBe(true);
    expect(meets(check({ box: { width: 299, height: 240 } }))).toBe(false);
  });
});

describe("verdicts", () => {
  const wide = planGeometry(
    resolveBrief({ zumbrelBrief: 1, name: "b", width: { exact: 100 }, height: { exact: 300 } }),
    { width: 3000, height: 1000 },
  );
  const base = { error: null, geometry: wide, checks: [], passedThrough: false, told: [], accepted: false };
  it("asks about large cuts until somebody has looked", () => {
    expect(verdictOf(base)).toMatchObject({ state: "needs", reason: "check the frame" });
    expect(verdictOf({ ...base, accepted: true }).state).toBe("meets");
    expect(verdictOf({ ...base, geometry: { ...wide, cut: 0, scale: 2.5 } }).reason).toMatch(
      /2.5 × enlarged/,
    );
    expect(verdictOf({ ...base, geometry: null, passedThrough: true })).toEqual({
      state: "meets",
      reason: "as it is",
    });
    expect(verdictOf({ ...base, error: "Cannot: …" })).toEqual({ state: "cannot", reason: "Cannot: …" });
  });
});
