/** The search for the JPEG setting that lands in a byte range with as few encodes as possible. */
import { CLEAN } from "../difference";
import { type ArmResult, type Point, solveArm } from "./arm";
import { cleanJpeg } from "./jpeg-clean";
import { FULL_CHROMA, priorLog } from "./prior";
import {
  CAREFUL_PIXELS,
  type Chroma,
  type Found,
  type Goal,
  type JpegSetting,
  MAX_ENCODES,
  NEAR,
  type Picture,
  type SearchResult,
  type Weighed,
} from "./types";

/** Below this the damage is such that a file is not offered. */
export const LOWEST_QUALITY = 10;
/** Where no size is asked, photographs without visible loss lie about here: for estimates. */
export const USUAL_QUALITY = 92;
interface GapArm {
  table: number;
  effort: "careful" | "fast";
  /** Expected ln(size) against the main arm at the same quality; corrected by what is measured. */
  shift: number;
}

/**
 * Encodings that fill the gaps between whole-number qualities of the main arm. Shifts measured on six
 * photographs.
 */
const GAP_ARMS: Record<Chroma, GapArm[]> = {
  "4:4:4": [
    { table: 0, effort: "careful", shift: -0.08 },
    { table: 3, effort: "careful", shift: 0.07 },
    { table: 4, effort: "careful", shift: 0.01 },
    { table: 5, effort: "careful", shift: 0.06 },
    { table: 3, effort: "fast", shift: 0.17 },
    { table: 0, effort: "fast", shift: 0.02 },
  ],
  "4:2:0": [
    { table: 0, effort: "careful", shift: 0.03 },
    { table: 3, effort: "careful", shift: -0.02 },
    { table: 4, effort: "careful", shift: 0.02 },
    { table: 5, effort: "careful", shift: 0 },
    { table: 3, effort: "fast", shift: 0.1 },
    { table: 0, effort: "fast", shift: 0.15 },
  ],
};
/**
 * The table that mostly looks best beside the main one at the same size: at a difference of 1.7 it takes 81
 * to 100 % of Annex K's bytes, the main one 89 to 100 %.
 */
const RIVAL: Record<Chroma, { table: number; shift: number }> = {
  "4:2:0": { table: 7, shift: 0.45 },
  "4:4:4": { table: 0, shift: -0.08 },
};
const RIVAL_TRIALS = 2;
const rivalFillsGaps = (chroma: Chroma) =>
  GAP_ARMS[chroma].some(({ table }) => table === RIVAL[chroma].table);
/** Encodes spent on filling a gap while the range is met anyway. */
const GAP_BUDGET = 4;
const MAIN_TABLE = 2;
/** Bytes per pixel from which full chroma usually pays. */
const FULL_CHROMA_FROM = 0.3;
/**
 * Full chroma that reaches this quality needs no comparing; halved chroma below this one leaves nothing for
 * full chroma.
 */
const SURELY_FULL = 98;
const SURELY_HALVED = 60;
/** Encodes along one chroma, the first included. */
const MOST_ON_ARM = 7;
/** A file without visible loss that has to reach a floor becomes at most so much larger than the floor. */
export const ABOVE_FLOOR = 1.15;
/** Files under the target whose difference is measured. */
const MOST_JUDGED = 4;

export interface JpegLimits {
  /** Quality clause; with it the Annex K tables are used. */
  quality: { min: number; max: number } | null;
  /** Lowest quality that is taken. */
  lowest: number;
}

type Jpeg = Found<JpegSetting>;

/** Trials of other tables beside the main arm. */
interface Beside {
  target: number;
  chroma: Chroma;
  main: ArmResult;
  /** Encodes that may be made. */
  most: number;
}

/** One picture, one goal. */
export async function searchJpeg(
  picture: Picture,
  goal: Goal,
  limits: JpegLimits,
): Promise<SearchResult<JpegSetting>> {
  return new JpegSearch(picture, goal, limits).run();
}

/** Between these the eye decides; outside them the other chroma has no chance. */
const decides = (first: Chroma, quality: number) =>
  first === "4:4:4" ? quality >= SURELY_FULL : quality < SURELY_HALVED;

class JpegSearch {
  private readonly made: Jpeg[] = [];
  private readonly table: number;
  private readonly effort: "careful" | "fast";
  private readonly lowest: number;
  private readonly highest: number;

  constructor(
    private readonly picture: Picture,
    private readonly goal: Goal,
    private readonly limits: JpegLimits,
  ) {
    this.table = limits.quality ? 0 : MAIN_TABLE;
    this.effort = picture.pixels <= CAREFUL_PIXELS ? "careful" : "fast";
    this.lowest = Math.max(limits.lowest, limits.quality?.min ?? 1);
    this.highest = limits.quality?.max ?? 100;
    if (this.lowest > this.highest) this.lowest = this.highest;
  }

