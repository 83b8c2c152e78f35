/** Files that need no encoding: the photo's own picture data with the headers that are asked. */
import { allowedFormats, reasonsToEncode } from "@/core/plan";
import { repackJpeg } from "../candidates";
import { destinationOf, pageOf, plannedHeaders, rewriteHeaders } from "../headers";
import type { PlannedPhoto } from "../planned";
import type { Chosen } from "./asked";

export const inside = ({ resolved: { fileSize } }: PlannedPhoto, bytes: number): boolean =>
  bytes >= (fileSize.min ?? 0) && bytes <= (fileSize.max ?? Infinity);

/** Whether the picture data satisfy every clause but those on file size. */
export function dataServe({ brief, resolved, source, geometry, frame }: PlannedPhoto): boolean {
  const { facts } = source;
  return !reasonsToEncode({ brief, resolved, facts, geometry, takenAs: frame.takenAs }).length;
}

/** Its bytes with the headers that are asked; the very bytes where nothing is. */
export const rewritten = ({ resolved, source }: PlannedPhoto): Uint8Array => rewriteHeaders(resolved, source);

export const ownFile = (
  file: Uint8Array,
  how: "as it is" | "packed" | "on a page" = "as it is",
  notes: string[] = [],
): Chosen => ({ kind: "own", file, how, encodes: 0, notes });

/** Null where it is no JPEG, or nothing on this machine packs. */
export const packed = async (
  { source }: PlannedPhoto,
  file: Uint8Array,
  signal?: AbortSignal,
): Promise<Uint8Array | null> => (source.jpeg ? repackJpeg(file, signal) : null);

/**
 * The photo's JPEG data on the asked page, where nothing else has to change and the file lies in its range;
 * else null.
 */
export function ownOnPage(planned: PlannedPhoto): Chosen | null {
  const { resolved, source, frame, geometry } = planned;
  const { facts, jpeg } = source;
  if (allowedFormats(resolved, facts)[0] !== "pdf" || !jpeg || facts.orientation !== 1) return null;
  if (!dataServe({ ...planned, resolved: { ...resolved, formats: ["jpeg"] } })) return null;
  const to = destinationOf({ ...resolved, space: "keep" }, source);
  const icc = source.icc ?? (jpeg.frame.components.length === 4 ? null : to.icc);
  const headers = plannedHeaders({ brief: resolved, source, to, out: geometry, frame });
  const file = pageOf(rewriteHeaders({ ...resolved, paper: null }, source), icc, headers);
  return inside(planned, file.length) ? ownFile(file, "on a page") : null;
}
