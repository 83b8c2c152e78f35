/**
 * Blend and compositing formulas: W3C Compositing and Blending Level 1 (candidate recommendation), sections
 * 9 and 10. Colours 0 to 1, not premultiplied.
 */
import type { Operator } from "./types";

type Rgb = readonly [number, number, number];

const lum = ([r, g, b]: Rgb) => 0.3 * r + 0.59 * g + 0.11 * b;
const sat = (c: Rgb) => Math.max(...c) - Math.min(...c);

function clipColour(c: Rgb): Rgb {
  const l = lum(c);
  const n = Math.min(...c);
  const x = Math.max(...c);
  let out = c;
  if (n < 0) out = out.map((v) => l + ((v - l) * l) / (l - n)) as unknown as Rgb;
  if (x > 1) out = out.map((v) => l + ((v - l) * (1 - l)) / (x - l)) as unknown as Rgb;
  return out;
}

const setLum = (c: Rgb, l: number): Rgb => clipColour(c.map((v) => v + l - lum(c)) as unknown as Rgb);

function setSat(c: Rgb, s: number): Rgb {
  const [min, max] = [Math.min(...c), Math.max(...c)];
  return (max > min ? c.map((v) => ((v - min) * s) / (max - min)) : [0, 0, 0]) as unknown as Rgb;
}

/** Separable modes: one channel of the backdrop and of the source. */
const CHANNEL: Partial<Record<Operator, (b: number, s: number) => number>> = {
  multiply: (b, s) => b * s,
  screen: (b, s) => b + s - b * s,
  overlay: (b, s) => hardLight(s, b),
  darken: Math.min,
  lighten: Math.max,
  "color-dodge": (b, s) => (b === 0 ? 0 : s === 1 ? 1 : Math.min(1, b / (1 - s))),
  "color-burn": (b, s) => (b === 1 ? 1 : s === 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
  "hard-light": (b, s) => hardLight(b, s),
  "soft-light": (b, s) =>
    s <= 0.5
      ? b - (1 - 2 * s) * b * (1 - b)
      : b + (2 * s - 1) * ((b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b)) - b),
  difference: (b, s) => Math.abs(b - s),
};

function hardLight(b: number, s: number): number {
  return s <= 0.5 ? b * 2 * s : b + (2 * s - 1) - b * (2 * s - 1);
}

/** B(Cb, Cs); the source itself for operators that do not blend. */
export function blend(operator: Operator, backdrop: Rgb, source: Rgb): Rgb {
  const channel = CHANNEL[operator];
  if (channel)
    return [
      channel(backdrop[0], source[0]),
      channel(backdrop[1], source[1]),
      channel(backdrop[2], source[2]),
    ];
  switch (operator) {
    case "hue":
      return setLum(setSat(source, sat(backdrop)), lum(backdrop));
    case "saturation":
      return setLum(setSat(backdrop, sat(source)), lum(backdrop));
    case "color":
      return setLum(source, lum(backdrop));
    case "luminosity":
      return setLum(backdrop, lum(source));
    default:
      return source;
  }
}

/** Fa and Fb of Porter and Duff: how much of source and backdrop stays, by the coverage of the other. */
export function portions(
  operator: Operator,
  sourceAlpha: number,
  backdropAlpha: number,
): readonly [number, number] {
  switch (operator) {
    case "plus":
      return [1, 1];
    case "dst-in":
      return [0, sourceAlpha];
    case "dst-out":
      return [0, 1 - sourceAlpha];
    case "src-atop":
      return [backdropAlpha, 1 - sourceAlpha];
    case "dst-atop":
      return [1 - backdropAlpha, sourceAlpha];
    default:
      return [1, 1 - sourceAlpha];
  }
}

/** Whether what lies outside of a source changes the backdrop too: then it works on the whole canvas. */
export const reachesBeyond = (operator: Operator): boolean =>
  operator === "dst-in" || operator === "dst-atop";
