/** The colours that an output stands in: space, profile to embed, and how a written colour reads in it. */

import type { ResolvedBrief } from "@/core/brief";
import {
  apply,
  between,
  encodeWith,
  encodingTable,
  PQ_SPACES,
  type PqName,
  type RgbName,
  type RgbSpace,
  SPACES,
  SRGB_CURVE,
  type Triple,
  toLinear,
  writeGreyProfile,
  writeProfile,
} from "@/core/pixels/colour";
import type { Source } from "../source";

export interface Destination {
  /** As facts name it; "cmyk" is planned in sRGB and converted by the colour library while it is encoded. */
  name: string;
  space: RgbSpace | "gray";
  /** Null for CMYK, whose profile the library embeds itself. */
  icc: Uint8Array | null;
  /** The source's code values stay what they are. */
  keeps: boolean;
  /** PQ signals in these primaries; missing for ordinary pictures. */
  light?: PqName;
}

/** `takenAs`: what a person says of a photo that says nothing itself. */
export function destinationOf(brief: ResolvedBrief, source: Source, takenAs?: RgbName): Destination {
  const { profile, facts, icc } = source;
  if (brief.light === "hdr") {
    const asked = brief.space === "keep" && facts.light ? facts.colourSpace : brief.space;
    const primaries: PqName = asked === "bt2020" || asked === "srgb" ? asked : "display-p3";
    // Colours are signalled by the file's own colour box; a profile has no room for light above white.
    return { name: primaries, space: PQ_SPACES[primaries], icc: null, keeps: false, light: primaries };
  }
  let name: string = brief.space;
  const keeps = name === "keep";
  if (name === "keep") name = facts.colourSpace ?? "srgb";
  const relabelled = keeps && takenAs !== undefined && !facts.profile && name === "srgb";
  if (relabelled) return { name: takenAs, space: SPACES[takenAs], icc: writeProfile(takenAs), keeps };
  if (name === "gray") return { name, space: "gray", icc: writeGreyProfile(), keeps };
  if (name === "cmyk") return { name, space: SPACES.srgb, icc: null, keeps };
  if (keeps && profile && icc && name !== "lab")
    return { name, space: profile.rgb ?? SPACES.srgb, icc, keeps };
  if (name === "display-p3" || name === "bt2020")
    return { name, space: SPACES[name], icc: writeProfile(name), keeps };
  return { name: "srgb", space: SPACES.srgb, icc: writeProfile("srgb"), keeps };
}

/** "#rrggbb" (sRGB) as code values (0 to 1) of the destination: three, or one for grey. */
export function colourIn(hex: string, space: RgbSpace | "gray"): number[] {
  const codes = [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16) / 255);
  if (space === SPACES.srgb) return codes;
  const linear = codes.map((v) => toLinear(SRGB_CURVE, v)) as unknown as Triple;
  if (space === "gray") {
    const [r, g, b] = SPACES.srgb.toXyz.slice(3, 6);
    return [encodeWith(encodingTable(SRGB_CURVE), r * linear[0] + g * linear[1] + b * linear[2])];
  }
  return apply(between(SPACES.srgb, space), linear).map((v, c) =>
    encodeWith(encodingTable(space.curves[c]), v),
  );
}
