/** Sharing a limit on the whole, on photos whose curves are known: what is asked of the search holds for any of them. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { resolveBrief } from "@/core/brief";
import {
  type ArmSetting,
  armFor,
  BEGIN,
  cannotWords,
  type Ideal,
  type Limit,
  next,
  offersFor,
  offerWords,
  sharedWords,
  type Traced,
  totalCheck,
  type Whole,
} from "@/core/budget";
import { armOf } from "@/core/budget/arm";
import { bestSide, foretoldSide, nextSide } from "@/core/budget/fewer";
import type { SharedPhoto } from "@/core/budget/photo";
import { Share, type ShareAnswer } from "@/core/budget/share";
import { base64Bytes } from "@/core/delivery/mail";
import { CLEAN, PLAIN } from "@/core/difference";

const brief = resolveBrief({ zumbrelBrief: 1, name: "n" });

/**
 * A photo as the encoder would show it: it follows the usual curves, moved and tilted, with a little noise. Not one that is clean
 * only from quality 97 on, where a single step is a sixth of the file: a few such photos can leave more than 4 % of a limit unused.
 */
interface Model {
  pixels: number;
  heavy: number;
  soft: number;
  tilt: number;
  whole?: number;
  min?: number;
  max?: number;
}

function photoOf(id: string, { pixels, whole, min = undefined, max = undefined }: Model): SharedPhoto {
  return {
    id,
    arm: armFor("jpeg", brief, pixels, false),
    points: [],
    shape: [],
    whole: whole === undefined ? null : { bytes: whole, setting: null, difference: 0 },
    min: min ?? null,
    max: max ?? null,
  };
}

function trial(photo: SharedPhoto, model: Model, quality: number) {
  const arm = armOf(photo.arm!);
  const wobble = 1 + 0.01 * Math.sin(quality * 12.9898 + model.heavy);
  return {
    setting: arm.setting(quality) as ArmSetting,
    bytes: Math.round(Math.exp(arm.expectBytes(quality)) * model.heavy),
    difference: Math.exp(arm.expectDifference(quality) * model.tilt) * model.soft * wobble,
  };
}

/** Answers every wish for trials, and for files as if alone, until all is settled; counts them. */
function run(
  models: Model[],
  whole: Whole,
  aim: "clean" | "best" = "clean",
  binds = false,
  probes?: number,
): { answer: ShareAnswer; trials: number; alone: number; rounds: number } {
  const photos = models.map((model, i) => photoOf(String(i), model));
  for (let rounds = 0, trials = 0; ; rounds += 1) {
    const answer = new Share({ photos, whole, aim, binds, probes }).answer();
    expect(rounds).toBeLessThan(14);
    if (answer.kind === "alone") {
      for (const id of answer.ids) photos[Number(id)].alone = atLevel([models[Number(id)]], CLEAN);
      continue;
    }
    const alone = photos.filter((photo) => photo.alone !== undefined).length;
    if (answer.kind !== "trials") return { answer, trials, alone, rounds };
    for (const { id, level, qualities } of answer.wanted) {
      const photo = photos[Number(id)];
      const first = qualities.length
        ? qualities
        : [armOf(photo.arm!).lowest, armOf(photo.arm!).highest].map((q) =>
            Math.round((q + (level > 1.5 ? 60 : 85)) / 2),
          );
      for (const quality of first) {
        if (photo.points.some((point) => point.setting.quality === quality)) continue;
        photo.points.push(trial(photo, models[Number(id)], quality));
        trials += 1;
      }
    }
  }
}

const files = (max: number): Whole => ({ max, fixed: 0, each: (bytes) => bytes });
const model = fc.record({
  pixels: fc.integer({ min: 300_000, max: 3_000_000 }),
  heavy: fc.double({ min: 0.5, max: 2, noNaN: true }),
  soft: fc.double({ min: 0.7, max: 1.1, noNaN: true }),
  tilt: fc.double({ min: 0.9, max: 1.15, noNaN: true }),
});
const atLevel = (models: Model[], level: number) =>
  models.reduce((sum, one, i) => {
    const photo = photoOf(String(i), one);
    const arm = armOf(photo.arm!);
    for (let q = arm.lowest; q <= arm.highest; q += 1)
      if (trial(photo, one, q).difference <= level) return sum + trial(photo, one, q).bytes;
    return sum + trial(photo, one, arm.highest).bytes;
  }, 0);

