/** What each file type has room for. */

import type { ClauseKey, OutputFormat } from "./keys";
import type { ResolvedBrief } from "./resolve";

export interface Ability {
  /** Bits a channel. */
  bits: readonly number[];
  cmyk: boolean;
  grey: boolean;
  /** A field for resolution. */
  resolution: boolean;
  /** Spaces wider than sRGB, by an embedded profile. */
  wide: boolean;
  hdr: boolean;
  /** Light above white as a map beside an ordinary picture (ISO 21496-1). */
  lightMap: boolean;
  layers: boolean;
  /** Animations, as far as they are written here. */
  frames: boolean;
  transparency: boolean;
  /** EXIF or tags for date, camera, copyright. */
  metadata: boolean;
  /** A comment that can fill a file up to its floor. */
  padding: boolean;
}

const ALL: Ability = {
  bits: [8],
  cmyk: false,
  grey: false,
  resolution: true,
  wide: true,
  hdr: false,
  lightMap: false,
  layers: false,
  frames: false,
  transparency: true,
  metadata: true,
  padding: true,
};

/**
 * JPEG: ITU-T T.81 baseline, three or four components; PNG: W3C third edition; WebP: RFC 9649; AVIF: the AV1
 * profiles as they
 * are written here, in colour; TIFF 6.0; GIF89a; BMP: the header of 1995 with 24 bits a pixel; PDF: ISO
 * 32000.
 */
export const CAN: Record<OutputFormat, Ability> = {
  jpeg: { ...ALL, cmyk: true, grey: true, transparency: false, lightMap: true },
  png: { ...ALL, bits: [8, 16], grey: true },
  webp: { ...ALL, frames: true },
  avif: { ...ALL, bits: [8, 10], hdr: true, frames: true },
  tiff: { ...ALL, bits: [8, 16], cmyk: true, grey: true, layers: true },
  gif: { ...ALL, frames: true, resolution: false, wide: false, metadata: false },
  bmp: { ...ALL, wide: false, transparency: false, metadata: false },
  pdf: { ...ALL, cmyk: true, grey: true, transparency: false },
};

/** What of a brief's colours and densities a format has no room for: those clauses give way to the format. */
export function lostToFormat(brief: ResolvedBrief, format: OutputFormat): ClauseKey[] {
  const can = CAN[format];
  const lost: ClauseKey[] = [];
  const colours = brief.stated.has("colour");
  if (
    colours &&
    (!holdsColours(brief, format) || (brief.profile === "embed" && brief.statesProfile && !can.wide))
  )
    lost.push("colour");
  if (!can.resolution)
    lost.push(...(["resolution", "paper"] as const).filter((key) => brief.stated.has(key)));
  return lost;
}

/** Whether a format can hold the space and the bits of a brief. */
export function holdsColours(
  { space, bits, light }: Pick<ResolvedBrief, "space" | "bits" | "light">,
  format: OutputFormat,
): boolean {
  const can = CAN[format];
  const asMap = light === "hdr" && !can.hdr && can.lightMap;
  if (light === "hdr" && !can.hdr && !asMap) return false;
  const holdsSpace =
    space === "cmyk"
      ? can.cmyk
      : space === "gray"
        ? can.grey
        : space === "srgb" || space === "keep" || can.wide;
  // The ordinary picture beside a map has the bits that its format has.
  return holdsSpace && (asMap || can.bits.includes(bits));
}

/** Whether an animation can stay one. Those of AVIF are written with eight bits, for ordinary screens. */
export const holdsFrames = (
  { bits, light }: Pick<ResolvedBrief, "bits" | "light">,
  format: OutputFormat,
): boolean => CAN[format].frames && (format !== "avif" || (bits === 8 && light !== "hdr"));

/** The brief as far as the format can carry it out. */
export function heldBy(brief: ResolvedBrief, format: OutputFormat): ResolvedBrief {
  const can = CAN[format];
  const bits = can.bits.includes(brief.bits) ? brief.bits : 8;
  const light = can.hdr ? brief.light : "sdr";
  const space = holdsColours({ ...brief, bits, light }, format) ? brief.space : "srgb";
  return { ...brief, bits, space, light, profile: can.wide ? brief.profile : "omit" };
}
