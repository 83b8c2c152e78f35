/** From the sum of three to clauses of a brief. */

import { LENGTH_UNITS, type LengthUnit, toInches, trimNumber } from "../../units";
import type { Change } from "../disagreements";
import type { Sum, Term } from "./sum";

const NO_PIXELS: Change = {
  width: null,
  height: null,
  longSide: null,
  shortSide: null,
  sizes: null,
  box: null,
  scale: null,
};

/** "120mm": inches in a unit, to a thousandth of it. */
export function lengthText(inches: number, unit: LengthUnit): string {
  return `${trimNumber(inches / toInches({ value: 1, unit }), 3)}${unit}`;
}

export const isUnit = (text: string): text is LengthUnit =>
  (LENGTH_UNITS as readonly string[]).includes(text);

/**
 * The clauses that say what was held and what was changed; the third follows from them for every photo.
 * Pixels that are held stay as the brief has them: then only the written resolution changes.
 */
export function sumChange(sum: Sum, held: Term, changed: Term, unit: LengthUnit): Change {
  const wide = sum.pixels.width >= sum.pixels.height;
  const paper: Change["paper"] = wide
    ? { width: lengthText(sum.paper.width, unit) }
    : { height: lengthText(sum.paper.height, unit) };
  const said = new Set<Term>([held, changed]);
  return {
    ...(held === "pixels" ? {} : NO_PIXELS),
    ...(said.has("pixels") &&
      held !== "pixels" && { longSide: { exact: Math.max(sum.pixels.width, sum.pixels.height) } }),
    paper: said.has("paper") ? paper : null,
    resolution: said.has("resolution") ? { exact: `${trimNumber(sum.ppi, 4)}ppi` } : null,
  };
}

/** Which act it is, in words. */
export function actWords(held: Term, photo: Sum["pixels"], out: Sum["pixels"]): string {
  if (photo.width === out.width && photo.height === out.height) {
    return (
      "Keeps the pixels: only the number that says how densely they are printed is written. The " +
      "picture data stay byte for byte."
    );
  }
  if (held === "pixels")
    return (
      `Keeps the ${out.width} × ${out.height} px that the brief asks for: only the number that says ` +
      "how densely they are printed changes."
    );
  return `Makes new pixels: ${photo.width} × ${photo.height} become ${out.width} × ${out.height}.`;
}
