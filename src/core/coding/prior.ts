/**
 * How JPEG size usually grows with the quality setting: the start of every
 * interpolation and the source of estimates marked "about". Measured on a
 * photograph of 1024 × 683 px, 4:2:0, Annex K tables, trellis, progressive.
 */
const MEASURED: readonly [quality: number, value: number][] = [
  [1, 0.0077],
  [10, 0.0134],
  [20, 0.0253],
  [30, 0.0378],
  [40, 0.0489],
  [50, 0.0598],
  [60, 0.0718],
  [70, 0.0897],
  [75, 0.1009],
  [80, 0.1193],
  [85, 0.1444],
  [90, 0.19],
  [93, 0.2356],
  [95, 0.2939],
  [97, 0.3892],
  [98, 0.4509],
  [99, 0.5669],
  [100, 0.6561],
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
 * How the visible difference usually falls with the quality setting: geometric means over ten pictures of
 * six photographs.
 */
const DIFFERENCE: Record<
  "4:2:0" | "4:4:4" | "webp" | "avif",
  readonly [quality: number, difference: number][]
> = {
  "4:2:0": [
    [1, 9],
    [12, 5.57],
    [30, 3.12],
    [50, 2.39],
    [65, 2.01],
    [78, 1.62],
    [86, 1.32],
    [92, 1.02],
    [96, 0.73],
    [100, 0.45],
  ],
  "4:4:4": [
    [1, 8],
    [12, 4.8],
    [30, 2.73],
    [50, 2.34],
    [65, 1.96],
    [78, 1.47],
    [86, 1.25],
    [92, 0.94],
    [96, 0.53],
    [100, 0.2],
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
export const differenceLog = (of: keyof typeof DIFFERENCE, quality: number): number =>
  logAt(DIFFERENCE[of], quality);

/** 4:4:4 carries twice the samples of 4:2:0; on photographs that costs about this, in ln(bytes). */
export const FULL_CHROMA = 0.33;

/** An estimate in bytes for a JPEG of that many pixels, to be shown with "about". */
export function aboutJpeg(pixels: number, quality: number): number {
  return Math.round(pixels * Math.exp(priorLog(quality)));
}

/** An estimate in bytes for a photograph as a lossless PNG. */
export const aboutPng = (pixels: number): number => Math.round(pixels * 1.6);
export const aboutLosslessWebp = (pixels: number): number => Math.round(pixels * 1.15);
