/**
 * Pixels, paper and resolution as one sum of three: pixels = inches × pixels per inch. One is held, one is
 * changed, the third follows.
 */

import type { Size } from "../../photo";
import { MAX_PPI, MAX_SIDE } from "../../units";

export const TERMS = ["pixels", "paper", "resolution"] as const;
export type Term = (typeof TERMS)[number];

export interface Sum {
  /** Pixels of both sides, whole. */
  pixels: Size;
  /** Inches of both sides. */
  paper: Size;
  /** Pixels per inch. */
  ppi: number;
}

export class SumError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "SumError";
  }
}

/** Paper that no printer takes: 0 or beyond 100 m is a slip of the unit. */
const MOST_INCHES = 100 / 0.0254;

/** What pixels at a density make on paper. */
export function sumOf(pixels: Size, ppi: number): Sum {
  return { pixels, ppi, paper: { width: pixels.width / ppi, height: pixels.height / ppi } };
}

export type Edit =
  | { term: "pixels"; width: number }
  | { term: "paper"; width: number }
  | { term: "resolution"; ppi: number };

/**
 * The sum after a change of one term while another is held. The shape stays that of the pixels before.
 * Throws {@link SumError} with one sentence for values that no file can hold, or when the held term itself
 * is changed.
 */
export function balance(sum: Sum, held: Term, edit: Edit): Sum {
  if (edit.term === held)
    throw new SumError(
      `The ${held} are held. Hold another of the three to change them.`
        .replace("paper are", "paper is")
        .replace("resolution are", "resolution is")
        .replace(/them\.$/, held === "pixels" ? "them." : "it."),
    );
  const shape = sum.pixels.height / sum.pixels.width;
  if (edit.term === "resolution") checkPpi(edit.ppi);
  if (edit.term === "paper") checkInches(edit.width);
  const third = TERMS.find((term) => term !== held && term !== edit.term)!;
  const width =
    edit.term === "pixels"
      ? edit.width
      : third === "pixels"
        ? edit.term === "paper"
          ? edit.width * sum.ppi
          : sum.paper.width * edit.ppi
        : sum.pixels.width;
  const pixels = edit.term === "pixels" || third === "pixels" ? wholeSize(width, shape) : sum.pixels;
  const inches = edit.term === "paper" ? edit.width : held === "paper" ? sum.paper.width : null;
  const ppi =
    edit.term === "resolution"
      ? edit.ppi
      : held === "resolution"
        ? sum.ppi
        : checkPpi(pixels.width / inches!);
  // Paper that is neither held nor changed is what the pixels make of it.
  const paper =
    inches === null
      ? { width: pixels.width / ppi, height: pixels.height / ppi }
      : { width: inches, height: inches * shape };
  checkInches(paper.width);
  return { pixels, paper, ppi };
}

function wholeSize(width: number, shape: number): Size {
  const size = { width: Math.round(width), height: Math.max(1, Math.round(width * shape)) };
  for (const side of [size.width, size.height]) {
    if (!(side >= 1 && side <= MAX_SIDE))
      throw new SumError(
        `That makes ${Math.round(side) || 0} px on a side; a file holds 1 to ${MAX_SIDE}. Choose less.`,
      );
  }
  return size;
}

function checkPpi(ppi: number): number {
  if (!(ppi > 0 && ppi <= MAX_PPI))
    throw new SumError(
      `Resolution goes from above 0 to ${MAX_PPI} ppi; found ` +
        `${Number.isFinite(ppi) ? Math.round(ppi) : "none"}.`,
    );
  return ppi;
}

function checkInches(inches: number): void {
  if (!(inches > 0 && inches <= MOST_INCHES))
    throw new SumError(
      "Paper goes from above 0 to 100 m; found " +
        `${Number.isFinite(inches) ? `${Number((inches * 0.0254).toPrecision(3))} m` : "none"}. Check ` +
        "the unit.",
    );
}
