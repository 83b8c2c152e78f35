/** The search for the JPEG setting that lands in a byte range with as few encodes as possible. */
import { solveArm, type ArmResult, type Point } from "./arm";
import { FULL_CHROMA, priorLog } from "./prior";
import { CAREFUL_PIXELS, MAX_ENCODES, NEAR, type Chroma, type Found, type Goal, type JpegSetting, type Picture, type SearchResult } from "./types";

/** Below this the damage is such that a file is not offered. */
export const LOWEST_QUALITY = 10;
/** Below this, fewer pixels look better than a coarser encoding. */
export const LOWEST_WHILE_PIXELS_ARE_FREE = 55;
/** Used where no size is asked: room to spare. */
export const FREE_QUALITY = 92;
interface GapArm {
  table: number;
  effort: "careful" | "fast";
  /** Expected ln(size) against the main arm at the same quality; corrected by what is measured. */
  shift: number;
}

/** Encodings that fill the gaps between whole-number qualities of the main arm. Shifts measured on six photographs. */
const GAP_ARMS: Record<Chroma, GapArm[]> = {
  "4:4:4": [
    { table: 0, effort: "careful", shift: -0.15 },
    { table: 2, effort: "careful", shift: -0.07 },
    { table: 4, effort: "careful", shift: -0.06 },
    { table: 5, effort: "careful", shift: -0.01 },
    { table: 3, effort: "fast", shift: 0.1 },
    { table: 0, effort: "fast", shift: -0.05 },
  ],
  "4:2:0": [
    { table: 0, effort: "careful", shift: 0.05 },
    { table: 2, effort: "careful", shift: 0.02 },
    { table: 4, effort: "careful", shift: 0.04 },
    { table: 5, effort: "careful", shift: 0.02 },
    { table: 3, effort: "fast", shift: 0.12 },
    { table: 0, effort: "fast", shift: 0.17 },
  ],
};
/** Encodes spent on filling a gap while the range is met anyway. */
const GAP_BUDGET = 4;
const MAIN_TABLE = 3;
/** Bytes per pixel from which full chroma usually pays. */
const FULL_CHROMA_FROM = 0.3;

export interface JpegLimits {
  /** Quality clause; with it the Annex K tables are used. */
  quality: { min: number; max: number } | null;
  /** Lowest quality that is taken. */
  lowest: number;
}

type Jpeg = Found<JpegSetting>;

/** One picture, one goal. `wanted` throws when nobody waits for the answer any more. */
export async function searchJpeg(picture: Picture, goal: Goal, limits: JpegLimits): Promise<SearchResult<JpegSetting>> {
  return new JpegSearch(picture, goal, limits).run();
}

class JpegSearch {
  private readonly made: Jpeg[] = [];
  private readonly table: number;
  private readonly effort: "careful" | "fast";
  private readonly lowest: number;
  private readonly highest: number;

  constructor(private readonly picture: Picture, private readonly goal: Goal, private readonly limits: JpegLimits) {
    this.table = limits.quality ? 0 : MAIN_TABLE;
    this.effort = picture.pixels <= CAREFUL_PIXELS ? "careful" : "fast";
    this.lowest = Math.max(limits.lowest, limits.quality?.min ?? 1);
    this.highest = limits.quality?.max ?? 100;
    if (this.lowest > this.highest) this.lowest = this.highest;
  }

  async run(): Promise<SearchResult<JpegSetting>> {
    const { min, max, aim } = this.goal;
    if (max === null) return this.withoutCeiling();
    const target = aim === "middle" ? Math.round(((min ?? 0) + max) / 2) : max;
    const best = await this.towards(target);
    if (!best) return this.over();
    if (min !== null && best.bytes < min) return this.climb(min, max);
    return this.met(best);
  }

  /** No ceiling: a fixed, high quality; more only where a floor asks for it. */
  private async withoutCeiling(): Promise<SearchResult<JpegSetting>> {
    const quality = Math.min(this.highest, Math.max(this.lowest, FREE_QUALITY));
    const bytes = await this.encode({ quality, chroma: "4:4:4" });
    const { min } = this.goal;
    if (min === null || bytes >= min) return this.met(this.made[0]);
    return this.climb(min, Infinity);
  }

  /** The largest file at or under `target`, near it where that is possible; null where even the coarsest is above. */
  private async towards(target: number): Promise<Jpeg | null> {
    const density = (target - this.picture.overhead) / this.picture.pixels;
    const first: Chroma = this.picture.flat || density >= FULL_CHROMA_FROM ? "4:4:4" : "4:2:0";
    const arm = await this.arm(first, target);
    let main: Chroma = first;
    let solved = arm;
    const reached = arm.under?.quality ?? 0;
    const retry = first === "4:4:4" ? reached < (this.picture.flat ? this.lowest : 80) : reached >= 96;
    if (retry && this.made.length < MAX_ENCODES - 3) {
      const other: Chroma = first === "4:4:4" ? "4:2:0" : "4:4:4";
      const second = await this.arm(other, target);
      // Full chroma is worth it only where the luminance does not pay for it.
      const take = other === "4:2:0" ? second.under !== null : (second.under?.quality ?? 0) >= 85;
      if (take) [main, solved] = [other, second];
    }
    if (!solved.under) return null;
    let best = this.largest(target, main);
    const room = best.bytes < target * NEAR && best.setting.quality < this.highest;
    if (room && this.limits.quality === null) best = await this.fillGap(target, main, solved);
    return best;
  }

