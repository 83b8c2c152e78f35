/**
 * Which pixels of a picture of ink on paper are ink: the paper is evened out, the threshold found, lines and
 * specks left out.
 */

import type { Rect } from "../../photo";
import { DEFAULT_INK, type InkSettings } from "../../photo";
import { SRGB_CURVE, toLinear } from "../colour";
import { type Component, type Components, componentsOf } from "./components";
import { takeLines } from "./lines";
import { otsu } from "./otsu";
import { paperOf } from "./paper";
import { InkError, type InkFound, type RgbPicture } from "./types";

/** Less darkness than this, of 255, is no ink: pencil on white has about 90. */
const FAINTEST = 30;
/** More of the picture than this is no writing. */
const MOST_INK = 0.4;
/** Share of the picture that has to be plain paper. */
const LEAST_PAPER = 0.62;
const NOTHING =
  "Nothing in this picture looks like ink on paper. Photograph the signature in dark ink on light " +
  "paper, near enough to fill the picture.";

/** Throws {@link InkError} where nothing looks like ink. */
export function findInk(picture: RgbPicture, settings: InkSettings = DEFAULT_INK): InkFound {
  const { width, height } = picture;
  const planes = [0, 1, 2].map((c) => planeOf(picture, c));
  if (isLightOnDark(planes, width, height)) throw new InkError(WHITE_ON_BLACK);
  return findDark(planes, width, height, settings);
}

/** The middle code value of a ground that is dark: its negative is looked at first. */
const DARK_GROUND = 110;

function isLightOnDark(planes: readonly Uint8Array[], width: number, height: number): boolean {
  if (
    quantile(
      histogramOf(planes[1], () => true),
      0.5,
    ) > DARK_GROUND
  )
    return false;
  const negative = planes.map((plane) => plane.map((v) => 255 - v));
  try {
    return findDark(negative, width, height, DEFAULT_INK).share > 0;
  } catch (error) {
    if (error instanceof InkError) return false;
    throw error;
  }
}

function findDark(planes: Uint8Array[], width: number, height: number, settings: InkSettings): InkFound {
  const coarse = halved(planes, width, height);
  // How wide the strokes are is seen well enough on half of the pixels; a narrow window follows shadows and
  // creases closely.
  const wide = Math.round(Math.min(90, Math.max(6, Math.max(coarse.width, coarse.height) / 30)));
  const rough = darkness(
    coarse.planes,
    coarse.planes.map((plane) => paperOf(plane, coarse.width, coarse.height, wide)),
  );
  const first = levelOf(rough, coarse.width, coarse.height);
  // Where much of the picture is darker than what lies around it, it is no sheet of paper; nothing more is
  // tried.
  if (
    !first ||
    1 -
      count(
        histogramOf(rough, () => true),
        Math.round(first.peak * 0.28),
      ) /
        rough.length <
      LEAST_PAPER
  )
    throw new InkError(NOTHING);
  const roughStroke =
    strokeOf(componentsOf(rough, coarse.width, coarse.height, first.peak / 2, 255).list) * coarse.step;
  const radius = Math.round(Math.min(wide * coarse.step, Math.max(6, roughStroke * 3)));
  const papers = planes.map((plane) => paperOf(plane, width, height, radius));
  const dark = darkness(planes, papers);
  // The paper's own lines go first: they are long and straight, whether fainter than the ink or as dark.
  const lines = takeLines(dark, width, height, Math.round(Math.max(12, first.peak * 0.12)));
  const level = levelOf(dark, width, height);
  if (!level) throw new InkError(NOTHING);
  const { peak } = level;
  const middle = peak * (0.5 - ((settings.strength - 50) / 50) * 0.25);
  const weak = Math.max(level.noise, Math.round(middle * 0.72));
  const components = componentsOf(dark, width, height, weak, Math.round(middle));
  const stroke = strokeOf(components.list.filter((one) => one.strong > 0));
  const kept = withoutSpecks(
    components.list.filter((one) => one.strong > 0 && one.strong >= one.area * 0.08),
    stroke,
  );
  const area = kept.reduce((sum, one) => sum + one.area, 0);
  if (!isWriting(dark, components, level, kept)) throw new InkError(NOTHING);
  const cover = covered(dark, components, kept, { width, height, middle, peak });
  const bounds = boundsOf(cover, width, height);
  if (!isOnePaper(papers, width, bounds)) throw new InkError(NOTHING);
  return {
    width,
    height,
    cover,
    bounds,
    stroke,
    lines,
    share: area / (width * height),
    groups: groupsOf(kept, stroke),
    touches: kept.some(
      (one) =>
        one.area >= stroke * stroke &&
        (one.left === 0 || one.top === 0 || one.right === width - 1 || one.bottom === height - 1),
    ),
    colour: colourOf(planes, papers, cover),
  };
}

