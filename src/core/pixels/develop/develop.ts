/**
 * From decoded samples to the planned picture: colours, frame, pixels, sharpening, bits, in this order.
 * Resizing is done in linear light with premultiplied alpha; enlarging in even steps to the eye, so that
 * edges stay
 * where they are. The conversion of colours is a matrix on linear light, so it gives the same before and
 * after reducing
 * and is done where there are fewer pixels.
 */

import {
  isMirrored,
  type KernelName,
  orientPixels,
  type Rect,
  type Size,
  toStored,
  uprightSize,
} from "../../photo";
import {
  between,
  type ConversionReport,
  encodeWith,
  encodingTable,
  isIdentity,
  linearTable,
  type Matrix,
  type RgbSpace,
  reportConversion,
  SPACES,
  SRGB_CURVE,
  sameCurve,
  scaledSpace,
} from "../colour";
import { compressor, type Expansion, expandLights } from "../light";
import {
  axis,
  type ByteRows,
  DEFAULT_ENLARGING,
  DEFAULT_REDUCING,
  type FloatImage,
  LANES,
  type RowReader,
  resample,
  resampleBytes,
  type Sharpening,
  sampleTurned,
  sharpen,
} from "../resample";
import { isPixelArt } from "./art";
import { finish, type Planned } from "./finish";
import type { Samples } from "./samples";

export interface Development {
  /** The photo's own space; for grey photos three times the grey curve. */
  from: RgbSpace;
  to: RgbSpace | "gray";
  /**
   * Multiples of white that the highest code of the samples stands for, and that the picture really reaches;
   * 1 for ordinary pictures.
   */
  peak?: number;
  reach?: number;
  /**
   * Lights that are taken above white, where the destination has room for them and the photo has none of its
   * own.
   */
  expand?: Expansion | null;
  /** EXIF orientation with the quarter turns that were asked. */
  orientation: number;
  /** Upright size of the whole photo in its own pixels. */
  photo: Size;
  /** The part of the stored photo that the samples show, and how many there are for each of its pixels. */
  shown: Rect;
  density: readonly [number, number];
  /**
   * The part that is used, upright, in the photo's own pixels, not rounded, before it is turned by `angle`
   * degrees about its centre.
   */
  crop: Rect;
  angle: number;
  /** Pixels that the part becomes. */
  size: Size;
  /** Null chooses by itself. */
  kernel: KernelName | null;
  sharpen: Sharpening | null;
  /** For the radius of sharpening. */
  ppi: number | null;
  bits: 8 | 16;
  /** Code values (0 to 1) of the destination that transparency is laid on; null keeps transparency. */
  under: readonly number[] | null;
  /** Nothing is cut, resized or sharpened: where the colours stay too, the code values are only handed on. */
  plain: boolean;
}

export interface Developed extends Planned {
  /** Null where nothing was resized. */
  kernel: KernelName | null;
  /** Null where no colours were converted. */
  conversion: ConversionReport | null;
}

/** About so many pixels are in the report on colours; more do not change its first two digits. */
const REPORTED = 5_000;
/** Up to this many pixels a straightened picture is sampled twice as densely and then reduced. */
const DENSE_PIXELS = 8_000_000;

export function develop(samples: Samples, plan: Development): Developed {
  return new Developing(samples, plan).run();
}

/** Whether nothing is done to the samples but turning them: the answer is then cheap, and the codes stay. */
export function handsOn(samples: Samples, plan: Development): boolean {
  return plan.plain && new Developing(samples, plan).handsOn();
}

class Developing {
  private readonly colours: number;
  private readonly alpha: boolean;
  private readonly matrix: Matrix | null;
  /** Brings light above white under it, row by row; null where there is none, or where it stays. */
  private readonly compress: ((row: Float32Array) => void) | null;
  private readonly expand: Expansion | null;
  private readonly tables: Float32Array[];
  private reported: number[] = [];

