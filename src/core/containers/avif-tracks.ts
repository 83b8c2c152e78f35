/**
 * Image sequences in AVIF as tracks: one for the pictures, one for what is seen through in them.
 * Sources, from memory: AV1 Image File Format 1.1 (image sequences), ISO/IEC 14496-12 (movie, tracks, sample tables,
 * edit lists), ISO/IEC 23008-12 (handlers `pict` and `auxv`, `ccst`), AV1 codec binding (`av01`, `av1C`).
 */
import { type Box, box, boxes, uint } from "./boxes";
import { ascii, concat, latin1, view } from "./bytes";

export interface Timing {
  /** How long each frame is shown, in ms. */
  delays: readonly number[];
  /** How often it goes round; 0: for ever. */
  loop: number;
}

export interface Track {
  width: number;
  height: number;
  /** Places and lengths of the frames in the file. */
  samples: readonly { offset: number; length: number }[];
  /** Whole boxes that say how they are coded and coloured. */
  properties: readonly Uint8Array[];
}

/** Movie time is counted in these parts of a second. */
const A_SECOND = 1000;
const FOR_EVER = (1n << 64n) - 1n;
const ALPHA = "urn:mpeg:mpegB:cicp:systems:auxiliary:alpha\0";
const CONTAINERS = new Set(["moov", "trak", "edts", "mdia", "minf", "stbl"]);
/** 1 × 1, in numbers of 16.16 and 2.30 bits: a picture is shown as it is. */
const UNTURNED = concat([1, 0, 0, 0, 1, 0, 0, 0, 16384].map((v) => uint(v * 65_536, 4)));

const u64 = (value: bigint): Uint8Array => {
  const out = new Uint8Array(8);
  view(out).setBigUint64(0, value);
  return out;
};
const zeros = (count: number) => new Uint8Array(count);
/** A box that begins with its version and flags. */
const full = (type: string, version: number, flags: number, ...parts: Uint8Array[]) =>
  box(type, uint(version * 2 ** 24 + flags, 4), ...parts);

/** All that is said of the tracks; the first is what is shown. */
export function movieBox(tracks: readonly Track[], timing: Timing): Uint8Array {
  const total = timing.delays.reduce((sum, ms) => sum + ms, 0);
  const duration = timing.loop === 0 ? FOR_EVER : BigInt(total) * BigInt(timing.loop);
  const head = full(
    "mvhd",
    1,
    0,
    zeros(16),
    uint(A_SECOND, 4),
    u64(duration),
    uint(0x00010000, 4),
    uint(0x0100, 2),
    zeros(10),
    UNTURNED,
    zeros(24),
    uint(tracks.length + 1, 4),
  );
  return box("moov", head, ...tracks.map((track, i) => trackBox(track, { ...timing, duration, total, i })));
}

interface Placed extends Timing {
  duration: bigint;
  total: number;
  /** Which of the tracks it is. */
  i: number;
}

function trackBox(track: Track, placed: Placed): Uint8Array {
  const { width, height } = track;
  const { duration, total, i } = placed;
  const head = full(
    "tkhd",
    1,
    3,
    zeros(16),
    uint(i + 1, 4),
    zeros(4),
    u64(duration),
    zeros(16),
    UNTURNED,
    uint(width * 65_536, 4),
    uint(height * 65_536, 4),
  );
  // The one edit is all of it, and repeats for as long as the track says.
  const edits = box(
    "edts",
    full("elst", 1, 1, uint(1, 4), u64(BigInt(total)), zeros(8), uint(0x00010000, 4)),
  );
  const belongs = i ? [box("tref", box("auxl", uint(1, 4)))] : [];
  return box("trak", head, edits, ...belongs, mediaBox(track, placed));
}

function mediaBox(track: Track, { delays, total, i }: Placed): Uint8Array {
  const head = full(
    "mdhd",
    1,
    0,
    zeros(16),
    uint(A_SECOND, 4),
    u64(BigInt(total)),
    uint(0x55c4, 2),
    zeros(2),
  );
  const handler = full("hdlr", 0, 0, zeros(4), ascii(i ? "auxv" : "pict"), zeros(13));
  const here = box("dinf", full("dref", 0, 0, uint(1, 4), full("url ", 0, 1)));
  const shown = full("vmhd", 0, 1, zeros(8));
  return box("mdia", head, handler, box("minf", shown, here, sampleTables(track, delays, i > 0)));
}

function sampleTables(
  { samples, properties, width, height }: Track,
  delays: readonly number[],
  alpha: boolean,
) {
  const entry = box(
    "av01",
    zeros(6),
    uint(1, 2),
    zeros(16),
    uint(width, 2),
    uint(height, 2),
    uint(72 * 65_536, 4),
    uint(72 * 65_536, 4),
    zeros(4),
    uint(1, 2),
    zeros(32),
    uint(0x0018, 2),
    uint(0xffff, 2),
    ...properties,
    // Every frame is coded by itself.
    full("ccst", 0, 0, uint(0xc0000000, 4)),
    ...(alpha ? [full("auxi", 0, 0, ascii(ALPHA))] : []),
  );
  const count = uint(samples.length, 4);
  return box(
    "stbl",
    full("stsd", 0, 0, uint(1, 4), entry),
    full("stts", 0, 0, count, ...delays.flatMap((ms) => [uint(1, 4), uint(ms, 4)])),
    full("stsc", 0, 0, uint(1, 4), uint(1, 4), uint(1, 4), uint(1, 4)),
    full("stsz", 0, 0, uint(0, 4), count, ...samples.map(({ length }) => uint(length, 4))),
    full("stco", 0, 0, count, ...samples.map(({ offset }) => uint(offset, 4))),
  );
}

