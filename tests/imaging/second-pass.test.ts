/** What is done with files that are small already, and with settings that a person chooses: on real encoders. */
import { execFileSync } from "node:child_process";
import jpegJs from "jpeg-js";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief } from "@/core/brief";
import type { Choice } from "@/core/coding";
import { qualityOf, readJpeg } from "@/core/containers";
import { CLEAN, visibleDifference } from "@/core/difference";
import { fitPhoto } from "@/imaging";
import { memoryTrials, repackJpeg } from "@/imaging/candidates";
import { encode, encodeAside } from "@/imaging/encode";
import { prove } from "@/imaging/proved";
import { readSource } from "@/imaging/source";
import { jpegPhoto, pixels, pngPhoto } from "../support/photos";

async function fit(bytes: Buffer, clauses: Partial<Brief>, choice?: Choice) {
  const brief = parseBrief({ zumbrelBrief: 1, name: "b", ...clauses });
  const source = await readSource(bytes);
  const answer = await fitPhoto({ source, brief, choice });
  const proof =
    answer.output &&
    (await prove(brief, Buffer.from(answer.output), {
      before: source.facts,
      frame: answer.frame,
      original: bytes,
      judge: answer.judge,
    }));
  return { ...answer, proof, difference: answer.difference ?? proof?.difference ?? null };
}
const raw = (bytes: Uint8Array) => sharp(bytes).raw().toBuffer();

describe("packing a JPEG again", () => {
  it("changes no coefficient and saves bytes; what is no JPEG is not taken", async () => {
    const photo = await sharp(pixels(500, 400), { raw: { width: 500, height: 400, channels: 3 } })
      .jpeg({ quality: 88, optimiseCoding: false })
      .toBuffer();
    const packed = (await repackJpeg(photo))!;
    expect(packed.length).toBeLessThan(photo.length * 0.97);
    // jpeg-js is a decoder of another make.
    expect(Buffer.compare(jpegJs.decode(packed).data, jpegJs.decode(photo).data)).toBe(0);
    expect(await repackJpeg(Buffer.from("no picture at all"))).toBeNull();
  });

  it("is what the aim clean does with a file that is coarse already, and what a ceiling just below a file asks for", async () => {
    const photo = await sharp(pixels(600, 450), { raw: { width: 600, height: 450, channels: 3 } })
      .jpeg({ quality: 45, optimiseCoding: false })
      .toBuffer();
    const clean = await fit(photo, { fileSize: { aim: "clean" } });
    expect(clean).toMatchObject({ passedThrough: true, difference: 0, error: null });
    expect(clean.output!.length).toBeLessThan(photo.length);
    expect(clean.steps[0].do).toBe("Pack the picture data tighter, every pixel the same");
    expect(clean.notes.join()).toMatch(/Encoding it anew would save/);
    expect(Buffer.compare(await raw(clean.output!), await raw(photo))).toBe(0);
    const ceiling = await fit(photo, { fileSize: { max: `${Math.round(photo.length * 0.995)}B` } });
    expect([ceiling.proof!.ok, ceiling.difference, ceiling.passedThrough]).toEqual([true, 0, true]);
  });

  it("leaves a file that obeys alone unless a smaller one is asked for", async () => {
    const photo = await jpegPhoto(600, 450, 3, 97);
    const best = await fit(photo, { fileSize: { max: "5MB" } });
    expect(Buffer.compare(Buffer.from(best.output!), photo)).toBe(0);
    // A camera's generous JPEG: a fifth to a half of its bytes are enough (common practice).
    const clean = await fit(photo, { fileSize: { aim: "clean" } });
    expect(clean.passedThrough).toBe(false);
    expect(clean.output!.length).toBeLessThan(photo.length * 0.75);
    expect(clean.difference).toBeLessThanOrEqual(CLEAN);
    expect(clean.proof!.ok).toBe(true);
  });

  it("says when a file is saved finer than it came", async () => {
    const photo = await jpegPhoto(400, 300, 5, 40);
    const finer = await fit(photo, {
      fileSize: { min: `${photo.length * 2}B`, max: `${photo.length * 4}B` },
    });
    expect(finer.notes.join()).toContain("The photo was saved at quality 40 before");
    expect(finer.proof!.ok).toBe(true);
  });
});

