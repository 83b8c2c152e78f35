/** The RGB spaces that have names here, computed from their standards' primaries. */
import {
  BT2020_CURVE,
  LINEAR_CURVE,
  OPRGB_CURVE,
  PQ_CURVE,
  ROMM_CURVE,
  SRGB_CURVE,
  type ToneCurve,
} from "./curve";
import { apply, invert, type Matrix, multiply, type Triple } from "./matrix";

export type RgbName = "srgb" | "display-p3" | "oprgb" | "romm-rgb" | "bt2020";

/**
 * An RGB space by its matrix to XYZ under D50 (the profile connection space of ICC.1:2022) and one curve a
 * channel.
 */
export interface RgbSpace {
  toXyz: Matrix;
  curves: readonly [ToneCurve, ToneCurve, ToneCurve];
  /** The linear value of reference white, where that is not 1: the space reaches beyond it. */
  white?: number;
}

type Xy = readonly [number, number];
const D65: Xy = [0.3127, 0.329];
const D50: Xy = [0.3457, 0.3585];
/** ICC.1:2022, 7.2.16. */
export const PCS_WHITE: Triple = [0.9642, 1, 0.8249];
/** Linear Bradford cone matrix, ICC.1:2022 annex E. */
const BRADFORD: Matrix = [0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296];

interface Standard {
  red: Xy;
  green: Xy;
  blue: Xy;
  white: Xy;
  curve: ToneCurve;
}

/**
 * sRGB: IEC 61966-2-1. Display P3: primaries of SMPTE RP 431-2 with D65 and the sRGB curve (SMPTE EG 432-1).
 * opRGB: IEC 61966-2-5. ROMM RGB: ISO 22028-2. BT.2020: ITU-R BT.2020.
 */
const STANDARDS: Record<RgbName, Standard> = {
  srgb: { red: [0.64, 0.33], green: [0.3, 0.6], blue: [0.15, 0.06], white: D65, curve: SRGB_CURVE },
  "display-p3": {
    red: [0.68, 0.32],
    green: [0.265, 0.69],
    blue: [0.15, 0.06],
    white: D65,
    curve: SRGB_CURVE,
  },
  oprgb: { red: [0.64, 0.33], green: [0.21, 0.71], blue: [0.15, 0.06], white: D65, curve: OPRGB_CURVE },
  "romm-rgb": {
    red: [0.7347, 0.2653],
    green: [0.1596, 0.8404],
    blue: [0.0366, 0.0001],
    white: D50,
    curve: ROMM_CURVE,
  },
  bt2020: {
    red: [0.708, 0.292],
    green: [0.17, 0.797],
    blue: [0.131, 0.046],
    white: D65,
    curve: BT2020_CURVE,
  },
};

const xyz = ([x, y]: Xy): Triple => [x / y, 1, (1 - x - y) / y];

function spaceOf({ red, green, blue, white, curve }: Standard): RgbSpace {
  const [r, g, b] = [red, green, blue].map(xyz);
  const columns: Matrix = [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]];
  const [sr, sg, sb] = apply(invert(columns)!, xyz(white));
  const native: Matrix = [
    r[0] * sr,
    g[0] * sg,
    b[0] * sb,
    r[1] * sr,
    g[1] * sg,
    b[1] * sb,
    r[2] * sr,
    g[2] * sg,
    b[2] * sb,
  ];
  const from = apply(BRADFORD, xyz(white));
  const to = apply(BRADFORD, PCS_WHITE);
  const scale: Matrix = [to[0] / from[0], 0, 0, 0, to[1] / from[1], 0, 0, 0, to[2] / from[2]];
  return {
    toXyz: multiply(multiply(invert(BRADFORD)!, multiply(scale, BRADFORD)), native),
    curves: [curve, curve, curve],
  };
}

export const SPACES: Record<RgbName, RgbSpace> = {
  srgb: spaceOf(STANDARDS.srgb),
  "display-p3": spaceOf(STANDARDS["display-p3"]),
  oprgb: spaceOf(STANDARDS.oprgb),
  "romm-rgb": spaceOf(STANDARDS["romm-rgb"]),
  bt2020: spaceOf(STANDARDS.bt2020),
};

/** Linear RGB of one space to linear RGB of another. */
export function between(from: RgbSpace, to: RgbSpace): Matrix {
  return multiply(invert(to.toXyz)!, from.toXyz);
}

/** Reference white in cd/m², ITU-R BT.2408. */
export const WHITE_NITS = 203;
/** The most that a PQ signal can say, in multiples of reference white. */
export const PQ_PEAK = 10_000 / WHITE_NITS;

/** The same colours with a curve of its own; `peak`: multiples of white that the highest code stands for. */
function reaching(name: RgbName, curve: ToneCurve, peak: number): RgbSpace {
  return {
    toXyz: SPACES[name].toXyz.map((v) => v * peak) as unknown as Matrix,
    curves: [curve, curve, curve],
    white: 1 / peak,
  };
}

/** The same space where codes stand for so many times more light. */
export const scaledSpace = (space: RgbSpace, times: number): RgbSpace =>
  times === 1 ? space : { ...space, toXyz: space.toXyz.map((v) => v * times) as unknown as Matrix };

export const linearSpace = (name: RgbName): RgbSpace => ({
  toXyz: SPACES[name].toXyz,
  curves: [LINEAR_CURVE, LINEAR_CURVE, LINEAR_CURVE],
});

/** Light above white after ITU-R BT.2100 (PQ), in the primaries that HDR pictures are handed over in. */
export const PQ_SPACES = {
  "display-p3": reaching("display-p3", PQ_CURVE, PQ_PEAK),
  bt2020: reaching("bt2020", PQ_CURVE, PQ_PEAK),
  srgb: reaching("srgb", PQ_CURVE, PQ_PEAK),
} as const;
export type PqName = keyof typeof PQ_SPACES;
