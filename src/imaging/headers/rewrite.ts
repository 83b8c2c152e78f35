/** Files whose picture passes through: only what stands beside it changes, at byte level. */
import { type ResolvedBrief, within } from "@/core/brief";
import {
  avifExif,
  bodyOf,
  chunk,
  chunkBody,
  concat,
  emptyExif,
  exifBlock,
  exifSegment,
  filterExif,
  findChunk,
  isBareExif,
  isExif,
  isIcc,
  isIptc,
  isJfif,
  isMultiPicture,
  isXmp,
  jfifSegment,
  MARKER,
  patchResolution,
  physChunk,
  readTiff,
  rebuildAvif,
  rebuildBmp,
  rebuildJpeg,
  rebuildPng,
  rebuildTiff,
  rebuildWebp,
  resolutionOf,
  segment,
  TAG,
  TIFF_TAG,
  webpChunk,
  webpExif,
  withResolution,
  withXmpResolution,
  writeExif,
} from "@/core/containers";
import { holdsPaper, targetFor } from "@/core/geometry";
import { isPngText, isPngXmp, keptPngText, type Source } from "../source";
import { pngXmp, XMP_HEAD } from "./assemble";
import { resolutionToWrite, withRights } from "./headers";

interface Change {
  none: boolean;
  /** Metadata go, all or the private ones. */
  cleans: boolean;
  /** A resolution to set, else null. */
  ppi: number | null;
  unprofiles: boolean;
}

/** What a file that passes through becomes: the same bytes where nothing is asked of its headers. */
export function rewriteHeaders(brief: ResolvedBrief, source: Source): Uint8Array {
  const { facts } = source;
  const none = brief.metadata === "none";
  const cleans = none ? facts.metadata : brief.metadata === "private" && facts.privateData.length > 0;
  const unmet = !densityHolds(brief, facts);
  // A resolution that stood only in EXIF is no metadata about anyone: it moves to the format's own field.
  const sets = unmet || (none && cleans && resolutionOf(source.exif) !== null);
  const unprofiles = brief.stated.has("colour") && brief.profile === "omit" && facts.profile;
  if (!cleans && !sets && !unprofiles) return source.bytes;
  const change: Change = {
    none,
    cleans,
    ppi: sets ? resolutionToWrite(brief, source, facts) : null,
    unprofiles,
  };
  if (source.jpeg) return rewriteJpeg(source, change);
  if (source.png) return rewritePng(source, change);
  if (source.webp) return rewriteWebp(source, change);
  if (source.avif) return rewriteAvif(source, change);
  if (facts.format === "tiff") return rewriteTiff(source, change);
  if (facts.format === "bmp" && change.ppi !== null) return rebuildBmp(source.bytes, change.ppi);
  return source.bytes;
}

function densityHolds(brief: ResolvedBrief, facts: Source["facts"]): boolean {
  const { paper } = targetFor(brief, facts);
  if (!paper && !brief.resolution) return true;
  if (!facts.resolution) return false;
  const slack = Math.max(0.05, facts.resolutionStep);
  return (
    (!paper || holdsPaper(paper, facts, facts.resolution)) &&
    (!brief.resolution || facts.resolution.every((v) => within(brief.resolution!, v, slack)))
  );
}

/**
 * The EXIF block that stays. `old` is the block as it lies in the file; it is only patched where nothing has
 * to go.
 */
function exifAfter(
  source: Source,
  { none, cleans, ppi }: Change,
  old: Uint8Array | null,
  onlyExif: boolean,
): Uint8Array | null {
  if (none && cleans) return onlyExif && ppi !== null ? writeExif(withResolution(emptyExif(), ppi)) : null;
  if (!cleans && old)
    return ppi === null
      ? old
      : (patchResolution(old, ppi) ?? (source.exif ? writeExif(withResolution(source.exif, ppi)) : old));
  let exif = cleans
    ? withRights(source.exif && filterExif(source.exif, "private").exif, source)
    : source.exif;
  if (ppi !== null && (!none || onlyExif)) exif = withResolution(exif ?? emptyExif(), ppi);
  return exif ? writeExif(exif) : null;
}

const xmpAfter = ({ xmp }: Source, { cleans, ppi }: Change): Uint8Array | null =>
  !xmp || cleans ? null : ppi === null ? xmp : withXmpResolution(xmp, ppi);

