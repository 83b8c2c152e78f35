/**
 * A JPEG with a gain map: a second, smaller JPEG behind the first that says by how much each place is
 * lighter in the scene.
 * Sources: CIPA DC-007 (multi-picture format), ISO 21496-1, the open XMP vocabulary of gain maps that it takes up,
 * ITU-T T.81.
 */
import { ascii, concat, latin1, startsWith, view } from "./bytes";
import { bodyOf, isXmp, type JpegFile, MARKER, readJpeg, rebuildJpeg, segment } from "./jpeg";
import { xmpProperties } from "./xml";

/** One value for all colours, or one each. All in stops where light is meant. */
export interface GainMap {
  jpeg: Uint8Array;
  min: readonly number[];
  max: readonly number[];
  gamma: readonly number[];
  offsetBase: readonly number[];
  offsetLight: readonly number[];
  /** Stops of headroom from which on the map counts in full. */
  capacity: number;
}

const VOCABULARY = "http://ns.adobe.com/hdr-gain-map/1.0/";
const ISO = "urn:iso:std:iso:ts:21496:-1\0";
/** `IN_BASE`: the map is applied in the colours of the base, and carries no profile of its own. */
const [MULTICHANNEL, IN_BASE, COMMON_DENOMINATOR] = [0x80, 0x40, 0x08];
const XMP = "http://ns.adobe.com/xap/1.0/\0";

const packetOf = (file: JpegFile): string | null => {
  const found = file.segments.find((s) => s.marker === MARKER.APP1 && startsWith(bodyOf(file, s), XMP));
  return found ? new TextDecoder().decode(bodyOf(file, found).subarray(XMP.length)) : null;
};

/** Null where there is none, or one that is not understood. Never throws. */
export function readGainMap(file: JpegFile): GainMap | null {
  const { bytes, end } = file;
  if (end === null) return null;
  // What follows a picture may be long: the engine's own search is forty times as fast as a loop.
  for (
    let at = bytes.indexOf(0xff, end);
    at >= 0 && at + 4 < bytes.length;
    at = bytes.indexOf(0xff, at + 1)
  ) {
    if (bytes[at + 1] !== 0xd8 || bytes[at + 2] !== 0xff) continue;
    try {
      const second = readJpeg(bytes.subarray(at));
      const jpeg = second.bytes.subarray(0, second.end ?? second.bytes.length);
      const xmp = packetOf(second);
      const iso = second.segments
        .map((s) => (s.marker === MARKER.APP2 ? bodyOf(second, s) : null))
        .find((body) => body !== null && startsWith(body, ISO));
      if (iso) return fromIso(iso.subarray(ISO.length), jpeg);
      if (xmp?.includes(VOCABULARY)) return fromXmp(xmp, jpeg);
      if (second.end === null) return null;
      at += second.end - 1;
    } catch {
      return null;
    }
  }
  return null;
}

/** ISO 21496-1, annex C: fractions of whole numbers, for one channel or for three. */
function fromIso(body: Uint8Array, jpeg: Uint8Array): GainMap | null {
  const channels = (body[4] & MULTICHANNEL) !== 0 ? 3 : 1;
  if (body.length < 21 + channels * 40 || (body[4] & COMMON_DENOMINATOR) !== 0) return null;
  const data = view(body);
  const fraction = (at: number, signed: boolean) =>
    (signed ? data.getInt32(at) : data.getUint32(at)) / data.getUint32(at + 4);
  // Base headroom first: a base that is itself light above white is not taken apart here.
  if (fraction(5, false) !== 0) return null;
  const all = (field: number, signed: boolean) =>
    Array.from({ length: channels }, (_, c) => fraction(21 + c * 40 + field * 8, signed));
  return checked({
    jpeg,
    min: all(0, true),
    max: all(1, true),
    gamma: all(2, false),
    offsetBase: all(3, true),
    offsetLight: all(4, true),
    capacity: fraction(13, false),
  });
}

