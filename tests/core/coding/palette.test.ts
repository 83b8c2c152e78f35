/** Tables of few colours. */
import fc from "fast-check";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { indexed } from "@/core/coding";
import { visibleDifference } from "@/core/difference";
import { fit } from "../../support/fit";
import { jpegPhoto } from "../../support/photos";

async function photo(width: number, height: number) {
  const data = await sharp(await jpegPhoto(width, height, 31))
    .removeAlpha()
    .raw()
    .toBuffer();
  return { data: new Uint8Array(data), width, height, channels: 3 };
}

const shown = ({ indices, palette }: ReturnType<typeof indexed>, channels = 3) => {
  const out = new Uint8Array(indices.length * channels);
  for (let i = 0; i < indices.length; i += 1)
    out.set(palette.subarray(indices[i] * 4, indices[i] * 4 + channels), i * channels);
  return out;
};

describe("a table of few colours", () => {
  it("has as many as are asked, whatever their number, and differs less the more there are", async () => {
    const picture = await photo(240, 180);
    let before = Infinity;
    for (const colours of [2, 3, 5, 12, 29, 70, 151, 256]) {
      const made = indexed(picture, { colours, dither: "diffuse", hardAlpha: false });
      expect(new Set(made.indices).size).toBe(colours);
      const { difference } = visibleDifference(picture, { ...picture, data: shown(made) });
      expect(difference).toBeLessThan(before * 1.02);
      before = difference;
    }
  });

  it("is about as close as the one of an independent library (imagequant, in sharp)", async () => {
    const picture = await photo(300, 220);
    // The library's numbers of colours are powers of two of powers of two.
    for (const colours of [16, 256]) {
      const raw = { width: 300, height: 220, channels: 3 as const };
      const png = await sharp(picture.data, { raw })
        .png({ palette: true, colours, dither: 1, effort: 7 })
        .toBuffer();
      const theirs = new Uint8Array(await sharp(png).removeAlpha().raw().toBuffer());
      const ours = shown(indexed(picture, { colours, dither: "diffuse", hardAlpha: false }));
      const seen = (data: Uint8Array) => visibleDifference(picture, { ...picture, data }).difference;
      expect(seen(ours)).toBeLessThan(seen(theirs) * 1.3);
    }
  });

  it("loses nothing where no more colours are there", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255), fc.constantFrom(0, 1, 90, 254, 255)), {
          minLength: 1,
          maxLength: 60,
        }),
        (colours) => {
          const data = Uint8Array.from(colours.flat());
          const picture = { data, width: colours.length, height: 1, channels: 4 };
          const back = shown(indexed(picture, { colours: 256, dither: "diffuse", hardAlpha: false }), 4);
          for (let p = 0; p < data.length; p += 4)
            if (data[p + 3]) expect([...back.subarray(p, p + 4)]).toEqual([...data.subarray(p, p + 4)]);
            else expect(back[p + 3]).toBeLessThan(2);
        },
      ),
    );
  });

  it("is seen or not where nothing lies between, with one place for what is not", async () => {
    const { data, width, height } = await photo(64, 48);
    const rgba = new Uint8Array(width * height * 4);
    for (let i = 0; i < width * height; i += 1)
      rgba.set([...data.subarray(i * 3, i * 3 + 3), (i % width) * 4], i * 4);
    const { indices, palette } = indexed(
      { data: rgba, width, height, channels: 4 },
      {
        colours: 16,
        dither: "diffuse",
        hardAlpha: true,
      },
    );
    expect(palette.length / 4).toBeLessThanOrEqual(16);
    for (let i = 0; i < indices.length; i += 1)
      expect(palette[indices[i] * 4 + 3]).toBe((i % width) * 4 < 128 ? 0 : 255);
  });

  it("keeps still what does not move: a pattern depends on place and colour alone", async () => {
    const { data, width, height } = await photo(80, 64);
    const twice = { data: new Uint8Array([...data, ...data]), width, height: height * 2, channels: 3 };
    const { indices } = indexed(twice, { colours: 20, dither: "pattern", hardAlpha: true });
    expect(indices.subarray(0, width * height)).toEqual(indices.subarray(width * height));
  });
});

describe("colours and pixels under a ceiling", () => {
  it.each(["gif", "png"] as const)(
    "are chosen together, by what differs least as it is looked at: %s",
    async (format) => {
      const large = await jpegPhoto(900, 675, 33);
      const { output, proof, difference, setting } = await fit(large, {
        format: [format],
        fileSize: { max: "60KB" },
      });
      expect(proof!.ok).toBe(true);
      expect(output!.length).toBeGreaterThan(60 * 1024 * 0.9);
      const { colours } = setting as { colours: number };
      const { width } = await sharp(output!).metadata();
      // Every colour (of GIF: 256) at as many pixels as fit is what would be had by hand.
      let plain = 0;
      for (let w = width!; w > 40 && !plain; w = Math.round(w * 0.95)) {
        const { output: whole } = await fit(large, {
          format: [format],
          width: { exact: w },
          ...(format === "gif" && { fileSize: { max: 10_000_000 } }),
        });
        if (whole!.length <= 60 * 1024) plain = w;
      }
      expect(colours).toBeLessThan(256);
      expect(width!).toBeGreaterThan(plain);
      const raw = (file: Uint8Array) =>
        sharp(file).resize(900, 675, { kernel: "cubic" }).removeAlpha().raw().toBuffer();
      const [like, made, byHand] = await Promise.all([
        raw(large),
        raw(output!),
        raw((await fit(large, { format: [format], width: { exact: plain } })).output!),
      ]);
      const picture = (data: Buffer) => ({
        data: new Uint8Array(data),
        width: 900,
        height: 675,
        channels: 3,
      });
      const seen = (data: Buffer) => visibleDifference(picture(like), picture(data)).difference;
      expect(seen(made)).toBeLessThan(seen(byHand));
      expect(difference).not.toBeNull();
    },
  );
});
