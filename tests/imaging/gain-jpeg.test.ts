/** Light above white in JPEG: an ordinary picture with a gain map, held against ISO 21496-1 and the colour library's own reader. */
import sharp, { type Sharp } from "sharp";
import { describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { readGainMap, readJpeg, withGainMap } from "@/core/containers";
import { CENTRED, DEFAULT_LIGHT, DEFAULT_RAW } from "@/core/photo";
import { findDisagreements } from "@/core/plan/disagreements";
import { readSource } from "@/imaging/source";
import { dng } from "../support/dng";
import { fit } from "../support/fit";
import { jpegPhoto } from "../support/photos";

/** A sky with the sun in it, up to white, over dark ground. */
async function dusk(width = 320, height = 240, radius = 0.12): Promise<Buffer> {
  const data = new Uint8Array(width * height * 3);
  for (let y = 0, p = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1, p += 3) {
      const sun = Math.hypot(x - width / 2, y - height * 0.3) < height * radius;
      const code = sun ? 255 : y < height * 0.6 ? 120 : 40 + ((x * 7 + y * 13) % 9);
      data.fill(code, p, p + 3);
    }
  return sharp(data, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 97, chromaSubsampling: "4:4:4" })
    .toBuffer();
}

const BRIGHT = { format: ["jpeg" as const], colour: { light: "hdr" as const } };

/** Light of a place in multiples of white, worked out from the file by the formula of ISO 21496-1, clause 6. */
async function lightAt(file: Buffer, x: number, y: number): Promise<number> {
  const map = readGainMap(readJpeg(file))!;
  const base = await sharp(file).raw().toBuffer({ resolveWithObject: true });
  const gain = await sharp(map.jpeg).greyscale().raw().toBuffer({ resolveWithObject: true });
  const at = ({ data, info }: typeof base) =>
    data[(Math.floor(y * info.height) * info.width + Math.floor(x * info.width)) * info.channels];
  const code = at(base) / 255;
  const own = code <= 0.04045 ? code / 12.92 : ((code + 0.055) / 1.055) ** 2.4;
  const stops = map.min[0] + (map.max[0] - map.min[0]) * (at(gain) / 255) ** (1 / map.gamma[0]);
  return (own + map.offsetBase[0]) * 2 ** stops - map.offsetLight[0];
}