  constructor(
    private readonly samples: Samples,
    private readonly plan: Development,
  ) {
    this.colours = samples.channels < 3 ? 1 : 3;
    this.alpha = samples.channels === 2 || samples.channels === 4;
    const codes = samples.data instanceof Uint16Array ? 65_536 : 256;
    this.tables = Array.from({ length: this.colours }, (_, c) =>
      linearTable(plan.from.curves[c], codes, samples.top),
    );
    const bright = plan.to !== "gray" && plan.to.white !== undefined;
    const [peak, reach] = [plan.peak ?? 1, plan.reach ?? 1];
    this.compress =
      !bright && (peak !== 1 || reach > 1) && this.colours === 3 ? compressor(peak, reach) : null;
    this.expand =
      bright && reach <= 1.001 && plan.expand && this.colours === 3 && !this.alpha ? plan.expand : null;
    const matrix =
      plan.to === "gray" ? null : between(bright ? scaledSpace(plan.from, peak) : plan.from, plan.to);
    this.matrix = this.colours === 1 || (matrix && isIdentity(matrix)) ? null : matrix;
  }

  run(): Developed {
    const { samples, plan } = this;
    if (this.handsOn()) return this.handOn();
    const part = toStored(plan.crop, uprightSize(plan.photo, plan.orientation), plan.orientation);
    const [dx, dy] = plan.density;
    const crop = {
      x: (part.x - plan.shown.x) * dx,
      y: (part.y - plan.shown.y) * dy,
      width: part.width * dx,
      height: part.height * dy,
    };
    const size = uprightSize(plan.size, plan.orientation);
    const grows = size.width > crop.width + 1e-6 || size.height > crop.height + 1e-6;
    const usual =
      plan.kernel ?? (grows ? (isPixelArt(samples) ? "nearest" : DEFAULT_ENLARGING) : DEFAULT_REDUCING);
    const still =
      plan.angle === 0 &&
      near(size.width, crop.width) &&
      near(size.height, crop.height) &&
      near(crop.x, Math.round(crop.x)) &&
      near(crop.y, Math.round(crop.y));
    // A kernel that softens would do so where nothing is resized, too.
    const kernel = still ? "nearest" : usual;
    const encoded = !still && grows && plan.angle === 0;
    const rest = () => ({ kernel: still ? null : kernel, conversion: this.report() });
    const data = encoded ? null : this.straightToBytes(crop, size, kernel);
    if (data) {
      const { orientation } = plan;
      const upright = { ...uprightSize(size, orientation), channels: 3 };
      return { data: orientPixels(data, size, 3, orientation), ...upright, ...rest() };
    }
    const image =
      plan.angle === 0 ? this.straight(crop, size, kernel, encoded) : this.turned(crop, size, kernel);
    if (!encoded) this.convert(image.data);
    else if (plan.sharpen || this.expand) this.decode(image);
    if (this.expand) expandLights(image, this.luminance(), (plan.to as RgbSpace).white ?? 1, this.expand);
    if (plan.sharpen) sharpen(image, this.luminance(), plan.sharpen, plan.ppi);
    const done = finish(image, {
      alpha: this.alpha,
      grey: this.colours === 1,
      under: plan.under,
      bits: plan.bits,
      orientation: plan.orientation,
      tables: encoded && !plan.sharpen && !this.expand ? null : this.encoders(),
      colours: plan.to === "gray" ? 1 : 3,
      // Sources of more than 8 bits have steps in between that a coarser scale would turn into bands.
      dither: plan.bits === 8 && samples.data instanceof Uint16Array,
    });
    return { ...done, ...rest() };
  }

  handsOn(): boolean {
    const { samples, plan } = this;
    const bits = samples.data instanceof Uint16Array ? 16 : 8;
    const sameColours =
      plan.to !== "gray" &&
      this.colours === 3 &&
      this.matrix === null &&
      plan.from.curves.every((curve, c) => sameCurve(curve, (plan.to as RgbSpace).curves[c]));
    return (
      plan.plain &&
      !this.compress &&
      !this.expand &&
      sameColours &&
      bits === plan.bits &&
      samples.top === undefined &&
      (!this.alpha || plan.under === null)
    );
  }

  private handOn(): Developed {
    const { data, width, height, channels } = this.samples;
    const { orientation } = this.plan;
    return {
      data: orientPixels(data, { width, height }, channels, orientation),
      channels,
      ...uprightSize({ width, height }, orientation),
      kernel: null,
      conversion: null,
    };
  }