describe("clean and best, measured from the written files", () => {
  const reference = { data: pixels(640, 480), width: 640, height: 480, channels: 3 };
  const seen = async (bytes: Uint8Array) =>
    visibleDifference(reference, {
      ...reference,
      data: await sharp(bytes).toColourspace("srgb").raw().toBuffer(),
    }).difference;

  it.each(["jpeg", "webp", "avif"] as const)("is clean and small as %s", async (format) => {
    const { output, difference, error, proof } = await fit(await pngPhoto(640, 480), {
      format: [format],
      fileSize: { aim: "clean" },
    });
    expect(error).toBeNull();
    expect(proof!.ok).toBe(true);
    expect(difference!).toBeLessThanOrEqual(CLEAN);
    expect(await seen(output!)).toBeCloseTo(difference!, 2);
    expect(difference!).toBeGreaterThan(CLEAN * 0.75);
  });

  it("chooses the smallest of several formats", async () => {
    const sizes: number[] = [];
    for (const format of ["jpeg", "webp", "avif"] as const)
      sizes.push(
        (await fit(await pngPhoto(320, 240), { format: [format], fileSize: { aim: "clean" } })).output!
          .length,
      );
    const { output, told } = await fit(await pngPhoto(320, 240), {
      format: ["jpeg", "webp", "avif"],
      pick: "smallest",
      fileSize: { aim: "clean" },
    });
    expect(output!.length).toBe(Math.min(...sizes));
    expect(told[0]).toMatch(/, because .* takes/);
  });

  it("has less difference than the plain encoder's file of the same ceiling, and says from where on nothing is seen", async () => {
    const max = 24_000;
    const { output, difference, cleanFrom, told } = await fit(await pngPhoto(640, 480), {
      format: ["jpeg"],
      fileSize: { max: `${max}B` },
    });
    let plain = Infinity;
    for (let quality = 5; quality <= 95; quality += 1) {
      const bytes = await sharp(reference.data, { raw: { width: 640, height: 480, channels: 3 } })
        .jpeg({ quality })
        .toBuffer();
      if (bytes.length <= max) plain = Math.min(plain, await seen(bytes));
    }
    expect(output!.length).toBeLessThanOrEqual(max);
    expect(difference!).toBeLessThan(plain);
    expect(difference!).toBeGreaterThan(CLEAN);
    expect(told.join()).toContain("forces it; from");
    const raised = await fit(await pngPhoto(640, 480), {
      format: ["jpeg"],
      fileSize: { max: `${cleanFrom}B` },
    });
    expect(raised.difference!).toBeLessThanOrEqual(CLEAN + 0.02);
    expect(raised.cleanFrom).toBeNull();
  });

  it("is lossless where that fits", async () => {
    const drawing = await sharp({ create: { width: 300, height: 200, channels: 3, background: "#fff" } })
      .composite([
        {
          input: Buffer.from(
            '<svg width="300" height="200"><rect x="40" y="30" width="90" height="70" fill="#822"/></svg>',
          ),
        },
      ])
      .png()
      .toBuffer();
    const { difference, setting } = await fit(drawing, { format: ["webp"], fileSize: { max: "30KB" } });
    expect([difference, setting]).toEqual([0, expect.objectContaining({ quality: null })]);
  });
});

