/** What a camera adds: soft focus away from the plane, vignette, tone curve, grain. */
import { clamp01, random, smooth } from "./noise";

/** Linear light, three floats a pixel. */
export class Picture {
  readonly data: Float32Array;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.data = new Float32Array(width * height * 3);
  }

  /** Fills every pixel; `paint` writes into `out`. */
  each(paint: (x: number, y: number, out: Float32Array) => void): this {
    const out = new Float32Array(3);
    for (let y = 0, p = 0; y < this.height; y += 1) {
      for (let x = 0; x < this.width; x += 1, p += 3) {
        paint(x, y, out);
        this.data[p] = out[0];
        this.data[p + 1] = out[1];
        this.data[p + 2] = out[2];
      }
    }
    return this;
  }
}

/** One pass of a running mean along rows, written transposed, so that two passes blur both ways. */
function meanTransposed(from: Float32Array, width: number, height: number, radius: number): Float32Array {
  const to = new Float32Array(from.length);
  const scale = 1 / (2 * radius + 1);
  const line = new Float32Array(width + 2 * radius + 2);
  for (let y = 0; y < height; y += 1) {
    for (let c = 0; c < 3; c += 1) {
      const start = y * width * 3 + c;
      for (let x = 0; x < line.length; x += 1) {
        const at = x - radius - 1;
        line[x] = from[start + (at < 0 ? 0 : at >= width ? width - 1 : at) * 3];
      }
      let sum = 0;
      for (let x = 0; x < 2 * radius + 1; x += 1) sum += line[x];
      for (let x = 0, o = y * 3 + c; x < width; x += 1, o += height * 3) {
        sum += line[x + 2 * radius + 1] - line[x];
        to[o] = sum * scale;
      }
    }
  }
  return to;
}

function blurred(picture: Picture, radius: number): Float32Array {
  let data = picture.data;
  for (let pass = 0; pass < 2; pass += 1) {
    data = meanTransposed(data, picture.width, picture.height, radius);
    data = meanTransposed(data, picture.height, picture.width, radius);
  }
  return data;
}

/**
 * Blends towards a blurred picture where `share(x, y)` (0 to 1, positions 0 to 1) says it is out of focus.
 */
export function defocus(picture: Picture, radius: number, share: (x: number, y: number) => number): void {
  if (radius < 1) return;
  const soft = blurred(picture, Math.round(radius));
  const { width, height, data } = picture;
  for (let y = 0, p = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, p += 3) {
      const t = clamp01(share(x / width, y / height));
      if (t === 0) continue;
      data[p] += (soft[p] - data[p]) * t;
      data[p + 1] += (soft[p + 1] - data[p + 1]) * t;
      data[p + 2] += (soft[p + 2] - data[p + 2]) * t;
    }
  }
}

const CURVE = Float32Array.from({ length: 4097 }, (_, i) => {
  const v = i / 4096;
  const s = v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055;
  // A gentle S: deeper shadows, a soft shoulder.
  return s * 0.86 + smooth(0, 1, s) * 0.14;
});

export interface Film {
  seed: number;
  /** Standard deviation of the grain at middle grey, in 8-bit levels. */
  grain: number;
  vignette: number;
}

/** Developed samples, 0 to 1, interleaved RGB; `levels` is 255 or 65535. */
export function develop(picture: Picture, film: Film, levels: 255 | 65535): Uint8Array | Uint16Array {
  const { width, height, data } = picture;
  const out = levels === 255 ? new Uint8Array(data.length) : new Uint16Array(data.length);
  const next = random(film.seed);
  // Gaussian grain from a table: drawing each sample anew would cost more than the picture.
  const table = Float32Array.from({ length: 65536 }, () => (next() + next() + next() + next() - 2) * 1.73);
  for (let y = 0, p = 0; y < height; y += 1) {
    const dy = (y / height - 0.5) * 2;
    let g = Math.floor(next() * 65536);
    for (let x = 0; x < width; x += 1, p += 3) {
      const dx = (x / width - 0.5) * 2;
      const fall = 1 - film.vignette * (dx * dx + dy * dy) * 0.5;
      const common = table[(g += 1) & 65535];
      for (let c = 0; c < 3; c += 1) {
        const v = data[p + c] * fall;
        const s = CURVE[v >= 1 ? 4096 : v <= 0 ? 0 : Math.round(v * 4096)];
        const noise =
          (common * 0.75 + table[(g * 3 + c * 1021 + 77) & 65535] * 0.6) *
          film.grain *
          (0.45 + 0.9 * Math.sqrt(s) * (1 - s * 0.5));
        const value = s + noise / 255;
        out[p + c] = value <= 0 ? 0 : value >= 1 ? levels : value * levels + 0.5;
      }
    }
  }
  return out;
}
