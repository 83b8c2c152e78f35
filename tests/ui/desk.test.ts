import { describe, expect, it } from "vitest";
import { type Brief, parseBrief, resolveBrief } from "@/core/brief";
import { readWording } from "@/core/brief/read";
import { pixelGauge } from "@/core/proof/gauge";
import type { RowView } from "@/ui/api";
import { briefSummary, isWished, receiversWords, statedChips } from "@/ui/clauses";
import { asAsked, CHIPS, withClauses } from "@/ui/clauses/chips";
import { rowState, toneOf } from "@/ui/parts";

const brief = (clauses: Partial<Brief>) => parseBrief({ zumbrelBrief: 1, name: "b", ...clauses });
const chip = (key: string) => CHIPS.find((c) => c.key === key)!;

describe("chips", () => {
  const full = brief({
    format: ["jpeg", "png"],
    width: { exact: 240 },
    height: { exact: 300 },
    fileSize: { min: "24KB", max: "60KB" },
    resolution: { exact: "120ppcm" },
    frame: "pad",
    names: "{name}-x",
    metadata: "none",
  });

  it("read as people speak", () => {
    expect(statedChips(full).map((c) => [c.title, c.words(full)])).toEqual([
      ["Format", "JPEG or PNG"],
      ["Pixels", "240 × 300"],
      ["File size", "24 to 60 KB"],
      ["Resolution", "120 ppcm"],
      ["Frame", "background added"],
      ["Metadata", "none"],
      ["Names", "{name}-x"],
    ]);
    expect(statedChips(brief({}))).toEqual([]);
    expect(briefSummary(full)).toBe("240 × 300, 24 to 60 KB");
  });

  it("change only their own clauses", () => {
    const changed = withClauses(full, chip("pixels"), { longSide: { max: 800 } });
    expect(changed).toMatchObject({ longSide: { max: 800 }, fileSize: { min: "24KB" }, names: "{name}-x" });
    expect(changed.width).toBeUndefined();
    expect(changed.height).toBeUndefined();
    const removed = withClauses(full, chip("fileSize"), {});
    expect(removed.fileSize).toBeUndefined();
    expect(full.fileSize).toBeDefined();
  });

  it("show both values where the receiver was overruled, and lead back", () => {
    const [asked] = readWording("At most 90 KB, 240 x 300 px.").briefs;
    const raised = withClauses(asked, chip("fileSize"), { fileSize: { max: "120KB" } });
    expect([
      chip("fileSize").words(raised),
      receiversWords(raised, chip("fileSize")),
      receiversWords(raised, chip("pixels")),
    ]).toEqual(["at most 120 KB", "at most 90 KB", null]);
    const wider = withClauses(asked, chip("pixels"), { width: { exact: 250 }, height: { exact: 300 } });
    expect(receiversWords(wider, chip("pixels"))).toBe("240 × 300");
    expect(asAsked(raised, chip("fileSize"))).toEqual(asked);
    expect(asAsked(wider, chip("pixels"))).toEqual(asked);
  });

  it("mark wishes, and stand in the order of the wording", () => {
    const [asked] = readWording("At most 90 KB, JPEG, if possible 240 x 300 px.").briefs;
    expect(statedChips(asked).map((c) => [c.key, isWished(asked, c)])).toEqual([
      ["fileSize", false],
      ["format", false],
      ["pixels", true],
    ]);
    const demanded = withClauses(asked, chip("pixels"), { longSide: { max: 400 } }, false);
    expect(demanded.wishes).toBeUndefined();
    expect(withClauses(demanded, chip("fileSize"), { fileSize: { max: "80KB" } }, true).wishes).toEqual([
      "fileSize",
    ]);
  });
});

const facts = { width: 4000, height: 3000 } as RowView["before"];
const row = (change: Partial<RowView>): RowView => ({
  id: "r",
  revisionId: "v",
  own: false,
  photoId: "p",
  assignmentId: "a",
  name: "n",
  set: null,
  alt: "",
  folder: "",
  nameNotes: [],
  thumb: true,
  before: facts,
  frame: { x: 0.5, y: 0.5 },
  dotScreen: null,
  geometry: null,
  figure: "about",
  bytes: 1,
  difference: null,
  differenceAbout: false,
  cleanFrom: null,
  gaveUp: null,
  passing: false,
  choice: null,
  ppi: null,
  steps: [],
  notes: [],
  ink: null,
  checks: [],
  verdict: null,
  outputName: null,
  made: null,
  ...change,
});
const made = (change: Partial<NonNullable<RowView["made"]>>): RowView["made"] => ({
  itemId: "i",
  runId: "u",
  facts: null,
  onlyYou: [],
  ticks: {},
  state: "done",
  error: null,
  name: "n",
  bytes: 1,
  checks: [],
  unchanged: [],
  dropped: [],
  ok: true,
  ...change,
});

describe("a row's state", () => {
  it("is the proof after a run, else the verdict, else that work is going on", () => {
    expect(rowState(row({}))).toEqual({ state: null, reason: "measuring", working: true });
    expect(
      rowState(row({ figure: "measured", verdict: { state: "needs", reason: "check the frame" } })),
    ).toMatchObject({ state: "needs", working: false });
    expect(rowState(row({ verdict: { state: "needs", reason: "" }, made: made({}) })).state).toBe("meets");
    expect(rowState(row({ made: made({ ok: false }) })).state).toBe("cannot");
    expect(rowState(row({ made: made({ state: "waiting" }) }))).toMatchObject({ state: null, working: true });
    expect(rowState(row({ made: made({ state: "failed", error: "The disk is full." }) }))).toMatchObject({
      state: "cannot",
      reason: "The disk is full.",
    });
    expect(toneOf(row({}))).toBe("open");
  });
});

describe("the gauge of pixels", () => {
  const geometry = { width: 1100, height: 825 } as RowView["geometry"];
  const gauge = (clauses: Partial<Brief>) => pixelGauge(resolveBrief(brief(clauses)), facts, geometry);
  it("measures the side that is asked", () => {
    expect(gauge({ longSide: { max: 1100 } })).toEqual({ min: null, max: 1100, now: 4000, will: 1100 });
    expect(gauge({ shortSide: { min: 800 } })).toEqual({ min: 800, max: null, now: 3000, will: 825 });
    expect(gauge({ width: { exact: 1100 } })).toEqual({ min: 1100, max: 1100, now: 4000, will: 1100 });
    expect(gauge({ height: { max: 900 } })).toEqual({ min: null, max: 900, now: 3000, will: 825 });
    const both = gauge({ width: { exact: 1100 }, height: { exact: 825 } });
    expect(both.min).toBeCloseTo(both.will!, 9);
    expect(gauge({}).min).toBeNull();
    expect(pixelGauge(null, facts, null)).toEqual({ min: null, max: null, now: Math.sqrt(12e6), will: null });
    expect(gauge({ sizes: [{ width: 400, height: 100 }] })).toMatchObject({ min: 200, max: 200 });
    expect(gauge({ box: { width: 600, height: 900 } })).toMatchObject({ min: null, max: 900, will: 1100 });
  });
});