function rewriteJpeg(source: Source, change: Change): Uint8Array {
  const file = source.jpeg!;
  const exif = exifAfter(source, change, exifBlock(file), false);
  const head: Uint8Array[] = [];
  const jfif = file.segments.find((s) => isJfif(file, s));
  if (change.ppi !== null) head.push(jfifSegment(change.ppi));
  else if (jfif) head.push(file.bytes.subarray(jfif.start, jfif.end));
  if (exif) head.push(exifSegment(exif));
  const xmp = change.ppi === null ? null : xmpAfter(source, change);
  if (xmp) head.push(segment(MARKER.APP1, concat([XMP_HEAD, xmp])));
  return rebuildJpeg(file, head, (s) => {
    if (isJfif(file, s) || isExif(file, s)) return false;
    if (xmp && isXmp(file, s)) return false;
    if (change.unprofiles && isIcc(file, s)) return false;
    if (!change.cleans) return true;
    if (isXmp(file, s) || isIptc(file, s) || isMultiPicture(file, s)) return false;
    // The colour transform in APP14 belongs to the picture.
    return !(change.none && s.marker === MARKER.COM && bodyOf(file, s).some((b) => b !== 0x20));
  });
}

function rewritePng(source: Source, change: Change): Uint8Array {
  const file = source.png!;
  const exif = exifAfter(source, change, findChunk(file, "eXIf"), false);
  const xmp = change.ppi === null ? null : xmpAfter(source, change);
  const add: Uint8Array[] = [];
  if (change.ppi !== null) add.push(physChunk(change.ppi));
  if (exif) add.push(chunk("eXIf", exif));
  if (xmp) add.push(pngXmp(xmp));
  const profile = new Set(["iCCP", "sRGB", "cICP"]);
  const gone = (body: Uint8Array) =>
    (xmp !== null && isPngXmp(body)) || (change.cleans && (change.none || !keptPngText(body)));
  const texts = new Set(
    file.chunks.filter((c) => isPngText(c.type) && gone(chunkBody(file, c))).map((c) => c.start),
  );
  const kept = { ...file, chunks: file.chunks.filter((c) => !texts.has(c.start)) };
  return rebuildPng(kept, add, (type) => {
    if (type === "eXIf") return false;
    if (type === "pHYs") return change.ppi === null;
    if (type === "tIME") return !(change.none && change.cleans);
    return !(change.unprofiles && profile.has(type));
  });
}

function rewriteWebp(source: Source, change: Change): Uint8Array {
  const file = source.webp!;
  const exif = exifAfter(source, change, webpExif(file), true);
  return rebuildWebp(file, {
    icc: change.unprofiles ? null : webpChunk(file, "ICCP"),
    exif,
    xmp: xmpAfter(source, change),
  });
}

function rewriteAvif(source: Source, change: Change): Uint8Array {
  const file = source.avif!;
  const exif = exifAfter(source, change, avifExif(file), true);
  return rebuildAvif(file, { exif, xmp: xmpAfter(source, change), ...(change.unprofiles && { icc: null }) });
}

/** Tags of a first directory that hold metadata of other kinds than EXIF's own. */
const PACKETS = new Set<number>([TIFF_TAG.Xmp, TIFF_TAG.Iptc, TIFF_TAG.ImageResources]);

/** From here on tags belong to whoever registered them (TIFF 6.0, section 2); nobody knows what they say. */
const PRIVATE_TAGS = 0x8000;
const KEPT_PRIVATE = new Set<number>([TIFF_TAG.Icc, TAG.ExifIfd, TAG.Copyright]);

function rewriteTiff(source: Source, change: Change): Uint8Array {
  const { littleEndian, ifd0, exif, gps } = readTiff(source.bytes);
  let next = { littleEndian, ifd0, exif, gps, hasThumbnail: false };
  if (change.cleans) {
    const described = new Set(source.exif?.ifd0.map((e) => e.tag) ?? []);
    const kept = change.none
      ? { exif: null }
      : filterExif({ ...next, ifd0: next.ifd0.filter((e) => described.has(e.tag)) }, "private");
    const stays = new Set(kept.exif?.ifd0.map((e) => e.tag) ?? []);
    const bare = (tag: number) =>
      isBareExif({ ...emptyExif(), ifd0: [{ tag, type: 3, count: 1, value: new Uint8Array(2) }] });
    next = {
      ...next,
      ifd0: next.ifd0.filter(
        (e) =>
          !PACKETS.has(e.tag) &&
          (e.tag < PRIVATE_TAGS || KEPT_PRIVATE.has(e.tag)) &&
          (!described.has(e.tag) || stays.has(e.tag) || bare(e.tag)),
      ),
      exif: kept.exif?.exif ?? [],
      gps: [],
    };
  }
  if (change.unprofiles) next = { ...next, ifd0: next.ifd0.filter((e) => e.tag !== TIFF_TAG.Icc) };
  if (change.ppi !== null) {
    next = withResolution(next, change.ppi);
    const xmp = next.ifd0.find((e) => e.tag === TIFF_TAG.Xmp);
    if (xmp) {
      const value = withXmpResolution(xmp.value, change.ppi);
      next = { ...next, ifd0: next.ifd0.map((e) => (e === xmp ? { ...e, count: value.length, value } : e)) };
    }
  }
  return rebuildTiff(source.bytes, { ...next, ifd0: next.ifd0.filter((e) => e.tag !== TAG.GpsIfd) });
}
