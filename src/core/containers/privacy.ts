/**
 * What of a photo's metadata goes out. `private` drops place, serial numbers,
 * owner, maker notes and the embedded thumbnail, and keeps date, camera, exposure
 * and copyright. Tags that are not known to be harmless are dropped.
 */
import { type Exif, type ExifEntry, TAG } from "./exif";

const KEPT_IFD0: ReadonlySet<number> = new Set([
  TAG.ImageWidth,
  TAG.ImageLength,
  TAG.BitsPerSample,
  0x0103,
  TAG.Photometric,
  TAG.ImageDescription,
  TAG.Make,
  TAG.Model,
  TAG.Orientation,
  0x0115,
  TAG.XResolution,
  TAG.YResolution,
  TAG.ResolutionUnit,
  TAG.Software,
  TAG.DateTime,
  TAG.YCbCrPositioning,
  0x0211,
  0x0212,
  0x0214,
  0x013e,
  0x013f,
  TAG.Copyright,
  TAG.ExifIfd,
]);

/**
 * Exposure, dates, lens and picture structure of Exif 2.32, table 7; without maker note, comments, serials,
 * owner and unique ids.
 */
const KEPT_EXIF: ReadonlySet<number> = new Set([
  0x829a, 0x829d, 0x8822, 0x8824, 0x8827, 0x8828, 0x8830, 0x8831, 0x8832, 0x8833, 0x8834, 0x8835, 0x9000,
  0x9003, 0x9004, 0x9010, 0x9011, 0x9012, 0x9101, 0x9102, 0x9201, 0x9202, 0x9203, 0x9204, 0x9205, 0x9206,
  0x9207, 0x9208, 0x9209, 0x920a, 0x9214, 0x9290, 0x9291, 0x9292, 0xa000, 0xa001, 0xa002, 0xa003, 0xa20b,
  0xa20e, 0xa20f, 0xa210, 0xa214, 0xa215, 0xa217, 0xa300, 0xa301, 0xa302, 0xa401, 0xa402, 0xa403, 0xa404,
  0xa405, 0xa406, 0xa407, 0xa408, 0xa409, 0xa40a, 0xa40c, 0xa432, 0xa433, 0xa434,
]);

const NAMED: ReadonlyMap<number, string> = new Map([
  [TAG.Artist, "owner"],
  [TAG.CameraOwnerName, "owner"],
  [TAG.BodySerialNumber, "serial numbers"],
  [TAG.LensSerialNumber, "serial numbers"],
  [TAG.MakerNote, "maker notes"],
  [TAG.UserComment, "comments"],
  [0x9c9d, "owner"],
  [0x9c9c, "comments"],
  [0xc4a5, "print data"],
  [0xa420, "unique ids"],
]);

/** What describes how a picture is stored and printed, and says nothing about anyone. */
const BARE: ReadonlySet<number> = new Set([
  TAG.XResolution,
  TAG.YResolution,
  TAG.ResolutionUnit,
  TAG.Orientation,
  TAG.YCbCrPositioning,
]);

/** Whether a block holds nothing but resolution and orientation. */
export const isBareExif = (exif: Exif): boolean =>
  !exif.exif.length && !exif.gps.length && !exif.hasThumbnail && exif.ifd0.every((e) => BARE.has(e.tag));

export interface Filtered {
  /** Null where nothing is left. */
  exif: Exif | null;
  /** What was dropped, in words, each once. */
  dropped: string[];
}

/** Under `keep` only the embedded thumbnail goes: it shows the photo as it was. */
export function filterExif(exif: Exif, rule: "keep" | "private" | "none"): Filtered {
  if (rule === "none") return { exif: null, dropped: ["all EXIF data"] };
  if (rule === "keep")
    return {
      exif: { ...exif, hasThumbnail: false },
      dropped: exif.hasThumbnail ? ["embedded thumbnail"] : [],
    };
  const dropped = new Set<string>();
  const keep = (kept: ReadonlySet<number>) => (entry: ExifEntry) => {
    if (kept.has(entry.tag)) return true;
    // Pointers are written anew and the interoperability directory carries nothing about people.
    if (entry.tag !== TAG.GpsIfd && entry.tag !== TAG.InteropIfd)
      dropped.add(NAMED.get(entry.tag) ?? "unknown tags");
    return false;
  };
  if (exif.gps.length) dropped.add("place");
  if (exif.hasThumbnail) dropped.add("embedded thumbnail");
  const ifd0 = exif.ifd0.filter(keep(KEPT_IFD0));
  const inner = exif.exif.filter(keep(KEPT_EXIF));
  const left = ifd0.length + inner.length > 0;
  return {
    exif: left ? { ...exif, ifd0, exif: inner, gps: [], hasThumbnail: false } : null,
    dropped: [...dropped],
  };
}