  private straight(crop: Rect, size: Size, kernel: KernelName, encoded: boolean): FloatImage {
    const { samples } = this;
    const x = axis(samples.width, crop.x, crop.width, size.width, kernel);
    const y = axis(samples.height, crop.y, crop.height, size.height, kernel);
    const ringless = encoded && this.plan.kernel === null;
    return resample(encoded ? this.readEncoded() : this.linearRows(), samples.width, x, y, {
      clamp: ringless,
    });
  }

  /** The usual case in one go: RGB of 8 bits into RGB of 8 bits. Null where anything else is wanted. */
  private straightToBytes(crop: Rect, size: Size, kernel: KernelName): Uint8Array | null {
    const { samples, plan } = this;
    const rows = this.linearRows();
    if (typeof rows === "function" || plan.angle !== 0 || plan.sharpen || this.expand || plan.to === "gray")
      return null;
    const x = axis(samples.width, crop.x, crop.width, size.width, kernel);
    const y = axis(samples.height, crop.y, crop.height, size.height, kernel);
    const taken = Math.ceil(REPORTED / size.height);
    return resampleBytes(
      rows,
      { width: samples.width, x, y },
      {
        matrix: this.matrix ?? IDENTITY,
        tables: this.encoders(),
        look: (row) => this.remember(row, taken),
      },
    );
  }

  /**
   * Straightening: the part's surroundings, reduced to twice what is needed, sampled along its own axes,
   * then reduced.
   */
  private turned(crop: Rect, size: Size, kernel: KernelName): FloatImage {
    const { samples, plan } = this;
    // In a mirror turns go the other way.
    const angle = (isMirrored(plan.orientation) ? -1 : 1) * plan.angle * (Math.PI / 180);
    const [cos, sin] = [Math.abs(Math.cos(angle)), Math.abs(Math.sin(angle))];
    const [cx, cy] = [crop.x + crop.width / 2, crop.y + crop.height / 2];
    const [hw, hh] = [
      (crop.width * cos + crop.height * sin) / 2 + 4,
      (crop.width * sin + crop.height * cos) / 2 + 4,
    ];
    const left = Math.max(0, Math.floor(cx - hw));
    const top = Math.max(0, Math.floor(cy - hh));
    const width = Math.min(samples.width, Math.ceil(cx + hw)) - left;
    const height = Math.min(samples.height, Math.ceil(cy + hh)) - top;
    const density = Math.min(1, (2 * size.width) / crop.width);
    const region = {
      width: Math.max(1, Math.round(width * density)),
      height: Math.max(1, Math.round(height * density)),
    };
    const reduced = this.straight({ x: left, y: top, width, height }, region, DEFAULT_REDUCING, false);
    const [dx, dy] = [region.width / width, region.height / height];
    const twice = size.width < crop.width && size.width * size.height <= DENSE_PIXELS ? 2 : 1;
    const turned = sampleTurned(reduced, {
      x: (cx - left) * dx,
      y: (cy - top) * dy,
      angle,
      step: (crop.width * dx) / (size.width * twice),
      width: size.width * twice,
      height: size.height * twice,
    });
    if (twice === 1) return turned;
    const stride = turned.width * LANES;
    const read: RowReader = (row, out) => out.set(turned.data.subarray(row * stride, (row + 1) * stride));
    const [x, y] = [
      axis(turned.width, 0, turned.width, size.width, kernel),
      axis(turned.height, 0, turned.height, size.height, kernel),
    ];
    return resample(read, turned.width, x, y);
  }

  private linearRows(): RowReader | ByteRows {
    const { data, channels } = this.samples;
    // Where more than 8 bits are wanted of 8, no step of the way may be coarser than those.
    return channels === 3 && data instanceof Uint8Array && !this.compress && this.plan.bits === 8
      ? { data, tables: this.tables }
      : this.readLinear;
  }

  private readonly readLinear: RowReader = (y, row) => {
    const { data, width, channels } = this.samples;
    const { tables, colours, alpha } = this;
    const top = this.samples.top ?? (data instanceof Uint16Array ? 65_535 : 255);
    for (let i = 0, p = y * width * channels; i < row.length; i += LANES, p += channels) {
      const a = alpha ? data[p + colours] / top : 1;
      for (let c = 0; c < colours; c += 1) row[i + c] = tables[c][data[p + c]] * a;
      row[i + ALPHA] = a;
    }
    // Before pixels are put together: beside lights far above white a kernel would leave dark seams.
    this.compress?.(row);
  };