/** The one of that kind; fails for any other. */
function as<T extends { kind: string }, K extends T["kind"]>(kind: K, one: T): Extract<T, { kind: K }> {
  if (one.kind !== kind) expect.fail(`${one.kind} where ${kind} is expected`);
  return one as Extract<T, { kind: K }>;
}

describe("a limit that binds", () => {
  it("is used to between 96 and 100 %, and all photos end at one difference", () => {
    let bound = 0;
    fc.assert(
      fc.property(
        fc.array(model, { minLength: 8, maxLength: 40 }),
        fc.double({ min: 1.05, max: 1.9, noNaN: true }),
        (models, level) => {
          const max = atLevel(models, level);
          if (max >= atLevel(models, CLEAN) * 0.97 || max < atLevel(models, PLAIN) * 1.02) return;
          const { answer, trials } = run(models, files(max));
          const shared = as("shared", answer);
          bound += 1;
          expect(shared.total).toBeLessThanOrEqual(max);
          expect(shared.total / max).toBeGreaterThanOrEqual(0.96);
          const seen = shared.picks.map((pick) => pick.difference);
          // A step of quality is 5 to 10 % of the difference where it is large.
          expect(Math.max(...seen) / Math.min(...seen)).toBeLessThan(1.3);
          expect(shared.picks.every((pick) => pick.measured)).toBe(true);
          expect(trials / models.length).toBeLessThanOrEqual(7);
        },
      ),
      { numRuns: 60, seed: 41 },
    );
    expect(bound).toBeGreaterThan(30);
  });

  it("leaves photos as they are whose own file is smaller", () => {
    const models = [
      { pixels: 1e6, heavy: 1, soft: 1, tilt: 1, whole: 20_000 },
      ...Array.from({ length: 9 }, () => ({ pixels: 1e6, heavy: 1, soft: 1, tilt: 1 })),
    ];
    const { answer } = run(models, files(atLevel(models.slice(1), 1.4) + 20_000));
    expect(answer.kind).toBe("shared");
    expect(as("shared", answer).picks[0]).toMatchObject({
      quality: null,
      setting: null,
      bytes: 20_000,
      difference: 0,
    });
  });

  it("keeps each file inside its own range", () => {
    const models = Array.from({ length: 10 }, (_, i) => ({
      pixels: 1e6,
      heavy: 1,
      soft: 1,
      tilt: 1,
      ...(i === 0 && { max: 40_000 }),
      ...(i === 1 && { min: 160_000 }),
    }));
    const { answer } = run(models, files(atLevel(models, 1.3)));
    const met = as("shared", answer);
    expect(met.picks[0].bytes).toBeLessThanOrEqual(40_000);
    expect(met.picks[1].bytes).toBeGreaterThanOrEqual(160_000);
  });
});

