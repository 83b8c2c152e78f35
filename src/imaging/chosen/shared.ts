/** What the sharing of a limit on the whole has settled. */
import type { Candidates } from "../candidates";
import type { Chosen, Shared } from "./asked";
import { ownFile, rewritten } from "./own-data";

export async function asShared(candidates: Candidates, { setting, geometry, told }: Shared): Promise<Chosen> {
  const { photo } = candidates;
  if (!setting) return ownFile(rewritten(photo), "as it is", told);
  const fewer = geometry.width * geometry.height < photo.geometry.width * photo.geometry.height;
  const picture = candidates.at(geometry, setting.format);
  const { bytes } = await candidates.trial(picture, setting);
  const difference = fewer ? (await candidates.judged(picture, setting, photo.geometry)).difference : null;
  const fitted = { ok: true, setting, bytes, geometry, padTo: null, encodes: 1, told, difference } as const;
  return { kind: "coded", fitted: { ...fitted, cleanFrom: null }, encodes: 1, notes: [] };
}
