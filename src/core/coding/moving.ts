/**
 * An animation under a ceiling: fewer colours (or a lower quality) give way first, then pixels, then frames; each
 * only as far as the one before it was not enough.
 */
import type { OutputFormat } from "../brief";
import { type Geometry, pixelsOf } from "../geometry";
import { formatSize } from "../units";
import { type At, predictLog } from "./along";
import { avifPriorLog, webpPriorLog } from "./prior";

export type MovingFormat = Extract<OutputFormat, "gif" | "webp" | "avif">;

export interface MovingSetting {
  format: MovingFormat;
  /** GIF: colours, 2 to 256; WebP and AVIF: quality, 1 to 100, or {@link NO_LOSS} (WebP). */
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
  avif: [80, 72, 65, 57, 49, 41, 33],
};
/** What the coarsest level takes of the finest, at least: from there up it is worth trying. */
const COARSEST: Record<MovingFormat, number> = { gif: 0.45, webp: 0.25, avif: 0.2 };
const HOPE = 0.9;
/** Sides shrink to no less than this share before frames go. */
const LEAST_SIDE = 0.5;
const MOST_EVERY = 4;
/** A file under this share of the ceiling has room for the next level. */
const ROOMY = 0.8;
/** Bytes grow a little slower than pixels; aimed at so much of the ceiling. */
const [GROWTH, AIMED] = [0.9, 0.95];
const MOST_RESIZES = 3;
/** How bytes usually grow with the level, as logarithms; a bit more of colours: six photographs. */
const EXPECT: Record<MovingFormat, (level: number) => number> = {
  gif: (colours) => 0.23 * Math.log2(colours),
  webp: webpPriorLog,
  avif: avifPriorLog,
};
const AIMED_LEVEL = 0.975;
/** Levels tried between one that fits and one that does not; a file above this share of the ceiling is full enough. */
const [MOST_LEVELS, FULL] = [3, 0.93];

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

interface Made {
  setting: MovingSetting;
  bytes: number;
}

const measured = ({ setting, bytes }: Made): At => ({ quality: setting.level, log: Math.log(bytes) });

class MovingSearch {
  private encodes = 0;
  private least: Made | null = null;
  private readonly levels: readonly number[];

  constructor(private readonly task: MovingTask) {
    const usual = LEVELS[task.format];
    this.levels = task.format === "webp" && task.flat ? [NO_LOSS, ...usual] : usual;
  }

  async run(): Promise<MovingFound> {
    const { geometry, frames } = this.task;
    const first = await this.make(this.levels[0], geometry, 1);
    if (this.fits(first.bytes)) return this.found(first);
    const { max, format } = this.task;
    const hopeful = max! >= first.bytes * COARSEST[format] * HOPE;
    const coarser = hopeful ? await this.levelBelow(first) : null;
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

  private async make(level: number, geometry: Geometry, every: number): Promise<Made> {
    const setting: MovingSetting = { format: this.task.format, level, geometry, every };
    this.encodes += 1;
    const made = { setting, bytes: await this.task.encode(setting) };
    if (made.bytes < (this.least?.bytes ?? Infinity)) this.least = made;
    return made;
  }

  /** A level that nearly fills the ceiling, coarser than one that went above it; null where not even the coarsest fits. */
  private async levelBelow(above: Made): Promise<Made | null> {
    const { geometry, every } = above.setting;
    let under = await this.make(this.levels.at(-1)!, geometry, every);
    if (!this.fits(under.bytes)) return null;
    let over = above;
    const points = [over, under].map(measured);
    for (let n = 0; n < MOST_LEVELS && under.bytes < this.task.max! * FULL; n += 1) {
      const level = this.finestWithin(under.setting.level, over.setting.level, points);
      if (level === null) break;
      const made = await this.make(level, geometry, every);
      points.push(measured(made));
      if (this.fits(made.bytes)) under = made;
      else over = made;
    }
    return under;
  }

  /** Between two levels the finest that is foretold to fit; null where none is. */
  private finestWithin(from: number, to: number, points: readonly At[]): number | null {
    const { format, max } = this.task;
    const wanted = Math.log(max! * AIMED_LEVEL);
    const usable = points.filter(({ quality }) => quality !== NO_LOSS);
    for (let level = Math.min(to, LEVELS[format][0] + 1) - 1; level > from; level -= 1)
      if (predictLog(EXPECT[format], usable, level) <= wanted) return level;
    return null;
  }

  /** At a middle level as many pixels as fit; a finer level where that leaves room. `about`: bytes of all pixels. */
  private async fewerPixels(every: number, about: number) {
    const { task } = this;
    const at = this.levels.length >> 1;
    const [finer, middle] = [this.levels[at - 1], this.levels[at]];
    let [geometry, bytes] = [task.geometry, about];
    let above: Made | null = null;
    for (let n = 0; n < MOST_RESIZES; n += 1) {
      const area = ((task.max! * AIMED) / bytes) ** (1 / GROWTH);
      const share = Math.sqrt((pixelsOf(geometry) / pixelsOf(task.geometry)) * area);
      const next = share >= 1 ? task.geometry : task.smaller(Math.max(LEAST_SIDE, share));
      if (!next || (n > 0 && pixelsOf(next) >= pixelsOf(geometry))) break;
      geometry = next;
      const made = await this.make(middle, geometry, every);
      bytes = made.bytes;
      if (!this.fits(bytes)) {
        above = made;
        continue;
      }
      if (bytes > task.max! * ROOMY) return made;
      const better = await this.make(finer, geometry, every);
      return this.fits(better.bytes) ? better : made;
    }
    // Pixels cannot be fewer: only coarser levels are left.
    return this.levelBelow(above ?? (await this.make(middle, geometry, every)));
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
