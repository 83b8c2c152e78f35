/** The moor at dusk: sky with the sun in it, ridges in haze, heather, a pool. */
import { Picture } from "../camera";
import { clamp01, colour, mix, Noise, smooth } from "../noise";

const HIGH = colour("#39517d");
const LOW = colour("#e9a35c");
const GLOW = colour("#ffd9a0");
const CLOUD = colour("#d98a6a");
const HAZE = colour("#8f7683");
const NEAR = colour("#2b2420");
const HEATHER = colour("#5d3a4c");
const GRASS = colour("#6b6138");

export function shootMoor(width: number, height: number, seed: number): Picture {
  const noise = new Noise(seed);
  const picture = new Picture(width, height);
  const aspect = width / height;
  const sun = [0.64, 0.415];
  const ridges = Array.from({ length: 4 }, (_, k) =>
    Float32Array.from({ length: width }, (_, x) => {
      const u = (x / width) * aspect;
      return (
        0.455 +
        k * 0.038 +
        (0.05 - k * 0.006) * noise.fbm(u * (1.1 + k * 0.9) + k * 37, k * 11.3, 6) +
        (k === 3 ? 0.0012 : 0.0035) * noise.at(u * (60 + k * 40), k)
      );
    }),
  );
  return picture.each((ix, iy, out) => {
    const x = (ix / width) * aspect;
    const y = iy / height;
    const dx = x - sun[0] * aspect;
    const dy = y - sun[1];
    const d = Math.sqrt(dx * dx + dy * dy);
    const sky = (i: number): number => {
      const t = smooth(0, 0.46, y);
      return (
        mix(HIGH[i] * 0.8, LOW[i], t * t) +
        GLOW[i] * (0.55 * Math.exp(-d * 5.5) + 0.16 * Math.exp(-Math.abs(dy) * 16 - Math.abs(dx) * 0.9))
      );
    };
    let layer = -1;
    for (let k = 0; k < 4; k += 1) if (y > ridges[k][ix]) layer = k;
    if (layer < 0) {
      const cloud =
        smooth(0.05, 0.5, noise.fbm(x * 1.7 + noise.at(x * 3, y * 9) * 0.2, y * 11 + x * 0.7, 6) + 0.12) *
        smooth(0, 0.12, 0.47 - y);
      const lit = Math.exp(-d * 2.4);
      const disc = smooth(0.0275, 0.0255, d);
      for (let i = 0; i < 3; i += 1) {
        const base = mix(sky(i), CLOUD[i] * (0.5 + 1.3 * lit) * (i === 2 ? 0.85 : 1), cloud * 0.75);
        out[i] = mix(base, 1.35, disc * (1 - cloud * 0.4));
      }
      return;
    }
    const depth = clamp01((y - ridges[layer][ix]) / 0.2);
    if (layer < 3) {
      const haze = 0.86 - layer * 0.22 + 0.1 * Math.exp(-d * 3) - depth * 0.25;
      const grain = 1 + 0.16 * noise.fbm(x * 40, y * 120, 3);
      for (let i = 0; i < 3; i += 1)
        out[i] = mix(
          mix(NEAR[i], HEATHER[i], 0.5) * grain * 1.1,
          HAZE[i] * 0.9 + LOW[i] * 0.14 * Math.exp(-d * 2.5),
          clamp01(haze),
        );
      return;
    }
    const far = clamp01((y - 0.57) / 0.43);
    const scale = 1 / (0.03 + far * 0.9);
    const px = x * 9 * scale * 0.35;
    const py = scale * 6;
    const tuft = noise.fbm(px * 2 + noise.at(px, py) * 0.4, py * 2.2 + y * 60 * far, 5);
    const blade = noise.at(x * 420, y * 70 + tuft * 3) * 0.6 + noise.at(x * 900, y * 160) * 0.4;
    const bloom = smooth(0.02, 0.3, noise.fbm(px * 0.9 + 60, py + 9, 4));
    const low = clamp01(0.52 + tuft * 1.25 + blade * (0.18 + 0.22 * far));
    const rim = Math.exp(-Math.abs(dx) * 1.6) * (0.9 - far * 0.55);
    const bank = 0.735 + 0.02 * noise.at(x * 3.1, 4) + 0.006 * noise.at(x * 14, 9);
    const pool =
      smooth(bank - 0.004, bank + 0.004, y) *
      smooth(0.845 + 0.012 * noise.at(x * 5, 2), 0.838 + 0.012 * noise.at(x * 5, 2), y) *
      smooth(0.5, 0.53, x / aspect + 0.03 * noise.at(y * 40, 1)) *
      smooth(0.9, 0.87, x / aspect);
    const ripple = noise.at(x * 26, y * 420) * 0.5 + noise.at(x * 60, y * 900) * 0.5;
    for (let i = 0; i < 3; i += 1) {
      const plant =
        mix(GRASS[i], HEATHER[i], bloom) * (0.12 + 0.75 * low * low) + LOW[i] * rim * 0.2 * low * low;
      const water =
        mix(LOW[i] * 0.5, HIGH[i] * 0.35, clamp01((y - 0.735) * 8)) * (0.8 + 0.3 * ripple) +
        GLOW[i] * 0.9 * Math.exp(-Math.abs(dx) * 9) * smooth(-0.2, 0.9, ripple);
      out[i] = mix(mix(plant, HAZE[i] * 0.5, 0.35 * (1 - smooth(0, 0.18, far))), water, pool);
    }
  });
}
