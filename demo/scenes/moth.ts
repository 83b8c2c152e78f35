/** A moth at rest, wings spread flat, seen from above: drawn in polar coordinates from each wing's root. */

import { defocus, Picture } from "../camera";
import { type Colour, clamp01, mix, Noise, random, smooth } from "../noise";
import type { Ground } from "./grounds";
import type { Species } from "./species";
import { foreRadius, hindRadius, type Spot, stripe, wingAt } from "./wings";

export class Moth {
  private readonly noise: Noise;
  private readonly antennae: [number, number][] = [];
  private readonly mixed = new Float64Array(3);

  constructor(private readonly s: Species) {
    this.noise = new Noise(s.seed);
    const next = random(s.seed + 5);
    const [tipX, tipY, bend] = [0.4 + next() * 0.12, -0.66 - next() * 0.1, 0.1 + next() * 0.08];
    for (let i = 0; i <= 40; i += 1) {
      const t = i / 40;
      this.antennae.push([
        0.035 + (tipX - 0.035) * t + bend * Math.sin(t * Math.PI) * 0.6,
        -0.27 + (tipY + 0.27) * t + bend * Math.sin(t * Math.PI) * 0.35,
      ]);
    }
  }

  /**
   * Lays the moth over `out` at (x, y), the head towards negative y; light comes from the upper left.
   * Answers its coverage.
   */
  over(x: number, y: number, px: number, out: Float32Array): number {
    if (y < -0.85 || y > 1.15 || x < -1.15 || x > 1.15) return 0;
    const side = x < 0 ? -1 : 1;
    const ax = Math.abs(x);
    let covered = 0;
    const hind = wingAt(ax, y, [0.03, 0.13], 14, 97, hindRadius, px, 0.05);
    const fore = wingAt(ax, y, [0.05, -0.08], -21, 80, foreRadius, px, 0.025);
    if (hind.alpha > 0) {
      // The forewing lies on top and throws a soft shadow.
      const near = wingAt(ax - 0.03, y - 0.05, [0.05, -0.08], -21, 80, foreRadius, 0.05, 0).alpha;
      this.paint(hind, side, false, px, 1 - 0.45 * near, out);
      covered = hind.alpha;
    }
    if (fore.alpha > 0) {
      this.paint(fore, side, true, px, 1, out);
      covered = Math.max(covered, fore.alpha);
    }
    covered = Math.max(covered, this.body(x, y, px, out), this.antenna(ax, y, px, out));
    return covered;
  }

  private lay(out: Float32Array, c: ArrayLike<number>, light: number, alpha: number): void {
    for (let i = 0; i < 3; i += 1) out[i] = mix(out[i], c[i] * light, alpha);
  }

