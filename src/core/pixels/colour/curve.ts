/**
 * Tone curves: from code values to linear light and back. Source: ICC.1:2022, 10.6 (curv) and 10.18 (para).
 */
export type ToneCurve =
  | { kind: "parametric"; type: 0 | 1 | 2 | 3 | 4; parameters: readonly number[] }
  | { kind: "table"; values: readonly number[] }
  /** SMPTE ST 2084 / ITU-R BT.2100: 1 stands for 10,000 cd/m². */
  | { kind: "pq" };

/** IEC 61966-2-1, as ICC parametric curve 3: (aX + b)^g from d on, cX below. */
export const SRGB_CURVE: ToneCurve = {
  kind: "parametric",
  type: 3,
  parameters: [2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045],
};
/** IEC 61966-2-5. */
export const OPRGB_CURVE: ToneCurve = { kind: "parametric", type: 0, parameters: [563 / 256] };
/** ISO 22028-2: exponent 1.8 with a straight toe. */
export const ROMM_CURVE: ToneCurve = {
  kind: "parametric",
  type: 3,
  parameters: [1.8, 1, 0, 1 / 16, 0.03125],
};
/** ITU-R BT.2020, 12-bit constants: the camera's curve turned round. */
export const BT2020_CURVE: ToneCurve = {
  kind: "parametric",
  type: 3,
  parameters: [1 / 0.45, 1 / 1.0993, 0.0993 / 1.0993, 1 / 4.5, 0.0181 * 4.5],
};

export const LINEAR_CURVE: ToneCurve = { kind: "parametric", type: 0, parameters: [1] };
export const PQ_CURVE: ToneCurve = { kind: "pq" };

/** Constants of SMPTE ST 2084, 5.3 (and of ITU-R BT.2100, table 4). */
const [M1, M2, C1, C2, C3] = [
  2610 / 16_384,
  (2523 / 4096) * 128,
  3424 / 4096,
  (2413 / 4096) * 32,
  (2392 / 4096) * 32,
];

/** Share of 10,000 cd/m² (0 to 1) of a PQ signal (0 to 1). */
export function pqToLight(signal: number): number {
  const v = Math.min(1, Math.max(0, signal)) ** (1 / M2);
  return (Math.max(0, v - C1) / (C2 - C3 * v)) ** (1 / M1);
}

/** PQ signal (0 to 1) of a share of 10,000 cd/m² (0 to 1). */
export function pqFromLight(light: number): number {
  const y = Math.min(1, Math.max(0, light)) ** M1;
  return ((C1 + C2 * y) / (1 + C3 * y)) ** M2;
}

/** Linear light (0 to 1) of a code value (0 to 1). */
export function toLinear(curve: ToneCurve, x: number): number {
  if (curve.kind === "pq") return pqToLight(x);
  if (curve.kind === "table") {
    const { values } = curve;
    const at = Math.min(1, Math.max(0, x)) * (values.length - 1);
    const i = Math.min(values.length - 2, Math.floor(at));
    return values.length === 1 ? values[0] : values[i] + (at - i) * (values[i + 1] - values[i]);
  }
  const [g, a = 1, b = 0, c = 0, d = 0, e = 0, f = 0] = curve.parameters;
  const power = (v: number) => (v <= 0 ? 0 : v ** g);
  switch (curve.type) {
    case 0:
      return power(x);
    case 1:
      return x >= -b / a ? power(a * x + b) : 0;
    case 2:
      return x >= -b / a ? power(a * x + b) + c : c;
    case 3:
      return x >= d ? power(a * x + b) : c * x;
    default:
      return x >= d ? power(a * x + b) + e : c * x + f;
  }
}

/**
 * Linear light of each whole code value of that many (256 or 65536); `white` is the code of 1. Others have the same
 * table: it is only read.
 */
export function linearTable(curve: ToneCurve, codes: number, white = codes - 1): Float32Array {
  return remembered(`${codes} ${white} ${JSON.stringify(curve)}`, () => {
    const out = new Float32Array(codes);
    for (let i = 0; i < codes; i += 1) out[i] = toLinear(curve, Math.min(1, i / white));
    return out;
  });
}

/** Whether two curves are the same to the eye: nowhere apart by more than a fifth of an 8-bit step. */
export function sameCurve(a: ToneCurve, b: ToneCurve): boolean {
  if (a === b) return true;
  for (let i = 0; i <= 64; i += 1) {
    const [x, y] = [toLinear(a, i / 64), toLinear(b, i / 64)];
    if (Math.abs(x - y) > 0.00005 + 0.0015 * Math.max(x, y)) return false;
  }
  return true;
}

/** Entries of an encoding table; between them it is linear. */
const STEPS = 16_384;

/**
 * Code values (0 to 1) for {@link encodeWith}: the inverse of the curve, found by halving. Its steps are
 * even in the square
 * root of linear light, where curves are nearly straight down to black.
 */
export function encodingTable(curve: ToneCurve): Float32Array {
  return remembered(JSON.stringify(curve), () => tableOf(curve));
}

/** They take a while to build, and most photos need the same few, as other objects each time. */
const tables = new Map<string, Float32Array>();
const MOST_TABLES = 64;

function remembered(key: string, make: () => Float32Array): Float32Array {
  const known = tables.get(key) ?? make();
  if (tables.size >= MOST_TABLES) tables.clear();
  tables.set(key, known);
  return known;
}

function tableOf(curve: ToneCurve): Float32Array {
  const out = new Float32Array(STEPS + 2);
  if (sameCurve(curve, SRGB_CURVE)) {
    for (let i = 0; i <= STEPS; i += 1) out[i] = srgbFromLinear((i / STEPS) ** 2);
  } else if (curve.kind === "pq") {
    for (let i = 0; i <= STEPS; i += 1) out[i] = pqFromLight((i / STEPS) ** 2);
  } else {
    let low = 0;
    for (let i = 0; i <= STEPS; i += 1) {
      const wanted = (i / STEPS) ** 2;
      let [a, b] = [low, 1];
      for (let k = 0; k < 40; k += 1) {
        const middle = (a + b) / 2;
        if (toLinear(curve, middle) < wanted) a = middle;
        else b = middle;
      }
      out[i] = (a + b) / 2;
      low = Math.max(0, a - 1e-6);
    }
    out[0] = 0;
    out[STEPS] = 1;
  }
  out[STEPS + 1] = out[STEPS];
  return out;
}

/** Code value (0 to 1) of linear light, which is clipped to 0 to 1. */
export function encodeWith(table: Float32Array, linear: number): number {
  if (!(linear > 0)) return table[0];
  if (linear >= 1) return table[STEPS];
  const at = Math.sqrt(linear) * STEPS;
  const i = at | 0;
  return table[i] + (at - i) * (table[i + 1] - table[i]);
}

/** IEC 61966-2-1. */
export function srgbFromLinear(v: number): number {
  return v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055;
}
