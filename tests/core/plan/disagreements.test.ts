import { describe, expect, it } from "vitest";
import { type Brief, parseBrief } from "@/core/brief";
import { readWording } from "@/core/brief/read";
import { findDisagreements, overrule } from "@/core/plan/disagreements";

const brief = (clauses: Partial<Brief>): Brief => parseBrief({ zumbrelBrief: 1, name: "b", ...clauses });
const found = (clauses: Partial<Brief>, photo?: { width: number; height: number }) =>
  findDisagreements(brief(clauses), photo);
const exact = (width: number, height: number) => ({ width: { exact: width }, height: { exact: height } });

/** Every way out has to lead out: the contradiction between those clauses is gone, and none has come. */
function leadsOut(clauses: Partial<Brief>, photo?: { width: number; height: number }): void {
  for (const disagreement of found(clauses, photo)) {
    expect(disagreement.choices.length, disagreement.why).toBeGreaterThan(0);
    for (const { label, change } of disagreement.choices) {
      const left = findDisagreements(parseBrief(overrule(brief(clauses), change)), photo);
      expect(
        left.some((d) => d.why === disagreement.why),
        `${label}: ${disagreement.why}`,
      ).toBe(false);
    }
  }
}

const CASES: [string, Partial<Brief>, RegExp, string[]][] = [
  [
    "pixels and paper of different shape",
    { ...exact(330, 420), paper: { width: "28mm", height: "35mm" } },
    /^330 × 420 px is 4 : 5\.09, 28 × 35 mm is 4 : 5\. .* 413 px: 7 fewer/,
    ["Follow the pixels", "Follow the paper"],
  ],
  // Common practice: 3.5 × 4.5 cm and 200 × 230 px stand in one form.
  [
    "the usual portrait of forms",
    { ...exact(200, 230), paper: { width: "3.5cm", height: "4.5cm" } },
    /^200 × 230 px is 7 : 8\.05, 3\.5 × 4\.5 cm is 7 : 9/,
    ["Follow the pixels", "Follow the paper"],
  ],
  [
    "pixels and shape",
    { ...exact(800, 600), shape: "16:9" },
    /800 × 600 px is 16 : 12, the shape asked is 16:9/,
    ["Follow the pixels", "Follow the shape"],
  ],
  [
    "paper and shape",
    { paper: { width: "60mm", height: "40mm" }, shape: "1:1" },
    /60 × 40 mm is 1 : 0\.67/,
    ["Follow the shape", "Follow the paper"],
  ],
  [
    "sizes and shape",
    {
      sizes: [
        { width: 1600, height: 900 },
        { width: 800, height: 600 },
      ],
      shape: "16:9",
    },
    /800 × 600 px is not 16:9/,
    ["Follow the sizes", "Follow the shape"],
  ],
  [
    "paper, pixels and resolution",
    { width: { exact: 600 }, paper: { width: "50.8mm" }, resolution: { exact: "200ppi" } },
    /600 px on 50\.8 mm wide make 300 ppi, 200 ppi is asked: 1\.5 × apart/,
    ["Keep pixels and paper", "Keep paper and resolution", "Keep pixels and resolution"],
  ],
  [
    "a resolution out of its range",
    { width: { exact: 300 }, paper: { width: "3in" }, resolution: { min: "200ppi" } },
    /make 100 ppi, at least 200 ppi is asked/,
    ["Keep pixels and paper", "Keep paper and resolution", "Keep pixels and resolution"],
  ],
  [
    "a floor that the pixels hardly reach",
    { ...exact(120, 60), fileSize: { min: "60KB" } },
    /At least 61\.4 kB from 120 × 60 px are 8\.5 bytes for each pixel/,
    ["Let the pixels grow", "Drop the floor"],
  ],
  [
    "a ceiling below what the pixels need",
    { ...exact(4000, 3000), fileSize: { max: "60KB" } },
    /4000 × 3000 px in at most 60\.0 kB/,
    ["Raise the ceiling to 1318 KB", "Fewer pixels"],
  ],
  [
    "a lossless type under a small ceiling",
    { ...exact(1600, 1200), format: ["png"], fileSize: { max: "200KB" } },
    /about 3\.07 MB without loss/,
    ["Raise the ceiling to 3072 KB", "Allow JPEG"],
  ],
  [
    "width above the long side",
    { width: { exact: 900 }, longSide: { max: 600 } },
    /No picture has width 900 px and long side at most 600 px at once/,
    ["Follow the width", "Follow the long side"],
  ],
  [
    "short side above the long side",
    { shortSide: { min: 800 }, longSide: { max: 700 } },
    /No picture has/,
    ["Follow the long side", "Follow the short side"],
  ],
  [
    "sizes and a box",
    { sizes: [{ width: 1600, height: 900 }], box: { width: 1280, height: 800 } },
    /No picture has sizes/,
    ["Follow the sizes", "Follow the box"],
  ],
  [
    "16 bits in JPEG",
    { format: ["jpeg"], colour: { bits: 16 } },
    /JPEG cannot hold 16 bits a channel/,
    ["Use PNG", "Use TIFF", "Do without 16 bits a channel"],
  ],
  [
    "CMYK in PNG, where TIFF is allowed too",
    { format: ["png", "tiff"], colour: { space: "cmyk" } },
    /PNG cannot hold CMYK/,
    ["Only TIFF", "Do without CMYK"],
  ],
  [
    "a resolution in GIF",
    { format: ["gif"], resolution: { exact: "300ppi" } },
    /GIF cannot hold a resolution/,
    ["Use JPEG", "Use PNG", "Do without a resolution"],
  ],
  [
    "a quality cap under a floor",
    { ...exact(300, 400), quality: { max: 30 }, fileSize: { min: "50KB" } },
    /At quality 30 a photo of 300 × 400 px has about/,
    ["Allow quality 95", "Drop the floor"],
  ],
  [
    "a quality floor over a ceiling",
    { ...exact(2000, 1500), quality: { min: 95 }, fileSize: { max: "150KB" } },
    /At quality 95 2000 × 1500 px have about/,
    ["Drop the quality", "Drop the ceiling"],
  ],
  [
    "one file heavier than the whole",
    { fileSize: { min: "3MB" }, total: { max: "2MB" } },
    /One file weighs at least 3\.15 MB, all together may weigh 2\.00 MB/,
    ["Drop the floor", "Drop the total"],
  ],
];

