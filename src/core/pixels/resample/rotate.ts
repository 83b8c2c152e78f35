/** Sampling along turned axes: straightening. */
import { kernels } from "./kernels";
import type { FloatImage } from "./resample";
import { LANES } from "./rows";

export interface Turned {
  /**
   * Centre of the part in the samples of the input, edges of pixels counted (0 is the left edge of the
   * first).
   */
  x: number;
  y: number;
  /** Clockwise, in radians: how far the part is turned against the input. */
  angle: number;
  /** Input samples per output sample. */
  step: number;
  width: number;
  height: number;
}

/** Catmull-Rom (support 2) at every point of a turned grid; beyond the edge the last sample is repeated. */
export function sampleTurned(image: FloatImage, { x, y, angle, step, width, height }: Turned): FloatImage {
  const { weight } = kernels["catmull-rom"];
  const data = new Float32Array(width * height * LANES);
  const [cos, sin] = [Math.cos(angle) * step, Math.sin(angle) * step];
  const wx = new Float64Array(4);
  const wy = new Float64Array(4);
  for (let row = 0, at = 0; row < height; row += 1) {
    const v = row + 0.5 - height / 2;
    for (let column = 0; column < width; column += 1, at += LANES) {
      const u = column + 0.5 - width / 2;
      const sx = x + u * cos - v * sin - 0.5;
      const sy = y + u * sin + v * cos - 0.5;
      const [left, top] = [Math.floor(sx), Math.floor(sy)];
      for (let k = 0; k < 4; k += 1) {
        wx[k] = weight(left - 1 + k - sx);
        wy[k] = weight(top - 1 + k - sy);
      }
      for (let j = 0; j < 4; j += 1) {
        const line = Math.min(image.height - 1, Math.max(0, top - 1 + j)) * image.width;
        for (let i = 0; i < 4; i += 1) {
          const from = (line + Math.min(image.width - 1, Math.max(0, left - 1 + i))) * LANES;
          const share = wx[i] * wy[j];
          for (let c = 0; c < LANES; c += 1) data[at + c] += share * image.data[from + c];
        }
      }
    }
  }
  return { data, width, height };
}
