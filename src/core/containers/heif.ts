/**
 * HEIF at the level of its boxes: what is told of the primary picture without decoding it.
 * Sources: ISO/IEC 14496-12 (boxes), ISO/IEC 23008-12 (items; ispe, irot, imir, pixi, colr; references thmb,
 * auxl, dimg).
 */
import { type AvifFile, avifExif, avifXmp, itemProperties, readAvif } from "./avif";
import { boxes } from "./boxes";
import { latin1, view } from "./bytes";
import { ContainerError } from "./error";

export interface HeifFile {
  /** Pixels of the primary picture, turned as the file says. */
  width: number;
  height: number;
  bits: number;
  icc: Uint8Array | null;
  /** Colour primaries after ITU-T H.273 where no profile is there; null where nothing is said. */
  primaries: number | null;
  /** Pictures that stand for themselves: no tiles, thumbnails, depth maps. */
  pictures: number;
  exif: Uint8Array | null;
  xmp: Uint8Array | null;
}

/** Kinds of items that are pictures. */
const PICTURES = new Set(["hvc1", "hev1", "av01", "avc1", "jpeg", "grid", "iovl", "iden"]);
/** A phone's largest pictures have under a hundred tiles. */
const MOST_ITEMS = 2000;

/** Throws {@link ContainerError} where there is no picture, or the boxes do not hold together. */
export function readHeif(bytes: Uint8Array): HeifFile {
  try {
    return read(bytes);
  } catch (error) {
    if (error instanceof ContainerError) throw new ContainerError(error.message.replaceAll("AVIF", "HEIC"));
    if (error instanceof RangeError)
      throw new ContainerError(
        "The HEIC is damaged or cut short: its tables end too early. Bring in a sound copy.",
      );
    throw error;
  }
}

function read(bytes: Uint8Array): HeifFile {
  const file = readAvif(bytes);
  if (file.types.size > MOST_ITEMS)
    throw new ContainerError(
      `The HEIC holds ${file.types.size} parts; at most ${MOST_ITEMS} are taken. Save it as JPEG ` +
        "where it came from.",
    );
  if (!PICTURES.has(file.types.get(file.primary) ?? ""))
    throw new ContainerError("The HEIC holds no picture. Save it anew where it came from.");
  const properties = itemProperties(file, file.primary);
  const data = view(bytes);
  const find = (type: string) => properties.find((box) => box.type === type);
  const size = find("ispe");
  if (!size)
    throw new ContainerError(
      "The HEIC does not say how large its picture is. Save it anew where it came from.",
    );
  const [width, height] = [data.getUint32(size.body + 4), data.getUint32(size.body + 8)];
  const turns = find("irot");
  const across = turns && (bytes[turns.body] & 1) === 1;
  const depth = find("pixi");
  const colours = properties
    .filter((box) => box.type === "colr")
    .map((box) => ({ kind: latin1(bytes.subarray(box.body, box.body + 4)), box }));
  const profile = colours.find(({ kind }) => kind === "prof" || kind === "rICC")?.box;
  const code = colours.find(({ kind }) => kind === "nclx")?.box;
  return {
    width: across ? height : width,
    height: across ? width : height,
    bits: depth ? bytes[depth.body + 5] : 8,
    icc: profile ? bytes.subarray(profile.body + 4, profile.end) : null,
    primaries: code ? data.getUint16(code.body + 4) : null,
    pictures: picturesOf(file),
    exif: avifExif(file),
    xmp: avifXmp(file),
  };
}

function picturesOf({ bytes, children, types }: AvifFile): number {
  const parts = new Set<number>();
  const iref = children.find((box) => box.type === "iref");
  const data = view(bytes);
  const long = iref !== undefined && bytes[iref.body] > 0;
  const id = (at: number) => (long ? data.getUint32(at) : data.getUint16(at));
  const step = long ? 4 : 2;
  for (const box of iref ? boxes(bytes, iref.body + 4, iref.end) : []) {
    // Thumbnails and auxiliary pictures point to what they belong to; a grid points to its tiles.
    if (box.type === "thmb" || box.type === "auxl") parts.add(id(box.body));
    if (box.type !== "dimg") continue;
    const count = data.getUint16(box.body + step);
    for (let i = 0; i < count && box.body + step + 2 + (i + 1) * step <= box.end; i += 1)
      parts.add(id(box.body + step + 2 + i * step));
  }
  return Math.max(1, [...types].filter(([item, type]) => PICTURES.has(type) && !parts.has(item)).length);
}
