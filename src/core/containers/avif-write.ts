import {
  type AvifColour,
  type AvifFile,
  type AvifLight,
  EXIF_TYPE,
  type Item,
  infoBoxes,
  infoOf,
  isSignal,
  XMP_TYPE,
} from "./avif";
import { type Box, box, boxes, uint } from "./boxes";
import { ascii, concat, copyOf, latin1, view } from "./bytes";
import { ContainerError } from "./error";

export interface AvifChange {
  /** The EXIF block instead of what is there; null takes it away, undefined leaves it alone; so with all others. */
  exif?: Uint8Array | null;
  xmp?: Uint8Array | null;
  /** The whole box of brands. */
  brands?: Uint8Array;
  /** A profile for the primary picture. */
  icc?: Uint8Array | null;
  /** What the signals of the primary picture mean, and how light it is. */
  colour?: AvifColour & { light: AvifLight };
}

/** The file with other headers. What is taken out of it is overwritten with zeros where it lay. */
export function rebuildAvif(file: AvifFile, change: AvifChange): Uint8Array {
  const bytes = copyOf(file.bytes);
  const goes = (type: string) =>
    (change.exif !== undefined && type === EXIF_TYPE) ||
    (change.xmp !== undefined && type.startsWith(XMP_TYPE));
  const gone = new Set([...file.types].filter(([, type]) => goes(type)).map(([id]) => id));
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
  const first = file.top[0];
  const brands = change.brands ?? bytes.subarray(first.start, first.end);
  const before = [brands, bytes.subarray(first.end, file.meta.start)];
  const grown = brands.length - (first.end - first.start);
  const shift = grown + build(0, 0).length - (file.meta.end - file.meta.start);
  const meta = build(shift, bytes.length + shift + 8);
  const extra = added.length ? [box("mdat", ...added.map((a) => a.data))] : [];
  return concat([...before, meta, bytes.subarray(file.meta.end), ...extra]);
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
export function locationBox(items: readonly Item[]): Uint8Array {
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
