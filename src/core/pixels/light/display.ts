/**
 * PQ signals on an ordinary screen: pictures of 8 bits that show the light above white in one way or another.
 */
import {
  between,
  encodeWith,
  encodingTable,
  PQ_PEAK,
  type PqName,
  SPACES,
  SRGB_CURVE,
  type Triple,
} from "../colour";
import { compressor } from "./compress";
import { nitsTable } from "./meter";

/**
 * As such a screen will show the file; darker, so that its lightest place is the screen's white; or what
 * lies above white marked.
 */
export const LIGHT_VIEWS = ["ordinary", "dimmed", "above"] as const;
export type LightView = (typeof LIGHT_VIEWS)[number];

/**
 * Stops above white from which on a place is marked so; each darker than the one before, so that it reads
 * without colour.
 */
export const LIGHT_BANDS: readonly { from: number; colour: Triple; words: string }[] = [
  { from: 0, colour: [255, 224, 138], words: "up to 1 stop" },
  { from: 1, colour: [222, 134, 40], words: "1 to 2" },
  { from: 2, colour: [130, 36, 8], words: "over 2" },
];

const CODES = encodingTable(SRGB_CURVE);
const code = (linear: number): number => encodeWith(CODES, linear) * 255 + 0.5;

/** Multiples of white of each 16-bit PQ code. */
let multiples: Float32Array | null = null;
export function whiteTimes(): Float32Array {
  multiples ??= nitsTable().map((nits) => (nits / 10_000) * PQ_PEAK);
  return multiples;
}

/**
 * RGBA of 8 bits in Display P3 from RGBA of 16-bit PQ codes. `reach`: multiples of white that the whole
 * picture reaches, so that
 * all of its parts are shown alike.
 */
export function lightOnScreen(
  codes: Uint16Array,
  primaries: PqName,
  view: LightView,
  reach: number,
): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(codes.length);
  const times = whiteTimes();
  const m = between(SPACES[primaries], SPACES["display-p3"]);
  const same = primaries === "display-p3";
  const [wr, wg, wb] = SPACES["display-p3"].toXyz.slice(3, 6);
  const press = compressor(1, reach);
  const pixel = new Float32Array(4);
  const scale = view === "dimmed" ? 1 / Math.max(1, reach) : 1;
  for (let p = 0; p < codes.length; p += 4) {
    const [r, g, b] = [times[codes[p]], times[codes[p + 1]], times[codes[p + 2]]];
    pixel[0] = (same ? r : m[0] * r + m[1] * g + m[2] * b) * scale;
    pixel[1] = (same ? g : m[3] * r + m[4] * g + m[5] * b) * scale;
    pixel[2] = (same ? b : m[6] * r + m[7] * g + m[8] * b) * scale;
    out[p + 3] = 255;
    if (view === "above") mark(out, p, Math.max(r, g, b), wr * pixel[0] + wg * pixel[1] + wb * pixel[2]);
    else {
      if (view === "ordinary") press(pixel);
      for (let c = 0; c < 3; c += 1) out[p + c] = code(pixel[c]);
    }
  }
  return out;
}

/** Pale grey up to white, then bands of stops. */
function mark(out: Uint8ClampedArray, p: number, strongest: number, luminance: number): void {
  if (strongest <= 1.005) {
    out.fill(120 + code(Math.max(0, luminance)) * 0.5, p, p + 3);
    return;
  }
  const stops = Math.log2(strongest);
  out.set(LIGHT_BANDS.reduce((found, band) => (stops >= band.from ? band : found)).colour, p);
}
