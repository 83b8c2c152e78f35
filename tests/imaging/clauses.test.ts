/** Sizes, box, shape, scale, paper and wishes carried out on real files, read back by an independent decoder. */
import jpegJs from "jpeg-js";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief } from "@/core/brief";
import { fitPhoto } from "@/imaging";
import { prove } from "@/imaging/proved";
import { readSource } from "@/imaging/source";
import { jpegPhoto } from "../support/photos";

async function fit(bytes: Buffer, clauses: Partial<Brief>) {
  const brief = parseBrief({ zumbrelBrief: 1, name: "b", format: ["jpeg"], ...clauses });
  const source = await readSource(bytes);
  const answer = await fitPhoto({ source, brief });
  const output = answer.output && Buffer.from(answer.output);
  const proof = output ? await prove(brief, output, { before: source.facts }) : null;
  const { width, height } = output ? jpegJs.decode(output) : { width: 0, height: 0 };
  return {
    ...answer,
    output,
    proof,
    size: [width, height],
    check: (clause: string) => proof!.checks.find((c) => c.clause === clause)!,
  };
}

describe("clauses on real files", () => {
  it("gives the first of several sizes, and lets a photo that has one pass", async () => {
    const sizes = [
      { width: 400, height: 250 },
      { width: 320, height: 200 },
    ];
    expect((await fit(await jpegPhoto(900, 700), { sizes })).size).toEqual([400, 250]);
    const has = await fit(await jpegPhoto(320, 200), { sizes });
    expect([has.size, has.passedThrough, has.check("sizes").ok]).toEqual([[320, 200], true, true]);
  });

  it("fits a box either way up, cuts to a shape and scales", async () => {
    const upright = await fit(await jpegPhoto(600, 900), { box: { width: 400, height: 300 } });
    expect([upright.size, upright.check("box").ok]).toEqual([[267, 400], true]);
    const square = await fit(await jpegPhoto(600, 900), { shape: "1:1" });
    expect([square.size, square.check("shape").ok]).toEqual([[600, 600], true]);
    const half = await fit(await jpegPhoto(601, 401), { scale: "50%" });
    expect([half.size, half.check("scale").ok]).toEqual([[301, 201], true]);
  });

  it("writes the resolution at which the pixels are as long as the paper, without touching pixels that obey", async () => {
    const photo = await jpegPhoto(240, 300);
    const kept = await fit(photo, {
      width: { exact: 240 },
      height: { exact: 300 },
      paper: { width: "40mm", height: "50mm" },
    });
    expect(kept.passedThrough).toBe(true);
    expect(kept.proof!.facts.resolution![0]).toBeCloseTo(152.4, 3);
    expect(kept.check("paper")).toMatchObject({ ok: true, found: "40 × 50 mm" });
    expect(jpegJs.decode(kept.output!).data.equals(jpegJs.decode(photo).data)).toBe(true);
    // ISO 216: A6 is 105 × 148 mm; at 150 ppi 620 × 874 px (105 / 25.4 · 150 and 148 / 25.4 · 150, rounded).
    const printed = await fit(await jpegPhoto(1200, 1700), {
      paper: { width: "105mm", height: "148mm" },
      resolution: { exact: "150ppi" },
    });
    expect([printed.size, printed.check("paper").ok, printed.check("resolution").ok]).toEqual([
      [620, 874],
      true,
      true,
    ]);
    const bare = await fit(photo, { paper: { width: "41mm", height: "51mm" }, metadata: "none" });
    expect(bare.check("paper").ok).toBe(true);
  });

  it("lets the weaker of two demands give way, says so, and still meets the brief", async () => {
    // Common practice: 200 × 230 px and 3.5 × 4.5 cm stand in one form.
    const { size, proof, check, notes, steps } = await fit(await jpegPhoto(700, 900), {
      width: { exact: 200 },
      height: { exact: 230 },
      paper: { width: "3.5cm", height: "4.5cm" },
    });
    expect(size).toEqual([200, 230]);
    expect(proof!.ok).toBe(true);
    expect(check("paper")).toMatchObject({ ok: null, gaveWay: true });
    expect(notes.join(" ")).toContain("Paper gave way");
    expect(steps.map((step) => step.why).join("; ")).toContain("so that nothing sticks out of 3.5 × 4.5 cm");
  });
});

describe("wishes", () => {
  it("are met where they can be", async () => {
    const { size, proof } = await fit(await jpegPhoto(900, 1100), {
      width: { exact: 200 },
      height: { exact: 260 },
      fileSize: { max: "90KB" },
      wishes: ["width", "height"],
    });
    expect(size).toEqual([200, 260]);
    expect(proof!.checks.every((c) => c.ok)).toBe(true);
  });

  it("yield to a floor: preferred pixels grow", async () => {
    const { size, check, proof } = await fit(await jpegPhoto(900, 1100), {
      width: { exact: 60 },
      height: { exact: 80 },
      fileSize: { min: "40KB", max: "60KB" },
      padding: "never",
      wishes: ["width", "height"],
    });
    expect(size[0]).toBeGreaterThan(60);
    expect(proof!.ok).toBe(true);
    expect(check("fileSize").ok).toBe(true);
    expect(check("width")).toMatchObject({ ok: null, gaveWay: true });
  });

  it("of any kind are given up where no file could be made with them", async () => {
    const photo = await jpegPhoto(500, 400);
    const size = await fit(photo, {
      width: { exact: 500 },
      height: { exact: 400 },
      fileSize: { max: "900B" },
      wishes: ["fileSize"],
    });
    expect(size.check("fileSize")).toMatchObject({ ok: null, gaveWay: true });
    expect(size.proof!.ok).toBe(true);
    expect(size.notes.join(" ")).toContain("The wish for file size at most 900 B gave way");
    const larger = await fit(photo, { width: { exact: 900 }, enlarge: "never", wishes: ["width"] });
    expect([larger.size, larger.check("width").gaveWay]).toEqual([[500, 400], true]);
    expect((await fit(photo, { width: { exact: 900 }, enlarge: "never" })).error).toMatch(
      /enlarging is ruled out/,
    );
  });

  it("for paper win over nothing that is demanded", async () => {
    const { size, check } = await fit(await jpegPhoto(900, 1100), {
      width: { exact: 330 },
      height: { exact: 420 },
      paper: { width: "28mm", height: "35mm" },
      wishes: ["width", "height"],
    });
    expect(size).toEqual([330, 413]);
    expect([check("width").ok, check("height").gaveWay, check("paper").ok]).toEqual([true, true, true]);
  });
});
