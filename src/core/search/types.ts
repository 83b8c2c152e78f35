/** What a search tries and what it answers. */
export type Chroma = "4:2:0" | "4:4:4";

export interface JpegSetting {
  format: "jpeg";
  /** 1 to 100. */
  quality: number;
  chroma: Chroma;
  /** Which of the encoder's quantisation tables; 0 are those of ITU-T T.81 annex K. */
  table: number;
  /** careful: trellis and progressive; fast: best Huffman tables only; plain: neither, the largest file at the same quality. */
  effort: "careful" | "fast" | "plain";
}

export interface PngSetting {
  format: "png";
  /** Null keeps every colour; else a palette of 2 to 256. */
  colours: number | null;
  /** Deflate level 0 (stored) to 9. */
  level: number;
}

export type Setting = JpegSetting | PngSetting;

/** A string that is equal for equal settings: part of the key of a cached trial. */
export function settingKey(setting: Setting): string {
  return setting.format === "jpeg"
    ? `jpeg q${setting.quality} ${setting.chroma} t${setting.table} ${setting.effort}`
    : `png ${setting.colours ?? "all"} z${setting.level}`;
}

export interface Goal {
  /** Bytes, inclusive; null where free. */
  min: number | null;
  max: number | null;
  aim: "best" | "clean" | "middle";
}

/** A planned picture that can be encoded. */
export interface Picture {
  /** Width times height of the output. */
  pixels: number;
  /** Large flat areas and hard edges: lettering, logos, drawings. */
  flat: boolean;
  /** Bytes of headers (profile, EXIF …) that each file carries whatever its setting. */
  overhead: number;
  /** Really encodes, and answers with the size of the whole file in bytes. */
  encode(setting: Setting): Promise<number>;
}

export interface Found<S extends Setting = Setting> {
  setting: S;
  bytes: number;
}

export interface SearchResult<S extends Setting = Setting> {
  /** met: inside the range. over: even the smallest sensible file is too large. under: even the largest is too small. */
  outcome: "met" | "over" | "under";
  /** The file to take; for over the smallest, for under the largest that was made. */
  found: Found<S>;
  encodes: number;
  /** What had to be done beyond choosing the quality, in the order it was done. */
  told: string[];
}

/** No search makes more encodes than this for one picture and format. */
export const MAX_ENCODES = 14;
/** A file at or above this share of the ceiling is near enough. */
export const NEAR = 0.965;
/** Encoding above this many pixels leaves out the trellis, which would take seconds. */
export const CAREFUL_PIXELS = 4_000_000;
