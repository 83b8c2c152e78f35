/** A photo that is decoded on the thread that develops it, against one that is decoded first and shared out. */
import sharp from "sharp";
import { afterEach, describe, expect, it } from "vitest";
import { resolveBrief } from "@/core/brief";
import { planGeometry } from "@/core/geometry";
import { CENTRED } from "@/core/photo";
import { rehearse } from "@/imaging";
import { destinationOf } from "@/imaging/headers";
import { preparePicture } from "@/imaging/planned";
import { readSource } from "@/imaging/source";
import { shareCores } from "@/imaging/workers";
import { pixels } from "../support/photos";

const [width, height] = [320, 220];
const raw = (channels: 3 | 4 = 3) => {
  const rgb = pixels(width, height);
  const data = channels === 3 ? rgb : new Uint8Array(width * height * 4).map((_, i) => rgb[i % rgb.length]);
  return sharp(data, { raw: { width, height, channels } });
};
const KINDS: Record<string, () => Promise<Buffer>> = {
  JPEG: () => raw().jpeg().toBuffer(),
  "JPEG on its side": () => raw().withMetadata({ orientation: 6 }).jpeg().toBuffer(),
  "JPEG in grey": () => raw().toColourspace("b-w").jpeg().toBuffer(),
  "JPEG in CMYK": () => raw().toColourspace("cmyk").jpeg().toBuffer(),
  "PNG of 16 bits": () => raw().toColourspace("rgb16").png().toBuffer(),
  "WebP that is seen through": () => raw(4).webp().toBuffer(),
  AVIF: () => raw().avif({ effort: 0 }).toBuffer(),
};

async function planned(photo: Buffer, crop = {}) {
  const source = await readSource(photo);
  const brief = resolveBrief({ zumbrelBrief: 1, name: "b", longSide: { exact: 130 }, ...crop });
  return preparePicture(source, {
    geometry: planGeometry(brief, source.facts),
    frame: CENTRED,
    to: destinationOf(brief, source),
    bits: 8,
    background: "#ffffff",
    opaque: true,
    sharpen: null,
    ppi: null,
  });
}

async function bothWays(photo: Buffer, crop = {}) {
  shareCores(true);
  const aside = await planned(photo, crop);
  shareCores(false);
  return { aside, first: await planned(photo, crop) };
}

afterEach(() => shareCores(false));

describe("a photo decoded where it is developed", () => {
  it.each(Object.keys(KINDS))("has the same pixels and colours: %s", async (kind) => {
    const { aside, first } = await bothWays(await KINDS[kind]());
    expect(Buffer.compare(Buffer.from(aside.data), Buffer.from(first.data))).toBe(0);
    const { data: _, ...told } = aside;
    const { data: __, ...wanted } = first;
    expect(told).toEqual(wanted);
  });

  it("has the same part", async () => {
    const square = { longSide: undefined, width: { exact: 90 }, height: { exact: 90 } };
    const { aside, first } = await bothWays(await KINDS["JPEG on its side"](), square);
    expect([aside.width, aside.height]).toEqual([90, 90]);
    expect(Buffer.compare(Buffer.from(aside.data), Buffer.from(first.data))).toBe(0);
  });

  it("shows the same dot screen", async () => {
    const side = 640;
    const dots = new Uint8Array(side * side).map((_, i) => {
      const [x, y] = [i % side, Math.floor(i / side)];
      return 128 + 60 * Math.sin((x * Math.PI) / 2.5) * Math.sin((y * Math.PI) / 2.5);
    });
    const printed = await sharp(dots, { raw: { width: side, height: side, channels: 1 } })
      .png()
      .toBuffer();
    const { aside, first } = await bothWays(printed);
    expect(first.dotScreen).not.toBeNull();
    expect(aside.dotScreen).toBe(first.dotScreen);
  });

  it("is refused with the same sentence where it is damaged", async () => {
    const whole = await KINDS.JPEG();
    const short = whole.subarray(0, whole.length - 900);
    const said = async () => planned(short).then(String, (error: Error) => `${error.name}: ${error.message}`);
    shareCores(true);
    const aside = await said();
    shareCores(false);
    expect(aside).toBe(await said());
    expect(aside).toContain("PhotoError: The JPEG is cut short");
  });
});

describe("a rehearsal", () => {
  it("goes through the usual ways, and stops as soon as there is work", async () => {
    let looks = 0;
    await rehearse(() => (looks += 1) > 2);
    expect(looks).toBe(3);
  });
});
