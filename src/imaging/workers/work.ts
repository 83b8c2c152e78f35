/** What threads are asked for, and how it is done: the same on a thread and in place. */

import { LRUCache } from "lru-cache";
import { JpegCoder, type JpegSamples, type JpegSetting, packJpeg } from "@/core/coding";
import { type Difference, type Pixels, Reference } from "@/core/difference";
import type { InkSettings } from "@/core/photo";
import { type Developed, type Development, develop, type Samples } from "@/core/pixels/develop";
import { findInk, type InkFound, type RgbPicture } from "@/core/pixels/ink";
import { seenAt } from "@/core/pixels/resample";

export type Work =
  | { kind: "ink"; picture: RgbPicture; settings: InkSettings }
  | { kind: "develop"; samples: Samples; plan: Development }
  | { kind: "jpeg"; id: string; samples: JpegSamples; setting: JpegSetting }
  | { kind: "pack"; file: Uint8Array }
  | { kind: "reference"; id: string; reference: Pixels }
  /** `asSeen`: the trial is brought to the reference's size first. */
  | { kind: "difference"; id: string; reference: Pixels; trial: Pixels; asSeen: boolean };

/** A comparison without its map, which nobody asks for across threads. */
export type Judged = Omit<Difference, "map">;

/** Pixels of the references that a thread holds beside the one met last: several samples, since each is small. */
const HELD_PIXELS = 2_000_000;
/**
 * The references met last: what they alone give is not worked out again for every trial. A large one takes
 * 200 MB, so that it is the only one.
 */
const met = new LRUCache<string, Reference>({ maxSize: HELD_PIXELS });

/** Bytes of coders that a thread holds: several samples, or one large picture. */
const HELD_BYTES = 64_000_000;
const coders = new LRUCache<string, JpegCoder>({ maxSize: HELD_BYTES });

function coderFor(id: string, samples: JpegSamples, chroma: JpegSetting["chroma"]): JpegCoder {
  const key = `${id} ${chroma}`;
  const known = coders.get(key);
  if (known) return known;
  const coder = new JpegCoder(samples, chroma);
  coders.set(key, coder, { size: Math.min(HELD_BYTES, coder.size) });
  return coder;
}

function referenceFor(id: string, pixels: Pixels): Reference {
  const known = met.get(id);
  if (known) return known;
  const reference = new Reference(pixels);
  met.set(id, reference, { size: Math.min(HELD_PIXELS, pixels.width * pixels.height) });
  return reference;
}

/** What comes back from a thread. */
export type Done = Developed | Judged | InkFound | { analysed: true } | { encoded: Uint8Array | null };

export function carryOut(work: Work): Done {
  if (work.kind === "ink") return findInk(work.picture, work.settings);
  if (work.kind === "develop") return develop(work.samples, work.plan);
  if (work.kind === "pack") return { encoded: packJpeg(work.file) };
  if (work.kind === "jpeg") {
    const { id, samples, setting } = work;
    return { encoded: coderFor(id, samples, setting.chroma).encode(setting) };
  }
  const reference = referenceFor(work.id, work.reference);
  if (work.kind === "reference") {
    reference.analyse();
    return { analysed: true };
  }
  const trial = work.asSeen ? seenAt(work.trial, work.reference) : work.trial;
  const { difference, worst, shift } = reference.compare(trial);
  return { difference, worst, shift };
}
