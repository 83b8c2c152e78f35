/** How many pixels of the view differ least at so many bytes: foretold on a sample, before any whole picture is coded. */
import type { ResolvedBrief } from "../brief";
import { CLEAN } from "../difference";
import { type Family, familiesOf, type LossyFormat } from "./family";
import { Line } from "./line";
import { type Picture, payloadOf, settingKey } from "./types";

export interface Views {
  brief: ResolvedBrief;
  lossy: LossyFormat;
  /** Bytes of the whole file, at most. */
  target: number;
  /** The picture at its view size. */
  view: Picture;
  /** What was measured of shares of the view, each family a line; kept, since it is asked for again and again. */
  lines: Map<string, Line>;
}

/** The line of a family on the sample of the view, at a share of its sides. */
export async function lineAt(views: Views, family: Family, share: number): Promise<Line> {
  const key = `${share} ${settingKey(family.setting(family.highest))}`;
  const known = views.lines.get(key);
  if (known) return known;
  const sample = await sampleOf(views.view);
  const line = new Line(family, share === 1 ? sample : await sample.reduced(share));
  views.lines.set(key, views.lines.get(key) ?? line);
  return views.lines.get(key)!;
}

/** Each step keeps this share of the sides. */
const STEP = 0.86;
const MOST_STEPS = 24;
/** Bytes a pixel at which photographs begin to gain by fewer pixels: where the search for them begins. */
const BEGINS: Record<LossyFormat, number> = { jpeg: 0.1, webp: 0.06, avif: 0.035, gif: 0.4, png: 0.35 };
/** From so many times as much on fewer are not even tried: of 30 files (bench/seen.mjs) none had gained. */
const SURELY_ALL = 1.05;
/** More pixels are kept where fewer are hardly better. */
const BETTER = 0.985;
/** Parts of less than so many px across foretell nothing. */
const LEAST_SIDE = 16;

/** Its sample, or itself where it is small. */
export const sampleOf = async (picture: Picture): Promise<Picture> => (await picture.sample()) ?? picture;

/** Bytes of the picture alone that a share of the view may take, on its sample. */
export function payloadOn(sample: Picture, { view, target, lossy }: Views): number {
  return (payloadOf(target, view.overhead, lossy) * sample.pixels) / view.pixels;
}

/** What differs at the view size at the asked bytes, and about the bytes of a file that is clean there. */
export async function foretell(views: Views): Promise<{ difference: number; cleanFrom: number }> {
  const sample = await sampleOf(views.view);
  const [family] = familiesOf(views.lossy, views.brief, views.view.pixels, views.view.flat);
  const line = await lineAt(views, family, 1);
  const payload = payloadOn(sample, views);
  await line.around(payload, CLEAN);
  const clean = line.seenWithin(CLEAN);
  // A table of colours may never be clean.
  const never = clean.difference > CLEAN && clean.quality >= family.highest;
  const alone = payloadOf(views.target, views.view.overhead, views.lossy);
  return {
    difference: line.differenceFor(payload),
    cleanFrom: never
      ? Infinity
      : Math.round((clean.payload * views.view.pixels) / sample.pixels + views.target - alone),
  };
}

/** Bytes a pixel, of those at which photographs usually begin to gain by fewer pixels. */
const densityOf = ({ view, target, lossy }: Views): number =>
  payloadOf(target, view.overhead, lossy) / view.pixels / BEGINS[lossy];

/** Where photographs usually begin to gain by fewer pixels; of the view's sides. */
export const usualShare = (views: Views): number => Math.sqrt(Math.min(1, densityOf(views)));

/** The share of the view's sides, from 1 down, and what differs then; null where not even the fewest pixels fit. */
export async function bestShare(views: Views): Promise<{ share: number; difference: number } | null> {
  const sample = await sampleOf(views.view);
  const payload = payloadOn(sample, views);
  const [family] = familiesOf(views.lossy, views.brief, views.view.pixels, views.view.flat);
  const known = new Map<number, Promise<number>>();
  const at = (step: number): Promise<number> => {
    if (step < 0 || step > MOST_STEPS) return Promise.resolve(Infinity);
    const share = STEP ** step;
    if (share * Math.sqrt(sample.pixels) < LEAST_SIDE) return Promise.resolve(Infinity);
    const seen = known.get(step) ?? differenceAt(share);
    known.set(step, seen);
    return seen;
  };
  const differenceAt = async (share: number) => {
    const line = await lineAt(views, family, share);
    await line.towards(payload);
    return line.differenceFor(payload);
  };
  if (densityOf(views) >= SURELY_ALL) {
    const difference = await at(0);
    if (difference < Infinity) return { share: 1, difference };
  }
  let step = Math.min(MOST_STEPS, Math.max(0, Math.round(Math.log(usualShare(views)) / Math.log(STEP))));
  for (;;) {
    const [fewer, here, more] = await Promise.all([at(step + 1), at(step), at(step - 1)]);
    if (step > 0 && more * BETTER <= here && more < Infinity) step -= 1;
    else if (fewer < here * BETTER || (here === Infinity && step < MOST_STEPS)) step += 1;
    else return here === Infinity ? null : { share: STEP ** step, difference: here };
  }
}
