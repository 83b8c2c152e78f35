/**
 * AVIF at the level of its boxes: what stands beside the picture is read and replaced, the coded picture stays byte for byte.
 * Sources: ISO/IEC 14496-12 (boxes; iloc, iinf, iref), ISO/IEC 23008-12 (items, ipma, colr; Exif items in annex A.2.1).
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
    if (size < body - at || at + size > to) throw new ContainerError("The AVIF is damaged or cut short: one of its boxes reaches beyond its end. Bring in a sound copy.");
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
  if (!pitm || !iinf || !iloc) throw new ContainerError("The AVIF holds no picture. Save it anew in the program it came from.");
  const data = view(bytes);
  const primary = bytes[pitm.body] === 0 ? data.getUint16(pitm.body + 4) : data.getUint32(pitm.body + 4);
  return { bytes, top, meta, children, primary, types: readTypes(bytes, iinf), items: readLocations(bytes, iloc) };
}

const infoBoxes = (bytes: Uint8Array, iinf: Box) => boxes(bytes, iinf.body + (bytes[iinf.body] === 0 ? 6 : 8), iinf.end);
/** Id and type of one infe box, of version 2 or 3. */
function infoOf(bytes: Uint8Array, box: Box): [number, string] {
  const data = view(bytes);
  const long = bytes[box.body] >= 3;
  const id = long ? data.getUint32(box.body + 4) : data.getUint16(box.body + 4);
  const at = box.body + (long ? 10 : 8);
  const type = latin1(bytes.subarray(at, at + 4));
  return [id, type === "mime" ? latin1(bytes.subarray(at + 5, box.end)).replace(/\0+$/, "") : type];
}

const readTypes = (bytes: Uint8Array, iinf: Box) => new Map(infoBoxes(bytes, iinf).map((box) => infoOf(bytes, box)));

function readLocations(bytes: Uint8Array, iloc: Box): Item[] {
  const data = view(bytes);
  const version = bytes[iloc.body];
  const sizes = data.getUint16(iloc.body + 4);
  const [offsetSize, lengthSize, baseSize, indexSize] = [sizes >> 12, (sizes >> 8) & 15, (sizes >> 4) & 15, version > 0 ? sizes & 15 : 0];
  let at = iloc.body + 6;
  const read = (size: number): number => {
    if (at + size > iloc.end) throw new ContainerError("The AVIF is damaged: its table of places ends too early. Bring in a sound copy.");
    const value = size === 0 ? 0 : size === 2 ? data.getUint16(at) : size === 4 ? data.getUint32(at) : Number(data.getBigUint64(at));
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
}

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
  const gone = new Set([...file.types].filter(([, type]) => type === EXIF_TYPE || type.startsWith(XMP_TYPE)).map(([id]) => id));
  for (const item of file.items) if (gone.has(item.id) && item.method === 0) for (const e of item.extents) bytes.fill(0, e.offset, e.offset + e.length);
  const added: { id: number; type: string; data: Uint8Array }[] = [];
  let next = Math.max(file.primary, ...file.types.keys()) + 1;
  if (change.exif) added.push({ id: next++, type: EXIF_TYPE, data: concat([uint(0, 4), change.exif]) });
  if (change.xmp) added.push({ id: next++, type: XMP_TYPE, data: change.xmp });
  const kept = file.items.filter((item) => !gone.has(item.id));
  const build = (shift: number, tail: number) => metaBox(file, bytes, kept, added, gone, change, shift, tail);
  const shift = build(0, 0).length - (file.meta.end - file.meta.start);
  const meta = build(shift, bytes.length + shift + 8);
  const extra = added.length ? [box("mdat", ...added.map((a) => a.data))] : [];
  return concat([bytes.subarray(0, file.meta.start), meta, bytes.subarray(file.meta.end), ...extra]);
}

function metaBox(file: AvifFile, bytes: Uint8Array, kept: Item[], added: { id: number; type: string; data: Uint8Array }[], gone: ReadonlySet<number>, change: AvifChange, shift: number, tail: number): Uint8Array {
  let at = tail;
  const places: Item[] = [
    ...kept.map((item) => ({ ...item, extents: item.extents.map((e) => ({ ...e, offset: e.offset + (item.method === 0 && e.offset >= file.meta.end ? shift : 0) })) })),
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
    else if (child.type === "iprp" && change.icc !== undefined) parts.push(propertyBox(bytes, child, file.primary, change.icc));
    else if (child.type === "iref") {
      referred = true;
      const refs = references(bytes, child, added, gone, file.primary);
      if (refs) parts.push(refs);
    } else parts.push(whole);
  }
  if (!referred && added.length) parts.push(box("iref", uint(0, 4), ...added.map((a) => reference(a.id, file.primary))));
  return box("meta", bytes.subarray(file.meta.body, file.meta.body + 4), ...parts);
}

