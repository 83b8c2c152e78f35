/** A finished picture as it is seen at another size: reduced in linear light, enlarged smoothly as viewers do. */
import type { KernelName, Size } from "../../photo";
import { encodeWith, encodingTable, linearTable, type RgbSpace, SPACES } from "../colour";
import type { ByteRows } from "./from-bytes";
import { DEFAULT_REDUCING } from "./kernels";
import { type FloatImage, type RowReader, resample } from "./resample";
import { LANES } from "./rows";
import { axis } from "./weights";

/** Code values, interleaved, upright: 1 grey, 2 grey and alpha, 3 RGB, 4 RGB and alpha. */
interface Codes {
  data: Uint8Array | Uint8ClampedArray | Uint16Array;
  width: number;
  height: number;
  channels: number;
  space?: RgbSpace;
  top?: number;
}

/** The interpolation that viewers most often use: through the samples, over four by four of them. */
const ENLARGING: KernelName = "catmull-rom";

/**
 * Centres stay where they are: libvips 8.18 moves a picture by half a pixel of the result when it enlarges,
 * which is as visible as a coarse encoding.
 */
export function seenAt<P extends Codes>(picture: P, { width, height }: Size): P {
  if (picture.width === width && picture.height === height) return picture;
  const reduces = width < picture.width || height < picture.height;
  const tables = tablesOf(picture, reduces);
  const kernel = reduces ? DEFAULT_REDUCING : ENLARGING;
  const image = resample(
    rowsOf(picture, tables.into),
    picture.width,
    axis(picture.width, 0, picture.width, width, kernel),
    axis(picture.height, 0, picture.height, height, kernel),
  );
  return { ...picture, data: codesOf(image, picture, tables.back), width, height };
}

interface Tables {
  /** From codes to what is averaged, one a colour. */
  into: Float32Array[];
  /** Back to code values from 0 to 1; null where they are what is averaged. */
  back: Float32Array[] | null;
}

const topOf = ({ data, top }: Codes): number => top ?? (data instanceof Uint16Array ? 65_535 : 255);
const hasAlpha = (channels: number): boolean => channels === 2 || channels === 4;

function tablesOf(picture: Codes, linear: boolean): Tables {
  const codes = picture.data instanceof Uint16Array ? 65_536 : 256;
  const top = topOf(picture);
  if (!linear) {
    const plain = Float32Array.from({ length: codes }, (_, i) => i / top);
    return { into: [plain, plain, plain], back: null };
  }
  const { curves } = picture.space ?? SPACES.srgb;
  return {
    into: curves.map((curve) => linearTable(curve, codes, top)),
    back: curves.map((curve) => encodingTable(curve)),
  };
}

function rowsOf({ data, width, channels, ...rest }: Codes, into: Float32Array[]): RowReader | ByteRows {
  if (channels === 3 && data instanceof Uint8Array) return { data, tables: into };
  const alpha = hasAlpha(channels);
  const colours = channels - (alpha ? 1 : 0);
  const top = topOf({ data, width, channels, ...rest });
  return (y, row) => {
    for (let x = 0, i = 0, p = y * width * channels; x < width; x += 1, i += LANES, p += channels) {
      const a = alpha ? data[p + colours] / top : 1;
      for (let c = 0; c < colours; c += 1) row[i + c] = into[c][data[p + c]] * a;
      row[i + 3] = a;
    }
  };
}

function codesOf(
  { data: from }: FloatImage,
  picture: Codes,
  back: Float32Array[] | null,
): Uint8Array | Uint16Array {
  const { channels } = picture;
  const top = topOf(picture);
  const alpha = hasAlpha(channels);
  const colours = channels - (alpha ? 1 : 0);
  const length = (from.length / LANES) * channels;
  const out = picture.data instanceof Uint16Array ? new Uint16Array(length) : new Uint8Array(length);
  const code = (value: number) => Math.min(top, Math.max(0, value * top)) + 0.5;
  for (let i = 0, o = 0; i < from.length; i += LANES, o += channels) {
    const a = alpha ? from[i + 3] : 1;
    for (let c = 0; c < colours; c += 1) {
      const value = a > 0 ? from[i + c] / a : 0;
      out[o + c] = code(back ? encodeWith(back[c], value) : value);
    }
    if (alpha) out[o + colours] = code(a);
  }
  return out;
}
