/**
 * What is told by a file's pixels rather than by its headers: its border, its ink, and what lies around the
 * edge of a portrait.
 */
import { type Brief, clauseWords } from "../brief";
import { trimNumber } from "../units";
import type { Check } from "./check";

/** Code values of a decoded file, 8 bits, sRGB or near it. */
export interface SeenPixels {
  data: Uint8Array | Uint16Array;
  width: number;
  height: number;
  /** 1 grey, 2 grey and alpha, 3 RGB, 4 RGB and alpha. */
  channels: number;
}

type Rgb = [number, number, number];

function reader({ data, channels }: SeenPixels): (p: number) => Rgb {
  const down = data instanceof Uint16Array ? 257 : 1;
  return (p) => {
    const i = p * channels;
    return channels < 3
      ? [data[i] / down, data[i] / down, data[i] / down]
      : [data[i] / down, data[i + 1] / down, data[i + 2] / down];
  };
}

/** Codes that lossy coding may move a pixel of a thin line by, on average and for most of its pixels. */
const BORDER_MEAN = 24;
const BORDER_EACH = 56;

/** Whether the outermost pixels have one colour, and which. */
export function borderOf(pixels: SeenPixels, px: number, colour: string): { found: string; ok: boolean } {
  const at = reader(pixels);
  const asked = [1, 3, 5].map((i) => Number.parseInt(colour.slice(i, i + 2), 16));
  const { width, height } = pixels;
  let [n, far] = [0, 0];
  const sums = [0, 0, 0];
  for (let y = 0; y < height; y += 1) {
    const edge = y < px || y >= height - px;
    for (let x = 0; x < width; x += 1) {
      if (!edge && x === px) x = Math.max(x, width - px);
      if (x >= width) break;
      const seen = at(y * width + x);
      const off = Math.max(...seen.map((v, c) => Math.abs(v - asked[c])));
      for (let c = 0; c < 3; c += 1) sums[c] += seen[c];
      if (off > BORDER_EACH) far += 1;
      n += 1;
    }
  }
  const mean = sums.map((sum) => sum / Math.max(1, n));
  const ok = mean.every((v, c) => Math.abs(v - asked[c]) <= BORDER_MEAN) && far <= n * 0.1;
  const hex = `#${mean.map((v) => Math.round(v).toString(16).padStart(2, "0")).join("")}`;
  return { found: ok ? `${px} px, as asked` : `around it ${hex}${far > n * 0.1 ? ", not even" : ""}`, ok };
}

/** Code values from which on paper counts as white, and up to which a pixel is ink. */
const WHITE_FROM = 240;
const INK_TO = 128;
/** Mean distance between the channels of ink: below it is black or grey. */
const NEUTRAL = 14;

export interface InkSeen {
  /** Share of the pixels that are white. */
  white: number;
  /** Share that is dark. */
  dark: number;
  /** Mean spread between the channels of dark pixels, in codes. */
  colourful: number;
  /** The darkest pixel. */
  darkest: number;
}

export function inkSeen(pixels: SeenPixels): InkSeen {
  const at = reader(pixels);
  const all = pixels.width * pixels.height;
  let [white, dark, spread, darkest] = [0, 0, 0, 255];
  for (let p = 0; p < all; p += 1) {
    const rgb = at(p);
    const [low, high] = [Math.min(...rgb), Math.max(...rgb)];
    if (low >= WHITE_FROM) white += 1;
    darkest = Math.min(darkest, high);
    if (low > INK_TO) continue;
    dark += 1;
    spread += high - low;
  }
  return { white: white / all, dark: dark / all, colourful: dark ? spread / dark : 0, darkest };
}

/** Ink on white: paper mostly white, some ink on it, and, where black is asked, without colour. */
export function inkHolds(seen: InkSeen, asked: "black" | "original"): boolean {
  return (
    seen.white >= 0.4 &&
    seen.dark > 0.0005 &&
    seen.dark < 0.45 &&
    (asked === "original" || (seen.colourful <= NEUTRAL && seen.darkest < 110))
  );
}

