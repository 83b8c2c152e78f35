/** Oklab of one colour. Source: B. Ottosson, "A perceptual color space for image processing" (2020). */
import { CONES, OPPONENTS } from "../../difference";
import { linearTable, SRGB_CURVE } from "../../pixels/colour";

const LINEAR = linearTable(SRGB_CURVE, 256);

/** Light between two codes. */
function lightAt(code: number): number {
  const at = Math.min(255, Math.max(0, code));
  const low = Math.min(254, Math.floor(at));
  return LINEAR[low] + (at - low) * (LINEAR[low + 1] - LINEAR[low]);
}

/** Code values of sRGB, 0 to 255, not whole. */
export function oklabOf(r: number, g: number, b: number): [number, number, number] {
  const light = [lightAt(r), lightAt(g), lightAt(b)];
  const at = (m: readonly number[], row: number, v: readonly number[]) =>
    m[row * 3] * v[0] + m[row * 3 + 1] * v[1] + m[row * 3 + 2] * v[2];
  const cones = [0, 1, 2].map((row) => Math.cbrt(at(CONES, row, light)));
  return [at(OPPONENTS, 0, cones), at(OPPONENTS, 1, cones), at(OPPONENTS, 2, cones)];
}
