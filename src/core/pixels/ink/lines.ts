/** Lines of the paper: ruled lines and the line to sign on are straight, thin and long. */

interface Line {
  /** y = at + slope × x for lines across; x = at + slope × y for lines down. */
  at: number;
  slope: number;
  down: boolean;
  thickness: number;
  /** The middle one of its values. */
  value: number;
}

type Point = [along: number, middle: number, thick: number, value: number];

/** Slopes that are tried, in steps of a tenth of a degree up to six. */
const SLOPES = Array.from({ length: 121 }, (_, i) => Math.tan(((i - 60) / 10) * (Math.PI / 180)));
/** A line runs over at least this share of the picture, and is there for this share of its way. */
const LONG = 0.6;
const THERE = 0.8;
/** In a smaller picture a stroke can be as straight and as long. */
const LEAST_SIDE = 240;

/**
 * Takes lines out of the mask (values from `weak` on) in place; strokes that cross them stay. The number of
 * lines.
 */
export function takeLines(values: Uint8Array, width: number, height: number, weak: number): number {
  let found = 0;
  for (const down of [false, true]) {
    if ((down ? height : width) < LEAST_SIDE) continue;
    for (const line of linesIn(values, width, height, weak, down)) {
      found += 1;
      clear(values, width, height, weak, line);
    }
  }
  return found;
}

function linesIn(values: Uint8Array, width: number, height: number, weak: number, down: boolean): Line[] {
  const [length, across] = down ? [height, width] : [width, height];
  const at = (along: number, side: number) =>
    down ? values[along * width + side] : values[side * width + along];
  // Runs that are short across are all that a thin line can be made of.
  const most = Math.max(3, Math.round(across / 80));
  const step = Math.max(1, Math.floor(length / 500));
  const points: Point[] = [];
  for (let a = 0; a < length; a += step) {
    for (let s = 0; s < across; s += 1) {
      if (at(a, s) < weak) continue;
      const from = s;
      while (s < across && at(a, s) >= weak) s += 1;
      if (s - from <= most) points.push([a, (from + s - 1) / 2, s - from, at(a, (from + s - 1) >> 1)]);
    }
  }
  const columns = Math.ceil(length / step);
  if (points.length < columns * LONG * THERE) return [];
  const lines: Line[] = [];
  let left = points;
  let slopes = SLOPES;
  for (let round = 0; round < 60; round += 1) {
    const line = bestLine(left, slopes, columns, length, across, down);
    if (!line) break;
    lines.push(line.line);
    // The lines of one sheet are parallel, but for perspective.
    if (lines.length === 1) slopes = SLOPES.filter((slope) => Math.abs(slope - line.line.slope) < 0.02);
    left = left.filter((point) => !line.taken.has(point));
    if (left.length < columns * LONG * THERE) break;
  }
  return lines;
}

function bestLine(
  points: readonly Point[],
  slopes: readonly number[],
  columns: number,
  length: number,
  across: number,
  down: boolean,
): { line: Line; taken: Set<Point> } | null {
  let best = { votes: 0, slope: 0, bin: 0 };
  const room = Math.ceil(Math.abs(SLOPES[0]) * length) + 2;
  const bins = new Int32Array(across + 2 * room);
  for (const slope of slopes) {
    bins.fill(0);
    for (const [a, middle] of points) bins[Math.round(middle - slope * a) + room] += 1;
    for (let b = 1; b < bins.length - 1; b += 1) {
      const votes = bins[b - 1] + bins[b] + bins[b + 1];
      if (votes > best.votes) best = { votes, slope, bin: b - room };
    }
  }
  if (best.votes < columns * LONG * THERE) return null;
  const on = points.filter(([a, middle]) => Math.abs(middle - best.slope * a - best.bin) <= 1.5);
  const ends = on.reduce(([low, high], [a]) => [Math.min(low, a), Math.max(high, a)], [Infinity, -Infinity]);
  const way = ends[1] - ends[0] + 1;
  // There for most of its way, and long enough: strokes in a row are neither.
  if (way < length * LONG || on.length < (way / length) * columns * THERE) return null;
  const median = (values: number[]) => values.sort((x, y) => x - y)[Math.floor(values.length / 2)];
  return {
    line: {
      at: best.bin,
      slope: best.slope,
      down,
      thickness: median(on.map(([, , thick]) => thick)),
      value: median(on.map(([, , , value]) => value)),
    },
    taken: new Set(on),
  };
}

/**
 * Only where the mask is no thicker than the line and no darker: a stroke that crosses it reaches further,
 * or shows through.
 */
function clear(
  values: Uint8Array,
  width: number,
  height: number,
  weak: number,
  { at, slope, down, thickness, value }: Line,
): void {
  const darkest = value * 1.4;
  const [length, across] = down ? [height, width] : [width, height];
  const index = (along: number, side: number) => (down ? along * width + side : side * width + along);
  for (let a = 0; a < length; a += 1) {
    const middle = Math.round(at + slope * a);
    for (let s = middle - 2; s <= middle + 2; s += 1) {
      if (s < 0 || s >= across || values[index(a, s)] < weak) continue;
      let [from, to] = [s, s];
      while (from > 0 && values[index(a, from - 1)] >= weak) from -= 1;
      while (to < across - 1 && values[index(a, to + 1)] >= weak) to += 1;
      if (to - from + 1 <= thickness * 1.8 + 1) {
        for (let k = from; k <= to; k += 1)
          if (values[index(a, k)] <= darkest) values[index(a, k)] = Math.min(values[index(a, k)], weak - 1);
      }
      break;
    }
  }
}
