/**
 * AVIF at the level of its boxes: what stands beside the picture is read and replaced, the coded picture
 * stays byte for byte.
 * Sources: ISO/IEC 14496-12 (boxes; iloc, iinf, iref), ISO/IEC 23008-12 (items, ipma, colr; Exif items in
 * annex A.2.1).
 */
import { ascii, concat, copyOf, latin1, startsWith, view } from "./bytes";
import { ContainerError } from "./error";

export interface Box {
  type: string;
  start: number;
  /** Where its content begins. */
  body: number;
  end: number;
}

interface Extent {
  offset: number;
  length: number;
}

interface Item {
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

/** The boxes that lie one after the other from `from` to `to`. */
export function boxes(bytes: Uint8Array, from: number, to: number): Box[] {
  const data = view(bytes);
  const out: Box[] = [];
  for (let at = from; at + 8 <= to; ) {
    let size = data.getUint32(at);
    let body = at + 8;
    if (size === 1 && at + 16 <= to) {
      size = Number(data.getBigUint64(at + 8));
      body = at + 16;
    } else if (size === 0) size = to - at;
    if (size < body - at || at + size > to)
      throw new ContainerError(
        "The AVIF is damaged or cut short: one of its boxes reaches beyond its end. Bring in a sound copy.",
      );
    out.push({ type: latin1(bytes.subarray(at + 4, at + 8)), start: at, body, end: at + size });
    at += size;
  }
  return out;
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

const infoBoxes = (bytes: Uint8Array, iinf: Box) =>
  boxes(bytes, iinf.body + (bytes[iinf.body] === 0 ? 6 : 8), iinf.end);
/** Id and type of one infe box, of version 2 or 3. */
function infoOf(bytes: Uint8Array, box: Box): [number, string] {
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

const EXIF_TYPE = "Exif";
const XMP_TYPE = "application/rdf+xml";

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

export interface AvifChange {
  /** The EXIF block instead of what is there; null takes it away. */
  exif: Uint8Array | null;
  xmp: Uint8Array | null;
  /** A profile for the primary picture; undefined leaves its colour boxes alone, null takes profiles away. */
  icc?: Uint8Array | null;
  /** What the signals of the primary picture mean, and how light it is; undefined leaves that alone. */
  colour?: AvifColour & { light: AvifLight };
}

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

const isSignal = (bytes: Uint8Array, b: Box) =>
  b.type === "colr" && latin1(bytes.subarray(b.body, b.body + 4)) === "nclx";

const uint = (value: number, size: 2 | 4): Uint8Array => {
  const out = new Uint8Array(size);
  if (size === 2) view(out).setUint16(0, value);
  else view(out).setUint32(0, value);
  return out;
};
const box = (type: string, ...parts: Uint8Array[]): Uint8Array => {
  const body = concat(parts);
  return concat([uint(body.length + 8, 4), ascii(type), body]);
};

/** The file with other headers. What is taken out of it is overwritten with zeros where it lay. */
export function rebuildAvif(file: AvifFile, change: AvifChange): Uint8Array {
  const bytes = copyOf(file.bytes);
  const gone = new Set(
    [...file.types].filter(([, type]) => type === EXIF_TYPE || type.startsWith(XMP_TYPE)).map(([id]) => id),
  );
  for (const item of file.items)
    if (gone.has(item.id) && item.method === 0)
      for (const e of item.extents) bytes.fill(0, e.offset, e.offset + e.length);
  const added: { id: number; type: string; data: Uint8Array }[] = [];
  let next = Math.max(file.primary, ...file.types.keys()) + 1;
  if (change.exif) added.push({ id: next++, type: EXIF_TYPE, data: concat([uint(0, 4), change.exif]) });
  if (change.xmp) added.push({ id: next++, type: XMP_TYPE, data: change.xmp });
  const kept = file.items.filter((item) => !gone.has(item.id));
  const build = (shift: number, tail: number) =>
    metaBox({ file, bytes, kept, added, gone, change, shift, tail });
  const shift = build(0, 0).length - (file.meta.end - file.meta.start);
  const meta = build(shift, bytes.length + shift + 8);
  const extra = added.length ? [box("mdat", ...added.map((a) => a.data))] : [];
  return concat([bytes.subarray(0, file.meta.start), meta, bytes.subarray(file.meta.end), ...extra]);
}

function metaBox({
  file,
  bytes,
  kept,
  added,
  gone,
  change,
  shift,
  tail,
}: {
  file: AvifFile;
  bytes: Uint8Array;
  kept: Item[];
  added: { id: number; type: string; data: Uint8Array }[];
  gone: ReadonlySet<number>;
  change: AvifChange;
  shift: number;
  tail: number;
}): Uint8Array {
  let at = tail;
  const places: Item[] = [
    ...kept.map((item) => ({
      ...item,
      extents: item.extents.map((e) => ({
        ...e,
        offset: e.offset + (item.method === 0 && e.offset >= file.meta.end ? shift : 0),
      })),
    })),
    ...added.map(({ id, data }) => {
      const offset = at;
      at += data.length;
      return { id, method: 0, extents: [{ offset, length: data.length }] };
    }),
  ];
  const parts: Uint8Array[] = [];
  let referred = false;
  for (const child of file.children) {
    const whole = bytes.subarray(child.start, child.end);
    if (child.type === "iinf") parts.push(infoBox(bytes, child, added, gone));
    else if (child.type === "iloc") parts.push(locationBox(places));
    else if (child.type === "iprp" && (change.icc !== undefined || change.colour))
      parts.push(propertyBox(bytes, child, file.primary, change));
    else if (child.type === "iref") {
      referred = true;
      const refs = references({ bytes, iref: child, added, gone, primary: file.primary });
      if (refs) parts.push(refs);
    } else parts.push(whole);
  }
  if (!referred && added.length)
    parts.push(box("iref", uint(0, 4), ...added.map((a) => reference(a.id, file.primary))));
  return box("meta", bytes.subarray(file.meta.body, file.meta.body + 4), ...parts);
}

function infoBox(
  bytes: Uint8Array,
  iinf: Box,
  added: { id: number; type: string }[],
  gone: ReadonlySet<number>,
): Uint8Array {
  const kept = infoBoxes(bytes, iinf)
    .filter((b) => !gone.has(infoOf(bytes, b)[0]))
    .map((b) => bytes.subarray(b.start, b.end));
  const fresh = added.map(({ id, type }) =>
    type === EXIF_TYPE
      ? box("infe", uint(0x02000000, 4), uint(id, 2), uint(0, 2), ascii("Exif\0"))
      : box("infe", uint(0x02000000, 4), uint(id, 2), uint(0, 2), ascii(`mime\0${type}\0`)),
  );
  return box("iinf", uint(0, 4), uint(kept.length + fresh.length, 2), ...kept, ...fresh);
}

/** Version 1 with offsets and lengths of 4 bytes. */
function locationBox(items: readonly Item[]): Uint8Array {
  const rows = items.flatMap(({ id, method, extents }) => [
    uint(id, 2),
    uint(method, 2),
    uint(0, 2),
    uint(extents.length, 2),
    ...extents.flatMap((e) => [uint(e.offset, 4), uint(e.length, 4)]),
  ]);
  return box("iloc", uint(0x01000000, 4), uint(0x4400, 2), uint(items.length, 2), ...rows);
}

const reference = (from: number, to: number) => box("cdsc", uint(from, 2), uint(1, 2), uint(to, 2));

function references({
  bytes,
  iref,
  added,
  gone,
  primary,
}: {
  bytes: Uint8Array;
  iref: Box;
  added: { id: number }[];
  gone: ReadonlySet<number>;
  primary: number;
}): Uint8Array | null {
  const data = view(bytes);
  const long = bytes[iref.body] > 0;
  const kept = boxes(bytes, iref.body + 4, iref.end).filter(
    (b) => !gone.has(long ? data.getUint32(b.body) : data.getUint16(b.body)),
  );
  if (long && added.length)
    throw new ContainerError("This AVIF numbers its parts in a way that cannot be added to.");
  const all = [
    ...kept.map((b) => bytes.subarray(b.start, b.end)),
    ...added.map((a) => reference(a.id, primary)),
  ];
  return all.length ? box("iref", bytes.subarray(iref.body, iref.body + 4), ...all) : null;
}

/**
 * The properties with another profile or other signals for the primary picture. What goes keeps its number
 * in the list, emptied, so that the others keep theirs.
 */
function propertyBox(bytes: Uint8Array, iprp: Box, primary: number, { icc, colour }: AvifChange): Uint8Array {
  const [ipco, ...rest] = boxes(bytes, iprp.body, iprp.end);
  const isProfile = (b: Box) =>
    b.type === "colr" && /^(prof|rICC)/.test(latin1(bytes.subarray(b.body, b.body + 4)));
  const goes = (b: Box) =>
    (icc !== undefined && isProfile(b)) ||
    (colour !== undefined && (isSignal(bytes, b) || b.type === "clli"));
  const properties = boxes(bytes, ipco.body, ipco.end).map((b) =>
    goes(b) ? box("free") : bytes.subarray(b.start, b.end),
  );
  const before = properties.length;
  if (icc) properties.push(box("colr", ascii("prof"), icc));
  if (colour) {
    const signal = box(
      "colr",
      ascii("nclx"),
      uint(colour.primaries, 2),
      uint(colour.transfer, 2),
      uint(colour.matrix, 2),
      new Uint8Array([colour.fullRange ? 128 : 0]),
    );
    properties.push(
      signal,
      box(
        "clli",
        uint(Math.min(65_535, colour.light.peak), 2),
        uint(Math.min(65_535, colour.light.average), 2),
      ),
    );
  }
  const added = properties.slice(before).map((_, i) => before + i + 1);
  const associations = rest.map((b) =>
    b.type === "ipma" && added.length ? associated(bytes, b, primary, added) : bytes.subarray(b.start, b.end),
  );
  return box("iprp", box("ipco", ...properties), ...associations);
}

function associated(bytes: Uint8Array, ipma: Box, primary: number, indices: readonly number[]): Uint8Array {
  const data = view(bytes);
  const [longIds, wide] = [bytes[ipma.body] > 0, (bytes[ipma.body + 3] & 1) === 1];
  const parts: Uint8Array[] = [bytes.subarray(ipma.body, ipma.body + 8)];
  let at = ipma.body + 8;
  for (let left = data.getUint32(ipma.body + 4); left > 0; left -= 1) {
    const id = longIds ? data.getUint32(at) : data.getUint16(at);
    const head = at + (longIds ? 4 : 2);
    const end = head + 1 + bytes[head] * (wide ? 2 : 1);
    const more =
      id === primary
        ? concat(indices.map((index) => (wide ? uint(index, 2) : new Uint8Array([index]))))
        : new Uint8Array(0);
    parts.push(
      bytes.subarray(at, head),
      new Uint8Array([bytes[head] + (id === primary ? indices.length : 0)]),
      bytes.subarray(head + 1, end),
      more,
    );
    at = end;
  }
  return box("ipma", ...parts);
}

/** A box that readers skip, at the end of the file; it takes at least 8 bytes. */
export function padAvif(bytes: Uint8Array, target: number): Uint8Array {
  const missing = target - bytes.length;
  return missing > 0
    ? concat([bytes, box("free", new Uint8Array(Math.max(0, missing - 8)).fill(0x20))])
    : bytes;
}
