/** The frames of an animation, decoded once, each then planned like a photo. */
import sharp, { type SharpOptions } from "sharp";
import type { OutputFormat } from "@/core/brief";
import type { MovingPixels } from "@/core/coding";
import { type AvifFile, avifFrame, avifSequence } from "@/core/containers";
import type { Geometry } from "@/core/geometry";
import { PhotoError } from "@/core/photo";
import { formatSize } from "@/core/units";
import type { Source } from "../source";
import { plannedPicture } from "./picture";
import type { PlannedPhoto } from "./plan-photo";
import { preparePicture } from "./prepare";

/** Pixels of all frames together: they are held decoded, four bytes each. */
const MOST_PIXELS = 80_000_000;

/** Frames that are planned at a time. */
const AT_ONCE = 8;
const CHANNELS = 4;
/** GIF89a, 27: what ends a whole file. */
const TRAILER = 0x3b;

export interface Moving {
  frames: Source[];
  /** How long each is shown, in ms. */
  delays: number[];
  /** How often it goes round; 0: for ever. */
  loop: number;
}

/** Throws a PhotoError where it is damaged, or too long and large to be held. */
export async function decodeMoving(source: Source): Promise<Moving> {
  const { width, height, pages } = source.facts;
  if (width * height * pages > MOST_PIXELS)
    throw new PhotoError(
      `The animation has ${pages} frames of ${formatSize(width, height)} px, ` +
        `${Math.round((width * height * pages) / 1e6)} megapixels in all; up to ${MOST_PIXELS / 1e6} are kept moving. ` +
        "Cut it shorter where it came from, or let only its first frame be taken.",
    );
  const damaged = () =>
    new PhotoError("The animation is damaged: not all of its frames can be decoded. Bring in a sound copy.");
  // The library takes what is missing for the frame before.
  if (source.facts.format === "gif" && !source.bytes.subarray(-4).includes(TRAILER)) throw damaged();
  const { data, delays, loop } = await (source.avif
    ? sequenceCodes(source, source.avif)
    : codes(source)
  ).catch((error: unknown) => {
    throw error instanceof PhotoError ? error : damaged();
  });
  const size = width * height * CHANNELS;
  if (data.length !== size * pages) throw damaged();
  const frames = Array.from({ length: pages }, (_, i): Source => {
    const samples = { data: data.subarray(i * size, (i + 1) * size), width, height, channels: CHANNELS };
    return { ...source, decoded: samples };
  });
  return { frames, delays: Array.from({ length: pages }, (_, i) => delays[i] ?? 100), loop };
}

/** RGBA of all frames, one under the other, in the photo's own colours. */
interface Codes {
  data: Uint8Array;
  delays: readonly number[];
  loop: number;
}

/** What a file's profile says is heeded where frames are planned, as with a photo. */
const OPEN: SharpOptions = { limitInputPixels: false, failOn: "truncated", ignoreIcc: true };

async function codes({ bytes }: Source): Promise<Codes> {
  const all = sharp(bytes, { ...OPEN, animated: true });
  const { delay = [], loop = 0 } = await all.metadata();
  return { data: await all.toColourspace("srgb").ensureAlpha().raw().toBuffer(), delays: delay, loop };
}

/** The library decodes stills of AVIF alone: each frame is made one, which only those can be that need no other. */
async function sequenceCodes({ facts }: Source, file: AvifFile): Promise<Codes> {
  const sequence = avifSequence(file)!;
  if (!sequence.alone)
    throw new PhotoError(
      "The frames of this AVIF are coded as changes of each other, which is not read here. Let only its first frame " +
        "be taken, or bring the animation in as GIF or WebP.",
    );
  const size = facts.width * facts.height * CHANNELS;
  const data = new Uint8Array(size * facts.pages);
  for (let i = 0; i < facts.pages; i += 1) {
    const still = sharp(avifFrame(file, sequence, i), OPEN);
    data.set(await still.toColourspace("srgb").ensureAlpha().raw().toBuffer(), i * size);
  }
  return { data, delays: sequence.delays, loop: sequence.loop };
}

/** Every so many frames at the pixels of a geometry; those between lend their time to the one before. */
export async function planMoving(
  photo: PlannedPhoto,
  { frames, delays, loop }: Moving,
  { geometry, format, every }: { geometry: Geometry; format: OutputFormat; every: number },
): Promise<MovingPixels> {
  const { plan } = plannedPicture(photo, geometry, format);
  const kept = frames.filter((_, i) => i % every === 0);
  const times = kept.map((_, i) => delays.slice(i * every, (i + 1) * every).reduce((sum, ms) => sum + ms, 0));
  const first = await preparePicture(kept[0], plan);
  const { width, height, channels } = first;
  const data = new Uint8Array(first.data.length * kept.length);
  data.set(first.data);
  for (let from = 1; from < kept.length; from += AT_ONCE) {
    const some = kept.slice(from, from + AT_ONCE);
    const made = await Promise.all(some.map((frame) => preparePicture(frame, plan)));
    for (const [i, one] of made.entries()) data.set(one.data, (from + i) * first.data.length);
  }
  return { data, width, height, channels, delays: times, loop };
}
