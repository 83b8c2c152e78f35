/**
 * BMP, read and written. Source: the published description of BITMAPFILEHEADER and BITMAPINFOHEADER (1990
 * and later); values from memory.
 */
import { startsWith, view } from "./bytes";
import { ContainerError } from "./error";

export interface BmpFile {
  bytes: Uint8Array;
  width: number;
  height: number;
  /** Bits of one pixel: 1, 4, 8, 16, 24 or 32. */
  depth: number;
  /** Pixels per inch as [x, y]; null where none is recorded. */
  resolution: [number, number] | null;
  topDown: boolean;
  pixels: number;
  palette: Uint8Array;
  masks: readonly [number, number, number];
}

const METRE = 0.0254;

/**
 * Throws {@link ContainerError}; packed (RLE) pictures and those of the oldest header are refused by name.
 */
export function readBmp(bytes: Uint8Array): BmpFile {
  if (!startsWith(bytes, "BM") || bytes.length < 54)
    throw new ContainerError("The BMP is cut short. Bring in the whole file.");
  const data = view(bytes);
  const header = data.getUint32(14, true);
  if (header < 40)
    throw new ContainerError(
      "This BMP has a header of an older kind, which cannot be read. Save it as PNG first.",
    );
  const [width, signed] = [data.getInt32(18, true), data.getInt32(22, true)];
  const height = Math.abs(signed);
  const depth = data.getUint16(28, true);
  const packing = data.getUint32(30, true);
  if (![1, 4, 8, 16, 24, 32].includes(depth) || (packing !== 0 && packing !== 3)) {
    throw new ContainerError("This BMP is packed in a way that cannot be read. Save it as PNG first.");
  }
  const pixels = data.getUint32(10, true);
  const colours = depth <= 8 ? data.getUint32(46, true) || 1 << depth : 0;
  const table = 14 + header + (packing === 3 && header === 40 ? 12 : 0);
  const masks: [number, number, number] =
    packing === 3
      ? ([54, 58, 62].map((at) => data.getUint32(at, true)) as [number, number, number])
      : depth === 16
        ? [0x7c00, 0x3e0, 0x1f]
        : [0xff0000, 0xff00, 0xff];
  if (width < 1 || height < 1 || pixels + rowBytes(width, depth) * height > bytes.length)
    throw new ContainerError("The BMP ends before its last row: it is cut short. Bring in the whole file.");
  const [x, y] = [data.getInt32(38, true), data.getInt32(42, true)];
  return {
    bytes,
    width,
    height,
    depth,
    topDown: signed < 0,
    pixels,
    masks,
    palette: bytes.subarray(table, table + Math.min(256, colours) * 4),
    resolution: x > 0 && y > 0 ? [x * METRE, y * METRE] : null,
  };
}

const rowBytes = (width: number, depth: number) => Math.ceil((width * depth) / 32) * 4;

/** RGB, 8 bits, interleaved, from the top row down. */
export function decodeBmp(file: BmpFile): Uint8Array {
  const { bytes, width, height, depth, palette } = file;
  const data = view(bytes);
  const out = new Uint8Array(width * height * 3);
  const stride = rowBytes(width, depth);
  const channels = file.masks
    .map((mask) => ({ mask, shift: mask ? 31 - Math.clz32(mask & -mask) : 0 }))
    .map(({ mask, shift }) => ({ mask, shift, top: mask >>> shift || 1 }));
  for (let y = 0, o = 0; y < height; y += 1) {
    const row = file.pixels + (file.topDown ? y : height - 1 - y) * stride;
    for (let x = 0; x < width; x += 1, o += 3) {
      if (depth === 24) {
        const p = row + x * 3;
        out[o] = bytes[p + 2];
        out[o + 1] = bytes[p + 1];
        out[o + 2] = bytes[p];
      } else if (depth > 8) {
        const value = depth === 16 ? data.getUint16(row + x * 2, true) : data.getUint32(row + x * 4, true);
        for (let c = 0; c < 3; c += 1)
          out[o + c] = Math.round(
            (((value & channels[c].mask) >>> channels[c].shift) / channels[c].top) * 255,
          );
      } else {
        const at = x * depth;
        const index = (bytes[row + (at >> 3)] >> (8 - depth - (at & 7))) & ((1 << depth) - 1);
        for (let c = 0; c < 3; c += 1) out[o + c] = palette[index * 4 + 2 - c] ?? 0;
      }
    }
  }
  return out;
}

/** A BMP of 24 bits a pixel from interleaved RGB rows, top row first. */
export function writeBmp(rgb: Uint8Array, width: number, height: number): Uint8Array {
  const stride = rowBytes(width, 24);
  const out = new Uint8Array(54 + stride * height);
  const data = view(out);
  out.set([0x42, 0x4d]);
  data.setUint32(2, out.length, true);
  data.setUint32(10, 54, true);
  data.setUint32(14, 40, true);
  data.setInt32(18, width, true);
  data.setInt32(22, height, true);
  data.setUint16(26, 1, true);
  data.setUint16(28, 24, true);
  data.setUint32(34, stride * height, true);
  for (let y = 0; y < height; y += 1) {
    let p = 54 + (height - 1 - y) * stride;
    for (let x = 0, i = y * width * 3; x < width; x += 1, i += 3, p += 3) {
      out[p] = rgb[i + 2];
      out[p + 1] = rgb[i + 1];
      out[p + 2] = rgb[i];
    }
  }
  return out;
}

/** The file with another resolution (null: none), filled up behind the picture to at least `target` bytes. */
export function rebuildBmp(bytes: Uint8Array, ppi: number | null, target = 0): Uint8Array {
  const out = new Uint8Array(Math.max(bytes.length, target));
  out.set(bytes);
  const data = view(out);
  const perMetre = ppi === null ? 0 : Math.round(ppi / METRE);
  data.setUint32(2, out.length, true);
  data.setInt32(38, perMetre, true);
  data.setInt32(42, perMetre, true);
  return out;
}