  async run(): Promise<SearchResult<JpegSetting>> {
    const { min, max, aim } = this.goal;
    if (this.lowest === this.highest && min === null) {
      // One quality is asked: nothing is left to be searched for.
      const setting = {
        quality: this.highest,
        chroma: this.picture.flat || this.highest >= SURELY_FULL ? ("4:4:4" as const) : ("4:2:0" as const),
      };
      if ((await this.encode(setting)) <= (max ?? Infinity)) return this.met(this.find(setting)!);
    }
    if (aim === "clean") {
      const clean = await this.clean();
      if (clean && clean.bytes >= (min ?? 0) && clean.bytes <= (max ?? Infinity)) return this.met(clean);
      if (clean && clean.bytes < (min ?? 0)) return this.justAbove(min!, max ?? Infinity);
    }
    if (max === null) return this.withoutCeiling();
    const target = aim === "middle" ? Math.round(((min ?? 0) + max) / 2) : max;
    const best = await this.towards(target);
    if (!best) return this.over();
    if (min !== null && best.bytes < min) return this.climb(min, max);
    return this.met(best);
  }

  /** The smallest file without visible loss, however large; null where there is none. */
  private async clean(): Promise<Jpeg | null> {
    const made: Weighed<JpegSetting>[] = [];
    const { picture, lowest, highest } = this;
    const bounds = { lowest, highest, annexK: this.limits.quality !== null };
    const found = await cleanJpeg({ picture, bounds, limit: CLEAN }, made);
    this.made.push(...made);
    return found;
  }

  /** Clean, but below the floor: not much more than the floor asks for. */
  private async justAbove(min: number, max: number): Promise<SearchResult<JpegSetting>> {
    const inside = await this.between(min, Math.min(max, min * ABOVE_FLOOR), { chroma: "4:4:4" });
    return inside
      ? {
          ...this.met(inside),
          told: ["a higher quality than the eye needs, because the floor is not reached without it"],
        }
      : this.climb(min, max);
  }

  /**
   * No ceiling: the least difference that JPEG can have here; a less thrifty encoding only where a floor
   * asks for it.
   */
  private async withoutCeiling(): Promise<SearchResult<JpegSetting>> {
    const setting = { quality: this.highest, chroma: "4:4:4" as const };
    const bytes = await this.encode(setting);
    const { min } = this.goal;
    if (min === null || bytes >= min) return this.met(this.find(setting)!);
    return this.climb(min, Infinity);
  }

  /**
   * Of the files at or under `target` the one that differs least, near the target where that is possible;
   * null where even the coarsest is above.
   */
  private async towards(target: number): Promise<Jpeg | null> {
    const density = (target - this.picture.overhead) / this.picture.pixels;
    const first: Chroma = this.picture.flat || density >= FULL_CHROMA_FROM ? "4:4:4" : "4:2:0";
    const other: Chroma = first === "4:4:4" ? "4:2:0" : "4:4:4";
    let chroma = first;
    // One trial tells where both lie: then they are looked for side by side, where both will be needed.
    const start = await this.arm(first, target, 1);
    const both = !decides(first, this.reachable(start, target));
    const aside = both ? this.arm(other, target, MOST_ON_ARM) : null;
    aside?.catch(() => undefined);
    let solved = await this.arm(first, target, MOST_ON_ARM - 1);
    const decided = solved.under !== null && decides(first, solved.under.quality);
    if (aside || (!decided && this.made.length < MAX_ENCODES - 3)) {
      const second = await (aside ?? this.arm(other, target, MOST_ON_ARM));
      const [one, two] = [this.largest(target, first), this.largest(target, other)];
      if (two && (!one || (await this.differs(two)) < (await this.differs(one))))
        [chroma, solved] = [other, second];
    }
    const main = this.largest(target, chroma);
    if (!main) return null;
    const room = main.bytes < target * NEAR && main.setting.quality < this.highest;
    if (this.limits.quality === null) await this.others(target, chroma, solved, room);
    return this.least(target);
  }

  /** Other tables: for the gap, and the rival; side by side where they share no setting. */
  private async others(target: number, chroma: Chroma, main: ArmResult, gap: boolean): Promise<void> {
    const left = MAX_ENCODES - this.made.length;
    const trials = Math.min(RIVAL_TRIALS, left);
    const filled = gap ? this.fillGap({ target, chroma, main, most: left - trials }) : null;
    if (rivalFillsGaps(chroma)) await filled;
    await Promise.all([filled, this.rival({ target, chroma, main, most: trials })]);
  }

  /** The highest quality that is expected to stay under the target. */
  private reachable({ predict }: ArmResult, target: number): number {
    const most = Math.log(Math.max(1, target - this.picture.overhead));
    let quality = this.lowest;
    while (quality < this.highest && predict(quality + 1) <= most) quality += 1;
    return quality;
  }