function inkWords(seen: InkSeen): string {
  if (seen.dark <= 0.0005) return "no ink";
  const ink = seen.colourful <= NEUTRAL ? (seen.darkest < 110 ? "black" : "grey") : "coloured";
  return (
    `${ink} on ${seen.white >= 0.4 ? "white" : "paper that is not white"}, ` +
    `${trimNumber(seen.dark * 100, 1)} % ink`
  );
}

/** Checks of the clauses that only pixels can answer. */
export function checkPixels(brief: Brief, pixels: SeenPixels): Check[] {
  const checks: Check[] = [];
  const add = (clause: "border" | "ink", found: string, ok: boolean) => {
    const yields = !ok && (brief.wishes?.includes(clause) ?? false);
    checks.push({
      clause,
      asked: clauseWords(brief, clause)!,
      found,
      ok: yields ? null : ok,
      gaveWay: yields,
    });
  };
  if (brief.border) {
    const { found, ok } = borderOf(pixels, brief.border.px, brief.border.colour);
    add("border", found, ok);
  }
  if (brief.ink) {
    const seen = inkSeen(pixels);
    add("ink", inkWords(seen), inkHolds(seen, brief.ink));
  }
  return checks;
}

/** Lightness by CIE 1976 L*, 0 to 100, of sRGB code values (IEC 61966-2-1). */
function lightness([r, g, b]: Rgb): number {
  const light = (v: number) => (v <= 10.31475 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4);
  const y = 0.2126 * light(r) + 0.7152 * light(g) + 0.0722 * light(b);
  return y > 216 / 24_389 ? 116 * Math.cbrt(y) - 16 : (y * 24_389) / 27;
}

export interface Surround {
  /** Mean L* of the strip along the top and the upper part of both sides, 0 to 100. */
  lightness: number;
  /** Its standard deviation. */
  spread: number;
}

/**
 * Width of the strip as a share of the shorter side, and how far down the sides it goes: below that
 * shoulders begin.
 */
const STRIP = 0.08;
const DOWN = 0.55;

export function surroundOf(pixels: SeenPixels, border = 0): Surround {
  const at = reader(pixels);
  const { width, height } = pixels;
  const strip = Math.max(2, Math.round(Math.min(width, height) * STRIP));
  let [n, sum, squares] = [0, 0, 0];
  for (let y = border; y < height * DOWN; y += 1) {
    for (let x = border; x < width - border; x += 1) {
      if (y >= strip + border && x === strip + border) x = Math.max(x, width - strip - border);
      const value = lightness(at(y * width + x));
      n += 1;
      sum += value;
      squares += value * value;
    }
  }
  const mean = sum / Math.max(1, n);
  return { lightness: mean, spread: Math.sqrt(Math.max(0, squares / Math.max(1, n) - mean * mean)) };
}

/** "Around the edge: light (92 of 100) and even (± 1.2)". A figure, not a judgement of the person. */
export function surroundWords({ lightness: mean, spread }: Surround): string {
  const light = mean >= 80 ? "light" : mean >= 50 ? "of middle lightness" : "dark";
  const even = spread <= 3 ? "even" : spread <= 8 ? "fairly even" : "uneven";
  return (
    `The background along the top and the sides is ${light} (${Math.round(mean)} of 100) and ${even} ` +
    `(± ${trimNumber(spread, 1)}).`
  );
}

/**
 * Whether a brief is for a portrait whose background may matter: an upright picture of fixed pixels, or
 * rules that speak of it.
 */
export function asksSurround(brief: Brief): boolean {
  if (brief.ink || brief.format?.every((format) => format === "pdf")) return false;
  const { width, height } = brief;
  const upright =
    width?.exact !== undefined &&
    height?.exact !== undefined &&
    height.exact > width.exact &&
    height.exact <= width.exact * 1.6;
  return (
    upright ||
    [brief.wording ?? "", ...(brief.onlyYou ?? [])].some((text) => /\b(back(ground|drop)s?)\b/i.test(text))
  );
}