describe("a JPEG with light above white", () => {
  it("is an ordinary picture whose map takes the sun to the peak and leaves the ground alone", async () => {
    const { output, proof, steps, notes } = await fit(await dusk(), BRIGHT);
    const file = Buffer.from(output!);
    expect(proof!.ok).toBe(true);
    const colour = proof!.checks.find(({ clause }) => clause === "colour")!;
    expect(colour.found).toMatch(/Display P3, 8 bit, with profile, a gain map up to [\d.]+ × white/);
    expect(steps.map((step) => step.do).join()).toContain("Take lights above white");
    expect(notes.join()).toContain("Ordinary programs show the picture as it is");
    // The colour library reads it with a reader of its own.
    expect((await sharp(file).metadata()).gainMap!.image.length).toBeGreaterThan(100);
    const peak = await lightAt(file, 0.5, 0.3);
    expect(peak / DEFAULT_LIGHT.peak).toBeGreaterThan(0.8);
    expect(peak / DEFAULT_LIGHT.peak).toBeLessThan(1.1);
    // Half of the sky's code stays what it is: 120 of 255 is 0.187 of white (IEC 61966-2-1).
    expect(await lightAt(file, 0.1, 0.2)).toBeCloseTo(0.187, 1);
    // Decoded as any program does: the same picture as without the map.
    const plain = await fit(await dusk(), { format: ["jpeg"], colour: { space: "display-p3" } });
    const [a, b] = await Promise.all([file, plain.output!].map((one) => sharp(one).raw().toBuffer()));
    const apart = a.reduce((sum, value, i) => sum + Math.abs(value - b[i]), 0) / a.length;
    expect(apart).toBeLessThan(1);
  });

  it("meets a ceiling with both parts together", async () => {
    const photo = await jpegPhoto(1000, 700, 12, 96);
    const { output, proof } = await fit(photo, { ...BRIGHT, fileSize: { max: "60KB" } });
    expect(proof!.ok).toBe(true);
    expect(output!.length).toBeLessThanOrEqual(60_000);
    expect(output!.length).toBeGreaterThan(55_000);
    const map = readGainMap(readJpeg(Buffer.from(output!)))!;
    expect(map.jpeg.length).toBeLessThan(60_000 * 0.3);
  });

  it("shares a ceiling between both parts by what is seen: a dense map where there is room, a coarse one where not", async () => {
    const photo = await jpegPhoto(600, 420, 12, 96);
    const mapOf = async (max: string) => {
      const { output, proof } = await fit(photo, { ...BRIGHT, width: { exact: 600 }, fileSize: { max } });
      expect(proof!.ok).toBe(true);
      const { jpeg } = readGainMap(readJpeg(Buffer.from(output!)))!;
      return { ...(await sharp(jpeg).metadata()), bytes: jpeg.length };
    };
    const [roomy, tight] = [await mapOf("150KB"), await mapOf("20KB")];
    expect(roomy.width).toBeGreaterThan(tight.width!);
    expect(roomy.bytes).toBeGreaterThan(tight.bytes * 3);
    expect(tight.bytes).toBeLessThan(20_000 * 0.1);
  });

  it("has no glow around a small sun: its places count, however little of the picture they are", async () => {
    // 18 px wide of 1200.
    const { output, proof } = await fit(await dusk(1200, 900, 0.01), {
      ...BRIGHT,
      fileSize: { max: "120KB" },
    });
    expect(proof!.ok).toBe(true);
    const [x, y] = [0.5, 0.3];
    expect(await lightAt(Buffer.from(output!), x, y)).toBeGreaterThan(DEFAULT_LIGHT.peak * 0.7);
    // The sky is 0.187 of white (IEC 61966-2-1), from five pixels beside the sun's edge on.
    for (const beside of [14, 18, 26])
      expect(await lightAt(Buffer.from(output!), x + beside / 1200, y)).toBeLessThan(0.23);
  });

  it("keeps the light that a photo's own map has, through a smaller size", async () => {
    const gain = await sharp({ create: { width: 60, height: 40, channels: 3, background: "#ffffff" } })
      .greyscale()
      .jpeg()
      .toBuffer();
    const one = [0];
    const photo = Buffer.from(
      withGainMap(await jpegPhoto(240, 160, 41), {
        jpeg: gain,
        min: one,
        max: [2],
        gamma: [1],
        offsetBase: [1 / 64],
        offsetLight: [1 / 64],
        capacity: 2,
      }),
    );
    const { output, proof, steps } = await fit(photo, { ...BRIGHT, width: { exact: 120 } });
    expect(proof!.ok).toBe(true);
    const words = steps.map((step) => step.do).join();
    expect(words).toContain("Keep the light above white");
    expect(words).not.toContain("the gain map");
    // Four times lighter everywhere: two stops.
    const map = readGainMap(readJpeg(Buffer.from(output!)))!;
    expect(map.max[0]).toBeGreaterThan(1.85);
    expect(map.max[0]).toBeLessThan(2.15);
    // It reads as light when it is brought in again, and the library writes it on.
    expect((await readSource(Buffer.from(output!))).facts.gainMap).toBeGreaterThan(3.5);
    const again = await (sharp(output!) as unknown as { keepGainMap(): Sharp })
      .keepGainMap()
      .jpeg()
      .toBuffer();
    expect((await sharp(again).metadata()).gainMap).toBeDefined();
  });

  it("keeps what the sensor of a raw file saw above white", async () => {
    const raw = await dng(240, 160, { seed: 5, light: 1.6 });
    const frame = { ...CENTRED, raw: { ...DEFAULT_RAW, recover: true } };
    const { output, proof, error } = await fit(raw, { ...BRIGHT, width: { exact: 120 } }, frame);
    expect(error).toBeNull();
    expect(proof!.ok).toBe(true);
    const back = await readSource(Buffer.from(output!));
    expect(back.facts.gainMap).toBeGreaterThan(1.05);
    expect((await sharp(output!).metadata()).gainMap).toBeDefined();
  });

  it("does without a map that is missing or damaged, and takes one of another size", async () => {
    const described = {
      min: [0],
      max: [2],
      gamma: [1],
      offsetBase: [1 / 64],
      offsetLight: [1 / 64],
      capacity: 2,
    };
    const white = (width: number, height: number) =>
      sharp({ create: { width, height, channels: 3, background: "#ffffff" } })
        .greyscale()
        .jpeg()
        .toBuffer();
    const base = await jpegPhoto(240, 160, 43);
    // Of other proportions than its picture: it is drawn over all of it, as the standard says (ISO 21496-1).
    const odd = await fit(
      Buffer.from(withGainMap(base, { jpeg: await white(17, 90), ...described })),
      BRIGHT,
    );
    expect(odd.proof!.ok).toBe(true);
    expect((await readSource(Buffer.from(odd.output!))).facts.gainMap).toBeGreaterThan(3.5);
    const whole = Buffer.from(withGainMap(base, { jpeg: await white(60, 40), ...described }));
    // Cut off behind the picture, and in the middle of the map: an ordinary photo, which is expanded like any other.
    for (const end of [readJpeg(whole).end!, readJpeg(whole).end! + 40]) {
      const source = await readSource(whole.subarray(0, end));
      expect(source.facts.gainMap).toBeUndefined();
      const { proof, steps } = await fit(whole.subarray(0, end), BRIGHT);
      expect(proof!.ok).toBe(true);
      expect(steps.map((step) => step.do).join()).toContain("Take lights above white");
    }
    // Whole in its headers, but its pixels end: told with one sentence, or made; never a crash.
    const torn = whole.subarray(0, whole.length - 60);
    const { output, error } = await fit(torn, BRIGHT);
    expect(output !== null || /gain map|damaged|end/.test(String(error))).toBe(true);
  });

  it("is no disagreement any more, and PNG still has no room for it", () => {
    const of = (format: "jpeg" | "png") =>
      findDisagreements(
        parseBrief({ zumbrelBrief: 1, name: "b", format: [format], colour: { light: "hdr" } }),
      );
    expect(of("jpeg")).toEqual([]);
    expect(of("png")[0].why).toContain("light above white");
  });
});