  /** The largest files under the target of each chroma and table, and of those the one that differs least. */
  private async least(target: number): Promise<Jpeg> {
    const families = new Map<string, Jpeg>();
    for (const made of this.made) {
      const key = `${made.setting.chroma} ${made.setting.table} ${made.setting.effort}`;
      if (made.bytes <= target && made.bytes > (families.get(key)?.bytes ?? 0)) families.set(key, made);
    }
    const likely = [...families.values()].sort((a, b) => b.bytes - a.bytes).slice(0, MOST_JUDGED);
    if (likely.length === 1) return likely[0];
    const inside = likely.filter((made) => made.bytes >= (this.goal.min ?? 0));
    let best: Weighed<JpegSetting> | null = null;
    for (const made of inside.length ? inside : likely) {
      const difference = await this.differs(made);
      if (!best || difference < best.difference) best = { ...made, difference };
    }
    return best!;
  }

  /** On the sample of a large picture: only which differs less is asked. */
  private async differs({ setting }: Jpeg): Promise<number> {
    return ((await this.picture.sample()) ?? this.picture).difference(setting);
  }

  /** The rival table at the same size; its first trial corrects what is expected of it. */
  private async rival({ target, chroma, main, most }: Beside): Promise<void> {
    const payload = (bytes: number) => Math.log(Math.max(1, bytes - this.picture.overhead));
    const { table } = RIVAL[chroma];
    let { shift } = RIVAL[chroma];
    for (let made = 0; made < most; made += 1) {
      let quality = this.lowest;
      while (quality < this.highest && main.predict(quality + 1) + shift <= payload(target) - 0.012)
        quality += 1;
      const setting = { quality, chroma, table, effort: this.effort };
      if (this.find(setting)) return;
      const bytes = await this.encode(setting);
      if (bytes <= target && bytes >= target * NEAR) return;
      shift = payload(bytes) - main.predict(quality);
    }
  }

  private arm(chroma: Chroma, target: number, most: number): Promise<ArmResult> {
    const shift = chroma === "4:4:4" ? FULL_CHROMA : 0;
    const level = Math.log(this.picture.pixels) + shift;
    const known: Point[] = this.made
      .filter(
        (m) =>
          m.setting.chroma === chroma && m.setting.table === this.table && m.setting.effort === this.effort,
      )
      .map((m) => ({ quality: m.setting.quality, bytes: m.bytes }));
    // What another chroma has already shown about this picture moves the expectation.
    const seen = known.length ? undefined : this.made[this.made.length - 1];
    const moved = seen
      ? Math.log(Math.max(1, seen.bytes - this.picture.overhead)) -
        Math.log(this.picture.pixels) -
        priorLog(seen.setting.quality) -
        (seen.setting.chroma === "4:4:4" ? FULL_CHROMA : 0)
      : 0;
    return solveArm({
      goal: target,
      enough: target * NEAR,
      lowest: this.lowest,
      highest: this.highest,
      overhead: this.picture.overhead,
      expect: (quality) => priorLog(quality) + level + moved,
      encode: (quality) => this.encode({ quality, chroma }),
      budget: Math.min(most, MAX_ENCODES - this.made.length),
      known,
    });
  }

  /**
   * Other tables and efforts have other steps: one of them may land between two neighbours of the main arm.
   */
  private async fillGap({ target, chroma, main, most }: Beside): Promise<void> {
    const payload = (bytes: number) => Math.log(Math.max(1, bytes - this.picture.overhead));
    const [floor, wanted, ceiling] = [target * NEAR, target * 0.985, target].map(payload);
    // What the rival finds meanwhile does not count, so that the same files are made however fast each is.
    const but = rivalFillsGaps(chroma) ? undefined : RIVAL[chroma].table;
    const missed = () => (this.goal.min ?? 0) > this.largest(target, chroma, but)!.bytes;
    const learned = new Map(
      this.gapArms(chroma).map((arm) => [arm, { shift: arm.shift, tried: new Set<number>() }]),
    );
    for (let made = 0; made < Math.min(missed() ? 2 * GAP_BUDGET : GAP_BUDGET, most); made += 1) {
      let next: { arm: GapArm; quality: number; miss: number } | null = null;
      for (const [arm, { shift, tried }] of learned) {
        for (let quality = this.lowest; quality <= this.highest; quality += 1) {
          const guess = main.predict(quality) + shift;
          const miss = Math.abs(guess - wanted);
          // An arm that was never measured may be off by a little.
          const slack = tried.size ? 0 : 0.05;
          if (
            guess < floor - slack ||
            guess > ceiling + slack ||
            tried.has(quality) ||
            (next && miss >= next.miss)
          )
            continue;
          next = { arm, quality, miss };
        }
      }
      if (!next) break;
      const { arm, quality } = next;
      const bytes = await this.encode({ quality, chroma, table: arm.table, effort: arm.effort });
      if (bytes <= target && bytes >= target * NEAR) break;
      const known = learned.get(arm)!;
      known.tried.add(quality);
      known.shift = payload(bytes) - main.predict(quality);
    }
  }

