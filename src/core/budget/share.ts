/**
 * Shares a limit on the whole among photos so that all end at the same visible difference: not at the same
 * quality
 * number, and not at the same bytes. Foretells from few trials what each photo takes, says which trials
 * would settle
 * it, and ends when every file that is chosen was really made.
 */
import { CLEAN, PLAIN } from "../difference";
import { Curve, type Pick, type SharedPhoto } from "./photo";

/** How the whole is counted: what is there without any file, and what each file of so many bytes adds. */
export interface Whole {
  /** Bytes, inclusive. */
  max: number;
  fixed: number;
  each: (bytes: number) => number;
  /** Bytes of any one file, at most; missing where only the whole is limited. */
  most?: number;
}

export interface ShareTask {
  photos: readonly SharedPhoto[];
  whole: Whole;
  /**
   * What files are made for where the limit does not bind: nothing to be seen, or the least that each file's
   * own ceiling allows.
   */
  aim: "clean" | "best";
  /** The files as they would be without a limit on the whole were made, and are too large together. */
  binds?: boolean;
  /**
   * Of many photos the files of so many are made first, as if alone. Where by them nothing binds, so are the others,
   * without any being tried: only for a driver that adds up the files when they are there, and comes back with `binds`.
   */
  probes?: number;
}

export interface TrialsAsked {
  id: string;
  /** Trials are to be made on both sides of this difference where nothing is known of the photo yet. */
  level: number;
  /** Trials that would settle it. */
  qualities: number[];
}

export type ShareAnswer =
  /** The limit does not bind: each file is made as if it were alone. */
  | { kind: "own"; level: number }
  /** These files are made as if they were alone: they foretell the others, and are done where the limit does not bind. */
  | { kind: "alone"; ids: string[] }
  | { kind: "trials"; wanted: TrialsAsked[]; level: number }
  | { kind: "shared"; picks: Pick[]; total: number; level: number }
  /** Even at a difference that is plain to see the whole is too large. */
  | { kind: "cannot"; picks: Pick[]; total: number; over: number };

/** A whole above this share of the limit is near enough. */
export const NEAR_WHOLE = 0.96;
/** Left free while files are only foretold. */
const SPARE = 0.006;
/** Below this share of the limit, foretold, nothing binds. */
const CLEARLY = 0.97;
/** A few photos are tried first where there are at least so many times as many. */
const FEW_OF = 2;
/**
 * Foretold by a few, up to this share of the limit files are made as if alone: about every other time they fit, and
 * where they do not, what was made for them is known when the limit is shared out.
 */
const WORTH_MAKING = 1.03;
/** Up to this share more photos are tried before all are. */
const DOUBTFUL = 1.25;
/** Where a file's own ceiling is what binds, the search goes down to this difference. */
const NOTHING_SEEN = 0.05;

export class Share {
  readonly curves: Curve[];

  constructor(private readonly task: ShareTask) {
    const most = task.whole.most ?? Infinity;
    this.curves = task.photos.map(
      (photo) => new Curve(most < (photo.max ?? Infinity) ? { ...photo, max: most } : photo),
    );
  }

  total(picks: readonly Pick[]): number {
    const { fixed, each } = this.task.whole;
    return picks.reduce((sum, pick) => sum + each(pick.bytes), fixed);
  }

  at(level: number): Pick[] {
    return this.curves.map((curve) => curve.within(level));
  }

  /** The files as they would be without a limit on the whole: what obeys the brief stays as it is. */
  private alone(finest: number): Pick[] {
    return this.curves.map((curve) => curve.ready() ?? curve.within(finest));
  }

  answer(): ShareAnswer {
    const { whole, aim, binds } = this.task;
    const finest = aim === "clean" ? CLEAN : NOTHING_SEEN;
    // Files that need no new encoding, all of them: nothing has to be tried.
    if (
      !binds &&
      this.curves.every(({ photo }) => photo.whole) &&
      this.total(this.alone(finest)) <= whole.max
    )
      return { kind: "own", level: 0 };
    const fresh = this.curves.filter(({ photo }) => photo.arm && photo.points.length === 0);
    if (fresh.length) {
      const foretold = this.foretold(fresh, finest);
      if (foretold) return foretold;
      const level = this.levelWithin(whole.max * (1 - SPARE), Math.max(finest, 0.5), PLAIN);
      const wanted = fresh.map(({ photo }) => ({ id: photo.id, level, qualities: [] }));
      return { kind: "trials", level, wanted };
    }
    if (!binds && this.total(this.alone(finest)) <= whole.max * CLEARLY)
      return { kind: "own", level: finest };
    const coarsest = this.coarsest();
    if (this.total(coarsest) > whole.max) {
      const wanted = missing(coarsest, PLAIN);
      if (wanted.length) return { kind: "trials", wanted, level: PLAIN };
      return {
        kind: "cannot",
        picks: coarsest,
        total: this.total(coarsest),
        over: this.total(coarsest) - whole.max,
      };
    }
    return this.settled(finest);
  }

