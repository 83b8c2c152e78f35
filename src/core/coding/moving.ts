/**
 * An animation under a ceiling: fewer colours (or a lower quality) give way first, then pixels, then frames; each
 * only as far as the one before it was not enough.
 */
import type { OutputFormat } from "../brief";
import { type Geometry, pixelsOf } from "../geometry";
import { formatSize } from "../units";

export type MovingFormat = Extract<OutputFormat, "gif" | "webp">;

export interface MovingSetting {
  format: MovingFormat;
  /** GIF: colours, 2 to 256; WebP: quality, 1 to 100, or {@link NO_LOSS}. */
  level: number;
  geometry: Geometry;
  /** Every first, second … frame. */
  every: number;
}

/** Frames under each other, 8 bits a channel. */
export interface MovingPixels {
  data: Uint8Array;
  width: number;
  /** Of one frame. */
  height: number;
  channels: number;
  delays: number[];
  loop: number;
}

/** Drawings are often smaller without any loss than at a high quality. */
export const NO_LOSS = 101;

/** From what looks like the original down to what may still be looked at. */
export const LEVELS: Record<MovingFormat, readonly number[]> = {
  gif: [256, 192, 128, 96, 64, 48, 32],
  webp: [90, 84, 78, 70, 60, 50, 40],
};
/** What the coarsest level takes of the finest, at least: from there up it is worth trying. */
const COARSEST: Record<MovingFormat, number> = { gif: 0.45, webp: 0.25 };
const HOPE = 0.9;
/** Sides shrink to no less than this share before frames go. */
const LEAST_SIDE = 0.5;
const MOST_EVERY = 4;
/** A file under this share of the ceiling has room for the next level. */
const ROOMY = 0.8;
/** Bytes grow a little slower than pixels; aimed at so much of the ceiling. */
const [GROWTH, AIMED] = [0.9, 0.95];
const MOST_RESIZES = 3;

export interface MovingTask {
  format: MovingFormat;
  /** Bytes; null where nothing has to give way. */
  max: number | null;
  geometry: Geometry;
  /** The same with this share of the sides; null where the brief rules it out. */
  smaller(share: number): Geometry | null;
  frames: number;
  /** Few colours and hard edges. */
  flat: boolean;
  /** Bytes of the whole file. */
  encode(setting: MovingSetting): Promise<number>;
}

export interface MovingFound {
  setting: MovingSetting;
  bytes: number;
  /** Whether it lies under the ceiling; else it is the smallest that was made. */
  fits: boolean;
  told: string[];
  encodes: number;
}

export const searchMoving = (task: MovingTask): Promise<MovingFound> => new MovingSearch(task).run();

class MovingSearch {
  private encodes = 0;
  private least: { setting: MovingSetting; bytes: number } | null = null;
  private readonly levels: readonly number[];

  constructor(private readonly task: MovingTask) {
    const usual = LEVELS[task.format];
    this.levels = task.format === "webp" && task.flat ? [NO_LOSS, ...usual] : usual;
  }

  async run(): Promise<MovingFound> {
    const { geometry, frames } = this.task;
    const first = await this.make(0, geometry, 1);
    if (this.fits(first.bytes)) return this.found(first);
    const { max, format } = this.task;
    const hopeful = max! >= first.bytes * COARSEST[format] * HOPE;
    const coarser = hopeful ? await this.levelAt(geometry, 1, 1) : null;
    if (coarser) return this.found(coarser);
    let about = first.bytes * Math.sqrt(COARSEST[format]);
    for (let every = 1; every <= MOST_EVERY && frames > every; every += 1) {
      const fewer = await this.fewerPixels(every, about / every);
      if (fewer) return this.found(fewer);
      about = Math.min(about, this.least!.bytes * every);
    }
    return { ...this.found(this.least!), fits: false };
  }

  private fits = (bytes: number): boolean => bytes <= (this.task.max ?? Infinity);

  private async make(level: number, geometry: Geometry, every: number) {
    const setting: MovingSetting = { format: this.task.format, level: this.levels[level], geometry, every };
    this.encodes += 1;
    const made = { setting, bytes: await this.task.encode(setting) };
    if (made.bytes < (this.least?.bytes ?? Infinity)) this.least = made;
    return made;
  }

  /** The finest level that fits, from one on; null where not even the coarsest does. */
  private async levelAt(geometry: Geometry, every: number, from: number) {
    let best = await this.make(this.levels.length - 1, geometry, every);
    if (!this.fits(best.bytes)) return null;
    let [low, high] = [from, this.levels.length - 2];
    while (low <= high) {
      const middle = (low + high) >> 1;
      const made = await this.make(middle, geometry, every);
      if (this.fits(made.bytes)) {
        best = made;
        high = middle - 1;
      } else low = middle + 1;
    }
    return best;
  }

  /** At a middle level as many pixels as fit; a finer level where that leaves room. `about`: bytes of all pixels. */
  private async fewerPixels(every: number, about: number) {
    const { task } = this;
    const middle = this.levels.length >> 1;
    let [geometry, bytes] = [task.geometry, about];
    for (let n = 0; n < MOST_RESIZES; n += 1) {
      const area = ((task.max! * AIMED) / bytes) ** (1 / GROWTH);
      const share = Math.sqrt((pixelsOf(geometry) / pixelsOf(task.geometry)) * area);
      const next = share >= 1 ? task.geometry : task.smaller(Math.max(LEAST_SIDE, share));
      // The fewest pixels that may be: only coarser levels are left.
      if (!next || (n > 0 && pixelsOf(next) >= pixelsOf(geometry))) break;
      geometry = next;
      const made = await this.make(middle, geometry, every);
      bytes = made.bytes;
      if (!this.fits(bytes)) continue;
      if (bytes > task.max! * ROOMY) return made;
      const finer = await this.make(middle - 1, geometry, every);
      return this.fits(finer.bytes) ? finer : made;
    }
    return this.levelAt(geometry, every, middle);
  }

  private found({ setting, bytes }: { setting: MovingSetting; bytes: number }): MovingFound {
    return {
      setting,
      bytes,
      fits: true,
      told: toldOf(this.task, this.levels, setting),
      encodes: this.encodes,
    };
  }
}

const ORDINALS = ["", "", "second", "third", "fourth"];

/** In the order in which things gave way. */
function toldOf(
  { format, geometry }: MovingTask,
  levels: readonly number[],
  setting: MovingSetting,
): string[] {
  const told: string[] = [];
  if (setting.level < levels[0])
    told.push(
      format === "gif"
        ? `fewer colours (${setting.level}), because the ceiling leaves no room for ${LEVELS.gif[0]}`
        : `a lower quality (${setting.level}), because the ceiling leaves no room for more`,
    );
  if (pixelsOf(setting.geometry) < pixelsOf(geometry)) {
    const { width, height } = setting.geometry;
    const before = format === "gif" ? "fewer colours" : "a lower quality";
    told.push(`fewer pixels (${formatSize(width, height)}), because ${before} alone would not do`);
  }
  if (setting.every > 1)
    told.push(`only every ${ORDINALS[setting.every]} frame, because fewer pixels alone would not do`);
  return told;
}
