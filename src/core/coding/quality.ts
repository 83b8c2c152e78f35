/**
 * The search for WebP and AVIF: lossless where that fits, else the highest quality of the encoder's own
 * scale that does.
 */
import { CLEAN } from "../difference";
import { solveArm } from "./arm";
import { solveWhole } from "./clean-along";
import { webpEffort } from "./effort";
import { type Family, familiesOf } from "./family";
import { ABOVE_FLOOR } from "./jpeg-search";
import { Line } from "./line";
import { aboutLosslessWebp } from "./prior";
import {
  type AvifSetting,
  type Found,
  type Goal,
  MAX_ENCODES,
  NEAR,
  type Picture,
  payloadOf,
  type SearchResult,
  type Setting,
  settingKey,
  type WebpSetting,
} from "./types";

type QualitySetting = WebpSetting | AvifSetting;

export interface QualityLimits {
  quality: { min: number; max: number } | null;
  /** AVIF only. */
  bits: 8 | 10;
}

/** Lossless is tried where its usual size is not far above the ceiling. */
const HOPE = 1.6;
/** Another way of coding is taken where it differs by less than this share of what the usual one does. */
const BETTER = 0.985;

export const searchQuality = (
  format: QualitySetting["format"],
  picture: Picture,
  goal: Goal,
  limits: QualityLimits,
): Promise<SearchResult<QualitySetting>> => new QualitySearch(format, picture, goal, limits).run();

type Answer = SearchResult<QualitySetting>;

class QualitySearch {
  private readonly made: Found<QualitySetting>[] = [];
  private readonly families: Family[];
  /** The way in which it is coded. */
  private family: Family;
  private readonly lossless: boolean;

  constructor(
    private readonly format: QualitySetting["format"],
    private readonly picture: Picture,
    private readonly goal: Goal,
    limits: QualityLimits,
  ) {
    this.families = familiesOf(format, limits, picture.pixels, picture.flat);
    [this.family] = this.families;
    this.lossless = format === "webp" && limits.quality === null;
  }

  async run(): Promise<Answer> {
    let ceiling = this.goal.max;
    if (this.goal.aim === "clean") {
      const clean = await this.clean();
      if (clean && "outcome" in clean) return clean;
      // Clean, but below the floor: not much more than the floor asks for.
      if (clean) ceiling = Math.min(this.goal.max ?? Infinity, this.goal.min! * ABOVE_FLOOR);
    }
    return (ceiling === null ? await this.withoutCeiling() : await this.towards(ceiling)) ?? this.climb();
  }

  private setting(quality: number | null): QualitySetting {
    const { format, picture, family } = this;
    if (quality === null && format === "webp") return { format, quality, effort: webpEffort(picture.pixels) };
    return family.setting(quality ?? 100) as QualitySetting;
  }

  private encode(quality: number | null): Promise<Found<QualitySetting>> {
    return this.make(this.setting(quality));
  }

  private known(quality: number | null): Found<QualitySetting> | undefined {
    const key = settingKey(this.setting(quality));
    return this.made.find(({ setting }) => settingKey(setting) === key);
  }

  private async make(setting: QualitySetting): Promise<Found<QualitySetting>> {
    const found = { setting, bytes: await this.picture.encode(setting) };
    this.made.push(found);
    return found;
  }

  private answer(outcome: Answer["outcome"], found: Found<QualitySetting>, told: string[] = []): Answer {
    return { outcome, found, encodes: this.made.length, told };
  }

  private inside({ bytes }: Found): boolean {
    return bytes >= (this.goal.min ?? 0) && bytes <= (this.goal.max ?? Infinity);
  }

  /** The answer where a file without visible loss lies in the range; that file where it is below the floor. */
  private async clean(): Promise<Answer | Found<QualitySetting> | null> {
    const { picture, family } = this;
    const { lowest, highest, expectDifference } = family;
    const setting = (quality: number) => this.setting(quality);
    const tried = await solveWhole<QualitySetting>(picture, {
      setting,
      lowest,
      highest,
      expect: expectDifference,
    });
    this.made.push(...tried);
    const [clean] = tried.filter(({ difference }) => difference <= CLEAN).sort((a, b) => a.bytes - b.bytes);
    // Drawings and lettering are often smaller without any loss than without a visible one.
    if (this.lossless && picture.flat) {
      const whole = await this.encode(null);
      if ((!clean || whole.bytes <= clean.bytes) && this.inside(whole))
        return this.answer("met", whole, ["lossless, because that is smaller still"]);
    }
    if (clean && this.inside(clean)) return this.answer("met", clean);
    return clean && clean.bytes < (this.goal.min ?? 0) ? clean : null;
  }

