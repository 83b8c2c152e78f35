/** What threads are asked for, and how it is done: the same on a thread and in place. */

import { JpegCoder, type JpegPixels, type JpegSamples, type JpegSetting, packJpeg } from "@/core/coding";
import { type Difference, type Pixels, Reference } from "@/core/difference";
import type { InkSettings } from "@/core/photo";
import { type Developed, type Development, develop, dotScreenIn, type Samples } from "@/core/pixels/develop";
import { findInk, type InkFound, type RgbPicture } from "@/core/pixels/ink";
import { seenAt } from "@/core/pixels/resample";
import { Held } from "./held";
import { decodeByLibrary, type LibraryDecode } from "./library";

export type Work =
  | { kind: "ink"; picture: RgbPicture; settings: InkSettings }
  | { kind: "develop"; samples: Samples; plan: Development }
  /** `looks`: for a dot screen. */
  | { kind: "decode"; file: Uint8Array; how: LibraryDecode; plan: Development; looks: boolean }
  | { kind: "jpeg"; id: string; samples: JpegSamples; setting: JpegSetting }
  /** What decoders make of the JPEG that was coded last of this picture. */
  | { kind: "decoded"; id: string; setting: JpegSetting }
  /** The same of one whose levels are only rounded. */
  | { kind: "rounded"; id: string; samples: JpegSamples; setting: JpegSetting }
  | { kind: "pack"; file: Uint8Array }
  | { kind: "reference"; id: string; reference: Pixels }
  /** `asSeen`: the trial is brought to the reference's size first. */
  | { kind: "difference"; id: string; reference: Pixels; trial: Pixels; asSeen: boolean };

/** A comparison without its map, which nobody asks for across threads. */
export type Judged = Omit<Difference, "map">;

/** What alone the pictures met last give is not worked out again for every trial. */
const references = new Held<Reference>(2_000_000);
/** About nine bytes a pixel: two chromas of a picture are held side by side. */
const coders = new Held<JpegCoder>(7_000_000);

const coderFor = (id: string, samples: JpegSamples, chroma: JpegSetting["chroma"]): JpegCoder =>
  coders.get(`${id} ${chroma}`, samples, () => new JpegCoder(samples, chroma));

const referenceFor = (id: string, pixels: Pixels): Reference =>
  references.get(id, pixels, () => new Reference(pixels));

/** A picture that was decoded and developed in one place; the period of its dot screen in px, null where it shows none. */
export type DecodedAside = Developed & { dotScreen: number | null };

/** What comes back from a thread. */
export type Done =
  | Developed
  | DecodedAside
  | Judged
  | InkFound
  | { analysed: true }
  | JpegPixels
  | { encoded: Uint8Array | null };

export function carryOut(work: Exclude<Work, { kind: "decode" }>): Done;
export function carryOut(work: Work): Done | Promise<Done>;
export function carryOut(work: Work): Done | Promise<Done> {
  if (work.kind === "decode") return decoded(work);
  if (work.kind === "ink") return findInk(work.picture, work.settings);
  if (work.kind === "develop") return develop(work.samples, work.plan);
  if (work.kind === "pack") return { encoded: packJpeg(work.file) };
  if (work.kind === "jpeg") {
    const { id, samples, setting } = work;
    return { encoded: coderFor(id, samples, setting.chroma).encode(setting) };
  }
  if (work.kind === "rounded") {
    const { id, samples, setting } = work;
    return coderFor(id, samples, setting.chroma).rounded(setting) ?? { encoded: null };
  }
  if (work.kind === "decoded")
    return coders.peek(`${work.id} ${work.setting.chroma}`)?.decoded(work.setting) ?? { encoded: null };
  const reference = referenceFor(work.id, work.reference);
  if (work.kind === "reference") {
    reference.analyse();
    return { analysed: true };
  }
  const trial = work.asSeen ? seenAt(work.trial, work.reference) : work.trial;
  const { difference, worst, shift } = reference.compare(trial);
  return { difference, worst, shift };
}

async function decoded({ file, how, plan, looks }: Extract<Work, { kind: "decode" }>): Promise<DecodedAside> {
  const samples = await decodeByLibrary(file, how);
  return { ...develop(samples, plan), dotScreen: looks ? dotScreenIn(samples) : null };
}
