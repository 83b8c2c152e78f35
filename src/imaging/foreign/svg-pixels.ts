/** A drawing at exactly the pixels that are asked, by the colour library's renderer. */
import { readSvg, svgAt } from "@/core/containers";
import { MAX_PIXELS } from "@/core/units";
import type { ForeignPixels, Wish } from "./kinds";

/** A CSS pixel is 1/96 inch; the renderer counts 72 to the inch unless it is told, and draws larger by as much. */
const CSS_PPI = 96;
const PER_PIXEL = 72 / CSS_PPI;

/** Throws with a plain reason where it cannot be drawn. */
export async function svgPixels(bytes: Uint8Array, { size }: Wish): Promise<ForeignPixels> {
  const { default: sharp } = await import("sharp");
  const text = new TextDecoder().decode(bytes);
  const svg = readSvg(text);
  const { width, height } = size ?? { width: Math.round(svg.width), height: Math.round(svg.height) };
  const shrunk = { width: width * PER_PIXEL, height: height * PER_PIXEL };
  const drawn = Buffer.from(svgAt(text, svg, shrunk));
  const { data, info } = await sharp(drawn, { limitInputPixels: MAX_PIXELS, density: CSS_PPI })
    .toColourspace("srgb")
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  if (info.width !== width || info.height !== height)
    throw new Error(`it was drawn at ${info.width} × ${info.height} instead of ${width} × ${height} px`);
  return { data, width, height, channels: 4 };
}
