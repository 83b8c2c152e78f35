/** What a page weighs: which file of each set a screen takes, and how long all of them are under way. */
import { worthOffering } from "../../plan/set";
import { narrowestFirst, type SetFile } from "./markup";

/** Widths of screens in CSS px, and device pixels to each: phone, tablet, notebook, desk (common practice). */
const SCREENS = [360, 768, 1280, 1920] as const;
const DENSITIES = [1, 2] as const;

interface Screen {
  /** In CSS px. */
  width: number;
  /** Device pixels a CSS px. */
  density: number;
}

/** A photo of a page: its files, and the bytes that it came with. */
export interface PageSet {
  files: readonly SetFile[];
  before: number;
}

export interface PageWeight extends Screen {
  taken: SetFile[];
  /** Of the files that are taken, and of the photos as they came. */
  after: number;
  before: number;
}

/**
 * The file that a browser takes for a picture as wide as `share` of the screen: the narrowest that is at least as wide
 * as needed, in the first format. The standard leaves that to the browser; Chromium is held against it in a test.
 */
export function takenAt(files: readonly SetFile[], { width, density }: Screen, share = 1): SetFile {
  const list = narrowestFirst(files, worthOffering(files)[0]);
  return list.find((file) => file.width >= width * share * density) ?? list[list.length - 1];
}

export const pageWeights = (sets: readonly PageSet[], share = 1): PageWeight[] =>
  SCREENS.flatMap((width) =>
    DENSITIES.map((density) => {
      const taken = sets.map(({ files }) => takenAt(files, { width, density }, share));
      const sum = (list: readonly number[]) => list.reduce((all, one) => all + one, 0);
      return {
        width,
        density,
        taken,
        after: sum(taken.map(({ bytes }) => bytes)),
        before: sum(sets.map(({ before }) => before)),
      };
    }),
  );

/** `speed` in Mbit/s; what comes before the first byte is not counted. */
export const secondsFor = (bytes: number, speed: number): number => (bytes * 8) / (speed * 1e6);
