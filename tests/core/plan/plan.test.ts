import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Brief, BriefError, parseBrief, parseBriefText, resolveBrief } from "@/core/brief";
import { aboutBytes, type Setting, settingKey } from "@/core/coding";
import { planGeometry } from "@/core/geometry";
import { allowedFormats, passSteps, planSteps, reasonsToEncode } from "@/core/plan";
import { type PlanInput, percent, settingWords } from "@/core/plan/steps";
import { type Facts, publicFacts, spaceName, unchanged } from "@/core/proof";

const facts: Facts = {
  format: "jpeg",
  width: 3000,
  height: 2000,
  bytes: 2_000_000,
  resolution: [72, 72],
  resolutionStep: 0,
  bits: 8,
  colourSpace: "srgb",
  quality: 92,
  qualityExact: true,
  chroma: "4:2:0",
  orientation: 1,
  alpha: false,
  profile: false,
  pages: 1,
  privateData: [],
  metadata: true,
  date: "2026-05-14",
};
const make = (clauses: Partial<Brief>) => parseBrief({ zumbrelBrief: 1, name: "b", ...clauses });

function plan(clauses: Partial<Brief>, change: Partial<Facts> = {}, input: Partial<PlanInput> = {}) {
  const brief = make(clauses);
  const resolved = resolveBrief(brief);
  const source = { ...facts, ...change };
  const geometry = planGeometry(resolved, source);
  const setting: Setting = { format: "jpeg", quality: 94, chroma: "4:4:4", table: 3, effort: "careful" };
  const encoding = { setting, format: "jpeg", bytes: 57_312, about: null, told: [] };
  return planSteps({
    brief,
    resolved,
    facts: source,
    geometry,
    encoding,
    writePpi: null,
    dropped: [],
    ...input,
  });
}