describe("a limit that does not bind", () => {
  it("degrades nothing to fill itself", () => {
    const models = Array.from({ length: 12 }, () => ({ pixels: 1e6, heavy: 1, soft: 1, tilt: 1 }));
    expect(run(models, files(atLevel(models, CLEAN) * 1.2)).answer).toEqual({ kind: "own", level: CLEAN });
    // Just at the clean level: settled with real files, still clean.
    const tight = run(models, files(atLevel(models, CLEAN) * 1.01)).answer;
    expect(tight.kind).toBe("shared");
    expect(as("shared", tight).level).toBeLessThanOrEqual(CLEAN);
  });

  it("is told by a few of many photos where that leaves no doubt, and by all where it may bind", () => {
    fc.assert(
      fc.property(fc.array(model, { minLength: 24, maxLength: 40 }), (models) => {
        const clean = atLevel(models, CLEAN);
        const roomy = run(models, files(clean * 3), "clean", false, 6);
        expect(roomy).toMatchObject({ answer: { kind: "own" }, rounds: 1, alone: 6, trials: 0 });
        // The driver adds up the files; where they are too large after all, everything is tried.
        const came = run(models, files(clean * 0.7), "clean", true, 6);
        expect(came.answer.kind).toBe("shared");
        expect(came.trials).toBeGreaterThanOrEqual(models.length);
        // Far too little room is never taken for enough.
        expect(run(models, files(clean * 0.3), "clean", false, 6).answer.kind).not.toBe("own");
      }),
      { numRuns: 30 },
    );
  });

  it("is looked for in twice as many where the first files leave it in doubt, and in all where it binds", () => {
    const alike = Array.from({ length: 40 }, () => ({ pixels: 1e6, heavy: 1, soft: 1, tilt: 1 }));
    const clean = atLevel(alike, CLEAN);
    const asked = (share: number) => run(alike, files(clean / share), "clean", false, 6);
    // About as large as the limit: made, and added up when they are there.
    expect(asked(1)).toMatchObject({ answer: { kind: "own" }, rounds: 1, alone: 6, trials: 0 });
    // Foretold a little too large by heavy ones that were tried first, in truth with room.
    const mixed = alike.map((one, i) => ({ ...one, heavy: [3, 10, 16, 23, 30, 36].includes(i) ? 1.4 : 1 }));
    const doubtful = run(mixed, files(atLevel(mixed, CLEAN) * 1.2), "clean", false, 6);
    expect(doubtful).toMatchObject({ answer: { kind: "own" }, rounds: 2, alone: 12, trials: 0 });
    // Plainly too large: the rest is tried at once.
    expect(asked(1.5)).toMatchObject({ answer: { kind: "shared" }, alone: 6 });
    expect(asked(1.5).trials).toBeGreaterThanOrEqual(alike.length);
  });

  it("counts on photos that came heavy to stay so", () => {
    const models = Array.from({ length: 30 }, (_, i) => ({
      pixels: 1e6,
      // Those that are tried first are all light.
      heavy: [2, 7, 12, 17, 22, 27].includes(i) ? 0.5 : 2,
      soft: 1,
      tilt: 1,
    }));
    const answerOf = (telling: boolean) => {
      const photos = models.map((one, i) => ({
        ...photoOf(String(i), one),
        density: telling ? one.heavy : null,
        alone: [2, 7, 12, 17, 22, 27].includes(i) ? atLevel([one], CLEAN) : undefined,
      }));
      const whole = files(atLevel(models, CLEAN) * 0.7);
      return new Share({ photos, whole, aim: "clean", probes: 6 }).answer().kind;
    };
    expect(answerOf(false)).toBe("own");
    expect(answerOf(true)).toBe("trials");
  });

  it("is known of few photos once all their files are there, and binds where those are too large by a little", () => {
    const models = Array.from({ length: 8 }, () => ({ pixels: 1e6, heavy: 1, soft: 1, tilt: 1 }));
    const clean = atLevel(models, CLEAN);
    const answerOf = (share: number, made: number) => {
      const photos = models.map((one, i) => ({
        ...photoOf(String(i), one),
        alone: i < made ? atLevel([one], CLEAN) : undefined,
      }));
      return new Share({ photos, whole: files(clean / share), aim: "clean", probes: 6 }).answer();
    };
    // Nothing is made of a few first: trying them all tells more.
    expect(as("trials", answerOf(0.5, 0)).wanted).toHaveLength(8);
    expect(answerOf(1, 8).kind).toBe("own");
    expect(as("trials", answerOf(1.02, 8)).wanted).toHaveLength(8);
    // A photo that was added to files that are there.
    expect(answerOf(0.9, 7).kind).toBe("own");
    expect(answerOf(1.02, 7).kind).toBe("own");
    expect(as("trials", answerOf(1.1, 7)).wanted).toHaveLength(8);
  });

  it("needs no trial where every file may stay as it is", () => {
    const models = Array.from({ length: 5 }, () => ({
      pixels: 1e6,
      heavy: 1,
      soft: 1,
      tilt: 1,
      whole: 100_000,
    }));
    expect(run(models, files(500_000))).toMatchObject({ answer: { kind: "own" }, trials: 0 });
    // Once it turned out that they are too large together after all, it binds.
    expect(run(models, files(460_000), "clean", true).answer.kind).toBe("shared");
  });
});

