/** How much is looked at beyond what a choice needs: samples of large pictures where nobody has asked for more. */
import { describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { fitPhoto } from "@/imaging";
import { prove } from "@/imaging/proved";
import { readSource } from "@/imaging/source";
import { Held } from "@/imaging/workers/held";
import { jpegPhoto } from "../support/photos";

const fixed = (quality: number) =>
  parseBrief({ zumbrelBrief: 1, name: "b", format: ["jpeg"], quality: { min: quality, max: quality } });

async function difference(bytes: Buffer, quality: number, judging?: "none" | "sample" | "whole") {
  const source = await readSource(bytes);
  const brief = fixed(quality);
  const answer = await fitPhoto({ source, brief, judging });
  const { judge } = answer;
  const proof = await prove(brief, Buffer.from(answer.output!), { before: source.facts, judge });
  return {
    value: answer.difference ?? proof.difference,
    about: proof.differenceAbout,
    output: answer.output,
  };
}

describe("what is seen of a file at a fixed quality", () => {
  it("is told from a sample of a large picture, as about: near what the whole tells", async () => {
    const photo = await jpegPhoto(1600, 1200, 31);
    for (const quality of [35, 70]) {
      const whole = await difference(photo, quality);
      const sampled = await difference(photo, quality, "sample");
      expect([whole.about, Buffer.compare(whole.output!, sampled.output!)]).toEqual([false, 0]);
      if (sampled.about) expect(sampled.value! / whole.value!).toBeGreaterThan(0.85);
      if (sampled.about) expect(sampled.value! / whole.value!).toBeLessThan(1.15);
      // So near to what is clean the whole is looked at.
      else expect(Math.abs(sampled.value! - 0.9)).toBeLessThan(0.2);
    }
    expect((await difference(photo, 35, "sample")).about).toBe(true);
  });

  it("is told of a small picture itself, and of none where nobody reads it", async () => {
    const photo = await jpegPhoto(600, 400, 32);
    const whole = await difference(photo, 50);
    expect(await difference(photo, 50, "sample")).toMatchObject({ value: whole.value, about: false });
    expect(await difference(photo, 50, "none")).toMatchObject({ value: null, about: false });
  });
});

describe("what a thread holds", () => {
  const small = { width: 512, height: 512 };
  const large = { width: 6000, height: 4000 };

  it("is a large picture's and its sample's at once, and one large picture's only", () => {
    const made: string[] = [];
    const ended: string[] = [];
    const held = new Held<{ name: string; end(): void }>(2_000_000);
    const get = (name: string, size: typeof small) =>
      held.get(name, size, () => (made.push(name), { name, end: () => void ended.push(name) }));
    for (const [name, size] of [
      ["a", large],
      ["a sample", small],
      ["a", large],
      ["b", large],
      ["a sample", small],
      ["a", large],
    ] as const)
      expect(get(name, size).name).toBe(name);
    expect(made).toEqual(["a", "a sample", "b", "a"]);
    expect(ended).toEqual(["a", "b"]);
  });

  it("is of small pictures what was met last", () => {
    const made: string[] = [];
    const ended: string[] = [];
    const held = new Held<{ name: string; end(): void }>(2_000_000);
    const get = (name: string) =>
      held.get(name, small, () => (made.push(name), { name, end: () => void ended.push(name) }));
    for (let n = 0; n < 9; n += 1) get(`${n}`);
    get("8");
    get("0");
    expect(made).toEqual(["0", "1", "2", "3", "4", "5", "6", "7", "8", "0"]);
    expect(ended).toEqual(["0", "1", "2"]);
  });
});
