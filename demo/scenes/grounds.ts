/** What moths sit on: bark, linen, stone. Positions in units of about a moth's wing. */
import { type Colour, clamp01, colour, mix, Noise, smooth } from "../noise";

export interface Ground {
  /**
   * Writes linear light at (x, y); `px` is the size of a pixel in these units, so that nothing finer than it
   * is drawn.
   */
  (x: number, y: number, px: number, out: Float32Array): void;
}

function tint(out: Float32Array, a: Colour, b: Colour, t: number, light: number): void {
  out[0] = mix(a[0], b[0], t) * light;
  out[1] = mix(a[1], b[1], t) * light;
  out[2] = mix(a[2], b[2], t) * light;
}

export function bark(
  seed: number,
  dark = colour("#54453a"),
  pale = colour("#b3a08d"),
  lichen = colour("#9aa68a"),
): Ground {
  const noise = new Noise(seed);
  const height = (x: number, y: number, fine: number): number => {
    const wx = x + noise.at(x * 0.9, y * 0.5) * 0.35;
    const wy = y + noise.at(x * 0.7 + 31, y * 0.4) * 0.6;
    const plates = noise.ridge(wx * 1.5, wy * 0.42, 4);
    return plates * 0.75 + noise.fbm(wx * 7, wy * 3, fine) * 0.3;
  };
  return (x, y, px, out) => {
    const octaves = px < 0.004 ? 6 : 5;
    const h = height(x, y, octaves);
    const e = Math.max(px * 1.5, 0.006);
    const slope = (h - height(x + e, y + e * 1.2, octaves)) / e;
    const crack = smooth(0.34, 0.62, h);
    const spots = smooth(0.18, 0.4, noise.fbm(x * 1.3 + 50, y * 1.1, 4)) * crack;
    const light = clamp01(0.62 + slope * 0.085) * (0.42 + 0.95 * crack);
    tint(out, dark, pale, clamp01(0.25 + h * 0.6 + noise.at(x * 22, y * 9) * 0.12), light);
    const moss = spots * (0.55 + 0.35 * noise.at(x * 30, y * 30));
    out[0] = mix(out[0], lichen[0] * light * 1.2, moss);
    out[1] = mix(out[1], lichen[1] * light * 1.2, moss);
    out[2] = mix(out[2], lichen[2] * light * 1.2, moss);
  };
}

export function linen(seed: number, thread = colour("#ddd5c4"), count = 26): Ground {
  const noise = new Noise(seed);
  return (x, y, px, out) => {
    const sx = x * count + noise.at(x * 3, y * 1.2) * 0.5 + noise.at(y * 26, 3) * 0.12;
    const sy = y * count + noise.at(x * 1.1 + 9, y * 3) * 0.5 + noise.at(x * 26, 7) * 0.12;
    const column = Math.floor(sx);
    const row = Math.floor(sy);
    const fx = sx - column - 0.5;
    const fy = sy - row - 0.5;
    const over = ((column + row) & 1) === 0;
    const thick = 0.9 + 0.16 * noise.at(over ? column * 1.7 : row * 1.3, over ? sy * 0.22 : sx * 0.22);
    const across = (over ? fx : fy) / thick;
    const along = over ? fy : fx;
    const round = Math.sqrt(Math.max(0, 1 - across * across * 3.2)) * (1 - along * along * 0.9);
    const fibre = noise.at(over ? sx * 7 : sx * 1.1, over ? sy * 1.1 : sy * 7);
    const fold = 0.82 + 0.2 * noise.fbm(x * 0.55, y * 0.4, 3);
    // Threads finer than two pixels melt into their mean.
    const seen = clamp01(1.4 - px * count * 2.2);
    const side = 0.1 * (over ? -fx : -fy);
    const light = fold * (0.62 + seen * (0.36 * round - 0.2 + side + 0.07 * fibre)) + 0.1;
    out[0] = thread[0] * light;
    out[1] = thread[1] * light * (1 + 0.012 * fibre);
    out[2] = thread[2] * light * (1 + 0.02 * noise.at(x * 2, y * 2));
  };
}

export function stone(
  seed: number,
  dark = colour("#55524f"),
  pale = colour("#b9b2a6"),
  stain = colour("#8a6f55"),
): Ground {
  const noise = new Noise(seed);
  const height = (x: number, y: number) =>
    noise.fbm(x * 2.2, y * 2.2, 7) + 0.35 * noise.fbm(x * 11 + 3, y * 11, 4);
  return (x, y, px, out) => {
    const h = height(x, y);
    const e = Math.max(px * 1.5, 0.006);
    const slope = (h - height(x + e, y + e)) / e;
    const grains = noise.at(x * 46 + h * 3, y * 46) * 0.55 + noise.at(x * 95, y * 95) * 0.45;
    const mica = smooth(0.45, 0.75, noise.at(x * 60 + 9, y * 60)) * 0.35;
    const pit = smooth(-0.55, -0.3, noise.fbm(x * 6 + 40, y * 6, 4));
    const light = clamp01(0.62 + slope * 0.05) * (0.45 + 0.55 * pit);
    tint(out, dark, pale, clamp01(0.5 + h * 0.55 + grains * 0.32 + mica), light);
    const rust = smooth(0.15, 0.5, noise.fbm(x * 0.8 + 70, y * 0.9, 4)) * 0.5;
    out[0] = mix(out[0], stain[0] * light, rust);
    out[1] = mix(out[1], stain[1] * light, rust);
    out[2] = mix(out[2], stain[2] * light, rust);
  };
}
