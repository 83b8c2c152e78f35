/** The setting that the search finds for the planned picture. */
import type { ResolvedBrief } from "@/core/brief";
import { fitFormats } from "@/core/coding";
import { allowedFormats } from "@/core/plan";
import type { Candidates } from "../candidates";
import type { PlannedPhoto } from "../planned";
import type { Chosen } from "./asked";

/** `most`: bytes that are not to be exceeded, although nothing asks that. */
export async function searched(candidates: Candidates, most?: number): Promise<Chosen> {
  const { photo } = candidates;
  const { resolved, source, frame, geometry, view } = photo;
  const fitted = await fitFormats({
    brief: resolved,
    photo: source.facts,
    frame,
    geometry,
    view,
    formats: allowedFormats(resolved, source.facts),
    softCeiling: softCeiling(photo, most),
    untold: candidates.untold,
    picture: (pixels, format) => candidates.searched(pixels, format),
  });
  return fitted.ok
    ? { kind: "coded", fitted, encodes: fitted.encodes, notes: [] }
    : { kind: "cannot", why: fitted.why, geometry, encodes: fitted.encodes, notes: [] };
}

/** No JPEG is made larger than it came where nothing asks for that. */
function softCeiling(
  { brief, resolved, source: { facts }, geometry }: PlannedPhoto,
  most = Infinity,
): number | null {
  const grows = geometry.width * geometry.height > facts.width * facts.height;
  const free = facts.format === "jpeg" && !grows && !brief.quality && mayBeJpeg(resolved);
  const bytes = Math.min(most, free ? facts.bytes : Infinity);
  return Number.isFinite(bytes) ? bytes : null;
}

const mayBeJpeg = ({ formats }: ResolvedBrief): boolean => !formats || formats[0] === "jpeg";
