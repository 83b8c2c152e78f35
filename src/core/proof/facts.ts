/** What is known about a file, read from its bytes. */
export interface Facts {
  /** "jpeg", "png" …, by content. */
  format: string;
  /** Upright pixels: orientation applied. */
  width: number;
  height: number;
  bytes: number;
  /** Pixels per inch, [x, y] of the upright picture; null where none is recorded. */
  resolution: [number, number] | null;
  /** The page that shows the picture, in inches; missing where the file has none. */
  page?: { width: number; height: number };
  /** Half of the smallest difference that the field of the resolution can hold, in ppi. */
  resolutionStep: number;
  bits: number | null;
  colourSpace: string | null;
  /** JPEG: 1 to 100 on the Annex K scale, the nearest where the tables are of another make. */
  quality: number | null;
  qualityExact: boolean;
  /** "4:2:0" and so on. */
  chroma: string | null;
  /** EXIF orientation, 1 to 8. */
  orientation: number;
  alpha: boolean;
  /** Whether a colour profile (or the sRGB chunk of PNG) is embedded. */
  profile: boolean;
  /**
   * Why a profile that is there is not used, as the end of a sentence; null or missing where there is
   * nothing to say.
   */
  profileFault?: string | null;
  pages: number;
  /** The photo is one page of a file of several, so the file itself is not the photo. */
  onePage?: boolean;
  /** Pixels of each page of a TIFF of several; missing for others. */
  pageSizes?: { width: number; height: number }[];
  /**
   * PQ signals; missing for ordinary pictures. `reach`: multiples of white that the file says it reaches, or
   * a usual value where it says nothing.
   */
  light?: { reach: number; peak: number | null; average: number | null };
  /** A JPEG's gain map: the multiples of white that it reaches. */
  gainMap?: number;
  /** Raw file: pixels of the camera's own picture in the file; null where there is none. */
  preview?: { width: number; height: number } | null;
  /** A drawing without pixels of its own: its size in CSS pixels, and whether it holds text that is set in fonts. */
  drawing?: { width: number; height: number; lettering: boolean };
  /** Whether nothing beside the picture can be rewritten in place; missing is no. */
  fixedHeaders?: boolean;
  /** What of the metadata `private` would drop, in words. */
  privateData: string[];
  /** Whether anything is there that `none` would drop. */
  metadata: boolean;
  /** What it shows, as its metadata tell those who do not see it; missing where they do not. */
  shows?: string;
  /** Capture date, YYYY-MM-DD. */
  date: string | null;
}

/** Formats whose pages are frames. */
const MOVING: ReadonlySet<string> = new Set(["gif", "webp", "avif"]);

export const isMoving = ({ format, pages }: Pick<Facts, "format" | "pages">): boolean =>
  pages > 1 && MOVING.has(format);

/** The facts of the page that a frame takes. */
export const factsOfPage = (facts: Facts, page = 1): Facts => ({ ...facts, ...facts.pageSizes?.[page - 1] });

/** The nine facts that are printed by the command line, and what the photo says that it shows. */
export function publicFacts(facts: Facts) {
  const { format, width, height, bytes, resolution, bits, colourSpace, quality, chroma, shows } = facts;
  return {
    format,
    width,
    height,
    bytes,
    resolution: resolution?.map((v) => Number(v.toFixed(4))) ?? null,
    bits,
    colourSpace,
    quality,
    chroma,
    ...(shows && { shows }),
  };
}

const SPACE_NAMES: Record<string, string> = {
  srgb: "sRGB",
  "display-p3": "Display P3",
  oprgb: "opRGB",
  "romm-rgb": "ROMM RGB",
  bt2020: "BT.2020",
  gray: "grey",
  cmyk: "CMYK",
  "other-rgb": "an RGB space of its own",
  lab: "Lab",
};

export const spaceName = (space: string | null): string =>
  space === null ? "unknown" : (SPACE_NAMES[space] ?? space);

/** Where a file does not say how densely it is printed (common practice for prints), in ppi. */
export const PRINT_PPI = 300;

/** How large a file is printed, in millimetres: its page, else its pixels at its resolution. */
export function paperSize({ width, height, resolution, page }: Facts): { width: number; height: number } {
  if (page) return { width: page.width * 25.4, height: page.height * 25.4 };
  const [x, y] = resolution ?? [PRINT_PPI, PRINT_PPI];
  return { width: (width / x) * 25.4, height: (height / y) * 25.4 };
}