const WHITE_ON_BLACK =
  "The strokes are lighter than their ground: white on black. Bring in dark ink on light paper, or " +
  "turn the picture into its negative first.";

interface Coarse {
  planes: Uint8Array[];
  width: number;
  height: number;
  /** Pixels of the picture that one of these stands for, on each side. */
  step: 1 | 2;
}

function halved(planes: Uint8Array[], width: number, height: number): Coarse {
  if (Math.max(width, height) < 600) return { planes, width, height, step: 1 };
  const [w, h] = [width >> 1, height >> 1];
  const half = planes.map((plane) => {
    const out = new Uint8Array(w * h);
    for (let y = 0, i = 0; y < h; y += 1) {
      for (let x = 0, p = 2 * y * width; x < w; x += 1, i += 1, p += 2)
        out[i] = (plane[p] + plane[p + 1] + plane[p + width] + plane[p + width + 1] + 2) >> 2;
    }
    return out;
  });
  return { planes: half, width: w, height: h, step: 2 };
}

function planeOf({ data, width, height }: RgbPicture, channel: number): Uint8Array {
  const out = new Uint8Array(width * height);
  for (let i = 0, p = channel; i < out.length; i += 1, p += 3) out[i] = data[p];
  return out;
}

/**
 * Light that a code value stands for (IEC 61966-2-1): a pixel half covered by ink sends half of the light
 * back, not half of the code.
 */
const LIGHT = Float32Array.from({ length: 256 }, (_, code) => toLinear(SRGB_CURVE, code / 255));

const OVER_LIGHT = LIGHT.map((light) => 255 / light);

/**
 * How much less light than the paper behind it each pixel sends back, in its darkest channel, 0 to 255.
 * Light that falls off changes both alike.
 */
function darkness(planes: readonly Uint8Array[], papers: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(planes[0].length);
  for (const [c, plane] of planes.entries()) {
    const paper = papers[c];
    for (let i = 0; i < out.length; i += 1) {
      if (plane[i] >= paper[i] || paper[i] <= 8) continue;
      const d = 255 - LIGHT[plane[i]] * OVER_LIGHT[paper[i]];
      if (d > out[i]) out[i] = d;
    }
  }
  return out;
}

interface Level {
  /** Darkness of full ink. */
  peak: number;
  /** Darkness that noise of the paper reaches. */
  noise: number;
}

function histogramOf(values: Uint8Array, take: (i: number) => boolean): Float64Array {
  const out = new Float64Array(256);
  for (let i = 0; i < values.length; i += 1) if (take(i)) out[values[i]] += 1;
  return out;
}

function quantile(histogram: Float64Array, share: number, from = 0): number {
  let left = 0;
  for (let v = from; v < 256; v += 1) left += histogram[v];
  left *= share;
  for (let v = from; v < 256; v += 1) if ((left -= histogram[v]) <= 0) return v;
  return 255;
}

/**
 * How dark ink is in this picture. Otsu's threshold is taken near what stands out: on a whole sheet ink is
 * too rare for it.
 */
