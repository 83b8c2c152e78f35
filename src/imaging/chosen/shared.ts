/** What the sharing of a limit on the whole has settled. */
import { viewWords } from "@/core/coding";
import { type Geometry, pixelsOf } from "@/core/geometry";
import type { Candidates } from "../candidates";
import type { PlannedPhoto } from "../planned";
import type { Chosen, Shared } from "./asked";
import { ownFile, rewritten } from "./own-data";

export async function asShared(candidates: Candidates, { setting, geometry, told }: Shared): Promise<Chosen> {
  const { photo } = candidates;
  if (!setting) return ownFile(rewritten(photo), "as it is", told);
  const fewer = pixelsOf(geometry) < pixelsOf(photo.view);
  const picture = candidates.at(geometry, setting.format);
  const { bytes } = await candidates.trial(picture, setting);
  const difference = fewer ? (await candidates.judged(picture, setting)).difference : null;
  const fitted = { ok: true, setting, bytes, geometry, padTo: null, encodes: 1, told, difference } as const;
  return {
    kind: "coded",
    fitted: { ...fitted, cleanFrom: null, gaveUp: fewerTold(photo, geometry) },
    encodes: 1,
    notes: [],
  };
}

/** Why it has fewer pixels than the brief allows; null where it has them all. */
const fewerTold = ({ geometry: full, resolved }: PlannedPhoto, geometry: Geometry): string | null =>
  pixelsOf(geometry) < pixelsOf(full)
    ? `one long side for all, at which they differ least together, seen ${viewWords(resolved.view)}`
    : null;