describe("the plan in sentences", () => {
  it("keeps frames moving where that is asked, also before anything is made, and takes the first else", () => {
    const gif = { format: "gif", pages: 12 };
    const first = (brief: Parameters<typeof plan>[0]) => plan(brief, gif)[0];
    expect(first({ format: ["avif"], frames: "keep" }).do).toBe("Keep 12 frames moving");
    expect(first({ format: ["jpeg"], frames: "keep" })).toEqual({
      do: "Use the first frame",
      why: "the file holds 12 frames",
    });
  });

  it("tells every step in the order in which it is done, each with its reason", () => {
    const steps = plan(
      {
        width: { exact: 240 },
        height: { exact: 300 },
        fileSize: { max: "60KB" },
        resolution: { exact: "152.4ppi" },
      },
      { orientation: 6, colourSpace: "display-p3", bits: 16, pages: 3, width: 2000, height: 3000 },
      { writePpi: 152.4, dropped: ["place", "owner"] },
    );
    expect(steps.map((s) => s.do)).toEqual([
      "Use the first page",
      "Turn it upright",
      "Turn colours into sRGB",
      "Cut 17 % away, keeping the middle",
      "Reduce 8.3 × to 240 × 300 px",
      "Bring it to 8 bits",
      "JPEG 4:4:4, quality 94",
      "Write 152.4 ppi",
      "Leave out place, owner",
    ]);
    expect(steps.every((s) => s.why.length > 0)).toBe(true);
    expect(steps[2].why).toBe("the file is in Display P3");
    expect(steps[6].why).toBe("57.3 kB measured, ceiling 60.0 kB");
  });

  it("warns of made-up pixels, distortion, background and transparency", () => {
    const words = (clauses: Partial<Brief>, change: Partial<Facts> = {}) =>
      plan(clauses, change)
        .map((s) => `${s.do}: ${s.why}`)
        .join("\n");
    expect(words({ width: { exact: 6000 } })).toMatch(
      /Enlarge 2 × to 6000 × 4000 px: .*the pixels between are made up/,
    );
    expect(words({ width: { exact: 100 }, height: { exact: 100 }, frame: "stretch" })).toMatch(
      /Stretch it, so it is distorted/,
    );
    expect(words({ width: { exact: 100 }, height: { exact: 100 }, frame: "pad" })).toMatch(
      /Add #ffffff around it to 100 × 100 px: nothing of the photo is cut/,
    );
    expect(words({}, { alpha: true })).toMatch(/Lay it on #ffffff: JPEG holds no transparency/);
    expect(words({})).not.toMatch(/Reduce|Cut|Enlarge/);
  });

  it("marks what is only estimated", () => {
    const [step] = plan(
      {},
      {},
      { encoding: { setting: null, format: "png", bytes: null, about: 120_000, told: [] } },
    );
    expect(step).toEqual({ do: "Save as PNG", why: "about 120 kB, not measured yet, no ceiling asked" });
  });

  it("gives what had to yield steps of its own", () => {
    const encoding = {
      setting: null,
      format: "jpeg",
      bytes: 1,
      about: null,
      told: ["full chroma (4:4:4), because the floor is not reached without it"],
    };
    expect(plan({}, {}, { encoding })[1]).toEqual({
      do: "Full chroma (4:4:4)",
      why: "the floor is not reached without it",
    });
  });

  it("says which end of a cut photo is kept", () => {
    const brief = make({ width: { exact: 100 }, height: { exact: 200 } });
    const resolved = resolveBrief(brief);
    const at = (x: number) => {
      const geometry = planGeometry(resolved, facts, { x, y: 0.5 });
      return planSteps({
        brief,
        resolved,
        facts,
        geometry,
        encoding: { setting: null, format: "jpeg", bytes: null, about: 1, told: [] },
        writePpi: null,
        dropped: [],
      })[0].do;
    };
    expect([at(0), at(0.5), at(1)].map((s) => s.split("keeping the ")[1])).toEqual([
      "left",
      "middle",
      "right",
    ]);
  });

  it("is short for what passes through", () => {
    const brief = make({ metadata: "private" });
    const input = {
      brief,
      resolved: resolveBrief(brief),
      facts,
      geometry: planGeometry(resolveBrief(brief), facts),
      encoding: { setting: null, format: "jpeg", bytes: 1, about: null, told: [] },
      writePpi: 300,
      dropped: ["place"],
    };
    expect(passSteps(input, true)).toHaveLength(1);
    expect(passSteps(input, false).map((s) => s.do)).toEqual([
      "Leave the picture data as they are",
      "Leave out place",
      "Write 300 ppi",
    ]);
    expect([percent(0.004), percent(0.17)]).toEqual(["under 1 %", "17 %"]);
    expect(settingWords({ format: "png", colours: 64, level: 9 }, "png")).toBe("PNG, 64 colours");
    expect(settingKey({ format: "png", colours: null, level: 9 })).not.toBe(
      settingKey({ format: "png", colours: 256, level: 9 }),
    );
  });
});

describe("reasons to encode anew", () => {
  const reasons = (clauses: Partial<Brief>, change: Partial<Facts> = {}) => {
    const brief = make(clauses);
    const resolved = resolveBrief(brief);
    const source = { ...facts, ...change };
    return reasonsToEncode({ brief, resolved, facts: source, geometry: planGeometry(resolved, source) });
  };

  it("are none where the picture data satisfy every clause", () => {
    expect(reasons({})).toEqual([]);
    expect(
      reasons({
        format: ["png", "jpeg"],
        longSide: { max: 3000 },
        resolution: { exact: "300ppi" },
        quality: { max: 95 },
      }),
    ).toEqual([]);
    // A default is no clause: colours that nobody asked about stay.
    expect(reasons({}, { colourSpace: "oprgb", profile: true })).toEqual([]);
  });

  const table: [string, Partial<Brief>, Partial<Facts>][] = [
    ["another format is asked", { format: ["png"] }, {}],
    ["other pixels are asked", { longSide: { max: 2999 } }, {}],
    ["another quality is asked", { quality: { max: 65 } }, {}],
    ["other colours are asked", { colour: { space: "srgb" } }, { colourSpace: "display-p3" }],
    ["other bits are asked", { colour: { bits: 8 } }, { bits: 16 }],
    ["a colour profile is asked", { colour: { profile: "embed" } }, {}],
    [
      "the profile is to go, so the colours must become sRGB",
      { colour: { profile: "omit" } },
      { colourSpace: "oprgb", profile: true },
    ],
    ["the turning mark goes with the metadata", { metadata: "none" }, { orientation: 6 }],
    [
      "its headers have to change",
      { resolution: { exact: "300ppi" } },
      { format: "gif", fixedHeaders: true },
    ],
    ["it is to be sharpened", { sharpen: { for: "screen", amount: 40 } }, {}],
    ["other colours are asked", { colour: { space: "gray" } }, {}],
  ];
  it.each(table)("%s", (reason, clauses, change) => expect(reasons(clauses, change)).toEqual([reason]));

  it("leave the source's own kind where it can be written", () => {
    const formats = (format: string) => allowedFormats(resolveBrief(make({})), { ...facts, format });
    expect([formats("png"), formats("jpeg"), formats("webp"), formats("heif")]).toEqual([
      ["png"],
      ["jpeg"],
      ["webp"],
      ["jpeg"],
    ]);
    expect(
      allowedFormats(resolveBrief(make({ colour: { space: "cmyk" } })), { ...facts, format: "webp" }),
    ).toEqual(["jpeg"]);
    expect(
      allowedFormats(resolveBrief(make({ format: ["gif", "tiff"], colour: { bits: 16 } })), facts),
    ).toEqual(["tiff"]);
  });
});

describe("facts and what did not change", () => {
  it("prints nine facts, rounded where a field cannot hold more", () => {
    expect(publicFacts({ ...facts, resolution: [150.01239999, 150.01239999] })).toMatchObject({
      resolution: [150.0124, 150.0124],
      format: "jpeg",
    });
    expect(Object.keys(publicFacts(facts))).toHaveLength(9);
    expect([spaceName("oprgb"), spaceName(null), spaceName("other")]).toEqual(["opRGB", "unknown", "other"]);
  });

  it("lists only what was not asked and is the same", () => {
    expect(unchanged(make({ format: ["jpeg"] }), facts, facts).join()).toBe(
      "the pixels, 3000 × 2000,the resolution, 72 ppi,the colour space, sRGB,the capture date, 2026-05-14",
    );
    expect(
      unchanged(make({ width: { exact: 100 } }), facts, {
        ...facts,
        width: 100,
        resolution: null,
        date: null,
        colourSpace: "gray",
      }),
    ).toEqual(["the format, JPEG"]);
  });
});

describe("estimates", () => {
  it("lie inside the asked range, and grow with the pixels", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1000, max: 24_000_000 }),
        fc.integer({ min: 5, max: 5000 }),
        fc.constantFrom("jpeg" as const, "png" as const),
        (pixels, kb, format) => {
          const resolved = resolveBrief(make({ fileSize: { max: `${kb}KB` } }));
          expect(aboutBytes(resolved, pixels, format)).toBeLessThanOrEqual(kb * 1000);
          const free = resolveBrief(make({}));
          expect(aboutBytes(free, pixels * 2, format)).toBeGreaterThan(aboutBytes(free, pixels, format));
          const floor = resolveBrief(make({ fileSize: { min: `${kb}KB` } }));
          expect(aboutBytes(floor, pixels, format)).toBeGreaterThanOrEqual(kb * 1024);
        },
      ),
    );
  });
});

describe("hostile briefs", () => {
  it("are answered with one sentence, whatever they are", () => {
    const near = fc.record(
      {
        zumbrelBrief: fc.constantFrom(1, 2, "1"),
        name: fc.anything(),
        format: fc.anything(),
        width: fc.anything(),
        fileSize: fc.record({ min: fc.anything(), max: fc.anything() }),
        resolution: fc.anything(),
        shape: fc.string(),
        scale: fc.string(),
      },
      { requiredKeys: [] },
    );
    fc.assert(
      fc.property(fc.oneof(near, fc.anything()), (value) => {
        try {
          parseBrief(value);
        } catch (error) {
          expect(error).toBeInstanceOf(BriefError);
          expect((error as Error).message).toMatch(/^The brief.*\.$/s);
          expect((error as Error).message.length).toBeLessThan(500);
        }
      }),
      { numRuns: 500 },
    );
    fc.assert(
      fc.property(fc.string(), (text) => {
        try {
          parseBriefText(text);
        } catch (error) {
          expect(error).toBeInstanceOf(BriefError);
        }
      }),
    );
  });
});
