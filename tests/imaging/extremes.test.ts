/** Profiles that lie, pictures of odd sizes, frames that lean. */
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { resolveBrief } from "@/core/brief";
import { iccSegments, readJpeg, rebuildJpeg } from "@/core/containers";
import { planGeometry } from "@/core/geometry";
import { CENTRED } from "@/core/photo";
import { writeGreyProfile, writeProfile } from "@/core/pixels/colour";
import { destinationOf } from "@/imaging/headers";
import { preparePicture } from "@/imaging/planned";
import { readSource } from "@/imaging/source";
import { fit } from "../support/fit";
import { jpegPhoto, pixels, raw } from "../support/photos";

const withProfile = async (profile: Uint8Array) =>
  Buffer.from(rebuildJpeg(readJpeg(await jpegPhoto(80, 60)), iccSegments(profile), () => true));

describe("a profile that cannot be believed", () => {
  it.each([
    ["for grey pictures", writeGreyProfile(), "is one for grey pictures, which this is not"],
    ["cut short", writeProfile("display-p3").slice(0, 200), "is broken"],
    ["of noise", Uint8Array.from({ length: 500 }, (_, i) => (i * 37) % 251), "is broken"],
  ])("%s: the colours are taken as sRGB, and it is said", async (_name, profile, why) => {
    const photo = await withProfile(profile);
    const { proof, steps, output } = await fit(photo, { format: ["png"] });
    expect(proof!.ok).toBe(true);
    expect(steps[0]).toEqual({ do: "Take its colours as sRGB", why: `the profile in the file ${why}` });
    const plain = await fit(await jpegPhoto(80, 60), { format: ["png"] });
    expect((await sharp(output!).raw().toBuffer()).equals(await sharp(plain.output!).raw().toBuffer())).toBe(
      true,
    );
  });

  it("is not needed to take a photo as what a person says; that is shown as relabelling", async () => {
    const photo = await jpegPhoto(80, 60);
    const taken = await fit(
      photo,
      { format: ["png"], colour: { space: "srgb" } },
      { ...CENTRED, takenAs: "oprgb" },
    );
    expect(taken.steps.map((s) => s.do)).toEqual(
      expect.arrayContaining([
        "Take its colours as opRGB: relabelled, not converted",
        "Turn colours into sRGB",
      ]),
    );
    const real = await fit(await withProfile(writeProfile("oprgb")), {
      format: ["png"],
      colour: { space: "srgb" },
    });
    // A profile holds its matrix to 16 bits, so a level may differ.
    const [a, b] = await Promise.all([
      sharp(taken.output!).raw().toBuffer(),
      sharp(real.output!).raw().toBuffer(),
    ]);
    a.forEach((v, i) => expect(Math.abs(v - b[i])).toBeLessThanOrEqual(1));
    // A file that says what it is stays that, whatever is said about it.
    const told = await fit(
      await withProfile(writeProfile("display-p3")),
      { format: ["png"] },
      { ...CENTRED, takenAs: "oprgb" },
    );
    expect(told.steps.map((s) => s.do).join()).not.toContain("relabelled");
  });
});

describe("CMYK", () => {
  it("stored inverted, with and without a profile, comes out as it looks", async () => {
    const data = new Uint8Array(48 * 48 * 3).map((_, i) => [230, 40, 50][i % 3]);
    const rgb = () => sharp(data, { raw: { width: 48, height: 48, channels: 3 } });
    const adobe = await rgb()
      .toColourspace("cmyk")
      .withIccProfile("cmyk")
      .jpeg({ quality: 100, chromaSubsampling: "4:4:4" })
      .toBuffer();
    // Marker APP14 says that the inks are stored inverted (common practice of its maker's files).
    expect(readJpeg(adobe).segments.some((s) => s.marker === 0xee)).toBe(true);
    const { output, proof } = await fit(adobe, { format: ["png"], longSide: { exact: 24 } });
    expect(proof!.facts.colourSpace).toBe("srgb");
    const [r, g, b] = await sharp(output!).raw().toBuffer();
    expect([r > 180, g < 90, b < 90]).toEqual([true, true, true]);
  });
});

describe("odd sizes", () => {
  it.each([
    [1, 1],
    [65_535, 2],
    [2, 65_535],
    [3, 1],
  ])("%d × %d px go through", async (w, h) => {
    const photo = await sharp({ create: { width: w, height: h, channels: 3, background: "#3a6" } })
      .png()
      .toBuffer();
    for (const clauses of [
      { format: ["jpeg" as const], longSide: { max: 400 } },
      { format: ["tiff" as const], width: { exact: 30 }, height: { exact: 20 } },
    ]) {
      const { error, proof } = await fit(photo, clauses);
      expect(error).toBeNull();
      expect(proof!.ok).toBe(true);
    }
  });

  it("a progressive JPEG above 250 megapixels is refused by name", async () => {
    const small = await raw(64, 64).jpeg({ progressive: true }).toBuffer();
    const { segments } = readJpeg(small);
    const frame = segments.find((s) => s.marker === 0xc2)!;
    small.writeUInt16BE(20_000, frame.start + 5);
    small.writeUInt16BE(15_000, frame.start + 7);
    await expect(readSource(small)).rejects.toThrow(
      /^This is a progressive JPEG of 300 megapixels; progressive ones are taken up to 250/,
    );
  });
});

