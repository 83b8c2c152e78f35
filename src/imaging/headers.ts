/** The headers of an output file: resolution, profile, EXIF; on fresh encodings and on bytes that pass through. */
import { within, type ResolvedBrief } from "@/core/brief";
import { askedPpi, holdsPaper, targetFor, type Size } from "@/core/frame";
import {
  TAG, bodyOf, chunk, chunkBody, emptyExif, exifSegment, filterExif, iccSegments, isExif, isIcc, isIptc, isJfif, isMultiPicture, isXmp, jfifSegment,
  longEntry, MARKER, physChunk, readJpeg, readPng, rebuildJpeg, rebuildPng, resolutionOf, shortEntry, withEntries, withResolution, writeExif, writeProfile,
  type Exif,
} from "@/core/containers";
import { isPngText, keptPngText, type Source } from "./facts";

const SRGB_PROFILE = writeProfile("srgb", "srgb", "sRGB");
/** Tags that describe how the source was stored, not the photo. */
const STRUCTURE = new Set<number>([TAG.ImageWidth, TAG.ImageLength, TAG.BitsPerSample, 0x0103, TAG.Photometric, 0x0115, 0x0211, 0x0212, TAG.YCbCrPositioning, 0x0214, 0x013e, 0x013f]);

/** The resolution to be written into an output of this size, in ppi: what is asked, else the source's, else none. */
export function resolutionToWrite(brief: ResolvedBrief, source: Source, out: Size): number | null {
  const has = source.facts.resolution?.[0] ?? null;
  return askedPpi(brief, source.facts, out, has) ?? has;
}

export interface Headers {
  /** For an output of this size, in ppi. */
  ppi: (out: Size) => number | null;
  exif: Exif | null;
  profile: boolean;
  dropped: string[];
}

/** What a fresh encoding of this source carries under this brief. */
export function plannedHeaders(brief: ResolvedBrief, source: Source): Headers {
  const rule = brief.metadata === "none" ? "none" : "private";
  const filtered = source.exif ? filterExif(source.exif, rule) : { exif: null, dropped: [] };
  const dropped = rule === "none" ? (source.facts.metadata ? ["all metadata"] : []) : source.facts.privateData;
  return { ppi: (out) => resolutionToWrite(brief, source, out), exif: filtered.exif, profile: brief.profile === "embed", dropped };
}

/** EXIF for an upright output of that size. Resolution goes in exactly unless the brief wants no metadata at all. */
function outputExif(headers: Headers, size: { width: number; height: number }, none: boolean): Uint8Array | null {
  if (none) return null;
  let exif = headers.exif;
  if (exif) {
    const le = exif.littleEndian;
    exif = { ...exif, ifd0: exif.ifd0.filter((e) => !STRUCTURE.has(e.tag)) };
    exif = { ...exif, ifd0: withEntries(exif.ifd0, [shortEntry(TAG.Orientation, 1, le)]) };
    if (exif.exif.length) {
      exif = { ...exif, exif: withEntries(exif.exif, [longEntry(TAG.PixelXDimension, size.width, le), longEntry(TAG.PixelYDimension, size.height, le), shortEntry(0xa001, 1, le)]) };
    }
  }
  const ppi = headers.ppi(size);
  if (ppi !== null) exif = withResolution(exif ?? emptyExif(), ppi);
  return exif ? writeExif(exif) : null;
}

/** A fresh encoding with its headers. */
export function assemble(encoded: Uint8Array, format: "jpeg" | "png", headers: Headers, size: { width: number; height: number }, none: boolean): Uint8Array {
  const exif = outputExif(headers, size, none);
  const ppi = headers.ppi(size);
  if (format === "jpeg") {
    const file = readJpeg(encoded);
    const head = [jfifSegment(ppi)];
    if (exif) head.push(exifSegment(exif));
    if (headers.profile) head.push(...iccSegments(SRGB_PROFILE));
    return rebuildJpeg(file, head, (s) => s.marker < MARKER.APP0 || s.marker > 0xef);
  }
  const add: Uint8Array[] = [];
  // PNG, 11.3.2.5: the sRGB chunk stands for the whole profile; 0 is the perceptual intent.
  if (headers.profile) add.push(chunk("sRGB", new Uint8Array([0])));
  if (ppi !== null) add.push(physChunk(ppi));
  if (exif) add.push(chunk("eXIf", exif));
  const dropped = new Set(["pHYs", "sRGB", "iCCP", "eXIf", "gAMA", "cHRM", "tEXt", "iTXt", "zTXt"]);
  return rebuildPng(readPng(encoded), add, (type) => !dropped.has(type));
}

