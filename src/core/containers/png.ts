/**
 * PNG at the level of its chunks. Source: PNG specification, third edition (W3C, 2025): 5.3 chunk layout,
 * 11.3.4.3 pHYs, annex D CRC.
 */
import { ascii, concat, latin1, startsWith, view } from "./bytes";
import { ContainerError } from "./error";

export interface PngChunk {
  type: string;
  start: number;
  end: number;
}

export interface PngFile {
  bytes: Uint8Array;
  chunks: PngChunk[];
  width: number;
  height: number;
  bits: number;
  /** 0 grey, 2 truecolour, 3 indexed, 4 grey with alpha, 6 truecolour with alpha. */
  colourType: number;
}

const CRC_TABLE = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k += 1) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c >>> 0;
});

export function crc32(bytes: Uint8Array): number {
  let c = 0xffffffff;
  for (let i = 0; i < bytes.length; i += 1) c = CRC_TABLE[(c ^ bytes[i]) & 255] ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}

/** Half a gigabyte in the usual parts of 8 kB. */
const MOST_CHUNKS = 100_000;

/** Reads all chunks and checks each CRC. Throws {@link ContainerError}. */
export function readPng(bytes: Uint8Array): PngFile {
  if (!startsWith(bytes, "\x89PNG\r\n\x1a\n")) throw new ContainerError("This is not a PNG file.");
  const data = view(bytes);
  const chunks: PngChunk[] = [];
  let at = 8;
  while (at + 12 <= bytes.length) {
    const length = data.getUint32(at);
    const end = at + 12 + length;
    if (end > bytes.length)
      throw new ContainerError("The PNG ends inside its data: it is cut short. Bring in the whole file.");
    const type = latin1(bytes.subarray(at + 4, at + 8));
    if (crc32(bytes.subarray(at + 4, end - 4)) !== data.getUint32(end - 4)) {
      throw new ContainerError(
        `The PNG is damaged: the check sum of its ${type.replace(/[^\w]/g, "?")} part at byte ${at} ` +
          "is wrong. Bring in a sound copy.",
      );
    }
    if (chunks.length >= MOST_CHUNKS)
      throw new ContainerError(
        `The PNG has more than ${MOST_CHUNKS} parts, as no program writes. Save it anew in the program it came from.`,
      );
    chunks.push({ type, start: at, end });
    at = end;
    if (type === "IEND") break;
  }
  if (chunks[chunks.length - 1]?.type !== "IEND")
    throw new ContainerError("The PNG has no end: it is cut short. Bring in the whole file.");
  const head = chunks[0];
  if (head.type !== "IHDR" || head.end - head.start !== 25)
    throw new ContainerError("The PNG does not begin with its header.");
  const h = head.start + 8;
  return {
    bytes,
    chunks,
    width: data.getUint32(h),
    height: data.getUint32(h + 4),
    bits: bytes[h + 8],
    colourType: bytes[h + 9],
  };
}

export const chunkBody = (file: PngFile, chunk: PngChunk): Uint8Array =>
  file.bytes.subarray(chunk.start + 8, chunk.end - 4);
export const findChunk = (file: PngFile, type: string): Uint8Array | null => {
  const chunk = file.chunks.find((c) => c.type === type);
  return chunk ? chunkBody(file, chunk) : null;
};

export function chunk(type: string, body: Uint8Array): Uint8Array {
  const out = new Uint8Array(12 + body.length);
  view(out).setUint32(0, body.length);
  out.set(ascii(type), 4);
  out.set(body, 8);
  view(out).setUint32(8 + body.length, crc32(out.subarray(4, 8 + body.length)));
  return out;
}

/** pHYs in whole pixels per metre: 300 ppi is 11811. */
export function physChunk(ppi: number): Uint8Array {
  const body = new Uint8Array(9);
  const perMetre = Math.round(ppi / 0.0254);
  view(body).setUint32(0, perMetre);
  view(body).setUint32(4, perMetre);
  body[8] = 1;
  return chunk("pHYs", body);
}

/** Pixels per inch as [x, y]; null where there is no pHYs or it gives only an aspect. */
export function physOf(file: PngFile): [number, number] | null {
  const body = findChunk(file, "pHYs");
  if (!body || body.length < 9 || body[8] !== 1) return null;
  const data = view(body);
  const [x, y] = [data.getUint32(0), data.getUint32(4)];
  return x > 0 && y > 0 ? [x * 0.0254, y * 0.0254] : null;
}

/**
 * The file with `add` behind its header and only the chunks that `keep` lets through; picture data stay byte
 * for byte.
 */
export function rebuildPng(
  file: PngFile,
  add: readonly Uint8Array[],
  keep: (type: string) => boolean,
): Uint8Array {
  const kept = file.chunks
    .slice(1)
    .filter((c) => keep(c.type))
    .map((c) => file.bytes.subarray(c.start, c.end));
  return concat([file.bytes.subarray(0, file.chunks[0].end), ...add, ...kept]);
}

/** Filled up by a tEXt comment to exactly `target` bytes; the chunk takes at least 21 bytes. */
export function padPng(bytes: Uint8Array, target: number): Uint8Array {
  const missing = target - bytes.length;
  if (missing <= 0) return bytes;
  const keyword = ascii("Comment\0 ");
  const body = new Uint8Array(Math.max(keyword.length, missing - 12)).fill(0x20);
  body.set(keyword);
  return concat([bytes.subarray(0, 33), chunk("tEXt", body), bytes.subarray(33)]);
}
