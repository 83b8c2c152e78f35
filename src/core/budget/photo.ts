/**
 * What is known of one photo of a whole: what it takes at which visible difference, measured here and there
 * and followed in between.
 */
import type { OutputFormat } from "../brief";
import type { Setting, Weighed } from "../coding";
import { predictLog } from "../coding";
import type { Geometry } from "../geometry";
import type { Size } from "../photo";
import { type ArmSetting, type ArmSpec, armOf } from "./arm";
import type { Ideal } from "./fewer";

/**
 * A file that is there without coding the photo more coarsely: its own data as they are, or a format without
 * loss.
 */
export interface WholeFile {
  bytes: number;
  /** Null where the photo's own data stay. */
  setting: Setting | null;
  /** Above 0 only where pixels were given up. */
  difference: number;
}

export interface SharedPhoto {
  id: string;
  arm: ArmSpec | null;
  /** Trials along the arm. */
  points: Weighed<ArmSetting>[];
  /** Trials of a sample of a large picture: they give the shape of its curves, not their height. */
  shape: Weighed<ArmSetting>[];
  whole: WholeFile | null;
  /** Bytes a pixel of the photo as it came, where those tell how busy it is; null where it came without loss. */
  density?: number | null;
  /** Bytes of its file as if it were alone, where that was made. */
  alone?: number;
  /** What the brief asks of this file alone, in bytes. */
  min: number | null;
  max: number | null;
}

/** What is known of one photo at one number of pixels; it can be stored. */
export interface Traced extends Omit<SharedPhoto, "id" | "alone"> {
  /** Common long side of all photos, in px; null for as many pixels as the brief allows. */
  side: number | null;
  geometry: Geometry;
  /** Pixels of the largest output that the brief allows. */
  full: Size;
  format: OutputFormat;
  /** Whether the brief lets this photo have fewer pixels. */
  free: boolean;
  /** What its sample foretells of pixels, where that was asked. */
  ideal?: Ideal;
  /**
   * Of a picture that is too large to be looked at as a whole each time: what is seen of it, over what is
   * seen of its sample.
   */
  seen: number | null;
}

/** One way to make the file. */
export interface Pick {
  id: string;
  /** Null: its own data, or a format without loss. */
  quality: number | null;
  setting: Setting | null;
  bytes: number;
  difference: number;
  /** Really made, not foretold. */
  measured: boolean;
}

/** So many trials are enough for a photo: afterwards only those that were made are chosen from. */
export const ENOUGH_POINTS = 5;

/** From this share of a wanted difference on, a photo is as coarse as it may be. */
const NEAR_LEVEL = 0.93;

const tiny = (difference: number) => Math.log(Math.max(1e-4, difference));

export class Curve {
  private readonly picks = new Map<number, Pick>();
  readonly lowest: number;
  readonly highest: number;

  constructor(readonly photo: SharedPhoto) {
    this.lowest = photo.arm?.lowest ?? 0;
    this.highest = photo.arm?.highest ?? 0;
  }

  /** The pick at a quality of the arm: measured where it was made. */
  at(quality: number): Pick {
    const known = this.picks.get(quality);
    if (known) return known;
    const { arm: spec, points, shape, id } = this.photo;
    const made = points.find((point) => point.setting.quality === quality);
    const arm = armOf(spec!);
    const along = (expect: (q: number) => number, log: (point: Weighed<ArmSetting>) => number) => {
      const at = (list: Weighed<ArmSetting>[]) =>
        list.map((point) => ({ quality: point.setting.quality!, log: log(point) }));
      const shaped = shape.length ? (q: number) => predictLog(expect, at(shape), q) : expect;
      return Math.exp(predictLog(shaped, at(points), quality));
    };
    const pick: Pick = made
      ? { id, quality, setting: made.setting, bytes: made.bytes, difference: made.difference, measured: true }
      : {
          id,
          quality,
          setting: arm.setting(quality),
          measured: false,
          bytes: Math.round(along(arm.expectBytes, (point) => Math.log(point.bytes))),
          difference: along(arm.expectDifference, (point) => tiny(point.difference)),
        };
    this.picks.set(quality, pick);
    return pick;
  }

  /** Qualities that may be chosen, from the lowest up. */
  private qualities(): number[] {
    const { points } = this.photo;
    if (points.length >= ENOUGH_POINTS)
      return points.map((point) => point.setting.quality!).sort((a, b) => a - b);
    return Array.from({ length: this.highest - this.lowest + 1 }, (_, i) => this.lowest + i);
  }

  private allowed(pick: Pick): boolean {
    return pick.bytes <= (this.photo.max ?? Infinity) && pick.bytes >= (this.photo.min ?? 0);
  }

  /** The file that needs no coarser coding; null where there is none. */
  ready(): Pick | null {
    const { whole, id } = this.photo;
    return (
      whole && {
        id,
        quality: null,
        setting: whole.setting,
        bytes: whole.bytes,
        difference: whole.difference,
        measured: true,
      }
    );
  }

  /**
   * The smallest file within a visible difference; where there is none, the nearest to it that the brief
   * allows. `exactly`: not one that is merely near enough.
   */
  within(level: number, exactly = false): Pick {
    const { arm } = this.photo;
    const ready = this.ready();
    if (!arm) return ready!;
    const list = this.qualities();
    const inRange = list.filter((q) => this.allowed(this.at(q)));
    const usable = inRange.length ? inRange : list;
    // A trial that was made and is hardly finer than it could be is taken as it is.
    const made = exactly
      ? undefined
      : usable.find(
          (q) =>
            this.at(q).measured &&
            this.at(q).difference <= level &&
            this.at(q).difference >= level * NEAR_LEVEL,
        );
    const quality =
      made ?? this.smallest(usable.filter((q) => this.at(q).difference <= level)) ?? this.nearest(usable);
    const coarse = this.at(quality);
    const takes =
      ready && ready.bytes <= coarse.bytes && (ready.difference <= level || coarse.difference > level);
    return takes ? ready : coarse;
  }

  /** A higher quality may come out smaller, or look worse: tables have steps of their own. */
  private smallest(qualities: readonly number[]): number | undefined {
    return qualities.reduce<number | undefined>(
      (best, q) => (best === undefined || this.at(q).bytes < this.at(best).bytes ? q : best),
      undefined,
    );
  }

  private nearest(qualities: readonly number[]): number {
    return qualities.reduce((best, q) => (this.at(q).difference < this.at(best).difference ? q : best));
  }

  /** The next quality that looks better than a pick; null where there is none that the brief allows. */
  finer(pick: Pick): Pick | null {
    if (pick.quality === null) return null;
    const next = this.qualities().find(
      (q) => q > pick.quality! && this.at(q).difference < pick.difference && this.at(q).bytes > pick.bytes,
    );
    if (next === undefined) return null;
    const finer = this.at(next);
    return this.allowed(finer) ? finer : null;
  }
}

/** The quality of a photo at which a difference is expected. */
export const qualityFor = (photo: SharedPhoto, level: number): number =>
  new Curve({ ...photo, whole: null, min: null, max: null }).within(level).quality!;
