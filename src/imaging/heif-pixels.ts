/** The primary picture of a HEIF file as 8-bit RGB, turned as the file says: by libheif, compiled to WebAssembly. */
import type { ForeignPixels } from "./foreign-kinds";

/** Throws with a plain reason where it cannot be decoded. */
export async function heifPixels(bytes: Uint8Array): Promise<ForeignPixels> {
  // Two megabytes that only this needs.
  const { default: libheif } = await import("libheif-js/wasm-bundle.js");
  const images = new libheif.HeifDecoder().decode(bytes);
  const image = images.find(isPrimary) ?? images[0];
  if (!image) throw new Error("no picture in it can be decoded");
  const [width, height] = [image.get_width(), image.get_height()];
  const rgba = await new Promise<Uint8ClampedArray>((done, failed) => {
    image.display({ data: new Uint8ClampedArray(width * height * 4), width, height }, (result) => (result ? done(result.data) : failed(new Error("its picture data are damaged"))));
  });
  let opaque = true;
  for (let p = 3; opaque && p < rgba.length; p += 4) opaque = rgba[p] === 255;
  if (!opaque) return { data: new Uint8Array(rgba.buffer, rgba.byteOffset, rgba.length), width, height, channels: 4 };
  const data = new Uint8Array(width * height * 3);
  for (let p = 0, o = 0; p < rgba.length; p += 4, o += 3) {
    data[o] = rgba[p];
    data[o + 1] = rgba[p + 1];
    data[o + 2] = rgba[p + 2];
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
