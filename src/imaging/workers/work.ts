/** What threads are asked for, and how it is done: the same on a thread and in place. */

import { type Difference, type Pixels, Reference } from "@/core/difference";
import type { InkSettings } from "@/core/photo";
import { type Developed, type Development, develop, type Samples } from "@/core/pixels/develop";
import { findInk, type InkFound, type RgbPicture } from "@/core/pixels/ink";
import { seenAt } from "@/core/pixels/resample";

export type Work =
  | { kind: "ink"; picture: RgbPicture; settings: InkSettings }
  | { kind: "develop"; samples: Samples; plan: Development }
  | { kind: "reference"; id: string; reference: Pixels }
  /** `asSeen`: the trial is brought to the reference's size first. */
  | { kind: "difference"; id: string; reference: Pixels; trial: Pixels; asSeen: boolean };

/** A comparison without its map, which nobody asks for across threads. */
export type Judged = Omit<Difference, "map">;

/**
 * The reference met last: what it alone gives is not worked out again for every trial. One a thread, since a
 * large one takes 200 MB.
 */
let last: { id: string; reference: Reference } | null = null;

/** What comes back from a thread. */
export type Done = Developed | Judged | InkFound | { analysed: true };

export function carryOut(work: Work): Done {
  if (work.kind === "ink") return findInk(work.picture, work.settings);
  if (work.kind === "develop") return develop(work.samples, work.plan);
  if (last?.id !== work.id) last = { id: work.id, reference: new Reference(work.reference) };
  if (work.kind === "reference") {
    last.reference.analyse();
    return { analysed: true };
  }
  const trial = work.asSeen ? seenAt(work.trial, work.reference) : work.trial;
  const { difference, worst, shift } = last.reference.compare(trial);
  return { difference, worst, shift };
}