  /** Rows in the destination's code values, 0 to 1, premultiplied. */
  private readEncoded(): RowReader {
    const encoders = this.encoders();
    return (y, row) => {
      this.readLinear(y, row);
      for (let i = 0; this.alpha && i < row.length; i += LANES) {
        const a = row[i + ALPHA];
        if (a > 0) for (let c = 0; c < this.colours; c += 1) row[i + c] /= a;
      }
      this.convert(row, Math.ceil(REPORTED / this.samples.height), false);
      for (let i = 0; i < row.length; i += LANES) {
        for (let c = 0; c < this.colours; c += 1)
          row[i + c] = encodeWith(encoders[c], row[i + c]) * row[i + ALPHA];
      }
    };
  }

  /**
   * Linear light of the source's space to that of the destination. Grey destinations carry the luminance in
   * every channel.
   */
  private convert(data: Float32Array, reported = REPORTED, premultiplied = true): void {
    this.remember(data, reported, premultiplied);
    if (this.colours !== 3) return;
    const m = this.matrix;
    if (this.plan.to === "gray") {
      const [r, g, b] = this.plan.from.toXyz.slice(3, 6);
      for (let i = 0; i < data.length; i += LANES)
        data[i] = data[i + 1] = data[i + 2] = r * data[i] + g * data[i + 1] + b * data[i + 2];
    } else if (m) {
      for (let i = 0; i < data.length; i += LANES) {
        const [r, g, b] = [data[i], data[i + 1], data[i + 2]];
        data[i] = m[0] * r + m[1] * g + m[2] * b;
        data[i + 1] = m[3] * r + m[4] * g + m[5] * b;
        data[i + 2] = m[6] * r + m[7] * g + m[8] * b;
      }
    }
  }

  /** Code values back to linear light of the destination, for sharpening. */
  private decode({ data }: FloatImage): void {
    const tables =
      this.plan.to === "gray"
        ? [linearTable(SRGB_CURVE, 65_536)]
        : this.plan.to.curves.map((curve) => linearTable(curve, 65_536));
    for (let i = 0; i < data.length; i += LANES) {
      const a = this.alpha ? data[i + ALPHA] : 1;
      for (let c = 0; c < this.colours && a > 0; c += 1) {
        const code = Math.min(1, Math.max(0, data[i + c] / a));
        data[i + c] = tables[c % tables.length][Math.round(code * 65_535)] * a;
      }
    }
  }

  private encoders(): Float32Array[] {
    const curves = this.plan.to === "gray" ? [SRGB_CURVE, SRGB_CURVE, SRGB_CURVE] : this.plan.to.curves;
    return curves.map((curve) => encodingTable(curve));
  }

  private luminance(): number[] {
    if (this.colours === 1) return [1];
    const weights = (this.plan.to === "gray" ? SPACES.srgb : this.plan.to).toXyz.slice(3, 6) as number[];
    const sum = weights.reduce((a, b) => a + b);
    return weights.map((weight) => weight / sum);
  }

  /** About so many of the pixels, for the report. */
  private remember(data: Float32Array, most: number, premultiplied = true): void {
    if (this.colours !== 3 || (this.matrix === null && this.plan.to !== "gray")) return;
    const step = Math.max(1, Math.floor(data.length / LANES / most)) * LANES;
    for (let i = 0; i < data.length; i += step) {
      const a = this.alpha && premultiplied ? data[i + ALPHA] : 1;
      if (a > 0.5) this.reported.push(data[i] / a, data[i + 1] / a, data[i + 2] / a);
    }
  }

  private report(): ConversionReport | null {
    // What lies above white falls outside nothing where there is room for it.
    if (!this.reported.length || (this.plan.to !== "gray" && this.plan.to.white !== undefined)) return null;
    return reportConversion(Float32Array.from(this.reported), this.plan.from, this.plan.to);
  }
}

const IDENTITY: Matrix = [1, 0, 0, 0, 1, 0, 0, 0, 1];
/** The lane of a pixel's alpha. */
const ALPHA = LANES - 1;
const near = (a: number, b: number) => Math.abs(a - b) < 1e-6;