  private gapArms(chroma: Chroma): GapArm[] {
    const arms = GAP_ARMS[chroma];
    // A picture too large for the trellis is coded without it throughout.
    return this.effort === "careful"
      ? arms
      : arms.filter((arm) => arm.effort === "careful").map((arm) => ({ ...arm, effort: "fast" as const }));
  }

  /** Below the floor at the highest quality: full chroma, then a less thrifty encoding. */
  private async climb(min: number, max: number): Promise<SearchResult<JpegSetting>> {
    for (const step of [{}, { effort: "plain" as const }]) {
      if (this.made.length >= MAX_ENCODES) break;
      const setting = { quality: this.highest, chroma: "4:4:4" as Chroma, ...step };
      const bytes = this.find(setting)?.bytes ?? (await this.encode(setting));
      if (bytes >= min && bytes <= max) return this.climbed("met", this.find(setting)!);
      if (bytes > max) {
        // The step jumps over the range: look for a quality inside it on this arm.
        const inside = await this.between(min, max, setting);
        if (inside) return this.climbed("met", inside);
      }
    }
    const inside = this.made.filter((m) => m.bytes >= min && m.bytes <= max).pop();
    if (inside) return this.climbed("met", inside);
    return this.climbed(
      "under",
      [...this.made].filter((m) => m.bytes <= max).sort((a, b) => b.bytes - a.bytes)[0],
    );
  }

  /** Tells only what the file that is taken really needed. */
  private climbed(outcome: "met" | "under", found: Jpeg): SearchResult<JpegSetting> {
    const told: string[] = [];
    const full = found.setting.chroma === "4:4:4" && this.made[0].setting.chroma !== "4:4:4";
    if (full) told.push("full chroma (4:4:4), because the floor is not reached without it");
    if (found.setting.effort === "plain")
      told.push("a less thrifty encoding, because the floor is not reached without it");
    return { outcome, found, encodes: this.made.length, told };
  }

  private async between(
    min: number,
    max: number,
    at: Partial<JpegSetting> & { chroma: Chroma },
  ): Promise<Jpeg | null> {
    const shift = at.chroma === "4:4:4" ? FULL_CHROMA : 0;
    const result = await solveArm({
      goal: max,
      enough: Math.max(min, max * 0.9),
      lowest: this.lowest,
      highest: this.highest,
      overhead: this.picture.overhead,
      expect: (quality) => priorLog(quality) + Math.log(this.picture.pixels) + shift,
      encode: (quality) => this.encode({ ...at, quality }),
      budget: Math.min(4, MAX_ENCODES - this.made.length),
      known: this.made
        .filter((m) => m.setting.chroma === at.chroma && m.setting.effort === (at.effort ?? this.effort))
        .map((m) => ({ quality: m.setting.quality, bytes: m.bytes })),
    });
    return result.under && result.under.bytes >= min
      ? this.find({ ...at, quality: result.under.quality })
      : null;
  }

  private async encode(part: Partial<JpegSetting> & { quality: number; chroma: Chroma }): Promise<number> {
    const setting: JpegSetting = { format: "jpeg", table: this.table, effort: this.effort, ...part };
    const bytes = await this.picture.encode(setting);
    this.made.push({ setting, bytes });
    // Files near the target are what is chosen from: one is looked at while the next is still being made.
    const { max } = this.goal;
    if (max !== null && bytes <= max && bytes >= max * NEAR)
      this.differs({ setting, bytes }).catch(() => undefined);
    return bytes;
  }

  private find(part: Partial<JpegSetting>): Jpeg | null {
    const want = { table: this.table, effort: this.effort, ...part };
    return (
      this.made.find((m) =>
        (Object.keys(want) as (keyof JpegSetting)[]).every((key) => m.setting[key] === want[key]),
      ) ?? null
    );
  }

  /** Of one chroma, those with the table `but` left aside. */
  private largest(target: number, chroma: Chroma, but?: number): Jpeg | null {
    return (
      this.made
        .filter((m) => m.bytes <= target && m.setting.chroma === chroma && m.setting.table !== but)
        .sort((a, b) => b.bytes - a.bytes)[0] ?? null
    );
  }

  private met(found: Jpeg): SearchResult<JpegSetting> {
    return { outcome: "met", found, encodes: this.made.length, told: [] };
  }

  private over(): SearchResult<JpegSetting> {
    const found = [...this.made].sort((a, b) => a.bytes - b.bytes)[0];
    return { outcome: "over", found, encodes: this.made.length, told: [] };
  }
}
