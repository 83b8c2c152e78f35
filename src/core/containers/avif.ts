import { type Box, boxes } from "./boxes";
import { concat, latin1, startsWith, view } from "./bytes";
import { ContainerError } from "./error";

interface Extent {
  offset: number;
  length: number;
}

export interface Item {
  id: number;
  /** 0: offsets count from the start of the file; 1: from the box idat. */
  method: number;
  extents: Extent[];
}

export interface AvifFile {
  bytes: Uint8Array;
  top: Box[];
  meta: Box;
  children: Box[];
  primary: number;
  /** Type of each item, such as "av01" or "Exif"; for "mime" the kind of content behind it. */
  types: Map<number, string>;
  items: Item[];
}

/** Throws {@link ContainerError} where the boxes do not hold together. */
export function readAvif(bytes: Uint8Array): AvifFile {
  const top = boxes(bytes, 0, bytes.length);
  const meta = top.find((b) => b.type === "meta");
  if (!meta) throw new ContainerError("The AVIF holds no picture. Save it anew in the program it came from.");
  const children = boxes(bytes, meta.body + 4, meta.end);
  const child = (type: string) => children.find((b) => b.type === type);
  const [pitm, iinf, iloc] = [child("pitm"), child("iinf"), child("iloc")];
  if (!pitm || !iinf || !iloc)
    throw new ContainerError("The AVIF holds no picture. Save it anew in the program it came from.");
  const data = view(bytes);
  const primary = bytes[pitm.body] === 0 ? data.getUint16(pitm.body + 4) : data.getUint32(pitm.body + 4);
  return {
    bytes,
    top,
    meta,
    children,
    primary,
    types: readTypes(bytes, iinf),
    items: readLocations(bytes, iloc),
  };
}

export const infoBoxes = (bytes: Uint8Array, iinf: Box) =>
  boxes(bytes, iinf.body + (bytes[iinf.body] === 0 ? 6 : 8), iinf.end);
/** Id and type of one infe box, of version 2 or 3. */
export function infoOf(bytes: Uint8Array, box: Box): [number, string] {
  const data = view(bytes);
  const long = bytes[box.body] >= 3;
  const id = long ? data.getUint32(box.body + 4) : data.getUint16(box.body + 4);
  const at = box.body + (long ? 10 : 8);
  const type = latin1(bytes.subarray(at, at + 4));
  return [id, type === "mime" ? latin1(bytes.subarray(at + 5, box.end)).replace(/\0+$/, "") : type];
}

const readTypes = (bytes: Uint8Array, iinf: Box) =>
  new Map(infoBoxes(bytes, iinf).map((box) => infoOf(bytes, box)));

function readLocations(bytes: Uint8Array, iloc: Box): Item[] {
  const data = view(bytes);
  const version = bytes[iloc.body];
  const sizes = data.getUint16(iloc.body + 4);
  const [offsetSize, lengthSize, baseSize, indexSize] = [
    sizes >> 12,
    (sizes >> 8) & 15,
    (sizes >> 4) & 15,
    version > 0 ? sizes & 15 : 0,
  ];
  let at = iloc.body + 6;
  const read = (size: number): number => {
    if (at + size > iloc.end)
      throw new ContainerError(
        "The AVIF is damaged: its table of places ends too early. Bring in a sound copy.",
      );
    const value =
      size === 0
        ? 0
        : size === 2
          ? data.getUint16(at)
          : size === 4
            ? data.getUint32(at)
            : Number(data.getBigUint64(at));
    at += size;
    return value;
  };
  const count = version < 2 ? read(2) : read(4);
  return Array.from({ length: count }, () => {
    const id = version < 2 ? read(2) : read(4);
    const method = version > 0 ? read(2) & 15 : 0;
    read(2);
    const base = read(baseSize);
    const extents = Array.from({ length: read(2) }, () => {
      read(indexSize);
      const offset = base + read(offsetSize);
      return { offset, length: read(lengthSize) };
    });
    return { id, method, extents };
  });
}

