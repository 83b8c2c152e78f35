/** Sets for a page, from real files to real files. */
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief } from "@/core/brief";
import { AUTO, type Frame } from "@/core/photo";
import { fitSet } from "@/imaging";
import { memoryTrials } from "@/imaging/candidates";
import { prove } from "@/imaging/proved";
import { readSource } from "@/imaging/source";
import { jpegPhoto } from "../support/photos";

const make = (clauses: Partial<Brief>): Brief => parseBrief({ zumbrelBrief: 1, name: "Page", ...clauses });

async function fit(bytes: Buffer, clauses: Partial<Brief>, frame: Frame = AUTO) {
  const source = await readSource(bytes);
  const answer = await fitSet({ source, brief: make(clauses), frame });
  const files = await Promise.all(
    answer.files.map(async ({ part, brief, answer: one }) => ({
      part,
      one,
      meta: await sharp(one.output!).metadata(),
      proof: await prove(brief, Buffer.from(one.output!), { before: source.facts, frame: answer.frame }),
    })),
  );
  return { ...answer, made: files };
}

describe("a photo that becomes a set", () => {
  it("is a file of each width and format, each clean and proved by itself", async () => {
    const { made, notes } = await fit(await jpegPhoto(1500, 1000, 5), {
      set: { widths: [320, 640, 1000, 4000], formats: ["jpeg", "webp"] },
    });
    expect(made.map(({ part }) => `${part.width} ${part.format}`)).toEqual([
      "1000 jpeg",
      "1000 webp",
      "640 jpeg",
      "640 webp",
      "320 jpeg",
      "320 webp",
    ]);
    for (const { part, meta, proof, one } of made) {
      expect([meta.width, meta.height, meta.format]).toEqual([
        part.width,
        Math.round((part.width * 2) / 3),
        part.format,
      ]);
      expect(proof.ok).toBe(true);
      if (part.format === "jpeg") expect(one.difference!).toBeLessThanOrEqual(0.9);
    }
    expect(notes[0]).toContain("4000 px was left out");
    // A newer format is made lighter than the one that every browser knows, or not at all worth its name.
    for (const width of [1000, 640, 320]) {
      const bytes = (format: string) =>
        made.find(({ part }) => part.width === width && part.format === format)!.one.output!.length;
      expect(bytes("webp")).toBeLessThanOrEqual(bytes("jpeg"));
    }
  });

  it("reduces light, not codes: black and white lines become 188, whatever size they come from", async () => {
    // Half of the light of white has the code 188 in sRGB (IEC 61966-2-1).
    const lines = Buffer.from(
      Uint8Array.from({ length: 1600 * 800 * 3 }, (_, i) => (Math.floor(i / 3) % 2 ? 255 : 0)),
    );
    const png = await sharp(lines, { raw: { width: 1600, height: 800, channels: 3 } })
      .png()
      .toBuffer();
    const { made } = await fit(png, { set: { widths: [800, 200], formats: ["png"] } });
    for (const { one } of made) {
      const { data, info } = await sharp(one.output!).raw().toBuffer({ resolveWithObject: true });
      const middle =
        data[(Math.floor(info.height / 2) * info.width + Math.floor(info.width / 2)) * info.channels];
      expect(Math.abs(middle - 188)).toBeLessThanOrEqual(1);
    }
  });

  it("is cut to one shape by one frame, and decoded once", async () => {
    const source = await readSource(await jpegPhoto(1400, 1000, 6));
    const frame: Frame = { x: 0.2, y: 0.5 };
    const trials = memoryTrials();
    const { files } = await fitSet({
      source,
      brief: make({ shape: "1:1", set: { widths: [600, 300], formats: ["jpeg"] } }),
      frame,
      trials,
    });
    const [large, small] = files.map(({ answer }) => answer);
    expect(large.geometry!.crop).toEqual(small.geometry!.crop);
    const same = await sharp(large.output!).resize(300, 300).raw().toBuffer();
    const other = await sharp(small.output!).raw().toBuffer();
    const apart = same.reduce((sum, value, i) => sum + Math.abs(value - other[i]), 0) / same.length;
    expect(apart).toBeLessThan(4);
  });

  it("passes a file on that is already as it is asked", async () => {
    const photo = await jpegPhoto(640, 420, 7, 80);
    const { made } = await fit(photo, { set: { widths: [320, 640], formats: ["jpeg"] }, metadata: "keep" });
    expect(made[0].one.passedThrough).toBe(true);
    expect(Buffer.from(made[0].one.output!).equals(photo)).toBe(true);
    expect(made[1].meta.width).toBe(320);
  });
});