function levelOf(dark: Uint8Array, width: number, height: number): Level | null {
  const all = histogramOf(dark, () => true);
  const median = quantile(all, 0.5);
  const spread = quantile(all, 0.84) - median;
  const noise = Math.min(120, Math.max(12, Math.round(median + 4 * Math.max(2, spread))));
  const near = new Uint8Array(dark.length);
  for (let y = 1; y < height - 1; y += 1) {
    for (let x = 1; x < width - 1; x += 1) {
      if (dark[y * width + x] <= noise) continue;
      for (let dy = -1; dy <= 1; dy += 1) near.fill(1, (y + dy) * width + x - 1, (y + dy) * width + x + 2);
    }
  }
  const split = otsu(histogramOf(dark, (i) => near[i] === 1));
  if (!split) return null;
  const floor = Math.max(noise, split.threshold);
  const above = histogramOf(dark, (i) => dark[i] > floor);
  const peak = quantile(above, 0.7);
  return peak >= FAINTEST && count(above, 0) >= 12 ? { peak, noise } : null;
}

function count(histogram: Float64Array, above: number): number {
  let sum = 0;
  for (let v = above + 1; v < 256; v += 1) sum += histogram[v];
  return sum;
}

/** A stroke of width w and length l has an area of w l and an edge of 2 l. */
function strokeOf(list: readonly Component[]): number {
  const large = list.filter((one) => one.area > 6);
  const area = large.reduce((sum, one) => sum + one.area, 0);
  const edge = large.reduce((sum, one) => sum + one.edge, 0);
  return edge ? Math.max(1, (2 * area) / edge) : 1;
}

/** Specks are smaller than a dot of the pen, or small and far from everything else. */
function withoutSpecks(list: readonly Component[], stroke: number): Component[] {
  const dot = Math.max(3, 0.35 * stroke * stroke);
  const large = list.filter((one) => one.area >= Math.max(8, 4 * stroke * stroke));
  const reach = 14 * stroke + 4;
  const nearLarge = (one: Component) =>
    large.some(
      (big) =>
        one.left <= big.right + reach &&
        one.right >= big.left - reach &&
        one.top <= big.bottom + reach &&
        one.bottom >= big.top - reach,
    );
  return list.filter((one) => large.includes(one) || (one.area >= dot && nearLarge(one)));
}

function isWriting(
  dark: Uint8Array,
  { labels }: Components,
  { peak }: Level,
  kept: readonly Component[],
): boolean {
  const take = new Set(kept.map((one) => one.label));
  const area = kept.reduce((sum, one) => sum + one.area, 0);
  const edge = kept.reduce((sum, one) => sum + one.edge, 0);
  const histogram = histogramOf(dark, () => true);
  const paper = 1 - count(histogram, Math.round(peak * 0.28)) / dark.length;
  // A photograph has every shade between dark and light; ink has an edge of a pixel or two.
  const solid = count(
    histogramOf(dark, (i) => take.has(labels[i])),
    Math.round(peak * 0.62),
  );
  return (
    area >= 12 &&
    area <= dark.length * MOST_INK &&
    paper >= LEAST_PAPER &&
    area - solid <= Math.max(solid * 0.7, edge * 0.8)
  );
}

/**
 * Less than this between the shares of red, or of blue, at different places is one tint; light may be mixed
 * a little.
 */
const ONE_TINT = 0.045;
/**
 * Code values of the darkest paper over those of the lightest: shadows and light that falls off take less
 * away.
 */
const ONE_LIGHT = 0.36;

/**
 * What lies behind strokes is one sheet: one tint, however unevenly it is lit. Behind the dark parts of a
 * face lie skin, hair and wall.
 */
function isOnePaper(papers: readonly Uint8Array[], width: number, bounds: Rect): boolean {
  const [reds, blues, lights]: [number[], number[], number[]] = [[], [], []];
  const step = Math.max(1, Math.floor(Math.sqrt((bounds.width * bounds.height) / 4000)));
  for (let y = bounds.y; y < bounds.y + bounds.height; y += step) {
    for (let x = bounds.x; x < bounds.x + bounds.width; x += step) {
      const [r, g, b] = papers.map((paper) => paper[y * width + x]);
      const sum = Math.max(1, r + g + b);
      reds.push(r / sum);
      blues.push(b / sum);
      lights.push(sum);
    }
  }
  const at = (values: number[], share: number) => values[Math.floor((values.length - 1) * share)];
  for (const values of [reds, blues, lights]) values.sort((a, b) => a - b);
  return (
    at(reds, 0.95) - at(reds, 0.05) < ONE_TINT &&
    at(blues, 0.95) - at(blues, 0.05) < ONE_TINT &&
    at(lights, 0.05) > at(lights, 0.95) * ONE_LIGHT
  );
}

