/** "At least 1200 pixels wide and no more than 3000": the second end is counted as the first. */

import { words } from "./line";
import type { Quantity } from "./quantities";
import type { Token } from "./tokens";
import type { Around } from "./window";

const OTHER_END =
  /^((wide|high|tall|in width|in height) )?(and|but) (no|not|at|up|under|over|below|less|more|smaller|larger|maximum|minimum|max|min)\b/;

const SIDES = [
  [/^(wide|in width)\b/, "w"],
  [/^(high|tall|in height)\b/, "h"],
] as const;

/** The same list, where a number without a unit ends the range of a side that the one before began. */
export const sameUnits = (
  body: readonly Token[],
  quantities: readonly Quantity[],
  arounds: readonly Around[],
): readonly Quantity[] =>
  quantities.map((quantity, i) => {
    const [before, begun, ends] = [quantities[i - 1], arounds[i - 1]?.role, arounds[i].role];
    const range = (begun === "min" && ends === "max") || (begun === "max" && ends === "min");
    const counts = before?.kind === "px" && before.form === "single";
    if (!range || !counts || quantity.kind !== "bare" || quantity.form !== "single") return quantity;
    const between = words(body.slice(before.to, quantity.from));
    const side = before.labels[0] ?? SIDES.find(([name]) => name.test(between))?.[1] ?? null;
    return side && OTHER_END.test(between) ? { ...quantity, kind: "px", labels: [side] } : quantity;
  });