describe("a limit that cannot be met", () => {
  const models = Array.from({ length: 10 }, (_, i) => ({
    pixels: 2_000_000,
    heavy: i === 3 ? 3 : 1,
    soft: 1,
    tilt: 1,
  }));
  const least = atLevel(models, PLAIN);

  it("says by how much, and offers fewer pixels, fewer photos or another limit", () => {
    const max = Math.round(least * 0.7);
    const { answer } = run(models, files(max));
    const met = as("cannot", answer);
    expect(met.over).toBe(met.total - max);
    expect(met.total / least).toBeGreaterThan(0.97);
    const full = { width: 1632, height: 1224 };
    const photos = models.map((one, i) => ({ ...photoOf(String(i), one), size: full }));
    const offers = offersFor({
      brief: { zumbrelBrief: 1, name: "n" },
      whole: files(max),
      counted: "files",
      picks: met.picks,
      photos,
      messages: 1,
    });
    expect(offers.map((offer) => offer.kind)).toEqual(["pixels", "photos", "limit"]);
    const [pixels, without, limit] = offers;
    // Bytes go about with the pixels: 0.7 / 1.35 of them, to the power of 1 / 0.85, are 46 % of the pixels.
    expect(as("pixels", pixels).side / full.width).toBeCloseTo(Math.sqrt((0.7 / 1.35) ** (1 / 0.85)), 1);
    expect(as("photos", without).ids[0]).toBe("3");
    expect(as("limit", limit).bytes).toBe(Math.ceil(met.total * 1.04));
    expect(offers.map((offer) => offerWords(offer, (id) => `photo ${id}`))[1]).toMatch(/^Leave out/);
  });

  it("offers several messages where mail is counted, and no pixels where the brief fixes them", () => {
    const max = Math.round(least);
    const whole: Whole = { max, fixed: 2000, each: base64Bytes };
    const { answer } = run(models, whole);
    const met = as("cannot", answer);
    const photos = models.map((one, i) => ({
      ...photoOf(String(i), one),
      size: { width: 1632, height: 1224 },
    }));
    const offers = offersFor({
      brief: { zumbrelBrief: 1, name: "n", width: { exact: 1632 } },
      whole,
      counted: "mail",
      picks: met.picks,
      photos,
      messages: 1,
    });
    expect(offers.map((offer) => offer.kind)).toEqual(["messages", "photos", "limit"]);
    expect(as("messages", offers[0]).count).toBe(2);
  });
});

