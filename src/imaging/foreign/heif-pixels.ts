/**
 * The primary picture of a HEIF file, turned as the file says, in 8 bits or where it has more in 16: by
 * libheif, compiled to WebAssembly.
 */
import { readHeif } from "@/core/containers";
import type { ForeignPixels } from "./kinds";

/** Throws with a plain reason where it cannot be decoded. */
export async function heifPixels(bytes: Uint8Array): Promise<ForeignPixels> {
  // Two megabytes that only this needs.
  const { default: libheif } = await import("libheif-js/wasm-bundle.js");
  const images = new libheif.HeifDecoder().decode(bytes);
  const image = images.find(isPrimary) ?? images[0];
  if (!image) throw new Error("no picture in it can be decoded");
  const [width, height] = [image.get_width(), image.get_height()];
  if (readHeif(bytes).bits > 8) {
    const made = libheif.heif_js_decode_image2(
      image.handle,
      libheif.heif_colorspace.heif_colorspace_RGB,
      libheif.heif_chroma.heif_chroma_interleaved_RRGGBB_LE,
    ).channels?.[0];
    if (!made || made.width !== width || made.height !== height)
      throw new Error("its picture data are damaged");
    return sixteenBits(made);
  }
  const rgba = await new Promise<Uint8ClampedArray>((done, failed) => {
    image.display({ data: new Uint8ClampedArray(width * height * 4), width, height }, (result) =>
      result ? done(result.data) : failed(new Error("its picture data are damaged")),
    );
  });
  let opaque = true;
  for (let p = 3; opaque && p < rgba.length; p += 4) opaque = rgba[p] === 255;
  if (!opaque)
    return { data: new Uint8Array(rgba.buffer, rgba.byteOffset, rgba.length), width, height, channels: 4 };
  const data = new Uint8Array(width * height * 3);
  for (let p = 0, o = 0; p < rgba.length; p += 4, o += 3) {
    data[o] = rgba[p];
    data[o + 1] = rgba[p + 1];
    data[o + 2] = rgba[p + 2];
  }
  return { data, width, height, channels: 3 };
}

/** Codes of 10 or 12 bits, two bytes each, spread over 16. */
function sixteenBits({
  data: from,
  width,
  height,
  stride,
  bits_per_pixel: bits,
}: {
  data: Uint8Array;
  width: number;
  height: number;
  stride: number;
  bits_per_pixel: number;
}): ForeignPixels {
  const top = 2 ** bits - 1;
  const data = new Uint16Array(width * height * 3);
  for (let y = 0, o = 0; y < height; y += 1) {
    for (let x = 0, p = y * stride; x < width * 3; x += 1, p += 2, o += 1)
      data[o] = Math.round(((from[p] | (from[p + 1] << 8)) * 65_535) / top);
  }
  return { data, width, height, channels: 3 };
}

/** Some builds lack the question; then the first is the primary one. */
function isPrimary(image: { is_primary(): boolean }): boolean {
  try {
    return image.is_primary();
  } catch {
    return false;
  }
}
