/** Every format out, read by decoders that share nothing with ours, with its resolution, profile and metadata. */
import { decode as decodeBmpTheirs } from "bmp-ts";
import { converter, differenceCiede2000 } from "culori";
import { GifReader } from "omggif";
import { PNG } from "pngjs";
import sharp from "sharp";
import UTIF from "utif2";
import { describe, expect, it } from "vitest";
import type { Brief } from "@/core/brief";
import { fit } from "../support/fit";
import { jpegPhoto, pixels, raw } from "../support/photos";

/** RGB of a decoder of another make; null where none is at hand outside a browser. */
const others: Record<
  string,
  (file: Buffer) => { width: number; height: number; rgb: (i: number) => number[] }
> = {
  tiff: (file) => {
    const [ifd] = UTIF.decode(file);
    UTIF.decodeImage(file, ifd);
    const rgba = UTIF.toRGBA8(ifd);
    return { width: ifd.width, height: ifd.height, rgb: (i) => [...rgba.subarray(i * 4, i * 4 + 3)] };
  },
  bmp: (file) => {
    const { data, width, height } = decodeBmpTheirs(file, { toRGBA: true });
    return { width, height, rgb: (i) => [...data.subarray(i * 4, i * 4 + 3)] };
  },
  gif: (file) => {
    const reader = new GifReader(file);
    const rgba = new Uint8Array(reader.width * reader.height * 4);
    reader.decodeAndBlitFrameRGBA(0, rgba);
    return { width: reader.width, height: reader.height, rgb: (i) => [...rgba.subarray(i * 4, i * 4 + 3)] };
  },
  png: (file) => {
    const { width, height, data } = PNG.sync.read(file);
    return { width, height, rgb: (i) => [...data.subarray(i * 4, i * 4 + 3)] };
  },
};

