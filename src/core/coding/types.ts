import type { OutputFormat, ResolvedBrief } from "../brief";
import type { Geometry } from "../geometry";
import type { Frame, Size } from "../photo";
/** What a search tries and what it answers. */
export type Chroma = "4:2:0" | "4:2:2" | "4:4:4";

/** Quantisation tables: those of ITU-T T.81 annex K, on which a quality clause counts, and our own. */
export const ANNEX_K = 0;
export const OWN_TABLES = 9;

/** What a bit may usually cost, in squared steps of error: between 0.1 and 0.17 files look alike. */
export const USUAL_THRIFT = 0.12;

export interface JpegSetting {
  format: "jpeg";
  /** 1 to 100; whole on annex K's tables, in hundredths on our own. */
  quality: number;
  chroma: Chroma;
  /** {@link ANNEX_K}; anything else are our own. */
  table: number;
  /**
   * careful: bits are weighed against errors; quick: the nearest levels; plain: nor Huffman tables of its own, the
   * largest file at the same quality.
   */
  effort: "careful" | "quick" | "plain";
  /** Careful: what a bit may cost, in squared steps of error, where that is not the usual; fills a ceiling. */
  thrift?: number;
  /** All in one scan, where what it lies in takes no other; absent: whatever is smaller. */
  sequential?: true;
}

export interface PngSetting {
  format: "png";
  /** Null keeps every colour; else a palette of 2 to 256. */
  colours: number | null;
  /** Deflate level 0 (stored) to 9; {@link TIGHTEST}: every filter and an exhaustive search for the shortest stream. */
  level: number;
}

export const TIGHTEST = 10;
/** So long the search may take; what is not ready then is packed at level 9. */
export const TIGHT_SECONDS = 20;

export interface WebpSetting {
  format: "webp";
  /** 1 to 100 on the encoder's own scale; null is lossless. */
  quality: number | null;
  /** 0 to 6, chosen by the number of pixels. */
  effort: number;
}

export interface AvifSetting {
  format: "avif";
  /** 1 to 100 on the encoder's own scale. */
  quality: number;
  bits: 8 | 10;
  /** 0 to 9, chosen by the number of pixels. */
  effort: number;
  /** Halved colour, where that looks closer at the same bytes; absent: 4:4:4. */
  chroma?: "4:2:0";
}

export interface TiffSetting {
  format: "tiff";
  /** Lossless either way; none is the largest. */
  compression: "deflate" | "lzw" | "none";
}

/** A JPEG in the one strip of a TIFF. */
export interface JpegTiffSetting extends Omit<JpegSetting, "format"> {
  format: "tiff";
  compression: "jpeg";
}

export interface GifSetting {
  format: "gif";
  /** 2 to 256. */
  colours: number;
}

export interface BmpSetting {
  format: "bmp";
}

/** A JPEG on a page. */
export interface PdfSetting extends Omit<JpegSetting, "format"> {
  format: "pdf";
}

export type Setting =
  | PdfSetting
  | JpegSetting
  | PngSetting
  | WebpSetting
  | AvifSetting
  | TiffSetting
  | JpegTiffSetting
  | GifSetting
  | BmpSetting;

/** A string that is equal for equal settings: part of the key of a cached trial. */
export function settingKey(setting: Setting): string {
  switch (setting.format) {
    // The page is put around it later: the encoding is that of a JPEG.
    case "pdf":
    case "jpeg":
      return jpegKey(setting);
    case "png":
      return `png ${setting.colours ?? "all"} z${setting.level}`;
    case "webp":
      return `webp ${setting.quality === null ? "lossless" : `q${setting.quality}`} e${setting.effort}`;
    case "avif":
      return `avif q${setting.quality} ${setting.bits} bit e${setting.effort}${setting.chroma ? ` ${setting.chroma}` : ""}`;
    case "tiff":
      return setting.compression === "jpeg" ? `tiff ${jpegKey(setting)}` : `tiff ${setting.compression}`;
    case "gif":
      return `gif ${setting.colours}`;
    case "bmp":
      return "bmp";
  }
}

const jpegKey = ({
  quality,
  chroma,
  table,
  effort,
  thrift,
  sequential,
}: Omit<JpegSetting, "format">): string =>
  `jpeg q${quality} ${chroma} t${table} ${effort}${thrift === undefined ? "" : ` ${thrift}`}${sequential ? " sequential" : ""}`;

/** The same for a trial that may have other pixels than the planned ones, `side` px long. */
export const trialKey = (setting: string, side: number | null): string =>
  side === null ? setting : `${setting} @${side}`;

