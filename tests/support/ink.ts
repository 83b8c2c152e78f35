/** Pictures of ink on paper with a known mask, made up stroke by stroke. */
import sharp from "sharp";

export interface InkPicture {
  data: Uint8Array;
  width: number;
  height: number;
  /** Share of each pixel that is ink, 0 to 1. */
  truth: Float32Array;
}

export interface Sheet {
  width: number;
  height: number;
  /** Linear reflectances, RGB. */
  paper: readonly number[];
  ink: readonly number[];
  /** Width of the pen in px. */
  pen: number;
  /** Light at the dark end of the fall-off, 1 at the other. */
  light?: number;
  /** A shadow with a hard edge that takes half of the light. */
  shadow?: boolean;
  crease?: boolean;
  /** Distance of ruled lines in px, how much of the ink's darkness they have, and how much they slope. */
  ruled?: { every: number; strength: number; slope: number };
  noise?: number;
  specks?: number;
  /** Where signatures stand: centre and size, in shares of the picture. */
  at?: readonly { x: number; y: number; size: number }[];
}

function random(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 4_294_967_296;
  };
}

/** A looping line with a dot, as signatures have. */
function strokes(
  { x, y, size }: { x: number; y: number; size: number },
  width: number,
  height: number,
): [number, number][][] {
  const line: [number, number][] = [];
  const w = size * width;
  for (let t = 0; t <= 1; t += 0.0008) {
    const loop = t * Math.PI * 11;
    line.push([
      x * width + (t - 0.5) * w + Math.sin(loop) * w * 0.045,
      y * height +
        Math.cos(loop * 0.92) * w * 0.1 * (0.5 + 0.5 * Math.cos(t * 5)) +
        Math.sin(t * 9) * w * 0.02,
    ]);
  }
  const dot: [number, number][] = [[x * width - w * 0.2, y * height - w * 0.16]];
  return [line, dot];
}

/** Codes of light from 0 to 1 in steps that are finer than any noise: the curve itself takes longer than all else. */
const STEPS = 65_536;
const CODES = Float32Array.from({ length: STEPS + 1 }, (_, i) => {
  const v = i / STEPS;
  return (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055) * 255;
});
const srgb = (v: number) => CODES[Math.round(Math.min(1, Math.max(0, v)) * STEPS)];

const drawn = new Map<string, InkPicture>();

/** Nobody may write into what is given back: one sheet is drawn once. */
export function drawInk(sheet: Sheet): InkPicture {
  const key = JSON.stringify(sheet);
  const picture = drawn.get(key) ?? draw(sheet);
  drawn.set(key, picture);
  return picture;
}

function draw(sheet: Sheet): InkPicture {
  const { width, height, pen, at = [{ x: 0.5, y: 0.5, size: 0.6 }] } = sheet;
  const truth = new Float32Array(width * height);
  const put = (cx: number, cy: number, r: number) => {
    for (let y = Math.max(0, Math.floor(cy - r - 1)); y <= Math.min(height - 1, cy + r + 1); y += 1) {
      for (let x = Math.max(0, Math.floor(cx - r - 1)); x <= Math.min(width - 1, cx + r + 1); x += 1) {
        const a = Math.min(1, Math.max(0, r + 0.5 - Math.hypot(x + 0.5 - cx, y + 0.5 - cy)));
        if (a > truth[y * width + x]) truth[y * width + x] = a;
      }
    }
  };
  for (const place of at)
    for (const line of strokes(place, width, height))
      for (const [x, y] of line) put(x, y, (pen / 2) * (line.length === 1 ? 1.3 : 1));
  const next = random(7);
  const specks = Array.from({ length: sheet.specks ?? 0 }, () => [
    next() * width,
    next() * height,
    0.6 + next() * pen * 0.12,
  ]);
  const dust = new Float32Array(width * height);
  for (const [cx, cy, r] of specks) {
    for (let y = Math.max(0, Math.floor(cy - 3)); y < Math.min(height, cy + 3); y += 1)
      for (let x = Math.max(0, Math.floor(cx - 3)); x < Math.min(width, cx + 3); x += 1)
        if (Math.hypot(x + 0.5 - cx, y + 0.5 - cy) < r) dust[y * width + x] = 0.8;
  }
  const data = new Uint8Array(width * height * 3);
  for (let y = 0, i = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, i += 1) {
      let light = 1 - (1 - (sheet.light ?? 1)) * (0.7 * (x / width) + 0.3 * (y / height));
      if (sheet.shadow && x + y * 0.4 > width * 0.62) light *= 0.5;
      if (sheet.crease) light *= 1 - 0.18 * Math.exp(-(((x - width * 0.37 - y * 0.05) / 5) ** 2));
      let line = 0;
      if (sheet.ruled) {
        const off =
          (((y - sheet.ruled.slope * x) % sheet.ruled.every) + sheet.ruled.every) % sheet.ruled.every;
        line = off < 2 ? sheet.ruled.strength : 0;
      }
      const a = Math.max(truth[i], dust[i]);
      const grain = () => (next() + next() + next() - 1.5) * (sheet.noise ?? 0);
      for (let c = 0; c < 3; c += 1) {
        const ground = sheet.paper[c] * (1 - line) + sheet.ink[c] * line;
        data[i * 3 + c] = Math.max(
          0,
          Math.min(255, Math.round(srgb((ground * (1 - a) + sheet.ink[c] * a) * light) + grain())),
        );
      }
    }
  }
  return { data, width, height, truth };
}

export const WHITE = [0.82, 0.82, 0.8] as const;
export const CREAM = [0.78, 0.7, 0.5] as const;
export const BLACK_INK = [0.03, 0.03, 0.03] as const;
export const BLUE_INK = [0.05, 0.08, 0.35] as const;
export const GREY_INK = [0.25, 0.25, 0.26] as const;

/** Shares of true ink (coverage above a half) that was kept, and of true paper (no coverage) that was taken. */
export function score(truth: Float32Array, taken: (i: number) => boolean): { kept: number; wrong: number } {
  let [ink, kept, paper, wrong] = [0, 0, 0, 0];
  for (let i = 0; i < truth.length; i += 1) {
    if (truth[i] > 0.5) {
      ink += 1;
      if (taken(i)) kept += 1;
    } else if (truth[i] === 0) {
      paper += 1;
      if (taken(i)) wrong += 1;
    }
  }
  return { kept: kept / ink, wrong: wrong / paper };
}

/** A JPEG of a signature in blue ink on cream paper, lit from one side. */
export async function signaturePhoto(across = 900): Promise<Buffer> {
  const { data, width, height } = drawInk({
    width: across,
    height: 500,
    paper: CREAM,
    ink: BLUE_INK,
    pen: 7,
    noise: 3,
    light: 0.5,
  });
  return sharp(data, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 88 })
    .toBuffer();
}
