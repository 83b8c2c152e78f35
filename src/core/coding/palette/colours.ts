/**
 * A table of few colours for a picture: boxes cut where they vary most, then means moved to the colours nearest to
 * them. Sources: Heckbert 1982 (median cut), Wu 1991 (least variance), Lloyd 1982 (k-means); colours lie in Oklab
 * (Ottosson 2020), where equal distances look about equal.
 */
import { oklabOf } from "./oklab";

export interface RgbaPixels {
  data: Uint8Array;
  /** 3 or 4. */
  channels: number;
}

/** Colours of a picture, gathered. */
interface Gathered {
  /** Lightness, two chromas and alpha of each. */
  at: Float32Array;
  /** Its code values. */
  rgba: Float32Array;
  /** How much it counts. */
  weights: Float64Array;
  count: number;
}

/** L, a, b, alpha. */
const AXES = 4;
/** How far apart fully seen and unseen count, in Oklab. */
const ALPHA_SCALE = 1;
/** Rare colours count for more than their share: a small red dot is seen. */
const RARE = 0.7;
const ROUNDS = 6;

/** 5 bits of red, green and blue, 3 of alpha. */
const BINS = 1 << 18;
const binOf = (r: number, g: number, b: number, a: number): number =>
  ((a >> 5) << 15) | ((r >> 3) << 10) | ((g >> 3) << 5) | (b >> 3);

function countInto(counts: Uint32Array, sums: Float64Array, { data, channels }: RgbaPixels): void {
  for (let p = 0; p < data.length; p += channels) {
    const a = channels === 4 ? data[p + 3] : 255;
    if (a === 0) continue;
    const bin = binOf(data[p], data[p + 1], data[p + 2], a);
    counts[bin] += 1;
    sums[bin * 4] += data[p];
    sums[bin * 4 + 1] += data[p + 1];
    sums[bin * 4 + 2] += data[p + 2];
    sums[bin * 4 + 3] += a;
  }
}

function gathered(pixels: RgbaPixels): Gathered {
  const counts = new Uint32Array(BINS);
  const sums = new Float64Array(BINS * 4);
  countInto(counts, sums, pixels);
  let count = 0;
  for (let bin = 0; bin < BINS; bin += 1) if (counts[bin]) count += 1;
  const out: Gathered = {
    at: new Float32Array(count * AXES),
    rgba: new Float32Array(count * 4),
    weights: new Float64Array(count),
    count,
  };
  for (let bin = 0, i = 0; bin < BINS; bin += 1) {
    const n = counts[bin];
    if (!n) continue;
    const rgba = [0, 1, 2, 3].map((c) => sums[bin * 4 + c] / n);
    const [r, g, b, a] = rgba;
    out.rgba.set(rgba, i * 4);
    out.at.set([...oklabOf(r, g, b), (a / 255) * ALPHA_SCALE], i * AXES);
    // What is hardly seen has hardly a colour.
    out.weights[i] = n ** RARE * Math.max(0.1, a / 255);
    i += 1;
  }
  return out;
}

interface Box {
  members: Uint32Array;
  /** Along which it varies most, by how much, and where it is cut. */
  axis: number;
  spread: number;
  cut: number;
}

function boxOf({ at, weights }: Gathered, members: Uint32Array): Box {
  const sum = new Float64Array(AXES);
  const squares = new Float64Array(AXES);
  let total = 0;
  for (const i of members) {
    total += weights[i];
    for (let c = 0; c < AXES; c += 1) {
      const v = at[i * AXES + c];
      sum[c] += weights[i] * v;
      squares[c] += weights[i] * v * v;
    }
  }
  let axis = 0;
  const spreads = sum.map((s, c) => squares[c] - (s * s) / Math.max(1e-9, total));
  for (let c = 1; c < AXES; c += 1) if (spreads[c] > spreads[axis]) axis = c;
  return {
    members,
    axis,
    spread: members.length > 1 ? spreads[axis] : 0,
    cut: sum[axis] / Math.max(1e-9, total),
  };
}

