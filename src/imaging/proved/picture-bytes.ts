/** The coded picture of a file, without what stands beside it: for the proof that it did not change. */
import { createHash } from "node:crypto";
import { readTiff } from "@/core/containers";
import type { Source } from "../source";

/** Whether two files of one kind hold the same coded picture, byte for byte. */
export function samePicture(a: Source, b: Source): boolean {
  const [one, two] = [pictureParts(a), pictureParts(b)];
  if (!one || !two) return false;
  const length = (parts: Uint8Array[]) => parts.reduce((sum, part) => sum + part.length, 0);
  return length(one) === length(two) && digest(one) === digest(two);
}

function digest(parts: readonly Uint8Array[]): string {
  const hash = createHash("sha256");
  for (const part of parts) hash.update(part);
  return hash.digest("hex");
}

/** Tags with places and lengths of strips and tiles (TIFF 6.0, sections 3 and 15). */
const PLACES: readonly [number, number][] = [
  [0x0111, 0x0117],
  [0x0144, 0x0145],
];

/** Tables and coded data in order; null where the kind has no parts that are known here. */
export function pictureParts(source: Source): Uint8Array[] | null {
  const { bytes, jpeg, png, webp, avif, bmp } = source;
  if (jpeg) {
    const tables = jpeg.segments
      .filter((s) => s.marker < 0xe0 || s.marker === 0xee)
      .map((s) => bytes.subarray(s.start, s.end));
    return [...tables, bytes.subarray(jpeg.scan, jpeg.end ?? bytes.length)];
  }
  if (png)
    return png.chunks
      .filter((c) => ["IHDR", "PLTE", "tRNS", "IDAT"].includes(c.type))
      .map((c) => bytes.subarray(c.start, c.end));
  if (webp)
    return webp.chunks
      .filter((c) => ["VP8 ", "VP8L", "ALPH", "ANIM", "ANMF"].includes(c.type))
      .map((c) => bytes.subarray(c.start, c.end));
  if (avif) {
    const coded = avif.items.filter((item) => ["av01", "grid"].includes(avif.types.get(item.id) ?? ""));
    return coded.flatMap((item) => item.extents.map((e) => bytes.subarray(e.offset, e.offset + e.length)));
  }
  if (bmp)
    return [
      bytes.subarray(bmp.pixels, bmp.pixels + Math.ceil((bmp.width * bmp.depth) / 32) * 4 * bmp.height),
    ];
  if (source.facts.format !== "tiff" || source.facts.fixedHeaders) return null;
  const { ifd0, littleEndian } = readTiff(bytes);
  for (const [offsets, lengths] of PLACES) {
    const [at, size] = [offsets, lengths].map((tag) =>
      numbers(
        ifd0.find((e) => e.tag === tag),
        littleEndian,
      ),
    );
    if (at && size && at.length === size.length)
      return at.map((offset, i) => bytes.subarray(offset, offset + size[i]));
  }
  return null;
}

function numbers(
  entry: { type: number; count: number; value: Uint8Array } | undefined,
  little: boolean,
): number[] | null {
  if (!entry || (entry.type !== 3 && entry.type !== 4)) return null;
  const data = new DataView(entry.value.buffer, entry.value.byteOffset, entry.value.byteLength);
  return Array.from({ length: entry.count }, (_, i) =>
    entry.type === 3 ? data.getUint16(i * 2, little) : data.getUint32(i * 4, little),
  );
}