/** Boxes of one kind anywhere below a box of containers. */
function below(bytes: Uint8Array, { body, end }: Pick<Box, "body" | "end">, type: string): Box[] {
  return boxes(bytes, body, end).flatMap((inner) =>
    inner.type === type ? [inner] : CONTAINERS.has(inner.type) ? below(bytes, inner, type) : [],
  );
}

export interface Sequence extends Timing {
  colour: Track["samples"];
  /** What is seen through, frame by frame; null where nothing is. */
  alpha: Track["samples"] | null;
  /** Whether every frame is coded by itself. */
  alone: boolean;
}

/** Null where the file holds no sequence, or one that cannot be followed. Throws {@link ContainerError} where boxes do not hold together. */
export function readSequence(bytes: Uint8Array): Sequence | null {
  const moov = boxes(bytes, 0, bytes.length).find(({ type }) => type === "moov");
  if (!moov) return null;
  const tracks = boxes(bytes, moov.body, moov.end).filter(({ type }) => type === "trak");
  const kindOf = (track: Box) => {
    const [handler] = below(bytes, track, "hdlr");
    return handler ? latin1(bytes.subarray(handler.body + 8, handler.body + 12)) : "";
  };
  const main = tracks.find((track) => kindOf(track) === "pict");
  const colour = main ? samplesOf(bytes, main) : null;
  if (!main || !colour || colour.length < 2) return null;
  const other = tracks.find((track) => kindOf(track) === "auxv");
  const alpha = other ? samplesOf(bytes, other) : null;
  if (alpha && alpha.length !== colour.length) return null;
  // A table of those that can be begun with, where not all can.
  const alone = below(bytes, main, "stss").every((b) => view(bytes).getUint32(b.body + 4) >= colour.length);
  return { colour, alpha, alone, ...timingOf(bytes, main, colour.length) };
}

function samplesOf(bytes: Uint8Array, track: Box): { offset: number; length: number }[] | null {
  const data = view(bytes);
  const table = (type: string) => below(bytes, track, type)[0];
  const [sizes, runs, chunks] = [table("stsz"), table("stsc"), table("stco")];
  if (!sizes || !runs || !chunks) return null;
  const [one, count] = [data.getUint32(sizes.body + 4), data.getUint32(sizes.body + 8)];
  if (!one && sizes.body + 12 + count * 4 > sizes.end) return null;
  const places = data.getUint32(chunks.body + 4);
  if (chunks.body + 8 + places * 4 > chunks.end || count > bytes.length) return null;
  const runCount = data.getUint32(runs.body + 4);
  if (!runCount || runs.body + 8 + runCount * 12 > runs.end) return null;
  const out: { offset: number; length: number }[] = [];
  for (let chunk = 1, run = 0; chunk <= places && out.length < count; chunk += 1) {
    const next = runs.body + 8 + (run + 1) * 12;
    if (run + 1 < runCount && data.getUint32(next) <= chunk) run += 1;
    let offset = data.getUint32(chunks.body + 8 + (chunk - 1) * 4);
    for (let n = data.getUint32(runs.body + 8 + run * 12 + 4); n > 0 && out.length < count; n -= 1) {
      const length = one || data.getUint32(sizes.body + 12 + out.length * 4);
      if (offset + length > bytes.length) return null;
      out.push({ offset, length });
      offset += length;
    }
  }
  return out.length === count ? out : null;
}

function timingOf(bytes: Uint8Array, track: Box, count: number): Timing {
  const data = view(bytes);
  const [media] = below(bytes, track, "mdhd");
  const scale = data.getUint32(media.body + (bytes[media.body] ? 20 : 12)) || A_SECOND;
  const [times] = below(bytes, track, "stts");
  const delays: number[] = [];
  for (let at = times.body + 8; at + 8 <= times.end && delays.length < count; at += 8)
    for (let n = data.getUint32(at); n > 0 && delays.length < count; n -= 1)
      delays.push(Math.round((data.getUint32(at + 4) / scale) * 1000));
  while (delays.length < count) delays.push(delays.at(-1) ?? 100);
  return { delays, loop: loopOf(bytes, track) };
}

/** How often the edit fits into the track, where it repeats. */
function loopOf(bytes: Uint8Array, track: Box): number {
  const data = view(bytes);
  const [edits] = below(bytes, track, "elst");
  const [head] = below(bytes, track, "tkhd");
  if (!edits || !(bytes[edits.body + 3] & 1)) return 1;
  const long = bytes[head.body] > 0;
  const whole = long ? data.getBigUint64(head.body + 28) : BigInt(data.getUint32(head.body + 20));
  if (whole === FOR_EVER || (!long && whole === 0xffffffffn)) return 0;
  const once = bytes[edits.body] ? data.getBigUint64(edits.body + 8) : BigInt(data.getUint32(edits.body + 8));
  return once > 0n ? Math.max(1, Math.round(Number(whole) / Number(once))) : 1;
}
