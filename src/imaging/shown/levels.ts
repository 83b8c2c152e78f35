/** Pictures for the screen at several scales, and regions of them. */
import sharp from "sharp";

/** RGB or RGBA of 8 bits, or PQ signals of 16. */
export interface Level {
  data: Uint8Array | Uint16Array;
  width: number;
  height: number;
  channels: 3 | 4;
}

/** `top`: the code of white where it is not the highest. */
export function eightBits({
  data,
  width,
  height,
  channels,
  top,
}: {
  data: Uint8Array | Uint8ClampedArray | Uint16Array;
  width: number;
  height: number;
  channels: number;
  top?: number;
}): Level {
  const out = channels % 2 === 0 ? 4 : 3;
  if (data instanceof Uint8Array && channels === out) return { data, width, height, channels: out };
  const scale = data instanceof Uint16Array ? 255 / (top ?? 65_535) : 1;
  const bytes = new Uint8ClampedArray(width * height * out);
  for (let p = 0, o = 0; p < data.length; p += channels, o += out) {
    for (let c = 0; c < 3; c += 1) bytes[o + c] = data[p + (channels < 3 ? 0 : c)] * scale;
    if (out === 4) bytes[o + 3] = data[p + channels - 1] * scale;
  }
  return { data: new Uint8Array(bytes.buffer), width, height, channels: out };
}

/** PQ signals whose highest code is 65,535. */
export function lightLevel({
  data,
  width,
  height,
  channels,
  top = 65_535,
}: {
  data: Uint16Array;
  width: number;
  height: number;
  channels: number;
  top?: number;
}): Level {
  if (channels === 3 && top === 65_535) return { data, width, height, channels: 3 };
  const out = new Uint16Array(width * height * 3);
  const scale = 65_535 / top;
  for (let p = 0, o = 0; o < out.length; p += channels, o += 3)
    for (let c = 0; c < 3; c += 1) out[o + c] = Math.min(65_535, Math.round(data[p + c] * scale));
  return { data: out, width, height, channels: 3 };
}

/** Each level is made when it is first asked for. */
function level(levels: Promise<Level>[], k: number): Promise<Level> {
  for (let i = levels.length; i <= k; i += 1) levels.push(levels[i - 1].then(halved));
  return levels[k];
}

async function halved({ data, width, height, channels }: Level): Promise<Level> {
  const [w, h] = [Math.max(1, Math.ceil(width / 2)), Math.max(1, Math.ceil(height / 2))];
  const deep = data instanceof Uint16Array;
  const image = sharp(data, { raw: { width, height, channels }, limitInputPixels: false });
  const { data: out } = await (deep ? image.toColourspace("rgb16") : image)
    .resize(w, h, { fit: "fill", kernel: "linear" })
    .raw({ depth: deep ? "ushort" : "uchar" })
    .toBuffer({ resolveWithObject: true });
  return {
    data: deep ? new Uint16Array(out.buffer, out.byteOffset, out.length / 2) : out,
    width: w,
    height: h,
    channels,
  };
}

export interface Region {
  /** Halvings. */
  level: number;
  /** In pixels of that level. */
  x: number;
  y: number;
  side: number;
}

/**
 * A square of RGBA, as deep as the picture, smaller at the right and lower edge. Null where it lies outside.
 * `levels`: the same picture at full size, half, quarter …; at least the first.
 */
export async function regionOf(
  levels: Promise<Level>[],
  { level: k, x, y, side }: Region,
): Promise<{ data: Uint8Array | Uint16Array; width: number; height: number } | null> {
  const { data, width, height, channels } = await level(levels, k);
  const [w, h] = [Math.min(side, width - x), Math.min(side, height - y)];
  if (w <= 0 || h <= 0) return null;
  const deep = data instanceof Uint16Array;
  const out = deep ? new Uint16Array(w * h * 4) : new Uint8Array(w * h * 4);
  const opaque = deep ? 65_535 : 255;
  for (let row = 0; row < h; row += 1) {
    for (
      let p = ((y + row) * width + x) * channels, o = row * w * 4, end = o + w * 4;
      o < end;
      p += channels, o += 4
    ) {
      out[o] = data[p];
      out[o + 1] = data[p + 1];
      out[o + 2] = data[p + 2];
      out[o + 3] = channels === 4 ? data[p + 3] : opaque;
    }
  }
  return { data: out, width: w, height: h };
}