export function partsOf(key: string): { setting: string; side: number | null } {
  const [setting, side] = key.split(" @");
  return { setting, side: side && /^\d{1,6}$/.test(side) ? Number(side) : null };
}

export interface Goal {
  /** Bytes, inclusive; null where free. */
  min: number | null;
  max: number | null;
  aim: "best" | "clean" | "middle";
}

/** A planned picture that can be encoded, and whose encodings can be held against it. */
export interface Picture {
  /** Width times height of the output. */
  pixels: number;
  /** Large flat areas and hard edges: lettering, logos, drawings. */
  flat: boolean;
  /** Nothing of it is seen through. */
  opaque: boolean;
  /** Bytes of headers (profile, EXIF …) that each file carries whatever its setting. */
  overhead: number;
  /** Really encodes, and answers with the size of the whole file in bytes. */
  encode(setting: Setting): Promise<number>;
  /** Visible difference of that encoding, decoded again, from the planned picture. */
  difference(setting: Setting): Promise<number>;
  /**
   * The same of a JPEG that is not made: its levels are rounded, and no bits are weighed. By how much that is less is
   * nearly alike in a picture and its sample. Null where another coder writes it.
   */
  rounded?(setting: JpegSetting): Promise<number | null>;
  /**
   * Parts of a large picture, put together, on which settings can be tried quickly; null where the picture
   * is small enough itself.
   */
  sample(): Promise<Picture | null>;
  /**
   * The same with this share of its sides, judged at its own size as smaller pictures are looked at; of a
   * sample, or of a picture that is small enough to have none.
   */
  reduced(share: number): Promise<Picture>;
}

export interface Found<S extends Setting = Setting> {
  setting: S;
  bytes: number;
}

/** A trial whose difference is known. */
export interface Weighed<S extends Setting = Setting> extends Found<S> {
  difference: number;
}

export interface SearchResult<S extends Setting = Setting> {
  /**
   * met: inside the range. over: even the smallest sensible file is too large. under: even the largest is
   * too small.
   */
  outcome: "met" | "over" | "under";
  /** The file to take; for over the smallest, for under the largest that was made. */
  found: Found<S>;
  encodes: number;
  /** What had to be done beyond choosing the quality, in the order it was done. */
  told: string[];
}

/** About the bytes that every file of a format has whatever is in it. */
const HEAD: Record<string, number> = { jpeg: 420, pdf: 420, webp: 30, avif: 300, gif: 800, png: 850 };

/** Bytes of the picture alone. */
export const payloadOf = (bytes: number, overhead: number, format: string): number =>
  Math.max(1, bytes - overhead - (HEAD[format] ?? 0));

/** No search makes more encodes than this for one picture and format. */
export const MAX_ENCODES = 14;
/** A file at or above this share of the ceiling is near enough. */
export const NEAR = 0.965;
/**
 * Larger JPEGs are left to the library's encoder, on a scale of whole qualities: our own coder holds about eight bytes a
 * pixel.
 */
export const OWN_CODER_PIXELS = 48_000_000;

/** What is seen of larger pictures is told from samples where those leave no doubt. */
export const LARGE_PIXELS = 4_000_000;

export interface FitTask {
  brief: ResolvedBrief;
  /** Upright size of the photo. */
  photo: Size;
  frame: Frame;
  /** The most pixels that the brief allows. */
  geometry: Geometry;
  /** Those at which the finished picture is looked at; the same, or fewer. */
  view: Geometry;
  /** Allowed formats in order of preference; at least one. */
  formats: OutputFormat[];
  /**
   * Bytes of the source: no file larger than it is made where nothing asks for that. Null where larger is
   * fine.
   */
  softCeiling: number | null;
  /** Nobody is told what is seen of the file: a large picture is not looked at for that alone. */
  untold?: boolean;
  /**
   * A planned picture of this geometry, ready to be encoded in this format; differences are judged at the view
   * size where that has more pixels, else at its own.
   */
  picture(geometry: Geometry, format: OutputFormat): Promise<Picture>;
}

export type Fitted =
  | {
      ok: true;
      setting: Setting;
      bytes: number;
      geometry: Geometry;
      padTo: number | null;
      encodes: number;
      told: string[];
      /**
       * Visible difference as the picture is looked at: at the view size, or at its own where it has more
       * pixels; null where the choice did not need it.
       */
      difference: number | null;
      /**
       * Bytes from which on the ceiling would force no visible loss, and where pixels were given up about those
       * from which on none are; null where it forces neither, or no such file was found.
       */
      cleanFrom: number | null;
      /** Why pixels were given up that the brief leaves free; null where none were. */
      gaveUp: string | null;
    }
  | { ok: false; why: string; encodes: number };