export const EXIF_TYPE = "Exif";
export const XMP_TYPE = "application/rdf+xml";

function itemBytes(file: AvifFile, type: string): Uint8Array | null {
  const item = file.items.find((i) => (file.types.get(i.id) ?? "").startsWith(type));
  if (!item || item.method > 1) return null;
  const idat = file.children.find((b) => b.type === "idat");
  const base = item.method === 1 ? (idat?.body ?? 0) : 0;
  return concat(item.extents.map((e) => file.bytes.subarray(base + e.offset, base + e.offset + e.length)));
}

/** The EXIF block (from its byte order on), or null. */
export function avifExif(file: AvifFile): Uint8Array | null {
  const item = itemBytes(file, EXIF_TYPE);
  if (!item || item.length < 4) return null;
  const block = item.subarray(4 + view(item).getUint32(0));
  return startsWith(block, "Exif\0\0") ? block.subarray(6) : block;
}

export const avifXmp = (file: AvifFile): Uint8Array | null => itemBytes(file, XMP_TYPE);

/** Code points of ITU-T H.273. */
export interface AvifColour {
  primaries: number;
  transfer: number;
  matrix: number;
  fullRange: boolean;
}

/** In cd/m²: the lightest pixel, and the mean of the picture (ISO/IEC 14496-12, 12.1.6). */
export interface AvifLight {
  peak: number;
  average: number;
}

/** The property boxes of an item, in the order of their association. */
export function itemProperties({ bytes, children }: AvifFile, item: number): Box[] {
  const iprp = children.find((box) => box.type === "iprp");
  const inner = iprp ? boxes(bytes, iprp.body, iprp.end) : [];
  const ipco = inner.find((box) => box.type === "ipco");
  const all = ipco ? boxes(bytes, ipco.body, ipco.end) : [];
  const data = view(bytes);
  const found: Box[] = [];
  for (const ipma of inner.filter((box) => box.type === "ipma")) {
    const [longIds, wide] = [bytes[ipma.body] > 0, (bytes[ipma.body + 3] & 1) === 1];
    let at = ipma.body + 8;
    for (let left = data.getUint32(ipma.body + 4); left > 0 && at < ipma.end; left -= 1) {
      const id = longIds ? data.getUint32(at) : data.getUint16(at);
      at += longIds ? 4 : 2;
      const count = bytes[at];
      at += 1;
      for (let i = 0; i < count && at < ipma.end; i += 1, at += wide ? 2 : 1) {
        const index = wide ? data.getUint16(at) & 0x7fff : bytes[at] & 0x7f;
        if (id === item && all[index - 1]) found.push(all[index - 1]);
      }
    }
  }
  return found;
}

/** The content of a property of the primary picture; null where it has none of the kind. */
function property(file: AvifFile, wanted: (box: Box) => boolean): Uint8Array | null {
  const { bytes } = file;
  const found = itemProperties(file, file.primary).find(wanted);
  return found ? bytes.subarray(found.body, found.end) : null;
}

export function avifColour(file: AvifFile): AvifColour | null {
  const body = property(file, (b) => isSignal(file.bytes, b));
  if (!body || body.length < 11) return null;
  const data = view(body);
  return {
    primaries: data.getUint16(4),
    transfer: data.getUint16(6),
    matrix: data.getUint16(8),
    fullRange: body[10] >= 128,
  };
}

export function avifLight(file: AvifFile): AvifLight | null {
  const body = property(file, (b) => b.type === "clli");
  return body && body.length >= 4
    ? { peak: view(body).getUint16(0), average: view(body).getUint16(2) }
    : null;
}

export const isSignal = (bytes: Uint8Array, b: Box) =>
  b.type === "colr" && latin1(bytes.subarray(b.body, b.body + 4)) === "nclx";
