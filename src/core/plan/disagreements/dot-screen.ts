/** A photo with a dot screen that beats with the new pixels: the scales at which its dots stay whole. */
import { dotScreenWords, wholeScales } from "../../pixels/develop";
import { trimNumber } from "../../units";
import type { Change, Choice, Disagreement } from "./types";

const FREE: Change = {
  width: null,
  height: null,
  longSide: null,
  shortSide: null,
  sizes: null,
  box: null,
  shape: null,
};

/** `period` in px, null where none was seen. */
export function dotScreenDisagreements(period: number | null): Disagreement[] {
  if (period === null) return [];
  const choices: Choice[] = wholeScales(period)
    .slice(0, 3)
    .map((scale) => ({
      label: `Scale to ${trimNumber(scale * 100, 1)} %`,
      effect: `dots of ${Math.round(period * scale)} px`,
      // The file format holds a scale to three decimals.
      change: { ...FREE, scale: `${trimNumber(scale * 100, 3)}%` },
    }));
  return [
    {
      clauses: ["scale"],
      why: dotScreenWords(period),
      wins: "The asked pixels win unless you choose otherwise.",
      choices,
    },
  ];
}