/** From mask to coverage: soft across about a pixel at the edge, none where only paper was dark. */
function covered(
  mask: Uint8Array,
  { labels }: Components,
  kept: readonly Component[],
  { width, height, middle, peak }: { width: number; height: number; middle: number; peak: number },
): Uint8Array {
  const take = new Set(kept.map((one) => one.label));
  const cover = new Uint8Array(mask.length);
  const [from, to] = [middle - peak * 0.22, middle + peak * 0.22];
  for (const { left, right, top, bottom } of kept) {
    // A pixel beyond the mask belongs to its soft edge.
    for (let y = Math.max(0, top - 1); y <= Math.min(height - 1, bottom + 1); y += 1) {
      for (let x = Math.max(0, left - 1); x <= Math.min(width - 1, right + 1); x += 1) {
        const i = y * width + x;
        if (cover[i] || mask[i] <= from || !besideKept(labels, take, x, y, width, height)) continue;
        const t = Math.min(1, (mask[i] - from) / (to - from));
        cover[i] = Math.round(255 * t * t * (3 - 2 * t));
      }
    }
  }
  return cover;
}

function besideKept(
  labels: Int32Array,
  take: ReadonlySet<number>,
  x: number,
  y: number,
  width: number,
  height: number,
): boolean {
  if (labels[y * width + x]) return take.has(labels[y * width + x]);
  for (let dy = -1; dy <= 1; dy += 1) {
    for (let dx = -1; dx <= 1; dx += 1) {
      const [nx, ny] = [x + dx, y + dy];
      if (nx >= 0 && ny >= 0 && nx < width && ny < height && take.has(labels[ny * width + nx])) return true;
    }
  }
  return false;
}

function boundsOf(cover: Uint8Array, width: number, height: number) {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0, i = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, i += 1) {
      if (cover[i] < 16) continue;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = y;
    }
  }
  if (right < 0) throw new InkError(NOTHING);
  return { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}

/**
 * Strokes that lie apart by more than their own height belong to different groups; a dot or a comma makes
 * none.
 */
function groupsOf(kept: readonly Component[], stroke: number): number {
  const large = kept.filter((one) => one.area >= 3 * stroke * stroke);
  const heights = large.map((one) => one.bottom - one.top + 1).sort((a, b) => a - b);
  const tall = heights[Math.floor(heights.length * 0.75)] ?? 1;
  const [gx, gy] = [tall * 1.6, tall * 0.75];
  const group = large.map((_, i) => i);
  const root = (i: number): number => (group[i] === i ? i : (group[i] = root(group[i])));
  large.forEach((a, i) => {
    large.slice(0, i).forEach((b, j) => {
      if (
        a.left <= b.right + gx &&
        b.left <= a.right + gx &&
        a.top <= b.bottom + gy &&
        b.top <= a.bottom + gy
      )
        group[root(i)] = root(j);
    });
  });
  const areas = new Map<number, number>();
  large.forEach((one, i) => areas.set(root(i), (areas.get(root(i)) ?? 0) + one.area));
  const all = [...areas.values()].reduce((sum, one) => sum + one, 0);
  return [...areas.values()].filter((one) => one >= all * 0.15).length;
}

/** Of the pixels that are ink through and through, as they would look on white. */
function colourOf(
  planes: readonly Uint8Array[],
  papers: readonly Uint8Array[],
  cover: Uint8Array,
): [number, number, number] {
  return planes.map((plane, c) => {
    const paper = papers[c];
    let [sum, n] = [0, 0];
    for (let i = 0; i < cover.length; i += 1) {
      if (cover[i] < 250) continue;
      sum += Math.min(255, (255 * plane[i]) / Math.max(1, paper[i]));
      n += 1;
    }
    return n ? Math.round(sum / n) : 0;
  }) as [number, number, number];
}
