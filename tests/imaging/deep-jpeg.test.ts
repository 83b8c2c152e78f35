/** JPEGs of sources of 16 bits: what lies between two codes of 8 bits goes into the coder as it is, without noise. */
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { fit } from "../support/fit";

/** A ramp of six 8-bit codes over 640 px, every row the same: PNG of 16 bits. */
function ramp(width: number, height: number): Promise<Buffer> {
  const data = new Uint16Array(width * height * 3);
  for (let y = 0, i = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1)
      for (let c = 0; c < 3; c += 1, i += 1) data[i] = (90 + (6 * x) / width) * 257;
  return sharp(data, { raw: { width, height, channels: 3 } })
    .toColourspace("rgb16")
    .png()
    .toBuffer();
}

describe("a JPEG of a soft ramp in 16 bits", () => {
  it("has rows that are alike, each pixel within a code of what lies there, and few bytes", async () => {
    const { output, proof } = await fit(await ramp(640, 320), {
      format: ["jpeg"],
      fileSize: { max: "60KB" },
    });
    expect(proof?.facts).toMatchObject({ format: "jpeg", bits: 8, width: 640, height: 320 });
    const { data, info } = await sharp(output!).raw().toBuffer({ resolveWithObject: true });
    const row = info.width * 3;
    const most = { ofRamp: 0, ofRow: 0 };
    for (let y = 0; y < info.height; y += 1)
      for (let i = 0; i < row; i += 1) {
        const code = data[y * row + i];
        const meant = 90 + (6 * Math.floor(i / 3)) / info.width;
        most.ofRamp = Math.max(most.ofRamp, Math.abs(code - meant));
        most.ofRow = Math.max(most.ofRow, Math.abs(code - data[i]));
      }
    expect(most.ofRamp).toBeLessThan(1.01);
    expect(most.ofRow).toBeLessThan(1.01);
    // Noise of a code in every pixel takes tens of kB at this quality (common practice: noise does not compress).
    expect(output!.length).toBeLessThan(9000);
  });
});
