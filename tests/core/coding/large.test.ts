/** What is told of a large picture under a ceiling: by its sample, where that leaves no doubt. */
import { describe, expect, it } from "vitest";
import { parseBrief, resolveBrief } from "@/core/brief";
import { fitFormats, type Picture, type Setting } from "@/core/coding";
import { planGeometry } from "@/core/geometry";
import { CENTRED } from "@/core/photo";

const PHOTO = { width: 6000, height: 4000 };
const brief = resolveBrief(
  parseBrief({
    zumbrelBrief: 1,
    name: "b",
    format: ["jpeg"],
    longSide: { exact: 6000 },
    fileSize: { max: "2MB" },
  }),
);

/** Its files take 2 MB at quality 80; the sample, a hundredth of it, differs by so much there. */
function large(differs: number) {
  const looked: string[] = [];
  const bytes = (s: Setting, of: number) =>
    s.format === "jpeg" ? Math.round(of * Math.exp((s.quality - 80) / 25)) : of;
  const picture = (name: string, pixels: number, of: number, sample: Picture | null): Picture => ({
    pixels,
    flat: false,
    opaque: true,
    overhead: 0,
    encode: async (s) => bytes(s, of),
    difference: async (s) => {
      looked.push(name);
      return s.format === "jpeg" ? differs * Math.exp((80 - s.quality) / 20) : 0;
    },
    sample: async () => sample,
    reduced: () => Promise.reject(new Error("pixels are given here")),
  });
  const sample = picture("sample", 240_000, 20_000, null);
  return { looked, whole: picture("whole", 24_000_000, 2_000_000, sample) };
}

async function fitted(differs: number, untold = false) {
  const { looked, whole } = large(differs);
  const geometry = planGeometry(brief, PHOTO);
  const answer = await fitFormats({
    brief,
    photo: PHOTO,
    frame: CENTRED,
    geometry,
    view: geometry,
    formats: ["jpeg"],
    softCeiling: null,
    untold,
    picture: async () => whole,
  });
  if (!answer.ok) throw new Error(answer.why);
  return { ...answer, looked: new Set(looked) };
}

describe("a large picture under a ceiling", () => {
  it("is told by its sample where that is plain to see, as about", async () => {
    const { looked, told, difference } = await fitted(2.4);
    expect([...looked]).toEqual(["sample"]);
    expect(told.join()).toMatch(
      /visible loss \(difference about 2\.\d+\), because the ceiling of 2(\.0+)? MB forces it; from about \d/,
    );
    expect(difference).toBeNull();
  });

  it("is looked at whole where the sample leaves a doubt, and not at all where it is surely clean", async () => {
    const near = await fitted(1);
    expect(near.looked.has("whole")).toBe(true);
    expect(near.difference).not.toBeNull();
    expect((await fitted(0.4)).looked.has("whole")).toBe(false);
  });

  it("gives the same file where nobody is told of it, and is not looked at", async () => {
    const [told, untold] = [await fitted(1), await fitted(1, true)];
    expect([untold.setting, untold.bytes]).toEqual([told.setting, told.bytes]);
    expect(untold.looked.size).toBe(0);
  });
});
