/**
 * Decoding: code values as the file has them, only as many as are needed, without any conversion of colours.
 */
import sharp from "sharp";
import { formatName } from "@/core/brief";
import { asStill, decodeBmp, type GainMap } from "@/core/containers";
import { DEFAULT_RAW, PhotoError, type Rect, type Size, swapsSides, toStored } from "@/core/photo";
import { linearSpace, PQ_PEAK, PQ_SPACES, type RgbName, type RgbSpace, SPACES } from "@/core/pixels/colour";
import { dotScreenIn, type Samples, TILE } from "@/core/pixels/develop";
import { applyGain } from "@/core/pixels/light";
import { MAX_PIXELS } from "@/core/units";
import type { ForeignPixels } from "../foreign";
import { decodeForeign } from "../foreign";
import type { Source } from "../source";
import { decodeByLibrary, type LibraryDecode } from "../workers";

/** How much of a photo is decoded, and how densely. */
export interface DecodedPart {
  /** The part that is needed, in upright pixels of the photo. */
  region: Rect;
  /** Output pixels per photo pixel. */
  scale: number;
}

export interface Taken {
  /** Believed only where the file says nothing itself. */
  takenAs: RgbName | null;
  /** The code values are to stay: profiles that work by tables are left alone too. */
  keeps: boolean;
  /** Light above white is wanted too, where it is in the file. */
  bright?: boolean;
}

export interface Decoded {
  samples: Samples;
  /** Stored pixels that the samples show. */
  shown: Rect;
  /** Samples per stored pixel, across and down. */
  density: [number, number];
  space: RgbSpace;
  /**
   * Multiples of white that the highest code stands for, and that the picture reaches; missing for ordinary
   * pictures.
   */
  peak?: number;
  reach?: number;
}

/** Damage that decoders warn of but that loses nothing of the picture. */
const HARMLESS =
  /extraneous bytes before marker|unknown Adobe color transform|Invalid SOS parameters|bad sRGB|known incorrect sRGB|iCCP|[Pp]rofile/;

/**
 * Tries strictly first; what is harmless is let through. Throws {@link PhotoError}: a damaged photo never
 * becomes a half-grey picture.
 */
export async function strictly<T>(
  source: Source,
  make: (failOn: "warning" | "truncated") => Promise<T>,
): Promise<T> {
  try {
    return await make("warning");
  } catch (error) {
    // A decoder of a process of its own has said already what is wrong.
    if (error instanceof PhotoError || OUTSIDE.has(codeOf(error)) || codeOf(error) === "MachineError")
      throw error;
    const message = error instanceof Error ? error.message : String(error);
    if (!HARMLESS.test(message)) throw damaged(source, message);
    return await make("truncated").catch((again: unknown) => {
      throw damaged(source, again instanceof Error ? again.message : String(again));
    });
  }
}

/** Want of memory, of files that may be open, or of processes. */
const OUTSIDE: ReadonlySet<string> = new Set(["ENOMEM", "EMFILE", "ENFILE", "EAGAIN"]);
const codeOf = (error: unknown): string =>
  error instanceof Error ? ((error as NodeJS.ErrnoException).code ?? error.name) : "";

function damaged(source: Source, message: string): PhotoError {
  const short = /premature|truncat|end of|too few|not enough|read gave/i.test(message);
  const kind = source.facts.format.toUpperCase();
  return new PhotoError(
    `The ${kind} is ${short ? "cut short" : "damaged"}: its picture data cannot be decoded to the ` +
      "end. Bring in a sound copy.",
  );
}

/** The space in which the samples stand. `takenAs` is believed only where the file says nothing itself. */
export function spaceOf(source: Source, takenAs: RgbName | null = null): RgbSpace {
  const { profile, facts } = source;
  if (profile?.rgb) return profile.rgb;
  if (profile?.grey) return { toXyz: SPACES.srgb.toXyz, curves: [profile.grey, profile.grey, profile.grey] };
  if (!profile && facts.colourSpace && facts.colourSpace in SPACES && facts.colourSpace !== "srgb")
    return SPACES[facts.colourSpace as RgbName];
  return takenAs && !facts.profile && facts.colourSpace === "srgb" ? SPACES[takenAs] : SPACES.srgb;
}

/** Whether the colour library has to convert while decoding: CMYK, Lab and profiles that work by tables. */
export const needsLibrary = ({ profile, facts }: Source): boolean =>
  facts.colourSpace === "cmyk" ||
  facts.colourSpace === "lab" ||
  (profile !== null && profile.rgb === null && profile.grey === null);