function boxesOf(colours: Gathered, most: number): Box[] {
  const boxes = [
    boxOf(
      colours,
      Uint32Array.from({ length: colours.count }, (_, i) => i),
    ),
  ];
  while (boxes.length < most) {
    const widest = boxes.reduce((best, box) => (box.spread > best.spread ? box : best));
    if (widest.spread <= 1e-9) break;
    const above = (i: number) => colours.at[i * AXES + widest.axis] > widest.cut;
    const [high, low] = [widest.members.filter(above), widest.members.filter((i) => !above(i))];
    if (!high.length || !low.length) {
      widest.spread = 0;
      continue;
    }
    boxes.splice(boxes.indexOf(widest), 1, boxOf(colours, low), boxOf(colours, high));
  }
  return boxes;
}

function nearestOf(at: Float32Array, from: number, means: Float64Array, count: number): number {
  let [best, least] = [0, Infinity];
  for (let k = 0; k < count; k += 1) {
    let d = 0;
    for (let c = 0; c < AXES; c += 1) {
      const v = at[from + c] - means[k * AXES + c];
      d += v * v;
    }
    if (d < least) [best, least] = [k, d];
  }
  return best;
}

/** Moves means to the middle of the colours that are nearest to them; which mean is nearest to which colour. */
function settled({ at, weights, count }: Gathered, means: Float64Array, length: number): Uint16Array {
  const nearest = new Uint16Array(count);
  for (let round = 0; round < ROUNDS; round += 1) {
    const sums = new Float64Array(length * AXES);
    const totals = new Float64Array(length);
    for (let i = 0; i < count; i += 1) {
      const k = nearestOf(at, i * AXES, means, length);
      nearest[i] = k;
      totals[k] += weights[i];
      for (let c = 0; c < AXES; c += 1) sums[k * AXES + c] += weights[i] * at[i * AXES + c];
    }
    for (let k = 0; k < length; k += 1)
      if (totals[k]) for (let c = 0; c < AXES; c += 1) means[k * AXES + c] = sums[k * AXES + c] / totals[k];
  }
  return nearest;
}

/** The colours themselves where there are no more than `most`; else null. */
function exactColours({ data, channels }: RgbaPixels, most: number): Uint8Array | null {
  const found = new Set<number>();
  for (let p = 0; p < data.length; p += channels) {
    const a = channels === 4 ? data[p + 3] : 255;
    if (a === 0) continue;
    found.add(((data[p] << 24) | (data[p + 1] << 16) | (data[p + 2] << 8) | a) >>> 0);
    if (found.size > most) return null;
  }
  return Uint8Array.from(
    [...found].flatMap((code) => [code >>> 24, (code >> 16) & 255, (code >> 8) & 255, code & 255]),
  );
}

/** At most so many colours for what is seen of a picture, four code values each: red, green, blue, alpha. */
export function paletteOf(pixels: RgbaPixels, most: number): { palette: Uint8Array; exact: boolean } {
  const exact = exactColours(pixels, most);
  if (exact) return { palette: exact.length ? exact : new Uint8Array(4), exact: true };
  const colours = gathered(pixels);
  const boxes = boxesOf(colours, most);
  const { length } = boxes;
  const means = new Float64Array(length * AXES);
  for (const [k, { members }] of boxes.entries()) {
    const total = members.reduce((sum, i) => sum + colours.weights[i], 0);
    for (const i of members)
      for (let c = 0; c < AXES; c += 1)
        means[k * AXES + c] += (colours.weights[i] * colours.at[i * AXES + c]) / total;
  }
  const nearest = settled(colours, means, length);
  const sums = new Float64Array(length * 5);
  for (let i = 0; i < colours.count; i += 1) {
    const k = nearest[i] * 5;
    for (let c = 0; c < 4; c += 1) sums[k + c] += colours.weights[i] * colours.rgba[i * 4 + c];
    sums[k + 4] += colours.weights[i];
  }
  const used = boxes.map((_, k) => k).filter((k) => sums[k * 5 + 4] > 0);
  const code = (k: number, c: number) => Math.round(sums[k * 5 + c] / sums[k * 5 + 4]);
  return { palette: Uint8Array.from(used.flatMap((k) => [0, 1, 2, 3].map((c) => code(k, c)))), exact: false };
}
