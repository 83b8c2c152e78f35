import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { parseBrief } from "@/core/brief";
import { fitPhoto } from "@/imaging";
import { prove } from "@/imaging/proved";
import { readSource } from "@/imaging/source";
import { jpegPhoto, pngPhoto, raw } from "../support/photos";

const small = parseBrief({ zumbrelBrief: 1, name: "b", format: ["jpeg"], longSide: { max: 100 } });
/** As every way into the product does it: made, then read back. */
const attempt = async (bytes: Buffer) => {
  const { output } = await fitPhoto({ source: await readSource(bytes), brief: small });
  return { output, proof: output && (await prove(small, Buffer.from(output), null)) };
};

describe("bad photos give one clear sentence", () => {
  it("an empty file, and a text file called .jpg", async () => {
    await expect(readSource(Buffer.alloc(0))).rejects.toThrow(/empty \(0 bytes\)/);
    await expect(readSource(Buffer.from("Dear office,\nplease find attached"))).rejects.toThrow(
      /text file, not a picture/,
    );
    await expect(readSource(Buffer.from([1, 2, 3, 255, 0, 7]))).rejects.toThrow(
      /not a picture of a known kind/,
    );
  });

  it("a kind that cannot be read yet, by its name", async () => {
    await expect(readSource(Buffer.from("%PDF-1.7 …"))).rejects.toThrow(/PDF file, which cannot be read/);
  });

  it.each([0.2, 0.5, 0.9, 0.97, 0.995])(
    "a JPEG cut off after %d of its bytes never becomes a half-grey file",
    async (share) => {
      const bytes = await jpegPhoto(640, 480);
      await expect(attempt(bytes.subarray(0, Math.floor(bytes.length * share)))).rejects.toThrow(/cut short/);
      // Also with an end marker put behind the gap, as some transfers do.
      const patched = Buffer.concat([
        bytes.subarray(0, Math.floor(bytes.length * share)),
        Buffer.from([0xff, 0xd9]),
      ]);
      await expect(attempt(patched)).rejects.toThrow(/cut short|damaged/);
    },
  );

  it("a progressive JPEG without its last scans", async () => {
    const bytes = await raw(640, 480).jpeg({ progressive: true }).toBuffer();
    await expect(attempt(bytes.subarray(0, Math.floor(bytes.length * 0.6)))).rejects.toThrow(/cut short/);
  });

  it("a damaged photo that would otherwise pass through", async () => {
    const bytes = await jpegPhoto(90, 60);
    const patched = Buffer.concat([
      bytes.subarray(0, Math.floor(bytes.length * 0.7)),
      Buffer.from([0xff, 0xd9]),
    ]);
    await expect(attempt(patched)).rejects.toThrow(/cut short|damaged/);
  });

  it("a PNG with a wrong CRC", async () => {
    const bytes = await pngPhoto(64, 64);
    bytes[bytes.length - 30] ^= 0x40;
    await expect(attempt(bytes)).rejects.toThrow(/check sum/);
  });

  it("a JPEG of 60,000 × 60,000 px, before anything is decoded", async () => {
    const bytes = await jpegPhoto(64, 64);
    const at = bytes.indexOf(Buffer.from([0xff, 0xc0]));
    bytes.writeUInt16BE(60_000, at + 5);
    bytes.writeUInt16BE(60_000, at + 7);
    const start = performance.now();
    await expect(readSource(bytes)).rejects.toThrow(/60000 × 60000 px, 3600 megapixels; at most 700/);
    expect(performance.now() - start).toBeLessThan(500);
  });

  it("a truncated TIFF and a truncated WebP", async () => {
    for (const bytes of [
      await raw(200, 200).tiff({ compression: "none" }).toBuffer(),
      await raw(200, 200).webp({ lossless: true }).toBuffer(),
    ]) {
      await expect(attempt(bytes.subarray(0, Math.floor(bytes.length * 0.6)))).rejects.toThrow(
        /cut short|damaged/,
      );
    }
  });

  it("a brief that nothing can meet is answered, not thrown", async () => {
    const brief = parseBrief({
      zumbrelBrief: 1,
      name: "b",
      format: ["jpeg"],
      width: { exact: 800 },
      height: { exact: 600 },
      fileSize: { max: "2KB" },
    });
    const answer = await fitPhoto({ source: await readSource(await jpegPhoto(800, 600)), brief });
    expect(answer.output).toBeNull();
    expect(answer.error).toMatch(/^Cannot: the smallest 800 × 600 JPEG of this photo is .*2\.0 kB/);
  });

  it("harmless oddities are taken: extra bytes before the end, data behind it", async () => {
    const bytes = await jpegPhoto(200, 150);
    const behind = Buffer.concat([bytes, Buffer.from("trailing")]);
    expect((await attempt(behind)).output).not.toBeNull();
    const odd = Buffer.concat([bytes.subarray(0, -2), Buffer.from([0, 0, 0]), bytes.subarray(-2)]);
    expect((await attempt(odd)).output).not.toBeNull();
    expect((await sharp(Buffer.from((await attempt(odd)).output!)).stats()).channels).toHaveLength(3);
  });
});
