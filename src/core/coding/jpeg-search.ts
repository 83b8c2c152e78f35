/**
 * The search for a JPEG in a byte range, on one continuous scale of quality. Chroma is halved for photographs and
 * whole for lettering; where either may look better at the same bytes one pair of files decides.
 */
import { CLEAN } from "../difference";
import { type ArmResult, solveArm } from "./arm";
import { cleanJpeg } from "./jpeg-clean";
import { FULL_CHROMA, priorLog } from "./prior";
import { sampleCurve } from "./sample-curve";
import {
  ANNEX_K,
  type Chroma,
  type Found,
  type Goal,
  type JpegSetting,
  MAX_ENCODES,
  OWN_CODER_PIXELS,
  OWN_TABLES,
  type Picture,
  type SearchResult,
  USUAL_THRIFT,
} from "./types";

/** Below this the damage is such that a file is not offered. */
export const LOWEST_QUALITY = 10;
/** Where no size is asked, photographs without visible loss lie about here: for estimates. */
export const USUAL_QUALITY = 87;
/** A file that has to reach a floor although it is clean below it becomes at most so much larger than the floor. */
export const ABOVE_FLOOR = 1.15;
/** A file at or above this share of the ceiling fills it, and what is aimed at. */
export const FULL = 0.995;
export const AIMED = 0.9975;
/** Of quality on our own tables. */
const QUALITY_STEP = 0.05;
/**
 * On photographs halved chroma looks better below this quality: at equal bytes 45 of 49 files (bench/coder.mjs). On
 * lettering whole chroma does from the second on.
 */
const SURELY_HALVED = 94;
const SURELY_WHOLE = 98;
/** Encodes along one chroma, and with other thrifts at the quality that was found. */
const MOST_ON_ARM = 5;
const MOST_THRIFTS = 3;
/** Each step of thrift is so much less; about what a step gives in ln(bytes). */
const THRIFT_STEP = 0.85;
const THRIFT_GAIN = 0.025;
const THRIFTS = { least: -6, most: 14 };
/** A lowest quality that is over by no more may still be made to fit. */
const HARDLY_OVER = 1.12;

/** Between the qualities of a JPEG. */
export const stepOf = (table: number, pixels: number): number =>
  table === ANNEX_K || pixels > OWN_CODER_PIXELS ? 1 : QUALITY_STEP;

export interface JpegLimits {
  /** Quality clause; with it the tables of annex K are used. */
  quality: { min: number; max: number } | null;
  /** Lowest quality that is taken. */
  lowest: number;
}

type Jpeg = Found<JpegSetting>;
type Part = Partial<JpegSetting> & Pick<JpegSetting, "quality" | "chroma">;

/** Whether with this chroma, the likelier one of its picture, the other need not be tried. */
export const decides = (first: Chroma, quality: number): boolean =>
  first === "4:4:4" ? quality >= SURELY_WHOLE : quality < SURELY_HALVED;

/** One picture, one goal. */
export const searchJpeg = (
  picture: Picture,
  goal: Goal,
  limits: JpegLimits,
): Promise<SearchResult<JpegSetting>> => new JpegSearch(picture, goal, limits).run();

class JpegSearch {
  private readonly made: Jpeg[] = [];
  private readonly table: number;
  private readonly step: number;
  private readonly lowest: number;
  private readonly highest: number;

  constructor(
    private readonly picture: Picture,
    private readonly goal: Goal,
    limits: JpegLimits,
  ) {
    this.table = limits.quality ? ANNEX_K : OWN_TABLES;
    this.step = stepOf(this.table, picture.pixels);
    this.highest = limits.quality?.max ?? 100;
    this.lowest = Math.min(this.highest, Math.max(limits.lowest, limits.quality?.min ?? 1));
  }

  async run(): Promise<SearchResult<JpegSetting>> {
    const { min, max, aim } = this.goal;
    if (this.lowest === this.highest && min === null) {
      // One quality is asked: nothing is left to be searched for.
      const chroma = this.picture.flat || this.highest >= SURELY_WHOLE ? "4:4:4" : "4:2:0";
      const found = await this.encode({ quality: this.highest, chroma });
      if (found.bytes <= (max ?? Infinity)) return this.met(found);
    }
    if (aim === "clean") {
      const clean = await this.clean();
      if (clean && clean.bytes >= (min ?? 0) && clean.bytes <= (max ?? Infinity)) return this.met(clean);
      if (clean && clean.bytes < (min ?? 0)) return this.justAbove(min!, max ?? Infinity);
    }
    if (max === null) return this.withoutCeiling();
    const best = await this.towards(aim === "middle" ? Math.round(((min ?? 0) + max) / 2) : max);
    if (!best) return this.over();
    if (min !== null && best.bytes < min) return this.climb(min, max);
    return this.met(best);
  }

