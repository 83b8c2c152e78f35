/** Stills of AVIF joined to one that moves, and taken apart again. Source: AV1 Image File Format 1.1, from memory. */
import { type AvifFile, type Item, itemProperties, readAvif } from "./avif";
import { movieBox, readSequence, type Sequence, type Timing, type Track } from "./avif-tracks";
import { locationBox, rebuildAvif } from "./avif-write";
import { box, uint } from "./boxes";
import { ascii, concat } from "./bytes";

/** The major brand says that it moves; the others, that its first frame can be read as a still. */
const BRANDS = box("ftyp", ascii("avis"), uint(0, 4), ascii("avisavifmsf1mif1miaf"));
/** What of a still's properties says how its frames are coded and coloured. */
const OF_TRACKS = new Set(["av1C", "colr", "pixi", "clli"]);
const MDAT_HEAD = 8;

interface Parts {
  colour: Uint8Array;
  alpha: Uint8Array | null;
}

/** `first`: with all headers that the file shall have. All have the same pixels and settings; delays are 1 ms or more. */
export function joinAvif(first: Uint8Array, others: readonly Uint8Array[], timing: Timing): Uint8Array {
  const still = rebuildAvif(readAvif(first), { brands: BRANDS });
  const file = readAvif(still);
  const [main, see] = codedItems(file);
  const rest = others.map((bytes) => partsOf(readAvif(bytes)));
  const { places, data } = placed([partsOf(file), ...rest]);
  const movie = (start: number) => {
    const track = (item: Item, of: "colour" | "alpha"): Track => ({
      ...sizeOf(file, item.id),
      properties: propertiesOf(file, item.id),
      samples: places.map((place) =>
        place === null ? item.extents[0] : { ...place[of]!, offset: place[of]!.offset + start },
      ),
    });
    return movieBox([track(main, "colour"), ...(see ? [track(see, "alpha")] : [])], timing);
  };
  const length = movie(0).length;
  return concat([still, movie(still.length + length + MDAT_HEAD), box("mdat", ...data)]);
}

type Place = Track["samples"][number];

/** Where each frame comes to lie in the data; null: where the first does. What is as the one before it lies there. */
function placed(frames: readonly Parts[]) {
  const places: ({ colour: Place; alpha: Place | null } | null)[] = [null];
  const data: Uint8Array[] = [];
  let at = 0;
  const put = (bytes: Uint8Array): Place => {
    data.push(bytes);
    at += bytes.length;
    return { offset: at - bytes.length, length: bytes.length };
  };
  for (let i = 1; i < frames.length; i += 1) {
    const { colour, alpha } = frames[i];
    const before = frames[i - 1];
    const same = equal(colour, before.colour) && equal(alpha, before.alpha);
    places.push(same ? places[i - 1] : { colour: put(colour), alpha: alpha && put(alpha) });
  }
  return { places, data };
}

const equal = (a: Uint8Array | null, b: Uint8Array | null): boolean =>
  a === b || (a !== null && b !== null && a.length === b.length && a.every((value, i) => value === b[i]));

/** The picture, and what is seen through, where there is such. */
function codedItems({ items, types, primary }: AvifFile): [Item, Item | undefined] {
  const coded = items.filter(({ id }) => types.get(id) === "av01");
  return [coded.find(({ id }) => id === primary)!, coded.find(({ id }) => id !== primary)];
}

function partsOf(file: AvifFile): Parts {
  const [main, see] = codedItems(file);
  const of = ({ extents }: Item) =>
    concat(extents.map(({ offset, length }) => file.bytes.subarray(offset, offset + length)));
  return { colour: of(main), alpha: see ? of(see) : null };
}

function sizeOf(file: AvifFile, item: number): { width: number; height: number } {
  const found = itemProperties(file, item).find(({ type }) => type === "ispe")!;
  const data = new DataView(file.bytes.buffer, file.bytes.byteOffset);
  return { width: data.getUint32(found.body + 4), height: data.getUint32(found.body + 8) };
}

const propertiesOf = (file: AvifFile, item: number): Uint8Array[] =>
  itemProperties(file, item)
    .filter(({ type }) => OF_TRACKS.has(type))
    .map(({ start, end }) => file.bytes.subarray(start, end));

export const isSequence = (bytes: Buffer): boolean => bytes.toString("latin1", 4, 12) === "ftypavis";

/** What readers that know stills alone take: the same bytes, said to be one. A copy, where they are a sequence. */
export function asStill(bytes: Buffer): Buffer {
  if (!isSequence(bytes)) return bytes;
  const still = Buffer.from(bytes);
  still.write("avif", 8, "latin1");
  return still;
}

/** Its frames, where there are several; null where it is a still, or cannot be followed. */
export function avifSequence(file: AvifFile): Sequence | null {
  try {
    return readSequence(file.bytes);
  } catch {
    return null;
  }
}

/** One frame as a still of its own, with the headers of the first. */
export function avifFrame(file: AvifFile, { colour, alpha }: Sequence, i: number): Uint8Array {
  const { bytes, meta, children } = file;
  const [main, see] = codedItems(file);
  const data = [colour[i], ...(see && alpha ? [alpha[i]] : [])].map(({ offset, length }) =>
    bytes.subarray(offset, offset + length),
  );
  const build = (start: number) => {
    const of = (item: Item): Item => {
      const length = item === main ? data[0].length : item === see && data[1] ? data[1].length : 0;
      const offset = item === main || !length ? start : start + data[0].length;
      return { ...item, method: 0, extents: [{ offset, length }] };
    };
    const parts = children.map((child) =>
      child.type === "iloc" ? locationBox(file.items.map(of)) : bytes.subarray(child.start, child.end),
    );
    return box("meta", bytes.subarray(meta.body, meta.body + 4), ...parts);
  };
  const head = box("ftyp", ascii("avif"), uint(0, 4), ascii("avifmif1miaf"));
  const start = head.length + build(0).length + MDAT_HEAD;
  return concat([head, build(start), box("mdat", ...data)]);
}