function checked(map: GainMap): GainMap | null {
  const sound =
    [...map.min, ...map.max, ...map.gamma, ...map.offsetBase, ...map.offsetLight, map.capacity].every(
      (v) => Number.isFinite(v) && Math.abs(v) <= 64,
    ) && map.gamma.every((v) => v > 0);
  return sound ? map : null;
}

function fromXmp(xmp: string, jpeg: Uint8Array): GainMap | null {
  const properties = xmpProperties(xmp);
  const values = (name: string, usual: number): number[] => {
    const found = properties.get(`hdrgm:${name}`)?.map(Number) ?? [];
    return found.length === 1 || found.length === 3 ? found : [usual];
  };
  if (/^true$/i.test(properties.get("hdrgm:BaseRenditionIsHDR")?.[0] ?? "")) return null;
  return checked({
    jpeg,
    min: values("GainMapMin", 0),
    max: values("GainMapMax", 1),
    gamma: values("Gamma", 1),
    offsetBase: values("OffsetSDR", 1 / 64),
    offsetLight: values("OffsetHDR", 1 / 64),
    capacity: values("HDRCapacityMax", 1)[0],
  });
}

const fixed = (values: readonly number[]) => values.map((v) => Number(v.toFixed(6)));

function describe({ min, max, gamma, offsetBase, offsetLight, capacity }: GainMap): string {
  const all: [string, readonly number[]][] = [
    ["GainMapMin", min],
    ["GainMapMax", max],
    ["Gamma", gamma],
    ["OffsetSDR", offsetBase],
    ["OffsetHDR", offsetLight],
  ];
  const plain = all
    .filter(([, values]) => values.length === 1)
    .map(([name, values]) => ` hdrgm:${name}="${fixed(values)[0]}"`)
    .join("");
  const lists = all
    .filter(([, values]) => values.length === 3)
    .map(
      ([name, values]) =>
        `<hdrgm:${name}><rdf:Seq>${fixed(values)
          .map((v) => `<rdf:li>${v}</rdf:li>`)
          .join("")}</rdf:Seq></hdrgm:${name}>`,
    )
    .join("");
  return wrapped(
    ` xmlns:hdrgm="${VOCABULARY}" hdrgm:Version="1.0"${plain} hdrgm:HDRCapacityMin="0" ` +
      `hdrgm:HDRCapacityMax="${capacity}" hdrgm:BaseRenditionIsHDR="False"`,
    lists,
  );
}

const wrapped = (attributes: string, inner: string) =>
  `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF ` +
  `xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description ` +
  `rdf:about=""${attributes}>${inner}</rdf:Description></rdf:RDF></x:xmpmeta>`;

/** Fractions of so many parts: gamma, offsets and stops are told to a millionth, as in the packet. */
const PARTS = 1_000_000;

/** ISO 21496-1, annex C: what the packet says as well, for readers that know the standard. The base is not brightened. */
function isoSegment(map: GainMap): Uint8Array {
  const fields = [map.min, map.max, map.gamma, map.offsetBase, map.offsetLight];
  const channels = fields.some((values) => values.length === 3) ? 3 : 1;
  const body = new Uint8Array(21 + channels * 40);
  const data = view(body);
  const fraction = (at: number, value: number) => {
    data.setInt32(at, Math.round(value * PARTS));
    data.setUint32(at + 4, PARTS);
  };
  body[4] = IN_BASE | (channels === 3 ? MULTICHANNEL : 0);
  fraction(5, 0);
  fraction(13, map.capacity);
  for (let c = 0; c < channels; c += 1)
    fields.forEach((values, field) => {
      fraction(21 + c * 40 + field * 8, values[Math.min(values.length - 1, c)]);
    });
  return segment(MARKER.APP2, concat([ascii(ISO), body]));
}

/** Of the first picture: that the file has such a map, and that version 0 is enough to read it. */
const isoVersion = () => segment(MARKER.APP2, concat([ascii(ISO), new Uint8Array(4)]));

const packet = (text: string) => segment(MARKER.APP1, concat([ascii(XMP), new TextEncoder().encode(text)]));