function infoBox(bytes: Uint8Array, iinf: Box, added: { id: number; type: string }[], gone: ReadonlySet<number>): Uint8Array {
  const kept = infoBoxes(bytes, iinf).filter((b) => !gone.has(infoOf(bytes, b)[0])).map((b) => bytes.subarray(b.start, b.end));
  const fresh = added.map(({ id, type }) =>
    type === EXIF_TYPE ? box("infe", uint(0x02000000, 4), uint(id, 2), uint(0, 2), ascii("Exif\0")) : box("infe", uint(0x02000000, 4), uint(id, 2), uint(0, 2), ascii(`mime\0${type}\0`)),
  );
  return box("iinf", uint(0, 4), uint(kept.length + fresh.length, 2), ...kept, ...fresh);
}

/** Version 1 with offsets and lengths of 4 bytes. */
function locationBox(items: readonly Item[]): Uint8Array {
  const rows = items.flatMap(({ id, method, extents }) => [uint(id, 2), uint(method, 2), uint(0, 2), uint(extents.length, 2), ...extents.flatMap((e) => [uint(e.offset, 4), uint(e.length, 4)])]);
  return box("iloc", uint(0x01000000, 4), uint(0x4400, 2), uint(items.length, 2), ...rows);
}

const reference = (from: number, to: number) => box("cdsc", uint(from, 2), uint(1, 2), uint(to, 2));

function references(bytes: Uint8Array, iref: Box, added: { id: number }[], gone: ReadonlySet<number>, primary: number): Uint8Array | null {
  const data = view(bytes);
  const long = bytes[iref.body] > 0;
  const kept = boxes(bytes, iref.body + 4, iref.end).filter((b) => !gone.has(long ? data.getUint32(b.body) : data.getUint16(b.body)));
  if (long && added.length) throw new ContainerError("This AVIF numbers its parts in a way that cannot be added to.");
  const all = [...kept.map((b) => bytes.subarray(b.start, b.end)), ...added.map((a) => reference(a.id, primary))];
  return all.length ? box("iref", bytes.subarray(iref.body, iref.body + 4), ...all) : null;
}

/** The properties with another profile for the primary picture. Profiles keep their number in the list, emptied, so that the others keep theirs. */
function propertyBox(bytes: Uint8Array, iprp: Box, primary: number, icc: Uint8Array | null): Uint8Array {
  const [ipco, ...rest] = boxes(bytes, iprp.body, iprp.end);
  const isProfile = (b: Box) => b.type === "colr" && /^(prof|rICC)/.test(latin1(bytes.subarray(b.body, b.body + 4)));
  const properties = boxes(bytes, ipco.body, ipco.end).map((b) => (isProfile(b) ? box("free") : bytes.subarray(b.start, b.end)));
  if (icc) properties.push(box("colr", ascii("prof"), icc));
  const associations = rest.map((b) => (b.type === "ipma" && icc ? associated(bytes, b, primary, properties.length) : bytes.subarray(b.start, b.end)));
  return box("iprp", box("ipco", ...properties), ...associations);
}

function associated(bytes: Uint8Array, ipma: Box, primary: number, index: number): Uint8Array {
  const data = view(bytes);
  const [longIds, wide] = [bytes[ipma.body] > 0, (bytes[ipma.body + 3] & 1) === 1];
  const parts: Uint8Array[] = [bytes.subarray(ipma.body, ipma.body + 8)];
  let at = ipma.body + 8;
  for (let left = data.getUint32(ipma.body + 4); left > 0; left -= 1) {
    const id = longIds ? data.getUint32(at) : data.getUint16(at);
    const head = at + (longIds ? 4 : 2);
    const end = head + 1 + bytes[head] * (wide ? 2 : 1);
    const more = id === primary ? (wide ? uint(index, 2) : new Uint8Array([index])) : new Uint8Array(0);
    parts.push(bytes.subarray(at, head), new Uint8Array([bytes[head] + (more.length ? 1 : 0)]), bytes.subarray(head + 1, end), more);
    at = end;
  }
  return box("ipma", ...parts);
}

/** A box that readers skip, at the end of the file; it takes at least 8 bytes. */
export function padAvif(bytes: Uint8Array, target: number): Uint8Array {
  const missing = target - bytes.length;
  return missing > 0 ? concat([bytes, box("free", new Uint8Array(Math.max(0, missing - 8)).fill(0x20))]) : bytes;
}
