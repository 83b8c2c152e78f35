/**
 * Reading ICC profiles of matrix and curve. Source: ICC.1:2022: 7.2 header, 7.3 tag table, 10.6 curv, 10.18
 * para, 10.31 XYZ.
 */
import { latin1, view } from "../../containers";
import type { ToneCurve } from "./curve";
import { invert, type Matrix } from "./matrix";
import { type RgbName, type RgbSpace, SPACES } from "./spaces";

export type SpaceName = RgbName | "gray" | "cmyk" | "other-rgb" | "lab";

export interface Profile {
  /** Which space it is, by header and colorants: descriptions may say anything. */
  name: SpaceName;
  /** How many channels its pictures have. */
  channels: 1 | 3 | 4;
  /** Matrix and curves; null where the profile works by tables, which the colour library has to carry out. */
  rgb: RgbSpace | null;
  /** Grey profiles: the curve to linear light. */
  grey: ToneCurve | null;
}

/** The name of a profile's space; null where the bytes are no profile that can be used. */
export const nameProfile = (bytes: Uint8Array): SpaceName | null => readProfile(bytes)?.name ?? null;

const MAX_TAGS = 200;

/** Null where the bytes are no profile that can be used. */
export function readProfile(bytes: Uint8Array): Profile | null {
  if (bytes.length < 132 || latin1(bytes.subarray(36, 40)) !== "acsp") return null;
  const tags = readTags(bytes);
  const space = latin1(bytes.subarray(16, 20)).trim();
  if (space === "GRAY") {
    const grey = readCurve(tags.get("kTRC"));
    return grey ? { name: "gray", channels: 1, rgb: null, grey } : null;
  }
  const tables = tags.has("A2B0");
  if (space === "CMYK" || space === "Lab") {
    return tables
      ? { name: space === "CMYK" ? "cmyk" : "lab", channels: space === "CMYK" ? 4 : 3, rgb: null, grey: null }
      : null;
  }
  if (space !== "RGB") return null;
  const columns = ["rXYZ", "gXYZ", "bXYZ"].map((tag) => readXyz(tags.get(tag)));
  const curves = ["rTRC", "gTRC", "bTRC"].map((tag) => readCurve(tags.get(tag)));
  const [r, g, b] = columns;
  if (!r || !g || !b || curves.some((c) => c === null))
    return tables ? { name: "other-rgb", channels: 3, rgb: null, grey: null } : null;
  const toXyz: Matrix = [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]];
  if (!invert(toXyz)) return null;
  const rgb: RgbSpace = { toXyz, curves: curves as unknown as RgbSpace["curves"] };
  return { name: nameOf(toXyz), channels: 3, rgb: tables ? null : rgb, grey: null };
}

function nameOf(toXyz: Matrix): SpaceName {
  for (const [name, known] of Object.entries(SPACES)) {
    if (known.toXyz.every((v, i) => Math.abs(v - toXyz[i]) < 0.004)) return name as RgbName;
  }
  return "other-rgb";
}

function readTags(bytes: Uint8Array): Map<string, Uint8Array> {
  const data = view(bytes);
  const tags = new Map<string, Uint8Array>();
  const count = Math.min(data.getUint32(128), MAX_TAGS);
  for (let i = 0; i < count; i += 1) {
    const p = 132 + i * 12;
    if (p + 12 > bytes.length) break;
    const [at, size] = [data.getUint32(p + 4), data.getUint32(p + 8)];
    if (at + size <= bytes.length) tags.set(latin1(bytes.subarray(p, p + 4)), bytes.subarray(at, at + size));
  }
  return tags;
}

const s15 = (data: DataView, at: number) => data.getInt32(at) / 65_536;

function readXyz(tag: Uint8Array | undefined): [number, number, number] | null {
  if (!tag || tag.length < 20) return null;
  const data = view(tag);
  return [s15(data, 8), s15(data, 12), s15(data, 16)];
}

/** Parameters of the five parametric types. */
const PARAMETERS = [1, 3, 4, 5, 7];

function readCurve(tag: Uint8Array | undefined): ToneCurve | null {
  if (!tag || tag.length < 12) return null;
  const data = view(tag);
  const type = latin1(tag.subarray(0, 4));
  if (type === "para") {
    const kind = data.getUint16(8);
    if (kind > 4 || tag.length < 12 + PARAMETERS[kind] * 4) return null;
    const parameters = Array.from({ length: PARAMETERS[kind] }, (_, i) => s15(data, 12 + i * 4));
    return parameters[0] > 0 ? { kind: "parametric", type: kind as 0, parameters } : null;
  }
  if (type !== "curv") return null;
  const count = data.getUint32(8);
  if (count === 0) return { kind: "parametric", type: 0, parameters: [1] };
  if (tag.length < 12 + count * 2) return null;
  if (count === 1)
    return data.getUint16(12) > 0
      ? { kind: "parametric", type: 0, parameters: [data.getUint16(12) / 256] }
      : null;
  return {
    kind: "table",
    values: Array.from({ length: count }, (_, i) => data.getUint16(12 + i * 2) / 65_535),
  };
}