describe("formats out", () => {
  const cases: [string, Partial<Brief>, number][] = [
    ["tiff", {}, 0],
    ["tiff", { colour: { bits: 16 } }, 1],
    ["bmp", {}, 0],
    ["png", {}, 0],
    ["png", { colour: { bits: 16 } }, 1],
    ["gif", {}, 40],
  ];
  it.each(cases)("%s %j is what a decoder of another make sees", async (format, more, slack) => {
    const photo = await raw(300, 200, 3).png().toBuffer();
    const { output, proof, error } = await fit(photo, {
      format: [format as "tiff"],
      longSide: { exact: 150 },
      ...more,
    });
    expect(error).toBeNull();
    expect(proof!.checks.filter((c) => c.ok === false)).toEqual([]);
    const theirs = others[format](output!);
    expect([theirs.width, theirs.height]).toEqual([150, 100]);
    const own = await sharp(photo).resize(150, 100, { fit: "fill" }).raw().toBuffer();
    // Against the library's plain reduction of the same photo: light and code values differ little on soft forms.
    let off = 0;
    for (let i = 0; i < 150 * 100; i += 1)
      theirs.rgb(i).forEach((v, c) => (off += Math.abs(v - own[i * 3 + c])));
    expect(off / (150 * 100 * 3)).toBeLessThan(3 + slack);
  });

  it.each(["webp", "avif"] as const)(
    "%s meets a ceiling and a floor, with its resolution in EXIF",
    async (format) => {
      const { output, proof, error, encodes } = await fit(await jpegPhoto(900, 700), {
        format: [format],
        longSide: { exact: 480 },
        fileSize: { min: "18KB", max: "24KB" },
        resolution: { exact: "203.2ppi" },
      });
      expect(error).toBeNull();
      expect(proof!.ok).toBe(true);
      expect(proof!.facts.resolution).toEqual([203.2, 203.2]);
      expect(proof!.facts.bytes).toBeGreaterThan(22_000);
      expect(encodes).toBeLessThanOrEqual(14);
      // The library's own reader finds the same EXIF block.
      const { exif, width } = await sharp(output!).metadata();
      expect(exif!.length).toBeGreaterThan(20);
      expect(width).toBe(480);
    },
  );

  it("takes lossless WebP where it fits, and says so", async () => {
    const drawing = await sharp({ create: { width: 300, height: 200, channels: 3, background: "#f4f1ea" } })
      .png()
      .toBuffer();
    const { setting, told, proof } = await fit(drawing, { format: ["webp"], fileSize: { max: "40KB" } });
    expect(setting).toMatchObject({ format: "webp", quality: null });
    expect(told.join()).toContain("lossless");
    expect(proof!.ok).toBe(true);
  });

  it.each(["webp", "avif", "tiff", "gif", "bmp", "jpeg", "png"] as const)(
    "%s is filled up to a floor that it cannot reach by itself",
    async (format) => {
      const flat = await sharp({ create: { width: 60, height: 40, channels: 3, background: "#808080" } })
        .png()
        .toBuffer();
      const { output, proof, error } = await fit(flat, {
        format: [format],
        width: { exact: 60 },
        height: { exact: 40 },
        fileSize: { min: "12KB", max: "14KB" },
      });
      expect(error).toBeNull();
      expect(proof!.ok).toBe(true);
      expect(output!.length).toBeGreaterThanOrEqual(12 * 1024);
      expect(output!.length).toBeLessThanOrEqual(12 * 1024 + 8);
      if (others[format]) expect(others[format](output!).width).toBe(60);
    },
  );

  it("writes 10 bits of AVIF and 16 of TIFF and PNG that hold more than 8", async () => {
    const deep = new Uint16Array(256 * 64 * 3).map((_, i) => 20_000 + (Math.floor(i / 3) % 256) * 40);
    const photo = await sharp(deep, { raw: { width: 256, height: 64, channels: 3 } })
      .toColourspace("rgb16")
      .png()
      .toBuffer();
    for (const [format, bits] of [
      ["tiff", 16],
      ["png", 16],
      ["avif", 10],
    ] as const) {
      const { output, proof, error } = await fit(photo, {
        format: [format],
        colour: { bits },
        longSide: { exact: 128 },
      });
      expect(error).toBeNull();
      expect(proof!.facts.bits).toBe(bits);
      expect(proof!.ok).toBe(true);
      const { data } = await sharp(output!)
        .toColourspace("rgb16")
        .raw({ depth: "ushort" })
        .toBuffer({ resolveWithObject: true });
      const values = new Set(new Uint16Array(data.buffer, data.byteOffset, data.length / 2));
      // 8 bits would leave 40 levels of this ramp.
      expect(values.size).toBeGreaterThan(format === "avif" ? 60 : 100);
    }
  });

  it("writes PNG with as few colours as lose nothing", async () => {
    for (const [colours, depth] of [
      [2, 1],
      [4, 2],
      [13, 4],
      [200, 8],
    ]) {
      const data = new Uint8Array(64 * 64 * 3);
      for (let i = 0; i < 64 * 64; i += 1)
        data.set([(i * 7) % colours, 200 - ((i * 7) % colours), 90], i * 3);
      const photo = await sharp(data, { raw: { width: 64, height: 64, channels: 3 } })
        .tiff({ compression: "lzw" })
        .toBuffer();
      const { output } = await fit(photo, { format: ["png"] });
      expect([output![25], output![24]]).toEqual([3, depth]);
      const theirs = PNG.sync.read(output!);
      for (let i = 0; i < 64 * 64; i += 1)
        if (theirs.data[i * 4] !== data[i * 3] || theirs.data[i * 4 + 1] !== data[i * 3 + 1])
          expect.fail(`pixel ${i}`);
    }
  });

  it("uses the first frame and says so", async () => {
    const pages = new Uint8Array([...pixels(40, 30, 1), ...pixels(40, 30, 2), ...pixels(40, 30, 3)]);
    const animated = await sharp(pages, { raw: { width: 40, height: 90, channels: 3, pageHeight: 30 } })
      .gif({ colours: 128 })
      .toBuffer();
    const { steps, proof } = await fit(animated, { format: ["png"] });
    expect(proof!.facts).toMatchObject({ width: 40, height: 30 });
    expect(steps[0]).toMatchObject({ do: "Use the first frame", why: "the file holds 3 frames" });
  });

  it("lets what a format has no room for give way, and says so", async () => {
    const { proof, notes } = await fit(await jpegPhoto(120, 90), {
      format: ["gif"],
      resolution: { exact: "300ppi" },
      colour: { bits: 16 },
    });
    expect(proof!.ok).toBe(true);
    expect(proof!.checks.filter((c) => c.gaveWay).map((c) => c.clause)).toEqual(["resolution", "colour"]);
    expect(notes.join(" ")).toMatch(
      /Colour gave way: GIF has no room for 16 bit\..*Resolution gave way: GIF has no room/s,
    );
  });
});

