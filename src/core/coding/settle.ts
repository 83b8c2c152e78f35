/** The whole picture coded two or three times: which family and quality was found out on a sample. */
import { type At, predictLog } from "./along";
import { sampleOf, type Views } from "./best-share";
import { familiesOf, type LossySetting } from "./family";
import { Line, payloadOf } from "./line";
import { type Found, type Goal, NEAR, type Picture } from "./types";

export interface SettleTask extends Views {
  /** What is coded: the view, or a picture of a share of its sides. */
  picture: Picture;
  share: number;
  goal: Goal;
}

export interface Settled {
  /** Null where nothing lies in the range. */
  found: Found<LossySetting> | null;
  encodes: number;
}

/** Whole encodings, at most; two or three where the sample foretells well. */
const MOST = 6;
/** Aimed at so much of the target: a miss above it is of no use, and the first is the least sure. */
const [CAREFULLY, ALMOST] = [0.985, 0.996];
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
    const { lowest, highest } = this.line.family;
    const most = Math.log(payload);
    for (let quality = highest; quality >= lowest; quality -= 1)
      if (this.payload(quality, ratio) <= most) return quality;
    return null;
  }

  learn(quality: number, bytes: number, format: string): void {
    this.whole.push({ quality, log: Math.log(payloadOf(bytes, this.overhead, format)) });
  }

  tried(quality: number): boolean {
    return this.whole.some((point) => point.quality === quality);
  }
}

interface Made {
  found: Found<LossySetting>;
  /** Foretold by the sample. */
  difference: number;
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
    const setting = of.line.family.setting(quality);
    const bytes = await picture.encode(setting);
    made.push({ found: { setting, bytes }, difference: pick.difference });
    of.learn(quality, bytes, lossy);
    ratio = payloadOf(bytes, picture.overhead, lossy) / of.line.at(quality).payload;
    if (bytes <= target && bytes >= target * NEAR) break;
  }
  const inside = made.filter(({ found }) => found.bytes <= target && found.bytes >= (goal.min ?? 0));
  const best = inside.sort((a, b) => a.difference - b.difference || b.found.bytes - a.found.bytes)[0];
  return { found: best?.found ?? null, encodes: made.length };
}

async function foretoldLines(task: SettleTask): Promise<WholeLine[]> {
  const { brief, lossy, view, picture, share } = task;
  const whole = await sampleOf(view);
  const sample = share === 1 ? whole : await whole.reduced(share);
  const payload = (payloadOf(task.target, picture.overhead, lossy) * whole.pixels) / view.pixels;
  const lines = familiesOf(lossy, brief, picture.pixels, view.flat).map((family) => new Line(family, sample));
  await Promise.all(lines.map((line) => line.towards(payload)));
  return lines.map((line) => new WholeLine(line, picture.overhead));
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
