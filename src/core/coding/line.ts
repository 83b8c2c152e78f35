/** One family on a sample: what was measured of it, and what that foretells for every quality. */
import { type At, predictLog } from "./along";
import { highestWithin } from "./arm";
import type { Family } from "./family";
import { type Picture, payloadOf } from "./types";

/** Foretold, or measured where that quality was made. */
export interface Foretold {
  quality: number;
  /** Of the picture's data alone, on the sample. */
  payload: number;
  difference: number;
}

/** A payload this near to the asked one foretells it well enough. */
const NEAR_LOG = 0.08;

/** What is foretold to take this share of the room fits. */
const SURELY = 0.96;

/** In hundredths, so that a quality is the same number however it was reached. */
const quality = (value: number): number => Math.round(value * 100) / 100;

export class Line {
  private readonly sizes: At[] = [];
  private readonly seen: At[] = [];
  private readonly making = new Map<number, Promise<void>>();

  constructor(
    readonly family: Family,
    readonly picture: Picture,
  ) {}

  at(quality: number): Foretold {
    const { expectBytes, expectDifference } = this.family;
    const size = Math.log(this.picture.pixels);
    const payload = Math.exp(predictLog((q) => expectBytes(q) + size, this.sizes, quality));
    return { quality, payload, difference: Math.exp(predictLog(expectDifference, this.seen, quality)) };
  }

  /** The finest quality that is foretold within a payload; the lowest where none is. */
  within(payload: number): Foretold {
    return this.at(highestWithin(this.range, (quality) => this.at(quality).payload <= payload));
  }

  /** The coarsest quality that is foretold within a difference; the highest where none is. */
  seenWithin(difference: number): Foretold {
    const { lowest, highest, step } = this.family;
    const beyond = (quality: number) => this.at(quality).difference > difference;
    if (!beyond(lowest)) return this.at(lowest);
    return this.at(Math.min(highest, quality(highestWithin(this.range, beyond) + step)));
  }

  private get range() {
    const { lowest, highest, step } = this.family;
    return { from: lowest, to: highest, step };
  }

  /** Measures until a payload is foretold well, in at most `most` trials. */
  async towards(payload: number, most = 2): Promise<void> {
    const wanted = Math.log(payload);
    for (let n = 0; n < most && !this.sizes.some(({ log }) => Math.abs(log - wanted) < NEAR_LOG); n += 1) {
      const guess = this.within(payload);
      if (this.making.has(guess.quality)) return;
      await this.measure(guess.quality);
    }
  }

  /**
   * First guesses for a payload and for a difference, made side by side; then on towards the payload. The order
   * in which they end changes nothing.
   */
  async around(payload: number, difference: number): Promise<void> {
    const guesses = new Set([this.within(payload).quality, this.seenWithin(difference).quality]);
    await Promise.all([...guesses].map((quality) => this.measure(quality)));
    await this.towards(payload);
  }

  /**
   * The difference at exactly so many bytes, as if quality had no steps; infinite where even the lowest
   * quality hardly fits.
   */
  differenceFor(payload: number): number {
    const under = this.within(payload);
    if (under.quality === this.family.lowest && under.payload > payload * SURELY) return Infinity;
    if (under.quality >= this.family.highest) return under.difference;
    const over = this.at(quality(under.quality + this.family.step));
    const span = Math.log(over.payload / under.payload);
    const share = span > 0 ? Math.min(1, Math.max(0, Math.log(payload / under.payload) / span)) : 0;
    return Math.exp(
      Math.log(under.difference) + share * (Math.log(over.difference) - Math.log(under.difference)),
    );
  }

  measure(quality: number): Promise<void> {
    const known = this.making.get(quality) ?? this.make(quality);
    this.making.set(quality, known);
    return known;
  }

  private async make(quality: number): Promise<void> {
    const { picture, family } = this;
    const setting = family.setting(quality);
    const bytes = await picture.encode(setting);
    const difference = await picture.difference(setting);
    this.sizes.push({ quality, log: Math.log(payloadOf(bytes, picture.overhead, setting.format)) });
    this.seen.push({ quality, log: Math.log(Math.max(1e-4, difference)) });
  }
}
