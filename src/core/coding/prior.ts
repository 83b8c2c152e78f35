import type { Chroma } from "./types";

/**
 * How JPEG size usually grows with the quality setting: the start of every interpolation and the source of estimates
 * marked "about". Bytes a pixel on our own tables, 4:2:0: geometric means over 22 pictures of 13 photographs.
 */
const MEASURED: readonly [quality: number, value: number][] = [
  [1, 0.0055],
  [5, 0.0098],
  [10, 0.0165],
  [20, 0.0295],
  [30, 0.0414],
  [40, 0.0527],
  [50, 0.0637],
  [60, 0.076],
  [70, 0.0949],
  [80, 0.1271],
  [86, 0.1613],
  [90, 0.1989],
  [93, 0.2408],
  [95, 0.2933],
  [97, 0.3774],
  [98, 0.4463],
  [99, 0.5151],
  [100, 0.554],
];

/**
 * The same for WebP (4:2:0, effort 4) and AVIF (4:4:4, effort 2): geometric means over three photographs of
 * 800 px.
 */
const MEASURED_WEBP: typeof MEASURED = [
  [1, 0.013],
  [10, 0.023],
  [20, 0.0326],
  [30, 0.0421],
  [40, 0.0526],
  [50, 0.063],
  [60, 0.0743],
  [70, 0.0863],
  [80, 0.1169],
  [85, 0.1519],
  [90, 0.2066],
  [95, 0.3077],
  [98, 0.3845],
  [100, 0.4166],
];
const MEASURED_AVIF: typeof MEASURED = [
  [1, 0.0079],
  [10, 0.0114],
  [20, 0.0175],
  [30, 0.027],
  [40, 0.0434],
  [50, 0.0704],
  [60, 0.1038],
  [70, 0.1396],
  [80, 0.1843],
  [85, 0.2091],
  [90, 0.2778],
  [95, 0.4241],
  [98, 0.5644],
  [100, 1.1145],
];

/**
 * How the visible difference usually falls with the quality setting: geometric means over the same pictures, for
 * WebP and AVIF over ten of six photographs.
 */
const DIFFERENCE: Record<
  "4:2:0" | "4:4:4" | "webp" | "avif",
  readonly [quality: number, difference: number][]
> = {
  "4:2:0": [
    [1, 15.2],
    [5, 8.54],
    [10, 5.37],
    [20, 3.5],
    [30, 2.76],
    [40, 2.32],
    [50, 2.04],
    [60, 1.78],
    [70, 1.48],
    [80, 1.14],
    [86, 0.918],
    [90, 0.752],
    [93, 0.626],
    [95, 0.532],
    [97, 0.444],
    [98, 0.4],
    [99, 0.373],
    [100, 0.367],
  ],
  "4:4:4": [
    [1, 15.2],
    [5, 8.51],
    [10, 5.27],
    [20, 3.39],
    [30, 2.64],
    [40, 2.2],
    [50, 1.92],
    [60, 1.66],
    [70, 1.35],
    [80, 1],
    [86, 0.79],
    [90, 0.635],
    [93, 0.522],
    [95, 0.426],
    [97, 0.343],
    [98, 0.295],
    [99, 0.269],
    [100, 0.264],
  ],
  webp: [
    [1, 6],
    [10, 4.16],
    [30, 2.91],
    [50, 2.22],
    [70, 1.79],
    [80, 1.41],
    [88, 0.98],
    [95, 0.65],
    [100, 0.45],
  ],
  avif: [
    [1, 8],
    [20, 4.68],
    [35, 3.18],
    [50, 2.01],
    [60, 1.5],
    [70, 1.15],
    [80, 0.89],
    [90, 0.6],
    [100, 0.15],
  ],
};

function logAt(measured: typeof MEASURED, quality: number): number {
  for (let i = 1; i < measured.length; i += 1) {
    const [q1, b1] = measured[i];
    if (quality > q1) continue;
    const [q0, b0] = measured[i - 1];
    return Math.log(b0) + ((quality - q0) / (q1 - q0)) * Math.log(b1 / b0);
  }
  return Math.log(measured[measured.length - 1][1]);
}

/** ln(bytes per pixel) of a JPEG at a quality of 1 to 100. */
export const priorLog = (quality: number): number => logAt(MEASURED, quality);
export const webpPriorLog = (quality: number): number => logAt(MEASURED_WEBP, quality);
export const avifPriorLog = (quality: number): number => logAt(MEASURED_AVIF, quality);

/** ln(visible difference) at a quality of 1 to 100: of JPEG with a chroma, of WebP or AVIF. */
export const differenceLog = (of: Chroma | "webp" | "avif", quality: number): number =>
  logAt(DIFFERENCE[of === "4:2:2" ? "4:2:0" : of], quality);

/** 4:4:4 carries twice the samples of 4:2:0; on photographs that costs about this, in ln(bytes). */
export const FULL_CHROMA = 0.22;

/** An estimate in bytes for a JPEG of that many pixels, to be shown with "about". */
export function aboutJpeg(pixels: number, quality: number): number {
  return Math.round(pixels * Math.exp(priorLog(quality)));
}

/** An estimate in bytes for a photograph as a lossless PNG. */
export const aboutPng = (pixels: number): number => Math.round(pixels * 1.6);
export const aboutLosslessWebp = (pixels: number): number => Math.round(pixels * 1.15);
