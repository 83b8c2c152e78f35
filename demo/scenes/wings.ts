/** The outlines of wings, and where a place lies on one. */
import { clamp01, smooth } from "../noise";

/** Outline of a wing: radius by angle (degrees from sideways, towards the tail). */
const FORE: readonly [number, number][] = [
  [-21, 0.99],
  [-17, 1.06],
  [-10, 1.045],
  [0, 0.99],
  [12, 0.93],
  [24, 0.875],
  [36, 0.815],
  [46, 0.76],
  [54, 0.62],
  [66, 0.42],
  [80, 0.3],
];

const HIND: readonly [number, number][] = [
  [14, 0.6],
  [24, 0.74],
  [38, 0.815],
  [52, 0.83],
  [66, 0.8],
  [78, 0.73],
  [88, 0.6],
  [97, 0.42],
];

function outline(points: readonly [number, number][]): (degrees: number) => number {
  const first = points[0][0];
  const last = points[points.length - 1][0];
  const table = Float32Array.from({ length: 513 }, (_, i) => {
    const d = first + ((last - first) * i) / 512;
    let k = 1;
    while (k < points.length - 1 && points[k][0] < d) k += 1;
    const [p0, p1, p2, p3] = [
      points[Math.max(0, k - 2)],
      points[k - 1],
      points[k],
      points[Math.min(points.length - 1, k + 1)],
    ];
    const t = (d - p1[0]) / (p2[0] - p1[0]);
    const m1 = ((p2[1] - p0[1]) / (p2[0] - p0[0])) * (p2[0] - p1[0]);
    const m2 = ((p3[1] - p1[1]) / (p3[0] - p1[0])) * (p2[0] - p1[0]);
    const t2 = t * t;
    const t3 = t2 * t;
    return (
      (2 * t3 - 3 * t2 + 1) * p1[1] + (t3 - 2 * t2 + t) * m1 + (-2 * t3 + 3 * t2) * p2[1] + (t3 - t2) * m2
    );
  });
  return (d) => table[Math.round(clamp01((d - first) / (last - first)) * 512)];
}

export const foreRadius = outline(FORE);

export const hindRadius = outline(HIND);

const DEGREE = 180 / Math.PI;

export interface Spot {
  /** Coverage 0 to 1. */
  alpha: number;
  u: number;
  v: number;
  /** Distance from the root. */
  r: number;
}

const nowhere: Spot = { alpha: 0, u: 0, v: 0, r: 0 };

export function wingAt(
  x: number,
  y: number,
  root: [number, number],
  from: number,
  to: number,
  radius: (d: number) => number,
  px: number,
  scallop: number,
): Spot {
  const dx = x - root[0];
  const dy = y - root[1];
  const r = Math.sqrt(dx * dx + dy * dy);
  if (r > 1.12 || r < 1e-6) return nowhere;
  // The front edge bends a little, so that it is no ruler line.
  const angle = Math.atan2(dy, dx) * DEGREE + 4 * Math.sin(r * 2.6);
  const v = (angle - from) / (to - from);
  if (v < -0.05 || v > 1.05) return nowhere;
  const edge = radius(angle) * (1 - scallop * Math.max(0, Math.cos(v * 56)) * 0.5);
  const u = r / edge;
  const soft = px * 1.1 + 0.004;
  const side = (Math.min(v, 1 - v) * (to - from) * r) / DEGREE;
  const alpha = smooth(-soft, soft, edge - r) * smooth(-soft, soft, side);
  return alpha <= 0 ? nowhere : { alpha, u, v, r };
}

/** A thin dark line at `at` (share of the wing), `width` wide, with a soft edge. */
export const stripe = (u: number, at: number, width: number) => Math.exp(-(((u - at) / width) ** 2));