describe("a chosen setting", () => {
  it("is taken as it is where the brief allows it", async () => {
    const { setting, steps, proof, difference } = await fit(
      await pngPhoto(400, 300),
      { format: ["jpeg"], fileSize: { max: "60KB" } },
      { format: "jpeg", quality: 71, chroma: "4:2:0", table: 0 },
    );
    expect(setting).toMatchObject({ quality: 71, chroma: "4:2:0", table: 0, effort: "careful" });
    expect(steps.map((s) => s.do)).toContain("The setting of your choice");
    expect([proof!.ok, difference! > 0]).toEqual([true, true]);
  });

  it.each([
    [
      "above the ceiling",
      { format: ["jpeg"], fileSize: { max: "9KB" } },
      { format: "jpeg", quality: 95, chroma: "4:4:4", table: 0 },
      "above the ceiling of 9.0 kB",
    ],
    [
      "below the floor",
      { format: ["jpeg"], fileSize: { min: "40KB" } },
      { format: "jpeg", quality: 20, chroma: "4:2:0", table: 0 },
      "below the floor",
    ],
    ["of another format", { format: ["png"] }, { format: "webp", quality: 80 }, "the brief asks for PNG"],
    [
      "of another quality",
      { format: ["jpeg"], quality: { max: 60 } },
      { format: "jpeg", quality: 90, chroma: "4:2:0", table: 0 },
      "read back as quality 90",
    ],
  ] as [string, Partial<Brief>, Choice, string][])(
    "%s gives way to the brief, and that is said",
    async (_, clauses, choice, words) => {
      const { notes, proof } = await fit(await pngPhoto(400, 300), clauses, choice);
      expect(notes.join()).toContain(words);
      expect(notes.join()).toContain("so Zumbrel looked for a setting itself");
      expect(proof!.ok).toBe(true);
    },
  );

  it("of clean, or packed tighter, is an aim and not a setting", async () => {
    const photo = await jpegPhoto(500, 400, 9, 96);
    const clean = await fit(photo, {}, { aim: "clean" });
    expect(clean.output!.length).toBeLessThan(photo.length);
    const packed = await fit(photo, {}, { packed: true });
    expect(packed).toMatchObject({ passedThrough: true, difference: 0 });
  });
});

describe("long encodes", () => {
  const big = { data: pixels(1400, 1000), width: 1400, height: 1000, channels: 3 };
  const children = () =>
    execFileSync("ps", ["-eo", "args"])
      .toString()
      .split("\n")
      .filter((line) => line.includes("encode-child.mjs {")).length;

  it("give the same bytes in a process of their own", async () => {
    const setting = { format: "avif", quality: 40, bits: 8, effort: 3 } as const;
    const [here, there] = [await encode(big, setting), await encodeAside(big, setting, false)];
    expect(Buffer.compare(Buffer.from(here), Buffer.from(there))).toBe(0);
  });

  it("end at once when nobody wants them, and leave no process and no trial behind", async () => {
    const before = children();
    const trials = memoryTrials();
    let kept = 0;
    const counting = {
      ...trials,
      keep: async (...args: Parameters<typeof trials.keep>) => ((kept += 1), trials.keep(...args)),
    };
    const source = await readSource(await pngPhoto(1400, 1000));
    const controller = new AbortController();
    let during = 0;
    const looking = setInterval(() => {
      during = Math.max(during, children());
      if (during > before) controller.abort(new Error("not wanted"));
    }, 50);
    const start = performance.now();
    const choice: Choice = { format: "avif", quality: 90, bits: 8, effort: 5 };
    await expect(
      fitPhoto({
        source,
        brief: parseBrief({ zumbrelBrief: 1, name: "b", format: ["avif"] }),
        choice,
        trials: counting,
        signal: controller.signal,
      }),
    ).rejects.toThrow("not wanted");
    clearInterval(looking);
    expect(performance.now() - start).toBeLessThan(8_000);
    expect(during).toBeGreaterThan(before);
    await expect.poll(children, { timeout: 3000 }).toBe(before);
    expect(kept).toBe(0);
  });
});

it("a chosen quality is written into the tables that quality is counted on", async () => {
  const { output } = await fit(
    await pngPhoto(300, 200),
    { format: ["jpeg"] },
    { format: "jpeg", quality: 83, chroma: "4:4:4", table: 0 },
  );
  expect(qualityOf(readJpeg(output!))).toMatchObject({ quality: 83, exact: true });
});