  /**
   * Of many photos the files of a few from all over are made as if alone, and of as many again where those leave it in
   * doubt whether the limit binds. Null where all are to be tried.
   */
  private foretold(fresh: Curve[], finest: number): ShareAnswer | null {
    const { probes = Infinity, binds, whole } = this.task;
    if (binds) return null;
    const left = fresh.filter(({ photo }) => photo.alone === undefined);
    const made = fresh.length - left.length;
    if (!made && left.length < probes * FEW_OF) return null;
    const few: ShareAnswer = { kind: "alone", ids: spreadOver(left, probes).map(({ photo }) => photo.id) };
    if (!made) return few;
    const share = this.likely(finest) / whole.max;
    if (share <= (left.length ? WORTH_MAKING : 1)) return { kind: "own", level: finest };
    return share <= DOUBTFUL && made <= probes && left.length ? few : null;
  }

  /**
   * About what the whole would take as if alone: photos that were not tried are like those that were, pixel by pixel,
   * and as much heavier as they came. On 43 photographs from one camera's settings what they came with explains nine
   * tenths of what their files take; six of them foretell the whole within 12 % four times out of five.
   */
  private likely(finest: number): number {
    const coded = this.curves.filter(({ photo }) => photo.arm);
    const telling = coded.every(({ photo }) => photo.density);
    const weight = ({ photo }: Curve) => photo.arm!.pixels * (telling ? photo.density! : 1);
    const tried = coded.filter(({ photo }) => photo.points.length || photo.alone !== undefined);
    const bytesOf = (curve: Curve) => curve.photo.alone ?? (curve.ready() ?? curve.within(finest)).bytes;
    const alone = new Map(tried.map((curve) => [curve, bytesOf(curve)]));
    const heaviness = sum([...alone.values()]) / Math.max(1e-9, sum(tried.map(weight)));
    const { fixed, each } = this.task.whole;
    const bytes = (curve: Curve) =>
      alone.get(curve) ?? curve.ready()?.bytes ?? Math.round(weight(curve) * heaviness);
    return fixed + sum(this.curves.map((curve) => each(bytes(curve))));
  }

  private coarsest(): Pick[] {
    return this.curves.map((curve) => curve.within(PLAIN, true));
  }

  private settled(finest: number): ShareAnswer {
    const { whole } = this.task;
    const foretold = this.levelWithin(whole.max * (1 - SPARE), finest, PLAIN);
    let [level, picks] = [foretold, this.at(foretold)];
    if (this.total(picks) > whole.max) picks = this.coarsest();
    if (picks.every((pick) => pick.measured)) {
      // Nothing is foretold any more, so nothing has to be spared.
      level = this.levelWithin(whole.max, finest, foretold);
      const finer = this.at(level);
      if (this.total(finer) <= whole.max) picks = this.filled(finer, level);
    }
    const wanted = missing(picks, level);
    if (wanted.length) return { kind: "trials", wanted, level };
    return {
      kind: "shared",
      picks,
      total: this.total(picks),
      level: Math.max(0, ...picks.map((pick) => pick.difference)),
    };
  }

  /** The smallest difference, between two, at which the whole takes at most so many bytes. */
  private levelWithin(bytes: number, from: number, to: number): number {
    if (this.total(this.at(from)) <= bytes) return from;
    let [low, high] = [Math.log(from), Math.log(to)];
    for (let n = 0; n < 24; n += 1) {
      const middle = (low + high) / 2;
      if (this.total(this.at(Math.exp(middle))) <= bytes) high = middle;
      else low = middle;
    }
    return Math.exp(high);
  }

  /** What is left over goes to the photos that differ most, a step each, as long as there is room. */
  private filled(picks: Pick[], level: number): Pick[] {
    const { whole, aim } = this.task;
    const out = [...picks];
    if (aim === "clean" && level <= CLEAN) return out;
    let left = whole.max - this.total(out);
    const order = out.map((_, i) => i).sort((a, b) => out[b].difference - out[a].difference);
    for (const i of order) {
      if (left < whole.max * (1 - NEAR_WHOLE)) break;
      const finer = this.curves[i].finer(out[i]);
      const costs = finer ? whole.each(finer.bytes) - whole.each(out[i].bytes) : Infinity;
      if (!finer || costs > left) continue;
      out[i] = finer;
      left -= costs;
    }
    return out;
  }
}

/** So many, evenly from all over the list; all of a short one. */
const spreadOver = <T>(list: readonly T[], count: number): T[] =>
  list.length <= count
    ? [...list]
    : Array.from({ length: count }, (_, i) => list[Math.floor(((i + 0.5) * list.length) / count)]);

const sum = (list: readonly number[]): number => list.reduce((all, one) => all + one, 0);

const missing = (picks: readonly Pick[], level: number): TrialsAsked[] =>
  picks.filter((pick) => !pick.measured).map((pick) => ({ id: pick.id, level, qualities: [pick.quality!] }));