  private arm(chroma: Chroma, target: number): Promise<ArmResult> {
    const shift = chroma === "4:4:4" ? FULL_CHROMA : 0;
    const level = Math.log(this.picture.pixels) + shift;
    const known: Point[] = this.made
      .filter((m) => m.setting.chroma === chroma && m.setting.table === this.table && m.setting.effort === this.effort)
      .map((m) => ({ quality: m.setting.quality, bytes: m.bytes }));
    // What another chroma has already shown about this picture moves the expectation.
    const seen = known.length ? undefined : this.made[this.made.length - 1];
    const moved = seen
      ? Math.log(Math.max(1, seen.bytes - this.picture.overhead)) - Math.log(this.picture.pixels) - priorLog(seen.setting.quality) - (seen.setting.chroma === "4:4:4" ? FULL_CHROMA : 0)
      : 0;
    return solveArm({
      goal: target,
      enough: target * NEAR,
      lowest: this.lowest,
      highest: this.highest,
      overhead: this.picture.overhead,
      expect: (quality) => priorLog(quality) + level + moved,
      encode: (quality) => this.encode({ quality, chroma }),
      budget: Math.min(7, MAX_ENCODES - this.made.length),
      known,
    });
  }

  /** Other tables and efforts have other steps: one of them may land between two neighbours of the main arm. */
  private async fillGap(target: number, chroma: Chroma, main: ArmResult): Promise<Jpeg> {
    const payload = (bytes: number) => Math.log(Math.max(1, bytes - this.picture.overhead));
    const [floor, wanted, ceiling] = [target * NEAR, target * 0.985, target].map(payload);
    const missed = () => (this.goal.min ?? 0) > this.largest(target, chroma).bytes;
    const learned = new Map(this.gapArms(chroma).map((arm) => [arm, { shift: arm.shift, tried: new Set<number>() }]));
    for (let made = 0; made < (missed() ? 8 : GAP_BUDGET) && this.made.length < MAX_ENCODES; made += 1) {
      let next: { arm: GapArm; quality: number; miss: number } | null = null;
      for (const [arm, { shift, tried }] of learned) {
        for (let quality = this.lowest; quality <= this.highest; quality += 1) {
          const guess = main.predict(quality) + shift;
          const miss = Math.abs(guess - wanted);
          // An arm that was never measured may be off by a little.
          const slack = tried.size ? 0 : 0.05;
          if (guess < floor - slack || guess > ceiling + slack || tried.has(quality) || (next && miss >= next.miss)) continue;
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
    return this.largest(target, chroma);
  }

  private gapArms(chroma: Chroma): GapArm[] {
    const arms = GAP_ARMS[chroma];
    // A picture too large for the trellis is coded without it throughout.
    return this.effort === "careful" ? arms : arms.filter((arm) => arm.effort === "careful").map((arm) => ({ ...arm, effort: "fast" as const }));
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
    return this.climbed("under", [...this.made].filter((m) => m.bytes <= max).sort((a, b) => b.bytes - a.bytes)[0]);
  }

  /** Tells only what the file that is taken really needed. */
  private climbed(outcome: "met" | "under", found: Jpeg): SearchResult<JpegSetting> {
    const told: string[] = [];
    const full = found.setting.chroma === "4:4:4" && this.made[0].setting.chroma !== "4:4:4";
    if (full) told.push("full chroma (4:4:4), because the floor is not reached without it");
    if (found.setting.effort === "plain") told.push("a less thrifty encoding, because the floor is not reached without it");
    return { outcome, found, encodes: this.made.length, told };
  }

  private async between(min: number, max: number, at: Partial<JpegSetting> & { chroma: Chroma }): Promise<Jpeg | null> {
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
      known: this.made.filter((m) => m.setting.chroma === at.chroma && m.setting.effort === (at.effort ?? this.effort)).map((m) => ({ quality: m.setting.quality, bytes: m.bytes })),
    });
    return result.under && result.under.bytes >= min ? this.find({ ...at, quality: result.under.quality }) : null;
  }

  private async encode(part: Partial<JpegSetting> & { quality: number; chroma: Chroma }): Promise<number> {
    const setting: JpegSetting = { format: "jpeg", table: this.table, effort: this.effort, ...part };
    const bytes = await this.picture.encode(setting);
    this.made.push({ setting, bytes });
    return bytes;
  }

  private find(part: Partial<JpegSetting>): Jpeg | null {
    const want = { table: this.table, effort: this.effort, ...part };
    return this.made.find((m) => (Object.keys(want) as (keyof JpegSetting)[]).every((key) => m.setting[key] === want[key])) ?? null;
  }

  private largest(target: number, chroma: Chroma): Jpeg {
    return this.made.filter((m) => m.bytes <= target && m.setting.chroma === chroma).sort((a, b) => b.bytes - a.bytes)[0];
  }

  private met(found: Jpeg): SearchResult<JpegSetting> {
    return { outcome: "met", found, encodes: this.made.length, told: [] };
  }

  private over(): SearchResult<JpegSetting> {
    const found = [...this.made].sort((a, b) => a.bytes - b.bytes)[0];
    return { outcome: "over", found, encodes: this.made.length, told: [] };
  }
}
