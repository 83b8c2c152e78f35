/** A file filled up to a floor, where the picture itself cannot use more bytes. */
import type { OutputFormat } from "@/core/brief";
import {
  padAvif,
  padGif,
  padJpeg,
  padPdf,
  padPng,
  padTiff,
  readWebp,
  rebuildBmp,
  rebuildWebp,
  webpChunk,
} from "@/core/containers";

/** `target`: bytes of the whole file. `ppi`: what a BMP's head says of its density. */
export function padded(
  file: Uint8Array,
  format: OutputFormat,
  target: number,
  ppi: number | null,
): Uint8Array {
  switch (format) {
    case "jpeg":
      return padJpeg(file, target);
    case "png":
      return padPng(file, target);
    case "webp":
      return paddedWebp(file, target);
    case "avif":
      return padAvif(file, target);
    case "tiff":
      return padTiff(file, target);
    case "pdf":
      return padPdf(file, target);
    case "gif":
      return padGif(file, target);
    default:
      return rebuildBmp(file, ppi, target);
  }
}

function paddedWebp(bytes: Uint8Array, target: number): Uint8Array {
  const file = readWebp(bytes);
  const blocks = {
    icc: webpChunk(file, "ICCP"),
    exif: webpChunk(file, "EXIF"),
    xmp: webpChunk(file, "XMP "),
  };
  // With the filling comes the extended header of 18 bytes, where there was none.
  const missing = target - rebuildWebp(file, blocks, 8).length + 8;
  return rebuildWebp(file, blocks, Math.max(8, missing + (missing & 1)));
}