  /** The smallest file without visible loss, however large; null where there is none. */
  private async clean(): Promise<Jpeg | null> {
    const { picture, lowest, highest, step, table } = this;
    const { found, made } = await cleanJpeg({ picture, lowest, highest, step, table, limit: CLEAN });
    this.made.push(...made);
    return found;
  }

  /** Clean, but below the floor: not much more than the floor asks for. */
  private async justAbove(min: number, max: number): Promise<SearchResult<JpegSetting>> {
    const inside = await this.between(min, Math.min(max, min * ABOVE_FLOOR), { chroma: "4:4:4" });
    if (!inside) return this.climb(min, max);
    const told = ["a higher quality than the eye needs, because the floor is not reached without it"];
    return { ...this.met(inside), told };
  }

  /** No ceiling: the least difference that JPEG can have here; a less thrifty encoding only for a floor. */
  private async withoutCeiling(): Promise<SearchResult<JpegSetting>> {
    const found = await this.encode({ quality: this.highest, chroma: "4:4:4" });
    const { min } = this.goal;
    return min === null || found.bytes >= min ? this.met(found) : this.climb(min, Infinity);
  }

  /** Of the files that fill the target the one that differs less; null where even the coarsest is above. */
  private async towards(target: number): Promise<Jpeg | null> {
    const [first, other]: Chroma[] = this.picture.flat ? ["4:4:4", "4:2:0"] : ["4:2:0", "4:4:4"];
    const one = await this.filling(first, target);
    const decided = one !== null && decides(first, one.setting.quality);
    if (decided || this.made.length > MAX_ENCODES - 3) return one;
    const two = await this.filling(other, target);
    if (!one || !two) return one ?? two;
    return (await this.differs(two)) < (await this.differs(one)) ? two : one;
  }

  /** The largest file of a chroma at or under the target, by quality and then by thrift. */
  private async filling(chroma: Chroma, target: number): Promise<Jpeg | null> {
    const { under, over } = await this.arm({ chroma }, target, target * FULL, MOST_ON_ARM);
    if (!under) {
      const lowest = over && over.quality === this.lowest && over.bytes <= target * HARDLY_OVER;
      return lowest ? this.thrifts({ quality: over.quality, chroma }, target, over.bytes) : null;
    }
    const best = this.find({ quality: under.quality, chroma })!;
    if (best.bytes >= target * FULL) return best;
    return (await this.thrifts(best.setting, target, best.bytes)) ?? best;
  }

  /** Another thrift at the same quality: less where the file of the usual one has room, more where it is over. */
  private async thrifts(at: Part, target: number, usual: number): Promise<Jpeg | null> {
    const budget = Math.min(MOST_THRIFTS, MAX_ENCODES - this.made.length);
    const { overhead, pixels } = this.picture;
    if (pixels > OWN_CODER_PIXELS) return null;
    const setting = (n: number): Part => ({ ...at, thrift: round(USUAL_THRIFT * THRIFT_STEP ** n) });
    const from = Math.log(Math.max(1, usual - overhead));
    const curve = await sampleCurve({
      picture: this.picture,
      setting: (n) => this.setting(setting(n)),
      usual: (n) => from + n * THRIFT_GAIN,
    });
    await curve?.sharpen(0);
    const grows = usual <= target;
    const { under } = await solveArm({
      goal: target,
      enough: target * FULL,
      aimed: AIMED,
      lowest: grows ? 1 : THRIFTS.least,
      highest: grows ? THRIFTS.most : -1,
      overhead,
      expect: curve?.expect ?? ((n) => from + n * THRIFT_GAIN),
      sharpen: curve?.sharpen,
      known: [{ quality: 0, bytes: usual }],
      encode: async (n) => (await this.encode(setting(n))).bytes,
      budget,
    });
    return under && under.quality !== 0 ? this.find(setting(under.quality)) : null;
  }

  /** On the sample of a large picture: only which differs less is asked. */
  private async differs({ setting }: Jpeg): Promise<number> {
    return ((await this.picture.sample()) ?? this.picture).difference(setting);
  }

