/** Just enough of ICC profiles to name a space, and to write one of matrix and curve. Source: ICC.1:2022 (v4.4). */
import { ascii, concat, latin1, view } from "./bytes";

export type SpaceName = "srgb" | "display-p3" | "oprgb" | "romm-rgb" | "bt2020" | "gray" | "cmyk" | "other-rgb" | "lab";

/**
 * Colorants of well-known spaces under D50, as their profiles hold them.
 * sRGB: IEC 61966-2-1; Display P3: SMPTE EG 432-1 primaries, D65; opRGB: IEC 61966-2-5;
 * ROMM: ISO 22028-2; BT.2020: ITU-R BT.2020. Adapted by Bradford; values written from memory, to four digits.
 */
export const COLORANTS: Record<"srgb" | "display-p3" | "oprgb" | "romm-rgb" | "bt2020", readonly number[][]> = {
  srgb: [[0.4361, 0.2225, 0.0139], [0.3851, 0.7169, 0.0971], [0.1431, 0.0606, 0.7142]],
  "display-p3": [[0.5151, 0.2412, -0.0011], [0.292, 0.6922, 0.0419], [0.1571, 0.0666, 0.7841]],
  oprgb: [[0.6097, 0.3111, 0.0195], [0.2053, 0.6257, 0.0609], [0.1492, 0.0632, 0.7446]],
  "romm-rgb": [[0.7977, 0.288, 0], [0.1352, 0.7119, 0], [0.0313, 0.0001, 0.8249]],
  bt2020: [[0.6735, 0.279, -0.0019], [0.1657, 0.6753, 0.03], [0.1251, 0.0456, 0.7969]],
};

/** Names the space of a profile by its header and colorants, not by its description, which anyone may write. Null: not a profile. */
export function nameProfile(profile: Uint8Array): SpaceName | null {
  if (profile.length < 132 || latin1(profile.subarray(36, 40)) !== "acsp") return null;
  const space = latin1(profile.subarray(16, 20)).trim();
  if (space === "GRAY") return "gray";
  if (space === "CMYK") return "cmyk";
  if (space === "Lab") return "lab";
  if (space !== "RGB") return null;
  const found = ["rXYZ", "gXYZ", "bXYZ"].map((tag) => xyzTag(profile, tag));
  for (const [name, colorants] of Object.entries(COLORANTS)) {
    const near = found.every((xyz, i) => xyz !== null && xyz.every((v, k) => Math.abs(v - colorants[i][k]) < 0.004));
    if (near) return name as SpaceName;
  }
  return "other-rgb";
}

function xyzTag(profile: Uint8Array, tag: string): number[] | null {
  const data = view(profile);
  const count = Math.min(data.getUint32(128), 100);
  for (let i = 0; i < count; i += 1) {
    const p = 132 + i * 12;
    if (p + 12 > profile.length) return null;
    if (latin1(profile.subarray(p, p + 4)) !== tag) continue;
    const at = data.getUint32(p + 4);
    if (at + 20 > profile.length) return null;
    return [0, 4, 8].map((k) => data.getInt32(at + 8 + k) / 65_536);
  }
  return null;
}

/** Tone curves as ICC parametric curves: [function type, parameters]. */
export const CURVES = {
  srgb: [3, [2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045]],
  oprgb: [0, [563 / 256]],
} as const;

const tagged = (type: string, body: Uint8Array) => concat([ascii(type), new Uint8Array(4), body]);
const s15 = (values: readonly number[]) => {
  const out = new Uint8Array(values.length * 4);
  values.forEach((v, i) => view(out).setInt32(i * 4, Math.round(v * 65_536)));
  return out;
};
const text = (value: string) => {
  const out = new Uint8Array(20 + value.length * 2);
  const data = view(out);
  data.setUint32(0, 1);
  data.setUint32(4, 12);
  out.set(ascii("enUS"), 8);
  data.setUint32(12, value.length * 2);
  data.setUint32(16, 28);
  [...value].forEach((c, i) => data.setUint16(20 + i * 2, c.charCodeAt(0)));
  return tagged("mluc", out);
};

/** A small v4 display profile (about 500 bytes) of a known space. */
export function writeProfile(space: keyof typeof COLORANTS, curve: keyof typeof CURVES, name: string): Uint8Array {
  const [kind, parameters] = CURVES[curve];
  const trc = tagged("para", concat([new Uint8Array([0, kind, 0, 0]), s15(parameters)]));
  const [r, g, b] = COLORANTS[space];
  const blocks: [string[], Uint8Array][] = [
    [["desc"], text(name)],
    [["cprt"], text("CC0")],
    [["wtpt"], tagged("XYZ ", s15([0.9642, 1, 0.8249]))],
    [["rXYZ"], tagged("XYZ ", s15(r))],
    [["gXYZ"], tagged("XYZ ", s15(g))],
    [["bXYZ"], tagged("XYZ ", s15(b))],
    [["rTRC", "gTRC", "bTRC"], trc],
  ];
  const tags = blocks.flatMap(([names]) => names).length;
  let at = 132 + tags * 12;
  const table = new Uint8Array(4 + tags * 12);
  const bodies: Uint8Array[] = [];
  view(table).setUint32(0, tags);
  let row = 0;
  for (const [names, body] of blocks) {
    for (const tag of names) {
      table.set(ascii(tag), 4 + row * 12);
      view(table).setUint32(8 + row * 12, at);
      view(table).setUint32(12 + row * 12, body.length);
      row += 1;
    }
    const padding = new Uint8Array((4 - (body.length % 4)) % 4);
    bodies.push(body, padding);
    at += body.length + padding.length;
  }
  const head = new Uint8Array(128);
  const data = view(head);
  data.setUint32(0, at);
  data.setUint32(8, 0x04400000);
  head.set(ascii("mntrRGB XYZ "), 12);
  [2026, 1, 1].forEach((v, i) => data.setUint16(24 + i * 2, v));
  head.set(ascii("acsp"), 36);
  head.set(s15([0.9642, 1, 0.8249]), 68);
  return concat([head, table, ...bodies]);
}