/** Segments put behind the start of a JPEG. */
const behindStart = (jpeg: Uint8Array, ...segments: Uint8Array[]) =>
  concat([jpeg.subarray(0, 2), ...segments, jpeg.subarray(2)]);

/** Bytes of the multi-picture index with two pictures. */
const MPF_BODY = 4 + 8 + 2 + 3 * 12 + 4 + 2 * 16;

/** The index of two pictures, big-endian; offsets count from behind "MPF\0" (CIPA DC-007, 5.2). */
function index(primary: number, second: number, offset: number): Uint8Array {
  const body = new Uint8Array(MPF_BODY);
  const data = view(body);
  body.set(ascii("MPF\0MM\0*"), 0);
  data.setUint32(8, 8);
  data.setUint16(12, 3);
  const entry = (at: number, tag: number, type: number, count: number) => {
    data.setUint16(at, tag);
    data.setUint16(at + 2, type);
    data.setUint32(at + 4, count);
  };
  entry(14, 0xb000, 7, 4);
  body.set(ascii("0100"), 22);
  entry(26, 0xb001, 4, 1);
  data.setUint32(34, 2);
  entry(38, 0xb002, 7, 32);
  data.setUint32(46, 50);
  data.setUint32(54, 0x00030000);
  data.setUint32(58, primary);
  data.setUint32(74, second);
  data.setUint32(78, offset);
  return segment(0xe2, body);
}

/** The photo's own packet without what it said of an earlier map; null where there is none. */
function ownPacket(file: JpegFile): string | null {
  const own = packetOf(file)
    ?.replace(/<Container:Directory>[\s\S]*?<\/Container:Directory>/g, "")
    .replace(/\s+hdrgm:Version\s*=\s*["'][^"']*["']/g, "");
  return own?.includes("</rdf:RDF>") ? own : null;
}

/** The file with a gain map behind it, whose `jpeg` holds the picture of the map alone. */
export function withGainMap(file: Uint8Array, map: GainMap): Uint8Array {
  const read = readJpeg(file);
  const own = ownPacket(read);
  // A file has one packet: what the map needs joins what the photo says.
  const primary = rebuildJpeg(read, [], (s) => !isXmp(read, s));
  const second = behindStart(map.jpeg, packet(describe(map)), isoSegment(map));
  const container =
    `xmlns:Container="http://ns.google.com/photos/1.0/container/" ` +
    `xmlns:Item="http://ns.google.com/photos/1.0/container/item/" xmlns:hdrgm="${VOCABULARY}" ` +
    `hdrgm:Version="1.0"`;
  const items =
    `<Container:Directory><rdf:Seq><rdf:li rdf:parseType="Resource"><Container:Item ` +
    `Item:Semantic="Primary" Item:Mime="image/jpeg"/></rdf:li><rdf:li ` +
    `rdf:parseType="Resource"><Container:Item Item:Semantic="GainMap" Item:Mime="image/jpeg" ` +
    `Item:Length="${second.length}"/></rdf:li></rdf:Seq></Container:Directory>`;
  const description = `<rdf:Description rdf:about="" ${container}>${items}</rdf:Description>`;
  const xmp = packet(
    own ? own.replace("</rdf:RDF>", () => `${description}</rdf:RDF>`) : wrapped(` ${container}`, items),
  );
  const first = behindJfif(primary, (at) => {
    const before = [xmp, isoVersion()];
    const taken = before.reduce((sum, one) => sum + one.length, 0);
    const length = primary.length + taken + MPF_BODY + 4;
    // From behind "MPF\0" of the index to the second picture.
    return [...before, index(length, second.length, length - (at + taken + 4 + 4))];
  });
  return concat([first, second]);
}

/** Segments put behind the JFIF segment, which has to come first. */
function behindJfif(jpeg: Uint8Array, make: (at: number) => Uint8Array[]): Uint8Array {
  const at =
    jpeg[2] === 0xff && jpeg[3] === 0xe0 && latin1(jpeg.subarray(6, 10)) === "JFIF"
      ? 4 + view(jpeg).getUint16(4)
      : 2;
  return concat([jpeg.subarray(0, at), ...make(at), jpeg.subarray(at)]);
}