describe("disagreements of a brief", () => {
  it.each(CASES)("%s", (_, clauses, why, labels) => {
    const [first, ...more] = found(clauses);
    expect(first?.why).toMatch(why);
    expect(more).toEqual([]);
    expect(first.choices.map((choice) => choice.label)).toEqual(labels);
    expect(first.wins).toMatch(/[.]$/);
    leadsOut(clauses);
  });

  it("are none where all can hold together", () => {
    const fine: Partial<Brief>[] = [
      {
        ...exact(240, 300),
        paper: { width: "40mm", height: "50mm" },
        fileSize: { min: "24KB", max: "60KB" },
        format: ["jpeg"],
      },
      { paper: { width: "210mm", height: "297mm" }, resolution: { exact: "300ppi" } },
      { ...exact(413, 531), paper: { width: "35mm", height: "45mm" }, resolution: { exact: "300ppi" } },
      // Common practice: 72 ppi, at most 1024 px, at most 65 % for a course site.
      { longSide: { max: 1024 }, resolution: { exact: "72ppi" }, quality: { max: 65 }, format: ["jpeg"] },
      { shape: "16:9", longSide: { max: 1280 } },
      { box: { width: 1280, height: 800 }, fileSize: { max: "400KB" } },
      {},
    ];
    for (const clauses of fine) expect(found(clauses), JSON.stringify(clauses)).toEqual([]);
  });

  it("say that the paper wins where the pixels are only wished", () => {
    const [badge] = readWording("Badge: 330 x 420 px if possible, to be printed 28 mm × 35 mm.").briefs;
    expect(findDisagreements(badge)[0].wins).toBe("The pixels are only wished, so the paper wins.");
  });
});

describe("disagreements with a photo", () => {
  it("name what it lacks, and lead out", () => {
    const small = { width: 300, height: 200 };
    const cases: [Partial<Brief>, RegExp][] = [
      [{ width: { exact: 800 }, enlarge: "never" }, /The photo has 300 × 200 px, more are asked/],
      [
        { width: { max: 300 }, height: { min: 300 }, enlarge: "allow" },
        /has another shape than the asked sides/,
      ],
      [{ scale: "50%", width: { exact: 200 } }, /No picture has width 200 px and scale 50 %/],
      [{ fileSize: { min: "900KB" } }, /At least 922 kB from 300 × 200 px/],
    ];
    for (const [clauses, why] of cases) {
      expect(found(clauses, small)[0]?.why, JSON.stringify(clauses)).toMatch(why);
      leadsOut(clauses, small);
    }
    expect(found({ width: { exact: 800 }, enlarge: "never" }, { width: 3000, height: 2000 })).toEqual([]);
  });
});

describe("overruling", () => {
  const [read] = readWording("At most 90 KB, 300 x 400 px.").briefs;

  it("keeps the receiver's own value beside the new one, until both are the same again", () => {
    const raised = overrule(read, { fileSize: { max: "120KB" } });
    expect(raised.fileSize).toEqual({ max: "120KB" });
    expect(raised.overruled).toEqual({ fileSize: { max: "90KB" } });
    const again = overrule(raised, { fileSize: { max: "200KB" } });
    expect(again.overruled).toEqual({ fileSize: { max: "90KB" } });
    expect(overrule(again, { fileSize: { max: "90KB" } }).overruled).toBeUndefined();
    expect(overrule(raised, { fileSize: null })).not.toHaveProperty("fileSize");
    expect(() => parseBrief(again)).not.toThrow();
  });

  it("does not call it overruled where the receiver said nothing", () => {
    expect(overrule(read, { format: ["png"] }).overruled).toBeUndefined();
  });

  it("drops the wish of a clause that is gone", () => {
    const wished = overrule({ ...read, wishes: ["width", "height"] }, { width: null });
    expect(wished.wishes).toEqual(["height"]);
  });
});
