/** WebP at the level of its chunks. Source: RFC 9649 (WebP Image Format), sections 2.3 to 2.7. */
import { ascii, concat, latin1, startsWith, view } from "./bytes";
import { ContainerError } from "./error";

export interface WebpChunk {
  type: string;
  /** Where the chunk's header stands. */
  start: number;
  /** Behind its last byte, padding to an even length included. */
  end: number;
  /** Bytes of its payload, without padding. */
  size: number;
}

export interface WebpFile {
  bytes: Uint8Array;
  chunks: WebpChunk[];
  width: number;
  height: number;
  alpha: boolean;
  animated: boolean;
}

/** Throws {@link ContainerError}. */
export function readWebp(bytes: Uint8Array): WebpFile {
  if (!startsWith(bytes, "RIFF") || !startsWith(bytes, "WEBP", 8))
    throw new ContainerError("This is not a WebP file.");
  const data = view(bytes);
  const end = Math.min(bytes.length, 8 + data.getUint32(4, true));
  if (8 + data.getUint32(4, true) > bytes.length + 1)
    throw new ContainerError("The WebP is cut short. Bring in the whole file.");
  const chunks: WebpChunk[] = [];
  for (let at = 12; at + 8 <= end; ) {
    const size = data.getUint32(at + 4, true);
    if (at + 8 + size > bytes.length)
      throw new ContainerError("The WebP ends inside its data: it is cut short. Bring in the whole file.");
    const next = Math.min(bytes.length, at + 8 + size + (size & 1));
    chunks.push({ type: latin1(bytes.subarray(at, at + 4)), start: at, end: next, size });
    at = next;
  }
  return { bytes, chunks, ...frameOf(bytes, chunks) };
}

function frameOf(
  bytes: Uint8Array,
  chunks: readonly WebpChunk[],
): Pick<WebpFile, "width" | "height" | "alpha" | "animated"> {
  const data = view(bytes);
  const uint24 = (at: number) => bytes[at] | (bytes[at + 1] << 8) | (bytes[at + 2] << 16);
  const extended = chunks.find((c) => c.type === "VP8X" && c.size >= 10);
  if (extended) {
    const p = extended.start + 8;
    return {
      width: uint24(p + 4) + 1,
      height: uint24(p + 7) + 1,
      alpha: (bytes[p] & 0x10) !== 0,
      animated: (bytes[p] & 0x02) !== 0,
    };
  }
  const lossy = chunks.find((c) => c.type === "VP8 " && c.size >= 10);
  if (lossy) {
    const p = lossy.start + 8;
    return {
      width: data.getUint16(p + 6, true) & 0x3fff,
      height: data.getUint16(p + 8, true) & 0x3fff,
      alpha: false,
      animated: false,
    };
  }
  const lossless = chunks.find((c) => c.type === "VP8L" && c.size >= 5);
  if (lossless) {
    const bits = data.getUint32(lossless.start + 9, true);
    return {
      width: (bits & 0x3fff) + 1,
      height: ((bits >>> 14) & 0x3fff) + 1,
      alpha: ((bits >>> 28) & 1) === 1,
      animated: false,
    };
  }
  throw new ContainerError("The WebP holds no picture. Save it anew in the program it came from.");
}

export function webpChunk(file: WebpFile, type: string): Uint8Array | null {
  const chunk = file.chunks.find((c) => c.type === type);
  return chunk ? file.bytes.subarray(chunk.start + 8, chunk.start + 8 + chunk.size) : null;
}

/** The EXIF block (from its byte order on), or null. Some writers put the JPEG's own head before it. */
export function webpExif(file: WebpFile): Uint8Array | null {
  const body = webpChunk(file, "EXIF");
  return body && startsWith(body, "Exif\0\0") ? body.subarray(6) : body;
}

export interface WebpHeaders {
  icc: Uint8Array | null;
  exif: Uint8Array | null;
  xmp: Uint8Array | null;
}

const chunk = (type: string, body: Uint8Array): Uint8Array => {
  const head = concat([ascii(type), new Uint8Array(4)]);
  view(head).setUint32(4, body.length, true);
  return concat([head, body, new Uint8Array(body.length & 1)]);
};

const HEADERS = new Set(["VP8X", "ICCP", "EXIF", "XMP "]);

/**
 * The file with these headers and no others; the chunks of the picture stay byte for byte. `fill` adds a
 * chunk of that many bytes that readers skip.
 */
export function rebuildWebp(file: WebpFile, { icc, exif, xmp }: WebpHeaders, fill = 0): Uint8Array {
  const picture = file.chunks
    .filter((c) => !HEADERS.has(c.type))
    .map((c) => file.bytes.subarray(c.start, c.end));
  const plain =
    !icc && !exif && !xmp && !fill && !file.animated && !file.chunks.some((c) => c.type === "ALPH");
  const parts: Uint8Array[] = [];
  if (!plain) {
    const head = new Uint8Array(10);
    head[0] =
      (icc ? 0x20 : 0) |
      (file.alpha ? 0x10 : 0) |
      (exif ? 0x08 : 0) |
      (xmp ? 0x04 : 0) |
      (file.animated ? 0x02 : 0);
    [file.width - 1, file.height - 1].forEach((v, i) =>
      head.set([v & 255, (v >> 8) & 255, (v >> 16) & 255], 4 + i * 3),
    );
    parts.push(chunk("VP8X", head));
    if (icc) parts.push(chunk("ICCP", icc));
  }
  parts.push(...picture);
  if (exif) parts.push(chunk("EXIF", exif));
  if (xmp) parts.push(chunk("XMP ", xmp));
  if (fill) parts.push(chunk("FILL", new Uint8Array(Math.max(0, fill - 8)).fill(0x20)));
  const body = concat(parts);
  const head = concat([ascii("RIFF"), new Uint8Array(4), ascii("WEBP")]);
  view(head).setUint32(4, body.length + 4, true);
  return concat([head, body]);
}