/** What a file that passes through becomes: the same bytes where nothing is asked of its headers. */
export function rewriteHeaders(brief: ResolvedBrief, source: Source): Uint8Array {
  const { facts } = source;
  const none = brief.metadata === "none";
  const cleans = none ? facts.metadata : facts.privateData.length > 0;
  const unmet = !densityHolds(brief, facts);
  // A resolution that stood only in EXIF is no metadata about anyone: it moves to the format's own field.
  const sets = unmet || (none && cleans && resolutionOf(source.exif) !== null);
  const unprofiles = brief.stated.has("colour") && brief.profile === "omit" && facts.profile;
  if (!cleans && !sets && !unprofiles) return source.bytes;
  const ppi = sets ? resolutionToWrite(brief, source, facts) : null;
  if (source.jpeg) return rewriteJpeg(source, { none, cleans, ppi, unprofiles });
  if (source.png) return rewritePng(source, { none, cleans, ppi, unprofiles });
  return source.bytes;
}

function densityHolds(brief: ResolvedBrief, facts: Source["facts"]): boolean {
  const { paper } = targetFor(brief, facts);
  if (!paper && !brief.resolution) return true;
  if (!facts.resolution) return false;
  const slack = Math.max(0.05, facts.resolutionStep);
  return (!paper || holdsPaper(paper, facts, facts.resolution)) && (!brief.resolution || facts.resolution.every((v) => within(brief.resolution!, v, slack)));
}

interface Rewrite {
  none: boolean;
  cleans: boolean;
  /** A resolution to set, else null. */
  ppi: number | null;
  unprofiles: boolean;
}

function rewrittenExif(source: Source, { none, cleans, ppi }: Rewrite): Uint8Array | null {
  let exif = source.exif;
  if (exif && cleans) exif = none ? null : filterExif(exif, "private").exif;
  if (ppi !== null && !none) exif = withResolution(exif ?? emptyExif(), ppi);
  // A thumbnail or maker note that may stay would not survive being written anew.
  return exif ? writeExif(exif) : null;
}

function rewriteJpeg(source: Source, change: Rewrite): Uint8Array {
  const file = source.jpeg!;
  const exif = rewrittenExif(source, change);
  const head: Uint8Array[] = [];
  const jfif = file.segments.find((s) => isJfif(file, s));
  if (change.ppi !== null) head.push(jfifSegment(change.ppi));
  else if (jfif) head.push(file.bytes.subarray(jfif.start, jfif.end));
  if (exif) head.push(exifSegment(exif));
  return rebuildJpeg(file, head, (s) => {
    if (isJfif(file, s) || isExif(file, s)) return false;
    if (change.unprofiles && isIcc(file, s)) return false;
    if (!change.cleans) return true;
    if (isXmp(file, s) || isIptc(file, s) || isMultiPicture(file, s)) return false;
    // The colour transform in APP14 belongs to the picture.
    return !(change.none && (s.marker === MARKER.COM && bodyOf(file, s).some((b) => b !== 0x20)));
  });
}

function rewritePng(source: Source, change: Rewrite): Uint8Array {
  const file = source.png!;
  const exif = rewrittenExif(source, change);
  const add: Uint8Array[] = [];
  if (change.ppi !== null) add.push(physChunk(change.ppi));
  if (exif) add.push(chunk("eXIf", exif));
  const profile = new Set(["iCCP", "sRGB", "cICP"]);
  const texts = new Set(
    file.chunks.filter((c) => isPngText(c.type) && change.cleans && (change.none || !keptPngText(chunkBody(file, c)))).map((c) => c.start),
  );
  const kept = { ...file, chunks: file.chunks.filter((c) => !texts.has(c.start)) };
  return rebuildPng(kept, add, (type) => {
    if (type === "eXIf") return false;
    if (type === "pHYs") return change.ppi === null;
    if (type === "tIME") return !(change.none && change.cleans);
    return !(change.unprofiles && profile.has(type));
  });
}