describe("colours out", () => {
  const patches = [
    [200, 40, 30],
    [30, 160, 60],
    [40, 60, 190],
    [128, 128, 128],
    [250, 220, 40],
    [20, 22, 25],
  ];
  const chart = (space?: string) => {
    const data = new Uint8Array(6 * 16 * 16 * 3);
    for (let y = 0, i = 0; y < 16; y += 1)
      for (let x = 0; x < 96; x += 1, i += 3) data.set(patches[Math.floor(x / 16)], i);
    const image = sharp(data, { raw: { width: 96, height: 16, channels: 3 } });
    return space ? image.withIccProfile(space).png().toBuffer() : image.png().toBuffer();
  };

  it("turn into Display P3 with its profile, the colours as they look", async () => {
    const { output, proof } = await fit(await chart(), { format: ["png"], colour: { space: "display-p3" } });
    expect(proof!.facts).toMatchObject({ colourSpace: "display-p3", profile: true });
    const { data } = PNG.sync.read(output!);
    // culori, CSS Color 4.
    patches.forEach(([r, g, b], i) => {
      const p3 = converter("p3")({ mode: "rgb", r: r / 255, g: g / 255, b: b / 255 });
      const at = (8 * 96 + i * 16 + 8) * 4;
      [p3.r, p3.g, p3.b].forEach((v, c) => expect(Math.abs(data[at + c] - v * 255)).toBeLessThanOrEqual(1));
    });
    // And a colour engine of another make brings them back.
    const back = await sharp(output!).toColourspace("srgb").raw().toBuffer();
    patches.forEach((patch, i) =>
      patch.forEach((v, c) =>
        expect(Math.abs(back[(8 * 96 + i * 16 + 8) * (back.length / (96 * 16)) + c] - v)).toBeLessThanOrEqual(
          2,
        ),
      ),
    );
  });

  it("turn grey by their lightness", async () => {
    for (const format of ["jpeg", "png", "tiff"] as const) {
      const { output, proof } = await fit(await chart(), { format: [format], colour: { space: "gray" } });
      expect(proof!.ok).toBe(true);
      expect(proof!.facts.colourSpace).toBe("gray");
      const grey = await sharp(output!, { ignoreIcc: true }).toColourspace("b-w").raw().toBuffer();
      patches.forEach(([r, g, b], i) => {
        const { l } = converter("lab")({ mode: "rgb", r: r / 255, g: g / 255, b: b / 255 });
        const { l: held } = converter("lab")({
          mode: "rgb",
          r: grey[8 * 96 + i * 16 + 8] / 255,
          g: grey[8 * 96 + i * 16 + 8] / 255,
          b: grey[8 * 96 + i * 16 + 8] / 255,
        });
        expect(Math.abs(l - held)).toBeLessThan(format === "jpeg" ? 1.5 : 0.6);
      });
    }
  });

  it("turn into CMYK with a free profile, and back to nearly the same", async () => {
    for (const format of ["jpeg", "tiff"] as const) {
      const { output, proof, steps } = await fit(await chart(), {
        format: [format],
        colour: { space: "cmyk" },
      });
      expect(proof!.ok).toBe(true);
      expect(proof!.facts).toMatchObject({ colourSpace: "cmyk", profile: true });
      expect(steps.map((s) => s.do)).toContain("Turn colours into CMYK");
      const back = await sharp(output!).toColourspace("srgb").raw().toBuffer();
      // Inks hold fewer colours; the middle grey has to stay grey.
      const at = (8 * 96 + 3 * 16 + 8) * 3;
      const delta = differenceCiede2000()(
        { mode: "rgb", r: back[at] / 255, g: back[at + 1] / 255, b: back[at + 2] / 255 },
        { mode: "rgb", r: 128 / 255, g: 128 / 255, b: 128 / 255 },
      );
      expect(delta).toBeLessThan(10);
    }
  });

  it("stay in their own space where that is asked, profile and all", async () => {
    const source = await chart("p3");
    const { output, proof, passedThrough } = await fit(source, {
      format: ["tiff"],
      colour: { space: "keep" },
    });
    expect(passedThrough).toBe(false);
    expect(proof!.facts.colourSpace).toBe("display-p3");
    const [before, after] = await Promise.all([
      sharp(source, { ignoreIcc: true }).raw().toBuffer(),
      sharp(output!, { ignoreIcc: true }).raw().toBuffer(),
    ]);
    expect(after.equals(before)).toBe(true);
  });

  it("are reported: what fell outside, and by how much", async () => {
    const vivid = await sharp(
      Buffer.from(Uint8Array.from({ length: 64 * 64 * 3 }, (_, i) => [255, 20, 20][i % 3])),
      { raw: { width: 64, height: 64, channels: 3 } },
    )
      .png()
      .toBuffer();
    const { writeProfile } = await import("@/core/pixels/colour");
    const { readPng, rebuildPng, chunk, ascii, concat } = await import("@/core/containers");
    const { deflateSync } = await import("node:zlib");
    const p3 = Buffer.from(
      rebuildPng(
        readPng(vivid),
        [chunk("iCCP", concat([ascii("P3\0\0"), deflateSync(writeProfile("display-p3"))]))],
        () => true,
      ),
    );
    const { steps } = await fit(p3, { format: ["jpeg"], colour: { space: "srgb" } });
    expect(steps.find((s) => s.do === "Turn colours into sRGB")!.why).toMatch(
      /Display P3; 100 % fell outside, ΔE \d\.\d on average/,
    );
  });

  it("leave the profile out where the brief says so, in every format that holds one", async () => {
    for (const format of ["jpeg", "png", "webp", "avif", "tiff"] as const) {
      const without = await fit(await chart("p3"), {
        format: [format],
        colour: { space: "srgb", profile: "omit" },
      });
      expect(without.proof!.facts.profile).toBe(false);
      expect(without.proof!.ok).toBe(true);
      const embedded = await fit(await chart(), {
        format: [format],
        colour: { space: "srgb", profile: "embed" },
      });
      expect(embedded.proof!.facts.profile).toBe(true);
      expect(embedded.proof!.ok).toBe(true);
    }
  });
});
