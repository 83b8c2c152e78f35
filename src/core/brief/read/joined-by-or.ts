/** Figures that are joined by "or": sizes of which each will do, and values of which one holds. */

import { words } from "./line";
import type { Quantity } from "./quantities";
import type { Token } from "./tokens";
import type { Around } from "./window";

/** How many sizes in a row are joined by "or": "1440 × 810 or 960 × 540". */
export function sizeList(
  body: readonly Token[],
  quantities: readonly Quantity[],
  arounds: readonly Around[],
  at: number,
): number {
  let n = 1;
  const pixelSize = (q: Quantity | undefined) =>
    q !== undefined && q.form === "pair" && (q.kind === "px" || q.kind === "bare");
  if (!pixelSize(quantities[at])) return 1;
  let or = false;
  for (;;) {
    const [last, next] = [quantities[at + n - 1], quantities[at + n]];
    if (!next || !pixelSize(next)) break;
    const between = words(body.slice(last.to, next.from));
    if (!/^(or|, or|,|\/)$/.test(between) || arounds[at + n].role === "min" || arounds[at + n].role === "max")
      break;
    if (between !== ",") or = true;
    n += 1;
  }
  return or ? n : 1;
}

/** "300 or 600 dpi", "84 mm (one column) or 174 mm": one of two, and nobody says which. */
export function alternative(body: readonly Token[], quantities: readonly Quantity[], at: number): boolean {
  const joined = (a: Quantity | undefined, b: Quantity | undefined) =>
    a &&
    b &&
    (b.kind === a.kind || a.kind === "bare") &&
    /^(\( .* \) )?or$/.test(words(body.slice(a.to, b.from)));
  // What stands in brackets may be a figure too.
  const one = quantities[at];
  const nearest = (list: readonly Quantity[]) => [list[0], list.find(({ kind }) => kind === one.kind)];
  return (
    nearest(quantities.slice(at + 1)).some((next) => joined(one, next)) ||
    nearest(quantities.slice(0, at).reverse()).some((last) => joined(last, one))
  );
}
