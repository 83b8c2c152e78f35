/**
 * PNG with a table of colours: exactly those that are there, or fewer. Source: PNG third edition, 11.2.2 PLTE,
 * 11.3.1.1 tRNS, 7.2 packing.
 */
import { deflateSync } from "node:zlib";
import { type Indexed, indexed } from "@/core/coding";
import { ascii, chunk, concat, view } from "@/core/containers";
import type { Planned } from "@/core/pixels/develop";

const SIGNATURE = concat([new Uint8Array([0x89]), ascii("PNG\r\n\x1a\n")]);

/**
 * Null where the picture has more than 256 colours or more than 8 bits, and for grey, which has a kind of
 * its own.
 */
export function exactPng({ data, width, height, channels }: Planned): Uint8Array | null {
  if (!(data instanceof Uint8Array) || channels < 3) return null;
  const found = new Map<number, number>();
  const indices = new Uint8Array(width * height);
  for (let i = 0, p = 0; i < indices.length; i += 1, p += channels) {
    const alpha = channels === 4 ? data[p + 3] : 255;
    const code = ((data[p] << 24) | (data[p + 1] << 16) | (data[p + 2] << 8) | alpha) >>> 0;
    let index = found.get(code);
    if (index === undefined) {
      if (found.size === 256) return null;
      index = found.size;
      found.set(code, index);
    }
    indices[i] = index;
  }
  const palette = [...found.keys()].flatMap((code) => [
    code >>> 24,
    (code >>> 16) & 255,
    (code >>> 8) & 255,
    code & 255,
  ]);
  return writePng({ indices, palette: Uint8Array.from(palette) }, width, height);
}

/** With at most so many colours. */
export function fewerColours(pixels: Planned, colours: number): Uint8Array {
  const rgba = asRgb(pixels);
  return writePng(indexed(rgba, { colours, dither: "diffuse", hardAlpha: false }), rgba.width, rgba.height);
}

/** 8 bits of red, green and blue, and of alpha where there is some. */
export function asRgb({ data, width, height, channels }: Planned) {
  const codes = data instanceof Uint16Array ? Uint8Array.from(data, (code) => Math.round(code / 257)) : data;
  if (channels >= 3) return { data: codes, width, height, channels };
  const out = new Uint8Array(width * height * (channels + 2));
  for (let p = 0, o = 0; p < codes.length; p += channels, o += channels + 2) {
    out.fill(codes[p], o, o + 3);
    if (channels === 2) out[o + 3] = codes[p + 1];
  }
  return { data: out, width, height, channels: channels + 2 };
}

function writePng({ indices, palette }: Indexed, width: number, height: number): Uint8Array {
  const alphaOf = (k: number) => palette[k * 4 + 3];
  // Colours that let something through come first, so that the table of their alphas is short.
  const order = Array.from({ length: palette.length / 4 }, (_, was) => was).sort(
    (a, b) => Number(alphaOf(a) === 255) - Number(alphaOf(b) === 255),
  );
  const place = new Uint8Array(order.length);
  order.forEach((was, now) => (place[was] = now));
  const bits = order.length <= 2 ? 1 : order.length <= 4 ? 2 : order.length <= 16 ? 4 : 8;
  const stride = Math.ceil((width * bits) / 8);
  const rows = new Uint8Array((stride + 1) * height);
  for (let y = 0, i = 0; y < height; y += 1) {
    const row = y * (stride + 1) + 1;
    for (let x = 0; x < width; x += 1, i += 1)
      rows[row + ((x * bits) >> 3)] |= place[indices[i]] << (8 - bits - ((x * bits) & 7));
  }
  const head = new Uint8Array(13);
  view(head).setUint32(0, width);
  view(head).setUint32(4, height);
  head.set([bits, 3, 0, 0, 0], 8);
  const table = Uint8Array.from(order.flatMap((k) => [...palette.subarray(k * 4, k * 4 + 3)]));
  const alphas = order.map(alphaOf).filter((a) => a < 255);
  const parts = [SIGNATURE, chunk("IHDR", head), chunk("PLTE", table)];
  if (alphas.length) parts.push(chunk("tRNS", Uint8Array.from(alphas)));
  parts.push(chunk("IDAT", deflateSync(rows, { level: 9, memLevel: 9 })), chunk("IEND", new Uint8Array(0)));
  return concat(parts);
}
