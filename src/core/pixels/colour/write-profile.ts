/** Writing small ICC profiles of matrix and curve. Source: ICC.1:2022 (v4.4). */
import { ascii, concat, view } from "../../containers";
import type { ToneCurve } from "./curve";
import { SRGB_CURVE } from "./curve";
import { type RgbName, SPACES } from "./spaces";

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

/** Profiles of the spaces that pictures are handed over in, as their names stand in the file. */
const NAMES: Record<RgbName, string> = {
  srgb: "sRGB",
  "display-p3": "Display P3",
  oprgb: "opRGB",
  "romm-rgb": "ROMM RGB",
  bt2020: "BT.2020",
};

type Block = readonly [tags: readonly string[], body: Uint8Array];

function curveBody(curve: ToneCurve): Uint8Array {
  if (curve.kind === "parametric")
    return tagged("para", concat([new Uint8Array([0, curve.type, 0, 0]), s15(curve.parameters)]));
  if (curve.kind === "pq")
    throw new RangeError("a profile of matrix and curve has no room for light above white");
  const body = new Uint8Array(4 + curve.values.length * 2);
  view(body).setUint32(0, curve.values.length);
  curve.values.forEach((v, i) => view(body).setUint16(4 + i * 2, Math.round(v * 65_535)));
  return tagged("curv", body);
}

/** A small v4 display profile (about 500 bytes) of a known space. */
export function writeProfile(space: RgbName): Uint8Array {
  const { toXyz: m, curves } = SPACES[space];
  return profile("RGB ", NAMES[space], [
    [["rXYZ"], tagged("XYZ ", s15([m[0], m[3], m[6]]))],
    [["gXYZ"], tagged("XYZ ", s15([m[1], m[4], m[7]]))],
    [["bXYZ"], tagged("XYZ ", s15([m[2], m[5], m[8]]))],
    [["rTRC", "gTRC", "bTRC"], curveBody(curves[0])],
  ]);
}

/** A v4 profile of grey with the curve of sRGB. */
export function writeGreyProfile(): Uint8Array {
  return profile("GRAY", "Grey, sRGB curve", [[["kTRC"], curveBody(SRGB_CURVE)]]);
}

function profile(space: string, name: string, own: readonly Block[]): Uint8Array {
  const blocks: Block[] = [
    [["desc"], text(name)],
    [["cprt"], text("CC0")],
    [["wtpt"], tagged("XYZ ", s15([0.9642, 1, 0.8249]))],
    ...own,
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
  head.set(ascii(`mntr${space}XYZ `), 12);
  [2026, 1, 1].forEach((v, i) => data.setUint16(24 + i * 2, v));
  head.set(ascii("acsp"), 36);
  head.set(s15([0.9642, 1, 0.8249]), 68);
  return concat([head, table, ...bodies]);
}
