/** Names in a brief. Apart from the schema, which only those load who check one. */

export const FORMATS = ["jpeg", "png", "webp", "avif", "tiff", "gif", "bmp", "pdf"] as const;
/** Files that every browser of today shows in a page. */
export const PAGE_FORMATS = ["avif", "webp", "jpeg", "png", "gif"] as const satisfies readonly OutputFormat[];
export type OutputFormat = (typeof FORMATS)[number];
export type PageFormat = (typeof PAGE_FORMATS)[number];

/** The clauses, in the order in which they are shown. */
export const CLAUSE_KEYS = [
  "format",
  "pick",
  "width",
  "height",
  "longSide",
  "shortSide",
  "box",
  "sizes",
  "shape",
  "scale",
  "set",
  "paper",
  "resolution",
  "fileSize",
  "quality",
  "colour",
  "frame",
  "background",
  "enlarge",
  "view",
  "head",
  "sharpen",
  "metadata",
  "border",
  "ink",
  "layers",
  "frames",
  "padding",
  "total",
  "names",
] as const;
export type ClauseKey = (typeof CLAUSE_KEYS)[number];
