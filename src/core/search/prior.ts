/**
 * How JPEG size usually grows with the quality setting: the start of every
 * interpolation and the source of estimates marked "about". Measured on a
 * photograph of 1024 × 683 px, 4:2:0, Annex K tables, trellis, progressive.
 */
const MEASURED: readonly [quality: number, bytesPerPixel: number][] = [
  [1, 0.0077], [10, 0.0134], [20, 0.0253], [30, 0.0378], [40, 0.0489], [50, 0.0598], [60, 0.0718], [70, 0.0897], [75, 0.1009],
  [80, 0.1193], [85, 0.1444], [90, 0.19], [93, 0.2356], [95, 0.2939], [97, 0.3892], [98, 0.4509], [99, 0.5669], [100, 0.6561],
];

/** ln(bytes per pixel) at a quality of 1 to 100. */
export function priorLog(quality: number): number {
  for (let i = 1; i < MEASURED.length; i += 1) {
    const [q1, b1] = MEASURED[i];
    if (quality > q1) continue;
    const [q0, b0] = MEASURED[i - 1];
    return Math.log(b0) + ((quality - q0) / (q1 - q0)) * Math.log(b1 / b0);
  }
  return Math.log(MEASURED[MEASURED.length - 1][1]);
}

/** 4:4:4 carries twice the samples of 4:2:0; on photographs that costs about this, in ln(bytes). */
export const FULL_CHROMA = 0.33;

/** An estimate in bytes for a JPEG of that many pixels, to be shown with "about". */
export function aboutJpeg(pixels: number, quality: number): number {
  return Math.round(pixels * Math.exp(priorLog(quality)));
}

/** An estimate in bytes for a photograph as a lossless PNG. */
export const aboutPng = (pixels: number): number => Math.round(pixels * 1.6);
