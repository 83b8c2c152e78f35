/** Seeded noise, fast enough for tens of megapixels. */

/** A small generator of uniform numbers (mulberry32, public domain). */
export function random(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const SIZE = 256;
const MASK = SIZE - 1;

export class Noise {
  private readonly table = new Float32Array(SIZE * SIZE);

  constructor(seed: number) {
    const next = random(seed);
    for (let i = 0; i < this.table.length; i += 1) this.table[i] = next() * 2 - 1;
  }

  /** Smooth noise, -1 to 1, one lattice cell a unit. */
  at(x: number, y: number): number {
    const xi = Math.floor(x);
    const yi = Math.floor(y);
    const fx = x - xi;
    const fy = y - yi;
    const u = fx * fx * (3 - 2 * fx);
    const v = fy * fy * (3 - 2 * fy);
    const x0 = xi & MASK;
    const x1 = (xi + 1) & MASK;
    const y0 = (yi & MASK) * SIZE;
    const y1 = ((yi + 1) & MASK) * SIZE;
    const t = this.table;
    const a = t[y0 + x0] + (t[y0 + x1] - t[y0 + x0]) * u;
    const b = t[y1 + x0] + (t[y1 + x1] - t[y1 + x0]) * u;
    return a + (b - a) * v;
  }

  /** Sum of octaves, each of twice the frequency and half the weight; about -1 to 1. */
  fbm(x: number, y: number, octaves: number): number {
    let sum = 0;
    let weight = 0.5;
    for (let i = 0; i < octaves; i += 1) {
      sum += weight * this.at(x, y);
      x = x * 2.03 + 17.3;
      y = y * 2.01 + 9.1;
      weight *= 0.5;
    }
    return sum;
  }

  /** Sharp crests: 1 on the crest, towards 0 in the valleys. */
  ridge(x: number, y: number, octaves: number): number {
    let sum = 0;
    let weight = 0.55;
    for (let i = 0; i < octaves; i += 1) {
      const n = 1 - Math.abs(this.at(x, y));
      sum += weight * n * n;
      x = x * 2.07 + 5.7;
      y = y * 2.03 + 11.9;
      weight *= 0.5;
    }
    return sum;
  }

  /** The raw lattice value: white noise by whole position, -1 to 1. */
  speck(x: number, y: number): number {
    return this.table[((y & MASK) * SIZE + (x & MASK)) ^ (((x >> 8) * 73 + (y >> 8) * 151) & 0xffff)];
  }
}

export const clamp01 = (v: number): number => (v < 0 ? 0 : Math.min(v, 1));
export const smooth = (a: number, b: number, v: number): number => {
  const t = clamp01((v - a) / (b - a));
  return t * t * (3 - 2 * t);
};
export const mix = (a: number, b: number, t: number): number => a + (b - a) * t;

export type Colour = readonly [number, number, number];
/** Linear light of an sRGB code such as "#c8a070". */
export function colour(code: string): Colour {
  const part = (i: number) => {
    const v = Number.parseInt(code.slice(i, i + 2), 16) / 255;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  };
  return [part(1), part(3), part(5)];
}