  private paint(p: Spot, side: number, fore: boolean, px: number, shade: number, out: Float32Array): void {
    const { s, noise } = this;
    const { u, v } = p;
    const o = fore ? 0 : 40;
    // Both wings carry the same markings, as the animal does, with a little unevenness of each side.
    const uneven = noise.at(u * 3 + side * 7, v * 4) * 0.006;
    const bend =
      s.wave * (0.028 * Math.sin(v * 21 + o) + 0.03 * noise.at(v * 9 + o, 1.5)) -
      0.05 * Math.cos((v - 0.45) * 4) +
      0.05;
    const w = u + bend + uneven;
    const [inner, outer] = s.middle;
    const colourMix = noise.fbm(u * 4 + o, v * 6, 3) * 0.5;
    const base = fore ? s.base : s.hind;
    const c = this.mixed;
    c[0] = base[0] * (1 + colourMix * 0.5) + 0.01 * colourMix;
    c[1] = base[1] * (1 + colourMix * 0.5);
    c[2] = base[2] * (1 + colourMix * 0.5);
    const strength = fore ? s.strength : s.strength * 0.45;
    const toward = (other: Colour, t: number) => {
      const share = clamp01(t);
      if (share === 0) return;
      c[0] += (other[0] - c[0]) * share;
      c[1] += (other[1] - c[1]) * share;
      c[2] += (other[2] - c[2]) * share;
    };
    const grain = noise.at(u * 34 + o, v * 60) * 0.5 + noise.at(u * 80, v * 150 + o) * 0.5;
    toward(
      s.band,
      strength *
        smooth(inner - 0.03, inner + 0.02, w) *
        (1 - smooth(outer - 0.02, outer + 0.03, w)) *
        (0.72 + 0.3 * grain + 0.25 * colourMix),
    );
    toward(s.band, strength * 0.8 * (1 - smooth(0.12, 0.24, w)) * (0.8 + 0.3 * grain));
    toward(
      s.pale,
      0.7 *
        strength *
        (stripe(w, inner - 0.045, 0.014) + stripe(w, outer + 0.045, 0.017)) *
        (0.7 + 0.4 * grain),
    );
    toward(
      s.line,
      0.9 * strength * (stripe(w, inner, 0.011) + stripe(w, outer + 0.01, 0.012)) * (0.75 + 0.35 * grain),
    );
    toward(s.line, 0.5 * strength * stripe(w, (inner + outer) / 2, 0.013) * smooth(0, 0.3, grain + 0.4));
    const zigzag = 0.87 + 0.022 * Math.abs(((v * 8.5) % 1) - 0.5) * 2;
    toward(s.pale, 0.75 * strength * stripe(w, zigzag, 0.013));
    toward(
      s.band,
      0.5 * strength * smooth(zigzag - 0.09, zigzag - 0.02, w) * (1 - smooth(zigzag - 0.015, zigzag, w)),
    );
    if (fore) {
      const spot = ((u - 0.5) / 0.035) ** 2 + ((v - 0.36) / 0.055) ** 2;
      toward(s.line, s.spot * smooth(1.5, 0.7, spot));
      toward(s.pale, s.spot * 0.6 * smooth(0.5, 0.1, spot));
    }
    const cell = (v * 8.5) % 1;
    toward(s.line, 0.8 * stripe(u, 0.955, 0.012) * smooth(0.28, 0.08, Math.abs(cell - 0.5)));
    const fringe = smooth(0.966, 0.975, u);
    toward(cell > 0.36 && cell < 0.64 ? s.line : s.pale, fringe * 0.65);
    // Scattered dark scales, and the veins as fine ridges.
    toward(s.line, 0.5 * smooth(0.56, 0.8, noise.at(u * 120, v * 170 + o)));
    const vein = ((v + 0.02 * Math.sin(u * 5)) * 8.5) % 1;
    const ridge = smooth(0.075, 0.01, Math.min(vein, 1 - vein)) * smooth(0.2, 0.45, u);
    toward(s.line, 0.22 * ridge);
    const seen = clamp01(1.5 - px * 110);
    const scales = (noise.at(u * 210, v * 300) * 0.16 + noise.at(u * 90 + 5, v * 260) * 0.1) * seen;
    const flute = Math.sin(v * 8.5 * 6.283) * 0.07 * side * smooth(0.15, 0.5, u);
    const lift = side < 0 ? 1.06 : 0.94;
    const light =
      shade *
      lift *
      (0.96 + scales + flute + 0.06 * ridge) *
      (1 - 0.22 * smooth(0.3, 0, u)) *
      (1 - 0.12 * smooth(0.93, 1, v));
    this.lay(out, c, light, p.alpha * (1 - 0.25 * fringe * (grain > 0 ? 1 : 0.4)));
  }

  private body(x: number, y: number, px: number, out: Float32Array): number {
    let alpha = 0;
    const { noise, s } = this;
    const part = (cx: number, cy: number, rx: number, ry: number, rings: number) => {
      const ex = (x - cx) / rx;
      const ey = (y - cy) / ry;
      const d = Math.sqrt(ex * ex + ey * ey);
      if (d > 1.35) return;
      const angle = Math.atan2(ey, ex);
      const hairs =
        noise.at(angle * 26 + cy * 90, d * 2.2) * 0.6 + noise.at(angle * 60, d * 4 + cy * 50) * 0.4;
      const edge = 1 + hairs * 0.13;
      const a = smooth(edge + 0.05 + px * 4, edge - 0.09, d);
      if (a <= 0) return;
      const bulge = Math.sqrt(Math.max(0, 1 - Math.min(1, d * d)));
      const lit = 0.42 + 0.58 * bulge - 0.24 * ex - 0.16 * ey;
      const ring = rings ? 1 - 0.22 * smooth(0.6, 1, Math.cos(ey * rings)) : 1;
      this.lay(out, s.body, clamp01(lit) * ring * (1.02 + 0.42 * hairs), a);
      alpha = Math.max(alpha, a);
    };
    part(0, 0.36, 0.088, 0.36, 17);
    part(0, 0.0, 0.135, 0.2, 0);
    part(0, -0.215, 0.07, 0.065, 0);
    for (const eye of [-0.05, 0.05]) {
      const d = Math.hypot(x - eye, y + 0.245) / 0.022;
      if (d < 1.2) {
        const a = smooth(1.15, 0.85, d);
        const glint = smooth(0.35, 0.1, Math.hypot(x - eye + 0.007, y + 0.252) / 0.022);
        this.lay(out, [0.018 + glint * 0.5, 0.015 + glint * 0.5, 0.014 + glint * 0.5], 1, a);
        alpha = Math.max(alpha, a);
      }
    }
    return alpha;
  }