describe("bands", () => {
  it("of a picture too large for one piece fit together without a seam, whichever way it lies", async () => {
    for (const orientation of [1, 6, 8]) {
      const photo = await sharp(pixels(300, 200), { raw: { width: 300, height: 200, channels: 3 } })
        .withMetadata({ orientation })
        .png()
        .toBuffer();
      const source = await readSource(photo);
      const brief = resolveBrief({
        zumbrelBrief: 1,
        name: "b",
        longSide: { exact: 130 },
        sharpen: { for: "print", amount: 60 },
      });
      const geometry = planGeometry(brief, source.facts);
      const plan = {
        geometry,
        frame: CENTRED,
        to: destinationOf(brief, source),
        bits: 8 as const,
        background: "#ffffff",
        opaque: true,
        sharpen: brief.sharpen,
        ppi: 300,
      };
      const whole = await preparePicture(source, plan);
      const banded = await preparePicture(source, plan, 40_000);
      let most = 0;
      whole.data.forEach((v, i) => (most = Math.max(most, Math.abs(v - banded.data[i]))));
      expect(most).toBeLessThanOrEqual(1);
    }
  });
});

describe("frames on real files", () => {
  it("turned, closer and straightened: the output shows that part", async () => {
    // Each quarter of the photo has a colour of its own.
    const quarters = new Uint8Array(200 * 120 * 3);
    for (let y = 0, i = 0; y < 120; y += 1)
      for (let x = 0; x < 200; x += 1, i += 3)
        quarters.set(
          x < 100 ? (y < 60 ? [220, 30, 30] : [30, 30, 220]) : y < 60 ? [30, 200, 30] : [220, 220, 30],
          i,
        );
    const photo = await sharp(quarters, { raw: { width: 200, height: 120, channels: 3 } })
      .png()
      .toBuffer();
    const clauses = { format: ["png" as const], width: { exact: 60 }, height: { exact: 60 } };
    const pixel = async (frame: Parameters<typeof fit>[2]) => {
      const { output, error } = await fit(photo, clauses, frame);
      expect(error).toBeNull();
      return [...(await sharp(output!).raw().toBuffer()).subarray((30 * 60 + 30) * 3, (30 * 60 + 30) * 3 + 3)]
        .map((v) => (v > 120 ? 1 : 0))
        .join("");
    };
    expect(await pixel({ x: 0, y: 0, zoom: 2.5 })).toBe("100");
    expect(await pixel({ x: 1, y: 0, zoom: 2.5 })).toBe("010");
    // Turned to the right, the lower left quarter comes to the upper left.
    expect(await pixel({ x: 0, y: 0, zoom: 2.5, turn: 90 })).toBe("001");
    expect(await pixel({ x: 0, y: 0, zoom: 2.5, turn: 180 })).toBe("110");
    expect(await pixel({ x: 0, y: 0, zoom: 2.5, turn: 270 })).toBe("010");
    expect(await pixel({ x: 1, y: 1, zoom: 2.5, angle: 10 })).toBe("110");
  });

  it("outside the photo, or leaning by 1e9 degrees, give one sentence", async () => {
    const photo = await jpegPhoto(60, 40);
    const error = async (frame: Parameters<typeof fit>[2]) =>
      (await fit(photo, { width: { exact: 20 }, height: { exact: 20 } }, frame)).error;
    expect(await error({ x: 1.5, y: 0 })).toBe(
      "The frame has to lie inside the photo (0 to 1); found 1.5. Reset the frame.",
    );
    expect(await error({ x: 0.5, y: Number.NaN })).toContain("found NaN");
    expect(await error({ x: 0.5, y: 0.5, angle: 1e9 })).toBe(
      "Straightening goes from -45 to 45 degrees; found 1000000000. Reset the frame.",
    );
    expect(await error({ x: 0.5, y: 0.5, zoom: 0 })).toContain("1 to 1000 times");
    const refused = await fit(
      photo,
      { width: { exact: 20 }, height: { exact: 20 }, frame: "pad" },
      { x: 0.5, y: 0.5, zoom: 2 },
    );
    expect(refused.error).toContain("nothing is cut (frame pad)");
  });
});