export async function decodeSamples(
  source: Source,
  part: DecodedPart,
  taken: Taken,
  failOn: "warning" | "truncated",
): Promise<Decoded> {
  const { facts } = source;
  const stored = storedSize(facts);
  if (source.decoded) {
    const space = spaceOf(source, taken.takenAs);
    return { samples: source.decoded, shown: { x: 0, y: 0, ...stored }, density: [1, 1], space };
  }
  if (source.bmp) {
    const samples = { data: decodeBmp(source.bmp), width: facts.width, height: facts.height, channels: 3 };
    return {
      samples,
      shown: { x: 0, y: 0, ...stored },
      density: [1, 1],
      space: spaceOf(source, taken.takenAs),
    };
  }
  if (source.foreign) {
    return decodedElsewhere(
      source,
      await decodeForeign(source.foreign, source.bytes, {
        ...source.wish,
        ...(halfServes(source, part.scale) && { half: true }),
        ...(source.foreign === "svg" && { size: drawnAt(facts, part.scale) }),
      }),
      taken,
    );
  }
  if (addsGain(source, taken)) return decodedWithGain(source, source.gainMap!, taken, failOn);
  const { how, ...rest } = libraryPart(source, part, taken, failOn)!;
  return { samples: await decodeByLibrary(asStill(source.bytes), how), ...rest };
}

/** What the pixel library is told, and all that is known of its samples beforehand. */
export type LibraryPart = Omit<Decoded, "samples"> & { how: LibraryDecode };

/** Null for what is decoded in other ways. */
export function libraryPart(
  source: Source,
  part: DecodedPart,
  taken: Taken,
  failOn: "warning" | "truncated",
): LibraryPart | null {
  const { facts } = source;
  if (source.decoded || source.bmp || source.foreign || addsGain(source, taken)) return null;
  const stored = storedSize(facts);
  const deep = (facts.bits ?? 8) > 8 && facts.colourSpace !== "cmyk";
  const converts =
    needsLibrary(source) && !(taken.keeps && source.profile?.channels === 3 && facts.colourSpace !== "lab");
  const shown = whole(toStored(part.region, stored, facts.orientation), stored);
  const grey = !converts && facts.colourSpace === "gray";
  // A decoder puts fewer than 16 bits into the upper ones, so that white is not the highest code.
  const top =
    deep && !converts && facts.bits !== null && facts.bits < 16 && facts.format === "avif"
      ? (2 ** facts.bits - 1) * 2 ** (16 - facts.bits)
      : undefined;
  return {
    how: {
      failOn,
      page: source.page,
      part: shown.width < stored.width || shown.height < stored.height ? shown : null,
      converts,
      space: converts ? "srgb" : grey ? (deep ? "grey16" : "b-w") : deep ? "rgb16" : "srgb",
      top,
    },
    shown,
    density: [1, 1],
    ...(facts.light && !converts
      ? { space: pqSpaceOf(source), peak: PQ_PEAK, reach: Math.max(1, facts.light.reach) }
      : { space: converts ? SPACES.srgb : spaceOf(source, taken.takenAs) }),
  };
}

const storedSize = ({ width, height, orientation }: Size & { orientation: number }): Size =>
  swapsSides(orientation) ? { width: height, height: width } : { width, height };

/** The light of a second picture is wanted too. */
const addsGain = ({ gainMap, facts }: Source, { bright }: Taken): boolean =>
  bright === true && gainMap !== null && facts.colourSpace !== "cmyk";

/** Of PQ signals, whose scale is that of {@link Decoded.peak}. */
const pqSpaceOf = ({ facts }: Source): RgbSpace => {
  const name =
    facts.colourSpace !== null && facts.colourSpace in PQ_SPACES
      ? (facts.colourSpace as keyof typeof PQ_SPACES)
      : "srgb";
  return { toXyz: SPACES[name].toXyz, curves: PQ_SPACES[name].curves };
};

/** The whole picture with the light of its gain map. */
async function decodedWithGain(
  source: Source,
  gain: GainMap,
  taken: Taken,
  failOn: "warning" | "truncated",
): Promise<Decoded> {
  const codes = async (bytes: Uint8Array) => {
    const { data, info } = await sharp(bytes, {
      failOn,
      limitInputPixels: MAX_PIXELS,
      autoOrient: false,
      ignoreIcc: true,
    })
      .raw({ depth: "uchar" })
      .toBuffer({ resolveWithObject: true });
    return { data, width: info.width, height: info.height, channels: info.channels };
  };
  const [base, map] = await Promise.all([codes(source.bytes), codes(gain.jpeg)]);
  const space = spaceOf(source, taken.takenAs);
  const { data, reach } = applyGain(base, map, gain, space);
  const size = { width: base.width, height: base.height };
  return {
    samples: { data, ...size, channels: 3 },
    shown: { x: 0, y: 0, ...size },
    density: [1, 1],
    space: { toXyz: space.toXyz, curves: PQ_SPACES.srgb.curves },
    peak: PQ_PEAK,
    reach,
  };
}

