/** What a small picture of a photo shows: strokes on paper, a page of print, or a picture. */
import { findInk } from "./find";
import { InkError, type InkFound, type RgbPicture } from "./types";

export const PHOTO_KINDS = ["ink", "print", "picture"] as const;
/** ink: few strokes on paper, such as a signature. print: lines of lettering on paper. picture: everything else. */
export type PhotoKind = (typeof PHOTO_KINDS)[number];

/** So many lines of lettering make a page. Common practice: a signature has one or two, an address five. */
const LINES_OF_A_PAGE = 6;
/** Ink of a page covers so much of the picture's height. */
const HEIGHT_OF_A_PAGE = 0.4;

/** `picture`: 200 to 1000 px on the longer side are enough. */
export function kindOf(picture: RgbPicture): PhotoKind {
  try {
    const found = findInk(picture);
    const page = found.bounds.height >= HEIGHT_OF_A_PAGE * found.height;
    return page && linesOf(found) >= LINES_OF_A_PAGE ? "print" : "ink";
  } catch (error) {
    if (error instanceof InkError) return "picture";
    throw error;
  }
}

/** Lines of lettering: bands of rows that hold ink, with rows between them that hold next to none. */
function linesOf({ cover, width, height, bounds }: InkFound): number {
  const rows = Float64Array.from({ length: height }, (_, y) => {
    let sum = 0;
    for (let x = bounds.x; x < bounds.x + bounds.width; x += 1) sum += cover[y * width + x];
    return sum;
  });
  const most = rows.reduce((a, b) => Math.max(a, b), 0);
  let [lines, inside] = [0, false];
  // Between the two limits nothing changes, so that the waist of a letter is no gap.
  for (const row of rows) {
    if (!inside && row > most * 0.2) [lines, inside] = [lines + 1, true];
    else if (inside && row < most * 0.06) inside = false;
  }
  return lines;
}
