/**
 * Light above white brought into an ordinary picture: the strongest channel follows the shoulder, the others
 * keep their share, so that no hue turns.
 */
import { LANES } from "../resample";
import { underWhite } from "./shoulder";

/**
 * Linear light from which on lights are pressed together; below it an ordinary picture of the scene is exact.
 */
const START = 0.62;
const STEPS = 4096;

/**
 * For rows of linear light (four values a pixel, not premultiplied): `scale` brings them to multiples of
 * white, which reach up to `reach`.
 */
export function compressor(scale: number, reach: number): (row: Float32Array) => void {
  if (reach <= 1.001) {
    return (row) => {
      for (let i = 0; i < row.length; i += LANES) for (let c = 0; c < 3; c += 1) row[i + c] *= scale;
    };
  }
  // The factor by which a pixel is darkened, over its strongest channel.
  const table = Float32Array.from({ length: STEPS + 2 }, (_, i) => {
    const light = (i / STEPS) * reach;
    return light > 0 ? underWhite({ start: START, peak: reach }, light) / light : 1;
  });
  return (row) => {
    for (let i = 0; i < row.length; i += LANES) {
      const strongest = Math.max(row[i], row[i + 1], row[i + 2]) * scale;
      let factor = scale;
      if (strongest >= reach) factor = scale / strongest;
      else if (strongest > START) {
        const at = (strongest / reach) * STEPS;
        const k = at | 0;
        factor = scale * (table[k] + (at - k) * (table[k + 1] - table[k]));
      }
      for (let c = 0; c < 3; c += 1) row[i + c] *= factor;
    }
  };
}