  /** Below the floor at the highest quality: full chroma, then a less thrifty encoding. */
  private async climb(min: number, max: number): Promise<SearchResult<JpegSetting>> {
    for (const step of [{}, { effort: "plain" as const }]) {
      if (this.made.length >= MAX_ENCODES) break;
      const part: Part = { quality: this.highest, chroma: "4:4:4", ...step };
      const found = this.find(part) ?? (await this.encode(part));
      if (found.bytes >= min && found.bytes <= max) return this.climbed("met", found);
      // The step jumps over the range: look for a quality inside it.
      const inside = found.bytes > max ? await this.between(min, max, part) : null;
      if (inside) return this.climbed("met", inside);
    }
    const inside = this.made.filter((m) => m.bytes >= min && m.bytes <= max).pop();
    if (inside) return this.climbed("met", inside);
    const [largest] = this.made.filter((m) => m.bytes <= max).sort((a, b) => b.bytes - a.bytes);
    return this.climbed("under", largest);
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

  private async between(min: number, max: number, at: Omit<Part, "quality">): Promise<Jpeg | null> {
    const { under } = await this.arm(at, max, Math.max(min, max * 0.9), 4);
    return under && under.bytes >= min ? this.find({ ...at, quality: under.quality }) : null;
  }

  private async arm(
    at: Omit<Part, "quality">,
    goal: number,
    enough: number,
    most: number,
  ): Promise<ArmResult> {
    const { lowest, highest, picture } = this;
    const level = Math.log(picture.pixels) + (at.chroma === "4:4:4" ? FULL_CHROMA : 0);
    const usual = (quality: number) => priorLog(quality) + level + this.seenOf(at.chroma);
    const setting = (quality: number) => this.setting({ ...at, quality });
    const curve = at.effort === "plain" ? null : await sampleCurve({ picture, setting, usual });
    return solveArm({
      goal,
      enough,
      aimed: AIMED,
      lowest,
      highest,
      // The library's whole numbers where its plain files are asked.
      step: at.effort === "plain" ? 1 : this.step,
      overhead: picture.overhead,
      expect: curve?.expect ?? usual,
      sharpen: curve?.sharpen,
      encode: async (quality) => (await this.encode({ ...at, quality })).bytes,
      budget: Math.min(most, MAX_ENCODES - this.made.length),
      known: this.made
        .filter(({ setting }) => this.isLike(setting, at))
        .map(({ setting: { quality }, bytes }) => ({ quality, bytes })),
    });
  }

  private isLike({ chroma, effort, thrift }: JpegSetting, at: Omit<Part, "quality">): boolean {
    return chroma === at.chroma && effort === (at.effort ?? "careful") && thrift === undefined;
  }

  /** What another chroma has already shown about this picture moves the expectation. */
  private seenOf(chroma: Chroma): number {
    const seen = this.made.find(({ setting }) => setting.chroma !== chroma && setting.thrift === undefined);
    if (!seen) return 0;
    const { pixels, overhead } = this.picture;
    const full = seen.setting.chroma === "4:4:4" ? FULL_CHROMA : 0;
    return Math.log(Math.max(1, seen.bytes - overhead) / pixels) - priorLog(seen.setting.quality) - full;
  }

  private setting(part: Part): JpegSetting {
    return { format: "jpeg", table: this.table, effort: "careful", ...part };
  }

  private async encode(part: Part): Promise<Jpeg> {
    const setting = this.setting(part);
    const made = { setting, bytes: await this.picture.encode(setting) };
    this.made.push(made);
    return made;
  }

  private find(part: Part): Jpeg | null {
    const { effort = "careful", quality, chroma, thrift } = part;
    return (
      this.made.find(
        ({ setting: s }) =>
          s.quality === quality && s.chroma === chroma && s.effort === effort && s.thrift === thrift,
      ) ?? null
    );
  }

  private met(found: Jpeg): SearchResult<JpegSetting> {
    return { outcome: "met", found, encodes: this.made.length, told: [] };
  }

  private over(): SearchResult<JpegSetting> {
    const [found] = [...this.made].sort((a, b) => a.bytes - b.bytes);
    return { outcome: "over", found, encodes: this.made.length, told: [] };
  }
}

const round = (thrift: number): number => Math.round(thrift * 10_000) / 10_000;