/** A sensor's mosaic may be read four places at a time, to no less than twice the output. */
const halfServes = ({ foreign, wish }: Source, scale: number): boolean =>
  foreign === "raw" && (wish.raw ?? DEFAULT_RAW).way === "developed" && scale <= 1 / 4;

/** Pixels of a whole drawing of which a part is needed at a scale. */
function drawnAt({ width, height }: Size, scale: number): Size {
  const most = Math.sqrt(MOST_DRAWN / (width * height));
  const side = (length: number) => Math.max(1, Math.round(length * Math.min(scale, most)));
  return { width: side(width), height: side(height) };
}
const MOST_DRAWN = 100_000_000;

/** How far a picture may depart from the photo's shape before it is cut to it. */
const SAME_SHAPE = 0.004;

function decodedElsewhere(source: Source, pixels: ForeignPixels, taken: Taken): Decoded {
  const { facts } = source;
  const { light } = pixels;
  const ownSize = source.foreign !== "raw" && source.foreign !== "svg";
  if (ownSize && (pixels.width !== facts.width || pixels.height !== facts.height)) {
    throw new PhotoError(
      `The ${formatName(facts.format)} says ${facts.width} × ${facts.height} px and holds ` +
        `${pixels.width} × ${pixels.height}. Save it anew where it came from.`,
    );
  }
  const { data, width, height, channels } = inShape(pixels, facts.width / facts.height);
  return {
    samples: { data, width, height, channels },
    shown: { x: 0, y: 0, width: facts.width, height: facts.height },
    density: [width / facts.width, height / facts.height],
    // A camera's own picture of its raw file has been brought to sRGB.
    space: light
      ? linearSpace(light.space)
      : source.foreign === "raw"
        ? SPACES.srgb
        : spaceOf(source, taken.takenAs),
    ...(light && { peak: light.peak, reach: light.reach }),
  };
}

/** The middle of a picture that is wider or higher than the photo it shows. */
function inShape(pixels: ForeignPixels, shape: number): ForeignPixels {
  const { data, width, height, channels } = pixels;
  if (Math.abs(width / height / shape - 1) <= SAME_SHAPE + 1.5 / Math.min(width, height)) return pixels;
  const [w, h] = [
    Math.min(width, Math.max(1, Math.round(height * shape))),
    Math.min(height, Math.max(1, Math.round(width / shape))),
  ];
  const [left, top] = [Math.floor((width - w) / 2), Math.floor((height - h) / 2)];
  const out =
    data instanceof Uint16Array ? new Uint16Array(w * h * channels) : new Uint8Array(w * h * channels);
  for (let y = 0; y < h; y += 1) {
    const from = ((top + y) * width + left) * channels;
    out.set(data.subarray(from, from + w * channels), y * w * channels);
  }
  return { ...pixels, data: out, width: w, height: h };
}

/** Whole pixels that cover a rectangle, inside the picture. */
function whole(rect: Rect, inside: Size): Rect {
  const x = Math.min(inside.width - 1, Math.max(0, Math.floor(rect.x + 1e-6)));
  const y = Math.min(inside.height - 1, Math.max(0, Math.floor(rect.y + 1e-6)));
  const right = Math.min(inside.width, Math.max(x + 1, Math.ceil(rect.x + rect.width - 1e-6)));
  const bottom = Math.min(inside.height, Math.max(y + 1, Math.ceil(rect.y + rect.height - 1e-6)));
  return { x, y, width: right - x, height: bottom - y };
}

/**
 * A decoder that is asked for a part may stop before the end and not notice that the last rows are missing. So a strip
 * down the middle to the last row is read too, beside the real decode: 0.2 s for 24 megapixels. It may be the only
 * place to see a dot screen; its period in px is the answer.
 */
export async function checkTail(
  source: Source,
  { region, scale }: DecodedPart,
  failOn: "warning" | "truncated",
): Promise<number | null> {
  const { jpeg, png, bytes, facts } = source;
  if (png || source.bmp || source.foreign || source.decoded) return null;
  if (region.width >= facts.width && region.height >= facts.height) return null;
  const stored =
    jpeg?.frame ?? (swapsSides(facts.orientation) ? { width: facts.height, height: facts.width } : facts);
  const width = Math.min(TILE, stored.width);
  const strip = sharp(asStill(bytes), {
    failOn,
    limitInputPixels: MAX_PIXELS,
    ignoreIcc: true,
    page: source.page,
  }).extract({ left: Math.floor((stored.width - width) / 2), top: 0, width, height: stored.height });
  const { data, info } = await strip.raw({ depth: "uchar" }).toBuffer({ resolveWithObject: true });
  return scale < 1
    ? dotScreenIn({ data, width: info.width, height: info.height, channels: info.channels })
    : null;
}