  private async withoutCeiling(): Promise<Answer | null> {
    const { min } = this.goal;
    const first = await this.encode(this.lossless ? null : this.family.highest);
    if (min !== null && first.bytes < min) return null;
    return this.answer("met", first, this.lossless ? ["lossless, because no ceiling is asked"] : []);
  }

  private async towards(ceiling: number): Promise<Answer | null> {
    const { picture, goal } = this;
    const { min, max, aim } = goal;
    const hopeful = picture.flat || aboutLosslessWebp(picture.pixels) <= ceiling * HOPE;
    if (this.lossless && aim === "best" && hopeful) {
      const whole = await this.encode(null);
      if (whole.bytes <= ceiling && whole.bytes >= (min ?? 0))
        return this.answer("met", whole, ["lossless, because that fits too"]);
    }
    const target = aim === "middle" ? Math.round(((min ?? 0) + ceiling) / 2) : ceiling;
    this.family = await this.closest(target);
    const { lowest, highest, expectBytes } = this.family;
    const along = this.made
      .map(({ setting, bytes }) => ({ quality: setting.quality ?? -1, bytes }))
      .filter(({ quality, bytes }) => quality > 0 && this.known(quality)?.bytes === bytes);
    const { under, points } = await solveArm({
      goal: target,
      enough: Math.max(min ?? 0, target * NEAR),
      lowest,
      highest,
      overhead: picture.overhead,
      expect: (quality) => expectBytes(quality) + Math.log(picture.pixels),
      encode: async (quality) => (await this.encode(quality)).bytes,
      budget: Math.max(2, MAX_ENCODES - this.made.length - 3),
      known: along,
    });
    if (!under && ceiling === max) {
      const least = points.length ? Math.min(...points.map((p) => p.quality)) : lowest;
      const bytes = Math.min(...points.map((p) => p.bytes));
      return this.answer("over", { setting: this.setting(least), bytes });
    }
    const found = under && { setting: this.setting(under.quality), bytes: under.bytes };
    return found && (min === null || found.bytes >= min) ? this.answer("met", found) : null;
  }

  /** The way of coding that is foretold to differ least at so many bytes, by a sample or by a small picture itself. */
  private async closest(target: number): Promise<Family> {
    const { picture, format, families } = this;
    const [first, ...others] = families;
    if (!others.length) return first;
    const encode = async (setting: Setting) => (await this.make(setting as QualitySetting)).bytes;
    const sample = (await picture.sample()) ?? { ...picture, encode };
    const payload = (payloadOf(target, picture.overhead, format) * sample.pixels) / picture.pixels;
    const usual = new Line(first, sample);
    await usual.towards(payload);
    if (first.decides(usual.within(payload).quality)) return first;
    let [best, least] = [first, usual.differenceFor(payload) * BETTER];
    for (const family of others) {
      const line = new Line(family, sample);
      await line.towards(payload);
      const differs = line.differenceFor(payload);
      if (differs < least) [best, least] = [family, differs];
    }
    return best;
  }

  /** Below the floor: the highest quality, then lossless. */
  private async climb(): Promise<Answer> {
    const { min, max } = this.goal;
    const told = ["the highest quality, because the floor is not reached without it"];
    const { highest } = this.family;
    const top = this.known(highest) ?? (await this.encode(highest));
    if (this.inside(top)) return this.answer("met", top, told);
    if (this.lossless && top.bytes < min!) {
      const whole = this.known(null) ?? (await this.encode(null));
      if (this.inside(whole))
        return this.answer("met", whole, ["lossless, because the floor is not reached without it"]);
    }
    const [largest] = this.made.filter((m) => m.bytes <= (max ?? Infinity)).sort((a, b) => b.bytes - a.bytes);
    return this.answer("under", largest ?? top, told);
  }
}