describe("fewer pixels for all", () => {
  const ideal = (change: Partial<Ideal> = {}): Ideal => ({
    side: 1200,
    view: 1620,
    difference: 1.4,
    clean: 400_000,
    ...change,
  });

  it("begin at the side that samples foretell: what stays clean, else the middle of what looks best", () => {
    // Clean together with room to spare: more pixels than are looked at, as many as stay clean.
    expect(foretoldSide([ideal(), ideal()], 4000, 800_000 * 1.08 * 4 ** 0.85)).toBe(3240);
    expect(foretoldSide([ideal(), ideal()], 3000, 4_000_000)).toBeNull();
    expect(foretoldSide([ideal(), ideal({ side: 300 })], 4000, 100_000)).toBe(600);
    // Never more than is looked at where it is not clean, and never more than there is.
    expect(foretoldSide([ideal({ side: 1620 })], 4000, 390_000)).toBe(1620);
    expect(foretoldSide([ideal({ side: 1620 })], 1000, 390_000)).toBeNull();
  });

  it("go on only where the coarsest do not fit, or pixels beyond the view are not clean", () => {
    const at = { longest: 4000, view: 1620, max: 1 };
    expect(nextSide([{ side: 1200, level: 1.4, total: 1 }], at)).toBeNull();
    expect(nextSide([{ side: 3000, level: 0.9, total: 1 }], at)).toBeNull();
    expect(nextSide([{ side: 3000, level: 1.2, total: 1 }], at)).toBe(1620);
    // A little too large: a step down. Far too large, and plain to see: no side helps.
    expect(nextSide([{ side: 1200, level: null, total: 1.2 }], at)).toBeLessThan(1050);
    expect(nextSide([{ side: 1200, level: null, total: 4 }], at)).toBeNull();
    expect(nextSide([{ side: 600, level: 2.6, total: 1 }], at)).toBe(1620);
    expect(nextSide([{ side: 40, level: null, total: 1e9 }], at)).toBeNull();
  });

  it("end as one whole at one side: asked of samples first, then made", () => {
    const full = { width: 6000, height: 4000 };
    const whole = files(1_000_000);
    const models = Array.from({ length: 5 }, () => ({ pixels: 24e6, heavy: 1, soft: 1, tilt: 1 }));
    const first = models.map((model, i) => ({
      ...photoOf(String(i), model),
      side: null,
      geometry: {
        ...full,
        mode: "whole",
        crop: { x: 0, y: 0, ...full },
        place: { x: 0, y: 0, ...full },
        scale: 1,
        cut: 0,
      } as const,
      full,
      format: "jpeg" as const,
      free: true,
      seen: null,
    }));
    const known = (traced: (i: number) => Record<string, Traced>) =>
      models.map((_, i) => ({ id: String(i), traced: traced(i) }));
    const asked = next(BEGIN, { aim: "best", whole, photos: known((i) => ({ all: first[i] })) });
    expect(asked).toMatchObject({
      kind: "trials",
      trials: [{ side: null, trials: null, bytes: 200_000 }, {}, {}, {}, {}],
    });
    const sampled = (i: number) => ({ ...first[i], ideal: ideal() });
    const begun = next(asked.state, { aim: "best", whole, photos: known((i) => ({ all: sampled(i) })) });
    expect(begun).toMatchObject({
      kind: "trials",
      state: { side: 1200 },
      trials: [{ side: 1200 }, {}, {}, {}, {}],
    });
  });

  it("are taken only where they look better", () => {
    expect(
      bestSide([
        { side: null, level: 1.8, total: 1 },
        { side: 1697, level: 1.78, total: 1 },
      ]),
    ).toMatchObject({ side: null });
    expect(
      bestSide([
        { side: null, level: null, total: 1 },
        { side: 1697, level: 1.9, total: 1 },
      ]),
    ).toMatchObject({ side: 1697 });
    expect(bestSide([{ side: null, level: null, total: 1 }])).toBeNull();
    expect(bestSide([{ side: 400, level: PLAIN * 1.1, total: 1 }])).toBeNull();
  });
});

describe("what is said of a limit", () => {
  const limit = (change: Partial<Limit>): Limit => ({
    max: 3_000_000,
    counted: "mail",
    messages: 1,
    ...change,
  });

  it("names what was asked, what was found and by how much it is too large", () => {
    expect(cannotWords(limit({}), 4_100_000)).toBe(
      "Cannot: together the photos take 4.10 MB as one message where loss is just plain to see (difference 2), 1.10 MB more than the limit of 3.00 MB.",
    );
    expect(cannotWords(limit({ messages: 2 }), 7_000_000)).toContain("in 2 messages");
    expect(sharedWords(limit({ counted: "files" }), 9, 1.26)).toBe(
      "as coarse as all 9 photos are (a difference of about 1.3), because together they may weigh 3.00 MB in all",
    );
    expect(totalCheck(limit({}), 2_990_000)).toEqual({
      clause: "total",
      asked: "at most 3.00 MB as one message",
      found: "2.99 MB (one message)",
      ok: true,
      gaveWay: false,
    });
    expect(totalCheck(limit({ counted: "files" }), 3_000_001).ok).toBe(false);
  });
});
