/**
 * Dot screens of printed art: a strong, regular pattern at one period in two directions. Scaled like a photo
 * it beats
 * with the new pixels (moiré). Found in the spectrum of a square tile (Cooley and Tukey, 1965, for the
 * transform).
 */

import { trimNumber } from "../../units";

/** Side of a tile in px; a power of two. */
export const TILE = 256;

const HALF_TURN = Float64Array.from({ length: TILE }, (_, k) => (-2 * Math.PI * k) / TILE);
const COS = HALF_TURN.map(Math.cos);
const SIN = HALF_TURN.map(Math.sin);

/** In place: the discrete Fourier transform of TILE complex values from `at` on, `step` apart. */
function transform(re: Float64Array, im: Float64Array, at: number, step: number): void {
  const n = TILE;
  for (let i = 1, j = 0; i < n; i += 1) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      const a = at + i * step;
      const b = at + j * step;
      const [r, m] = [re[a], im[a]];
      re[a] = re[b];
      im[a] = im[b];
      re[b] = r;
      im[b] = m;
    }
  }
  for (let size = 2; size <= n; size *= 2) {
    for (let start = 0; start < n; start += size) {
      for (let k = 0; k < size / 2; k += 1) {
        const wr = COS[k * (TILE / size)];
        const wi = SIN[k * (TILE / size)];
        const a = at + (start + k) * step;
        const b = a + (size / 2) * step;
        const tr = re[b] * wr - im[b] * wi;
        const ti = re[b] * wi + im[b] * wr;
        re[b] = re[a] - tr;
        im[b] = im[a] - ti;
        re[a] += tr;
        im[a] += ti;
      }
    }
  }
}

interface Peak {
  u: number;
  v: number;
  power: number;
}

/** Cycles in a tile below which structure is that of the picture. */
const COARSE = TILE / 24;
/**
 * How far a peak of a screen stands above what is usual at its distance from the middle; texture stays below
 * a tenth of it.
 */
const STANDS_OUT = 400;
/** Share of all fine contrast that the two strongest peaks hold. */
const SHARE = 0.2;

/**
 * The period of a dot screen in px; null where there is none. `grey` holds TILE × TILE values, row after row.
 * Stripes alone (ruled paper, fabric in one direction) do not count: they have one direction only.
 */
export function dotScreenPeriod(grey: ArrayLike<number>): number | null {
  const re = new Float64Array(TILE * TILE);
  const im = new Float64Array(TILE * TILE);
  let mean = 0;
  for (let i = 0; i < re.length; i += 1) mean += grey[i] / re.length;
  // A soft window, so that the edges of the tile are no pattern of their own (Hann).
  const hann = Float64Array.from(
    { length: TILE },
    (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / TILE),
  );
  for (let y = 0, i = 0; y < TILE; y += 1)
    for (let x = 0; x < TILE; x += 1, i += 1) re[i] = (grey[i] - mean) * hann[x] * hann[y];
  for (let y = 0; y < TILE; y += 1) transform(re, im, y * TILE, 1);
  for (let x = 0; x < TILE; x += 1) transform(re, im, x, TILE);
  const half = TILE / 2;
  const rings: number[][] = Array.from({ length: half + 1 }, () => []);
  const peaks: Peak[] = [];
  let fine = 0;
  const power = (u: number, v: number) => {
    const i = ((v + TILE) % TILE) * TILE + ((u + TILE) % TILE);
    return re[i] * re[i] + im[i] * im[i];
  };
  for (let v = 0; v < half; v += 1) {
    for (let u = -half + 1; u < half; u += 1) {
      const r = Math.hypot(u, v);
      if (r < COARSE || r > half || (v === 0 && u < 0)) continue;
      const p = power(u, v);
      fine += p;
      rings[Math.floor(r)].push(p);
      if (p >= Math.max(power(u - 1, v), power(u + 1, v), power(u, v - 1), power(u, v + 1)))
        peaks.push({ u, v, power: p });
    }
  }
  peaks.sort((a, b) => b.power - a.power);
  const [first] = peaks;
  if (!first || fine === 0) return null;
  const usual = (p: Peak) => {
    const ring = rings[Math.floor(Math.hypot(p.u, p.v))].sort((a, b) => a - b);
    return ring[Math.floor(ring.length / 2)] + fine * 1e-9;
  };
  const second = peaks.slice(1, 12).find((p) => acrossFrom(first, p) && p.power > first.power * 0.15);
  if (!second) return null;
  const around = (p: Peak) => {
    let sum = 0;
    for (let dv = -2; dv <= 2; dv += 1) for (let du = -2; du <= 2; du += 1) sum += power(p.u + du, p.v + dv);
    return sum;
  };
  const strong = [first, second].every((p) => p.power > usual(p) * STANDS_OUT);
  if (!strong || around(first) + around(second) < fine * SHARE) return null;
  return TILE / ((Math.hypot(first.u, first.v) + Math.hypot(second.u, second.v)) / 2);
}

/** Of about the same period, and at 50 to 90 degrees to it. */
function acrossFrom(a: Peak, b: Peak): boolean {
  const [ra, rb] = [Math.hypot(a.u, a.v), Math.hypot(b.u, b.v)];
  const cos = Math.abs(a.u * b.u + a.v * b.v) / (ra * rb);
  return Math.abs(ra / rb - 1) < 0.15 && cos < 0.65;
}

/**
 * Scales below 1 at which a period becomes whole pixels, the largest first: 6 px gives 5/6, 4/6, 3/6 … down
 * to 2 px.
 */
export function wholeScales(period: number): number[] {
  const out: number[] = [];
  for (let px = Math.ceil(period) - 1; px >= 2; px -= 1) out.push(px / period);
  return out;
}

/**
 * Whether a period ends beside whole pixels at a scale: within a twentieth of a pixel it stays whole. Dots
 * below 2 px are gone anyway.
 */
export function beatsWith(period: number, scale: number): boolean {
  const px = period * scale;
  return scale < 1 && px >= 1 && Math.abs(px - Math.round(px)) > 0.05;
}

/** One sentence: what was seen, what it does, what to do. */
export function dotScreenWords(period: number): string {
  const scales = wholeScales(period)
    .slice(0, 3)
    .map((scale) => `${trimNumber(scale * 100, 1)} %`);
  const ways = scales.length ? ` At ${scales.join(", ")} of its pixels the dots stay whole.` : "";
  return (
    `A regular pattern of about ${trimNumber(period, 1)} px is in this photo, as of a dot screen: ` +
    `resized like this it can show moiré.${ways}`
  );
}
