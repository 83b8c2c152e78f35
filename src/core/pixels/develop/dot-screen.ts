/**
 * Dot screens of printed art: a strong, regular pattern at one period in two directions. Scaled like a photo
 * it beats
 * with the new pixels (moiré). Found in the spectrum of a square tile.
 */

import { trimNumber } from "../../units";
import { spectrum, TILE } from "./spectrum";

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

const HALF = TILE / 2;
/** The strongest peaks, among which a screen's two are looked for. */
const LOOKED_AT = 12;

/** Power at a frequency; rows beyond the half mirror those within. */
const powerAt = (powers: Float64Array, u: number, v: number): number =>
  v < 0 || v > HALF
    ? powers[Math.min(Math.abs(v), TILE - v) * TILE + ((TILE - u) & (TILE - 1))]
    : powers[v * TILE + ((u + TILE) & (TILE - 1))];

/** Places of the frequencies of a row that are no coarse structure and mirror no other: from 1 - HALF to HALF. */
function isFine(u: number, v: number): boolean {
  const square = u * u + v * v;
  return square >= COARSE * COARSE && square <= HALF * HALF;
}

const firstOf = (v: number): number => (v === 0 ? 0 : 1 - HALF);

/** All fine power, and its strongest peaks, the strongest first. */
function strongest(powers: Float64Array): { fine: number; peaks: Peak[] } {
  let fine = 0;
  const peaks: Peak[] = [];
  for (let v = 0; v < HALF; v += 1) fine += strongestIn(powers, v, peaks);
  return { fine, peaks };
}

// Rows have functions of their own: code that is entered once a photo would be compiled anew for each.
/** The fine power of a row; its peaks are put among the strongest. */
function strongestIn(powers: Float64Array, v: number, peaks: Peak[]): number {
  let fine = 0;
  for (let u = firstOf(v); u < HALF; u += 1) {
    if (!isFine(u, v)) continue;
    const power = powers[v * TILE + ((u + TILE) & (TILE - 1))];
    fine += power;
    if (peaks.length === LOOKED_AT && power <= peaks[LOOKED_AT - 1].power) continue;
    if (isPeak(powers, u, v, power)) putIn(peaks, { u, v, power });
  }
  return fine;
}

function isPeak(powers: Float64Array, u: number, v: number, power: number): boolean {
  for (const [x, y] of BESIDE) if (powerAt(powers, u + x, v + y) > power) return false;
  return true;
}

function putIn(peaks: Peak[], peak: Peak): void {
  const after = peaks.findIndex(({ power }) => power < peak.power);
  peaks.splice(after < 0 ? peaks.length : after, 0, peak);
  peaks.length = Math.min(peaks.length, LOOKED_AT);
}

const BESIDE = [
  [-1, 0],
  [1, 0],
  [0, -1],
  [0, 1],
];

const distance = ({ u, v }: Pick<Peak, "u" | "v">): number => Math.sqrt(u * u + v * v);

/** The power in the middle of all at a peak's distance. */
function usual(powers: Float64Array, peak: Peak): number {
  const at = Math.floor(distance(peak));
  const ring: number[] = [];
  for (let v = 0; v < HALF; v += 1) ringIn(powers, v, at, ring);
  return ring.sort((a, b) => a - b)[Math.floor(ring.length / 2)];
}

function ringIn(powers: Float64Array, v: number, at: number, ring: number[]): void {
  for (let u = firstOf(v); u < HALF; u += 1)
    if (isFine(u, v) && Math.floor(Math.sqrt(u * u + v * v)) === at)
      ring.push(powers[v * TILE + ((u + TILE) & (TILE - 1))]);
}

/** Power of a peak with what lies close to it. */
function around(powers: Float64Array, { u, v }: Peak): number {
  let sum = 0;
  for (let dv = -2; dv <= 2; dv += 1)
    for (let du = -2; du <= 2; du += 1) sum += powerAt(powers, u + du, v + dv);
  return sum;
}

/**
 * The period of a dot screen in px; null where there is none. `grey` holds TILE × TILE values, row after row.
 * Stripes alone (ruled paper, fabric in one direction) do not count: they have one direction only.
 */
export function dotScreenPeriod(grey: ArrayLike<number>): number | null {
  const powers = spectrum(windowed(grey));
  const { fine, peaks } = strongest(powers);
  const [first, ...others] = peaks;
  if (!first || fine === 0) return null;
  const second = others.find((p) => acrossFrom(first, p) && p.power > first.power * 0.15);
  if (!second) return null;
  const stands = (p: Peak) => p.power > (usual(powers, p) + fine * 1e-9) * STANDS_OUT;
  if (around(powers, first) + around(powers, second) < fine * SHARE) return null;
  return stands(first) && stands(second) ? TILE / ((distance(first) + distance(second)) / 2) : null;
}

const HANN = Float64Array.from(
  { length: TILE },
  (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / TILE),
);

/** Without its mean, in a soft window, so that the edges of the tile are no pattern of their own (Hann). */
function windowed(grey: ArrayLike<number>): Float64Array {
  const values = new Float64Array(TILE * TILE);
  let mean = 0;
  for (let y = 0; y < TILE; y += 1) mean += sumOf(grey, y) / values.length;
  for (let y = 0; y < TILE; y += 1) windowRow(grey, mean, y, values);
  return values;
}

function sumOf(grey: ArrayLike<number>, y: number): number {
  let sum = 0;
  for (let i = y * TILE; i < (y + 1) * TILE; i += 1) sum += grey[i];
  return sum;
}

function windowRow(grey: ArrayLike<number>, mean: number, y: number, values: Float64Array): void {
  for (let x = 0, i = y * TILE; x < TILE; x += 1, i += 1) values[i] = (grey[i] - mean) * HANN[x] * HANN[y];
}

/** Of about the same period, and at 50 to 90 degrees to it. */
function acrossFrom(a: Peak, b: Peak): boolean {
  const [ra, rb] = [distance(a), distance(b)];
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
