/**
 * CIELAB under D50 and the colour difference CIEDE2000. Sources: CIE 15:2018; CIE 142-2001; Sharma, Wu and
 * Dalal (2005) for the order of its steps.
 */

import type { Triple } from "./matrix";
import { PCS_WHITE } from "./spaces";

const EPSILON = 216 / 24_389;
const KAPPA = 24_389 / 27;
const f = (t: number) => (t > EPSILON ? Math.cbrt(t) : (KAPPA * t + 16) / 116);

/** L*, a*, b* of XYZ under D50, white at Y = 1. */
export function labFromXyz([x, y, z]: Triple): [number, number, number] {
  const [fx, fy, fz] = [f(x / PCS_WHITE[0]), f(y / PCS_WHITE[1]), f(z / PCS_WHITE[2])];
  return [116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)];
}

const RADIAN = Math.PI / 180;
const POW25 = 25 ** 7;

/** CIEDE2000 of two Lab colours, all weights 1. */
export function deltaE2000([l1, a1, b1]: Triple, [l2, a2, b2]: Triple): number {
  const meanC = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2;
  const g = 0.5 * (1 - Math.sqrt(meanC ** 7 / (meanC ** 7 + POW25)));
  const [ap1, ap2] = [a1 * (1 + g), a2 * (1 + g)];
  const [c1, c2] = [Math.hypot(ap1, b1), Math.hypot(ap2, b2)];
  const hue = (a: number, b: number) => (a === 0 && b === 0 ? 0 : (Math.atan2(b, a) / RADIAN + 360) % 360);
  const [h1, h2] = [hue(ap1, b1), hue(ap2, b2)];
  const grey = c1 * c2 === 0;
  let dh = grey ? 0 : h2 - h1;
  if (dh > 180) dh -= 360;
  else if (dh < -180) dh += 360;
  let h = h1 + h2;
  if (!grey) h = Math.abs(h1 - h2) <= 180 ? h / 2 : h < 360 ? (h + 360) / 2 : (h - 360) / 2;
  const l = (l1 + l2) / 2;
  const c = (c1 + c2) / 2;
  const t =
    1 -
    0.17 * Math.cos((h - 30) * RADIAN) +
    0.24 * Math.cos(2 * h * RADIAN) +
    0.32 * Math.cos((3 * h + 6) * RADIAN) -
    0.2 * Math.cos((4 * h - 63) * RADIAN);
  const sl = 1 + (0.015 * (l - 50) ** 2) / Math.sqrt(20 + (l - 50) ** 2);
  const sc = 1 + 0.045 * c;
  const sh = 1 + 0.015 * c * t;
  const turn =
    -2 * Math.sqrt(c ** 7 / (c ** 7 + POW25)) * Math.sin(60 * Math.exp(-(((h - 275) / 25) ** 2)) * RADIAN);
  const [dL, dC, dH] = [
    (l2 - l1) / sl,
    (c2 - c1) / sc,
    (2 * Math.sqrt(c1 * c2) * Math.sin((dh / 2) * RADIAN)) / sh,
  ];
  return Math.sqrt(dL * dL + dC * dC + dH * dH + turn * dC * dH);
}