  private antenna(ax: number, y: number, px: number, out: Float32Array): number {
    if (y > -0.24 || ax > 0.75) return 0;
    let best = 1;
    let at = 0;
    for (let i = 0; i < this.antennae.length; i += 1) {
      const d = Math.hypot(ax - this.antennae[i][0], y - this.antennae[i][1]);
      if (d < best) {
        best = d;
        at = i / this.antennae.length;
      }
    }
    const comb = this.s.feathered ? 0.026 * (1 - at * 0.8) * (0.5 + 0.5 * Math.cos(at * 190)) : 0;
    const width = 0.0085 * (1 - 0.5 * at) + comb;
    const a = smooth(width + 0.006 + px, width - 0.002, best);
    if (a > 0) this.lay(out, this.s.body, 0.7 + 0.25 * Math.cos(at * 150), a * 0.95);
    return a;
  }
}

export interface MothShot {
  species: Species;
  ground: Ground;
  width: number;
  height: number;
  /**
   * Where the moth sits (shares of the picture), how large a wing is (share of the short side) and how it is
   * turned.
   */
  at: [number, number];
  size: number;
  turn: number;
  warm: number;
}

/** The whole photograph, in linear light. */
export function shootMoth(shot: MothShot): Picture {
  const { width, height, ground } = shot;
  const moth = new Moth(shot.species);
  const picture = new Picture(width, height);
  const wing = shot.size * Math.min(width, height);
  const px = 1 / wing;
  const [cx, cy] = [shot.at[0] * width, shot.at[1] * height];
  const [sin, cos] = [Math.sin(shot.turn), Math.cos(shot.turn)];
  const shadow = shadowMap(moth);
  const light = new Noise(shot.species.seed + 90);
  picture.each((ix, iy, out) => {
    const dx = (ix - cx) * px;
    const dy = (iy - cy) * px;
    ground(dx, dy, px, out);
    const near = dx * dx + dy * dy < 2.4;
    const x = dx * cos + dy * sin;
    const y = dy * cos - dx * sin;
    // Light from the upper left throws the shadow to the lower right, whichever way the moth is turned.
    const lx = (dx - 0.05) * cos + (dy - 0.075) * sin;
    const ly = (dy - 0.075) * cos - (dx - 0.05) * sin;
    const dark = near ? 1 - 0.66 * shadow(lx, ly) : 1;
    const fall = 0.92 + 0.13 * light.at(dx * 0.3, dy * 0.3) - 0.05 * dx * 0.4;
    out[0] *= dark;
    out[1] *= dark;
    out[2] *= dark * (1 + (1 - dark) * 0.12);
    if (near) moth.over(x, y, px, out);
    out[0] *= fall * (1 + shot.warm);
    out[1] *= fall;
    out[2] *= fall * (1 - shot.warm);
  });
  // The moth is in focus; the ground before and behind it is not quite.
  const reach = (x: number, y: number) =>
    Math.hypot((x - shot.at[0]) * (width / wing), (y - shot.at[1]) * (height / wing) * 1.1);
  defocus(picture, Math.min(width, height) / 420, (x, y) => smooth(1.05, 2.1, reach(x, y)));
  defocus(picture, 1, () => 0.5);
  return picture;
}

/** The moth's outline, small and blurred, as a lookup. */
function shadowMap(moth: Moth): (x: number, y: number) => number {
  const n = 220;
  const span = 2.8;
  const mask = new Picture(n, n);
  const dummy = new Float32Array(3);
  mask.each((x, y, out) => out.fill(moth.over((x / n - 0.5) * span, (y / n - 0.5) * span, span / n, dummy)));
  defocus(mask, 4, () => 1);
  const at = (x: number, y: number) => (x < 0 || y < 0 || x >= n || y >= n ? 0 : mask.data[(y * n + x) * 3]);
  return (x, y) => {
    const fx = (x / span + 0.5) * n;
    const fy = (y / span + 0.5) * n;
    const x0 = Math.floor(fx);
    const y0 = Math.floor(fy);
    return mix(
      mix(at(x0, y0), at(x0 + 1, y0), fx - x0),
      mix(at(x0, y0 + 1), at(x0 + 1, y0 + 1), fx - x0),
      fy - y0,
    );
  };
}
