/** What a small picture shows: strokes on paper, a page of print, or a picture. */

import { drawStrokes, strokes } from "@demo/scenes";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { kindOf } from "@/core/pixels/ink";
import { BLUE_INK, CREAM, drawInk } from "../../support/ink";
import { jpegPhoto } from "../../support/photos";

const WORDS =
  "THE BEARER HAS COMPLETED THE COURSE OF STUDY AT QUILLMOOR WITH GOOD MARKS IN ALL OF ITS PARTS ";

/** Lines of lettering, on paper that is lit unevenly. */
function page(lines: number) {
  const [width, height] = [480, 640];
  const ink = new Float32Array(width * height);
  for (let line = 0; line < lines; line += 1) {
    const text = WORDS.repeat(2).slice(line * 3, line * 3 + 38);
    drawStrokes(ink, width, height, strokes(text, 40, 60 + (line * 520) / lines, 9), 0.9);
  }
  const data = new Uint8Array(width * height * 3);
  ink.forEach((cover, p) => {
    const light = (238 - ((p % width) / width) * 30) * (1 - 0.8 * cover);
    data.set([light, light * 0.99, light * 0.96], p * 3);
  });
  return { data, width, height };
}

const small = async (photo: Buffer) => {
  const { data, info } = await sharp(photo)
    .resize(640, 640, { fit: "inside" })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data: new Uint8Array(data), width: info.width, height: info.height };
};

describe("the kind of a photo", () => {
  it("is ink for a signature in any light, print for a page, a picture for the rest", async () => {
    for (const light of [1, 0.5])
      expect(
        kindOf(drawInk({ width: 620, height: 300, paper: CREAM, ink: BLUE_INK, pen: 6, noise: 3, light })),
      ).toBe("ink");
    for (const lines of [9, 16, 24]) expect(kindOf(page(lines))).toBe("print");
    for (const seed of [51, 52, 53])
      expect(kindOf(await small(await jpegPhoto(900, 1200, seed)))).toBe("picture");
  });

  it("is ink where only a line or two of lettering stand on the sheet", () => {
    for (const lines of [1, 2]) expect(kindOf(page(lines))).toBe("ink");
  });

  it("is a picture where nothing can be told: one colour, one pixel, noise", () => {
    const plain = (width: number, height: number, value: (i: number) => number) => ({
      data: Uint8Array.from({ length: width * height * 3 }, (_, i) => value(i)),
      width,
      height,
    });
    expect(kindOf(plain(64, 64, () => 250))).toBe("picture");
    expect(kindOf(plain(1, 1, () => 0))).toBe("picture");
    expect(kindOf(plain(90, 70, (i) => (i * 7919) % 256))).toBe("picture");
  });
});
