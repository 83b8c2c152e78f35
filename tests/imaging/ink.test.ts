import jpegJs from "jpeg-js";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { type Brief, parseBrief } from "@/core/brief";
import { fitPhoto } from "@/imaging";
import { prove } from "@/imaging/proved";
import { readSource } from "@/imaging/source";
import { BLACK_INK, BLUE_INK, CREAM, drawInk, type Sheet, WHITE } from "../support/ink";
import { jpegPhoto } from "../support/photos";

const sheet: Sheet = { width: 1200, height: 700, paper: CREAM, ink: BLUE_INK, pen: 8, noise: 3, light: 0.45 };
const form: Brief = parseBrief({
  zumbrelBrief: 1,
  name: "signature",
  format: ["jpeg"],
  width: { exact: 140 },
  height: { exact: 60 },
  fileSize: { min: "10KB", max: "20KB" },
  ink: "black",
});

async function photoOf(of: Sheet, quality = 88): Promise<Buffer> {
  const { data, width, height } = drawInk(of);
  return sharp(data, { raw: { width, height, channels: 3 } })
    .jpeg({ quality })
    .toBuffer();
}

async function fit(brief: Brief, bytes: Buffer, frame?: Parameters<typeof fitPhoto>[0]["frame"]) {
  const source = await readSource(bytes);
  const answer = await fitPhoto({ source, brief, frame });
  const output = answer.output && Buffer.from(answer.output);
  return {
    answer,
    output,
    proof:
      output && (await prove(brief, output, { before: source.facts, frame: answer.frame, original: bytes })),
  };
}

describe("a signature for a form", () => {
  // Common practice: 140 × 60 px, 10 to 20 KB, black ink on white.
  it("becomes black on white in the asked pixels and bytes, its floor met, and says how", async () => {
    const { answer, output, proof } = await fit(form, await photoOf(sheet));
    expect(answer.error).toBeNull();
    expect(proof!.ok).toBe(true);
    expect(output!.length).toBeGreaterThanOrEqual(10 * 1024);
    expect(output!.length).toBeLessThanOrEqual(20_000);
    const { width, height, data } = jpegJs.decode(output!);
    expect([width, height]).toEqual([140, 60]);
    const pixels = Array.from({ length: width * height }, (_, i) => [
      data[i * 4],
      data[i * 4 + 1],
      data[i * 4 + 2],
    ]);
    expect(pixels.filter((p) => Math.min(...p) > 240).length / pixels.length).toBeGreaterThan(0.7);
    expect(Math.min(...pixels.map((p) => Math.max(...p)))).toBeLessThan(60);
    for (const p of pixels) expect(Math.max(...p) - Math.min(...p)).toBeLessThan(12);
    expect(proof!.checks.find((check) => check.clause === "ink")).toMatchObject({ ok: true });
    expect(answer.steps.map((step) => step.do).join(" ")).toContain("black on white");
    expect(answer.ink).toMatchObject({ groups: 1, touches: false });
  });

  it("passes through when it is as asked already", async () => {
    const first = await fit(form, await photoOf(sheet));
    const again = await fit(form, first.output!);
    expect(again.answer.passedThrough).toBe(true);
    expect(again.output!.equals(first.output!)).toBe(true);
  });

  it("has a floor that is met by finer coding first and filled up last, which is told", async () => {
    const { answer, output, proof } = await fit(
      { ...form, fileSize: { min: "60KB", max: "80KB" } },
      await photoOf(sheet),
    );
    expect(proof!.ok).toBe(true);
    expect(output!.length).toBeGreaterThanOrEqual(60 * 1024);
    expect(answer.told.join(" ")).toContain("filled up with a comment");
    const free = await fit(
      {
        ...form,
        width: undefined,
        height: undefined,
        longSide: { min: 140 },
        fileSize: { min: "60KB", max: "80KB" },
      },
      await photoOf(sheet),
    );
    expect(free.proof!.ok).toBe(true);
    // With free pixels more of them, of finer coding, fill the floor: no comment.
    expect(free.answer.told.join(" ")).not.toContain("filled up");
  });

  it("is not ink to the proof when it stayed blue", async () => {
    const blue = await fit({ ...form, ink: "original" }, await photoOf(sheet));
    expect(blue.proof!.ok).toBe(true);
    // Common practice: blue ink is refused where black is asked.
    const judged = await prove(form, blue.output!, null);
    expect(judged.checks.find((check) => check.clause === "ink")).toMatchObject({ ok: false });
    expect(judged.checks.find((check) => check.clause === "ink")!.found).toContain("coloured");
  });

  it("can be framed by hand where a sheet holds two, and then is alone", async () => {
    const two = await photoOf({
      ...sheet,
      width: 1000,
      height: 1200,
      at: [
        { x: 0.5, y: 0.22, size: 0.6 },
        { x: 0.5, y: 0.78, size: 0.6 },
      ],
    });
    const both = await fit(form, two);
    expect(both.answer.ink!.groups).toBe(2);
    expect(both.answer.notes.join(" ")).toContain("2 groups");
    const one = await fit(form, two, { x: 0.5, y: 0, zoom: 1.05 });
    expect(one.answer.error).toBeNull();
    expect(one.answer.ink!.groups).toBe(1);
    expect(one.proof!.ok).toBe(true);
  });

  it("takes a strength and a margin", async () => {
    const photo = await photoOf({ ...sheet, paper: WHITE, ink: BLACK_INK });
    const dark = async (strength: number, margin: number) => {
      const { output } = await fit(
        { ...form, width: { exact: 700 }, height: { exact: 300 }, fileSize: undefined },
        photo,
        { x: 0.5, y: 0.5, ink: { strength, margin } },
      );
      const { data } = await sharp(output!).greyscale().raw().toBuffer({ resolveWithObject: true });
      return data.reduce((n, v) => n + (v < 128 ? 1 : 0), 0);
    };
    expect(await dark(90, 6)).toBeGreaterThan(await dark(10, 6));
    // A wider margin leaves smaller ink.
    expect(await dark(50, 30)).toBeLessThan(await dark(50, 2));
  });

  it("refuses a face, an empty sheet and white on black in one sentence, and makes no file", async () => {
    for (const bytes of [
      await jpegPhoto(800, 1000, 3),
      await photoOf({ ...sheet, at: [] }),
      await photoOf({ ...sheet, paper: [0.02, 0.02, 0.02], ink: [0.9, 0.9, 0.9] }),
    ]) {
      const source = await readSource(bytes);
      await expect(fitPhoto({ source, brief: form })).rejects.toThrow(/looks like ink|white on black/);
    }
  });

  it("reads a scan of 48 megapixels", async () => {
    const { data, width, height } = drawInk({ ...sheet, width: 1000, height: 750, pen: 6 });
    const scan = await sharp(data, { raw: { width, height, channels: 3 } })
      .resize(8000, 6000)
      .jpeg({ quality: 85 })
      .toBuffer();
    const { proof } = await fit(form, scan);
    expect(proof!.ok).toBe(true);
  }, 60_000);
});

