/** The whole picture coded two or three times: which family and quality was found out on a sample. */
import { type At, predictLog } from "./along";
import { highestWithin } from "./arm";
import { lineAt, sampleOf, type Views } from "./best-share";
import { familiesOf, type LossySetting } from "./family";
import type { Line } from "./line";
import { type Found, type Goal, type Picture, payloadOf } from "./types";

export interface SettleTask extends Views {
  /** What is coded: the view, or a picture of a share of its sides. */
  picture: Picture;
  share: number;
  goal: Goal;
}

export interface Settled {
  /** Null where nothing lies in the range. */
  found: Found<LossySetting> | null;
  /** The largest within the target, also below the floor. */
  under: Found<LossySetting> | null;
  encodes: number;
}

/** Pairs of whole encodings, at most; one or two where the sample foretells well. */
const MOST = 3;
/** A coarser quality beside the pick: about a thirtieth fewer bytes. */
const BESIDE = 2;
/** Aimed at so much of the target: a miss above it is of no use, and the first is the least sure. */
const [CAREFULLY, ALMOST] = [0.994, 0.997];
/** A family on the sample, and what the whole has shown of it. */
class WholeLine {
  readonly whole: At[] = [];

  constructor(
    readonly line: Line,
    private readonly overhead: number,
  ) {}

  /** ln(bytes of the whole picture alone); `ratio`: of the whole over its sample, where nothing else is known. */
  payload(quality: number, ratio: number): number {
    const foretold = (q: number) => Math.log(this.line.at(q).payload * ratio);
    return predictLog(foretold, this.whole, quality);
  }

  /** The finest quality that is foretold within so many bytes; null where not even the lowest is. */
  within(payload: number, ratio: number): number | null {
    const { lowest, highest, step } = this.line.family;
    const fits = (quality: number) => this.payload(quality, ratio) <= Math.log(payload);
    if (!fits(lowest)) return null;
    return highestWithin({ from: lowest, to: highest, step }, fits);
  }

  learn(quality: number, bytes: number, format: string): void {
    this.whole.push({ quality, log: Math.log(payloadOf(bytes, this.overhead, format)) });
  }

  tried(quality: number): boolean {
    return this.whole.some((point) => point.quality === quality);
  }
}

/** A family that is foretold to differ more than the best by this factor is left. */
const RIVAL = 1.3;

interface Made {
  quality: number;
  found: Found<LossySetting>;
  /** Foretold by the sample. */
  difference: number;
}

async function encoded(picture: Picture, { line }: WholeLine, quality: number): Promise<Made> {
  const setting = line.family.setting(quality);
  const found = { setting, bytes: await picture.encode(setting) };
  return { quality, found, difference: line.at(quality).difference };
}

export async function settle(task: SettleTask): Promise<Settled> {
  const { picture, goal, target, lossy } = task;
  const lines = await foretoldLines(task);
  const payload = payloadOf(target, picture.overhead, lossy);
  let ratio = task.view.pixels / (await sampleOf(task.view)).pixels;
  const made: Made[] = [];
  for (let n = 0; n < MOST; n += 1) {
    const pick = finest(lines, payload * (n ? ALMOST : CAREFULLY), ratio);
    if (!pick) break;
    const { of, quality } = pick;
    // Two at once, since an encode keeps one core busy: the pick, and a coarser one in case it is too large.
    const coarser = Math.max(of.line.family.lowest, quality - BESIDE);
    const at = of.tried(coarser) ? [quality] : [...new Set([quality, coarser])];
    for (const one of await Promise.all(at.map((q) => encoded(picture, of, q)))) {
      made.push(one);
      of.learn(one.quality, one.found.bytes, lossy);
    }
    const first = made[made.length - at.length];
    ratio = payloadOf(first.found.bytes, picture.overhead, lossy) / of.line.at(quality).payload;
    if (made.some(({ found: { bytes } }) => bytes <= target && bytes >= target * of.line.family.near)) break;
  }
  const fits = made.filter(({ found }) => found.bytes <= target);
  const inside = fits.filter(({ found }) => found.bytes >= (goal.min ?? 0));
  const best = inside.sort((a, b) => a.difference - b.difference || b.found.bytes - a.found.bytes)[0];
  const under = fits.sort((a, b) => b.found.bytes - a.found.bytes)[0];
  return { found: best?.found ?? null, under: under?.found ?? null, encodes: made.length };
}

/** Each family is tried once; those that are nearly as good as the best once more. */
async function foretoldLines(task: SettleTask): Promise<WholeLine[]> {
  const { brief, lossy, view, picture, share } = task;
  const { pixels } = await sampleOf(view);
  const payload = (payloadOf(task.target, picture.overhead, lossy) * pixels) / view.pixels;
  const families = familiesOf(lossy, brief, picture.pixels, view.flat);
  const first = await lineAt(task, families[0], share);
  await first.towards(payload);
  if (families[0].decides(first.within(payload).quality)) return [new WholeLine(first, picture.overhead)];
  const others = await Promise.all(families.slice(1).map((family) => lineAt(task, family, share)));
  await Promise.all(others.map((line) => line.towards(payload, 1)));
  const lines = [first, ...others];
  const least = Math.min(...lines.map((line) => line.differenceFor(payload)));
  const near = lines.filter((line) => line.differenceFor(payload) <= least * RIVAL);
  await Promise.all(near.map((line) => line.towards(payload)));
  return near.map((line) => new WholeLine(line, picture.overhead));
}

/** Of all families the one that is foretold to differ least within so many bytes, at a quality not tried yet. */
function finest(lines: readonly WholeLine[], payload: number, ratio: number) {
  const picks = lines.flatMap((of) => {
    const quality = of.within(payload, ratio);
    if (quality === null || of.tried(quality)) return [];
    return [{ of, quality, difference: of.line.at(quality).difference }];
  });
  return picks.sort((a, b) => a.difference - b.difference)[0] ?? null;
}