describe("a border", () => {
  const bordered: Brief = parseBrief({
    zumbrelBrief: 1,
    name: "b",
    format: ["jpeg"],
    width: { exact: 240 },
    height: { exact: 300 },
    border: { px: 1, colour: "#000000" },
  });

  it("lies inside the asked pixels and changes nothing of their number (common practice)", async () => {
    const { output, proof, answer } = await fit(bordered, await jpegPhoto(960, 1200, 5));
    expect(proof!.ok).toBe(true);
    expect(answer.geometry).toMatchObject({ width: 240, height: 300, border: 1 });
    const { data, width } = jpegJs.decode(output!);
    const at = (x: number, y: number) => data[(y * width + x) * 4 + 1];
    const ring = [...Array(240).keys()].flatMap((x) => [at(x, 0), at(x, 299)]);
    expect(ring.reduce((a, b) => a + b, 0) / ring.length).toBeLessThan(24);
    expect(answer.steps.map((step) => step.do).join(" ")).toContain("border of 1 px");
  });

  it("is exact in a PNG, in any colour and width, and the photo inside keeps its own shape", async () => {
    const { output, proof } = await fit(
      {
        ...bordered,
        format: ["png"],
        width: undefined,
        height: undefined,
        longSide: { exact: 400 },
        border: { px: 12, colour: "#7a3b2e" },
      },
      await jpegPhoto(900, 600, 6),
    );
    expect(proof!.ok).toBe(true);
    const { data, info } = await sharp(output!).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    // 400 wide, 376 × 251 inside: 3:2 to within half a pixel.
    expect([info.width, info.height]).toEqual([400, 275]);
    const at = (x: number, y: number) => [
      ...data.subarray((y * info.width + x) * 3, (y * info.width + x) * 3 + 3),
    ];
    for (const [x, y] of [
      [0, 0],
      [11, 100],
      [399, 274],
      [200, 263],
    ])
      expect(at(x, y)).toEqual([0x7a, 0x3b, 0x2e]);
    expect(at(12, 12)).not.toEqual([0x7a, 0x3b, 0x2e]);
  });

  it("is not drawn a second time", async () => {
    const first = await fit(bordered, await jpegPhoto(960, 1200, 5));
    const again = await fit(bordered, first.output!);
    expect(again.answer.passedThrough).toBe(true);
  });

  it("that leaves nothing is refused", async () => {
    const { answer } = await fit(
      { ...bordered, border: { px: 120, colour: "#000000" } },
      await jpegPhoto(960, 1200, 5),
    );
    expect(answer.error).toMatch(/border of 120 px .* leaves nothing of 240 × 300 px/);
  });
});

describe("the background of a portrait", () => {
  const portrait: Brief = parseBrief({
    zumbrelBrief: 1,
    name: "p",
    format: ["jpeg"],
    width: { exact: 240 },
    height: { exact: 300 },
  });
  const on = async (paint: (x: number, y: number) => number) => {
    const data = new Uint8Array(480 * 600 * 3);
    for (let y = 0; y < 600; y += 1)
      for (let x = 0; x < 480; x += 1)
        data.fill(
          Math.hypot((x - 240) / 150, (y - 380) / 260) < 1 ? 120 : paint(x, y),
          (y * 480 + x) * 3,
          (y * 480 + x) * 3 + 3,
        );
    return sharp(data, { raw: { width: 480, height: 600, channels: 3 } })
      .jpeg({ quality: 95 })
      .toBuffer();
  };

  it("is told in figures: how light and how even", async () => {
    const light = await fit(portrait, await on(() => 238));
    // L* of the sRGB code 238 is 94.1 (CIE 1976, worked out by hand from IEC 61966-2-1).
    expect(light.proof!.notes[0]).toMatch(/light \(94 of 100\) and even/);
    const uneven = await fit(portrait, await on((x) => (x < 240 ? 235 : 60)));
    expect(uneven.proof!.notes[0]).toContain("uneven");
    expect(uneven.proof!.ok).toBe(true);
  });

  it("is not spoken of where no portrait is asked", async () => {
    expect(
      (await fit({ ...portrait, width: { exact: 300 }, height: { exact: 240 } }, await on(() => 238))).proof!
        .notes,
    ).toEqual([]);
  });
});
