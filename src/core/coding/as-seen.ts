/**
 * Pixels and quality chosen together where a ceiling binds and the brief leaves pixels free: all pixels where
 * the file is clean at its own 100 %; else as many as stay clean, down to the view size; else the pair that
 * differs least as the picture is looked at.
 */
import type { OutputFormat } from "../brief";
import { CLEAN } from "../difference";
import { type Geometry, pixelsOf, resized, type Viewing, viewGeometry } from "../geometry";
import { bestShare, foretell, usualShare, type Views } from "./best-share";
import { familiesOf, type LossyFormat } from "./family";
import { Line } from "./line";
import { asPages, search } from "./one-format";
import { SURELY_SEEN, surelyClean } from "./sampled";
import { settle } from "./settle";
import { type FitTask, type Found, type Goal, type Picture, payloadOf, type Setting } from "./types";

/** A file whose pixels were chosen together with its quality. */
export interface AsSeen {
  found: Found;
  geometry: Geometry;
  /**
   * As it is looked at: at the view size, or at its own 100 % where it has more pixels and is clean there; null
   * where a sample has left no doubt that it is clean.
   */
  difference: number | null;
  encodes: number;
  /** Bytes that it is filled up to; null where it lies in the range. */
  padTo: number | null;
  /** What had to be done beyond choosing pixels and quality. */
  told: string[];
  /** About the bytes from which on all pixels stay clean; null where they do. */
  cleanFrom: number | null;
}

/** Bytes a pixel from which on a photograph is likely clean, and under which it never is. */
const LIKELY: Record<LossyFormat, number> = { jpeg: 0.3, webp: 0.25, avif: 0.18, gif: 0.9, png: 0.8 };
/** Bytes a pixel under which no GIF of a photograph has all its colours. */
const LEAST_GIF = 0.15;
/** Of what is likely clean, so little that no photograph is. */
const HOPELESS = 0.2;
/** Foretold so far above clean, a picture may turn out clean after all. */
const MAYBE = 1.12;
/** Tries between all pixels and those of the view. */
const BETWEEN = 2;
/** A clean file of less than this share of the ceiling may have more pixels. */
const ROOMY = 0.8;
/** In a range this narrow no two steps of quality may lie: the rest is filled up. */
const HARDLY_UNDER = 0.9;
/** Bytes grow a little slower than pixels. */
export const GROWTH = 0.85;
/** Under this share of the pixels fewer of them are another step. */
const STEP = 0.92;

/** Nothing that its format can do would be closer to the photo: no ceiling forces what is seen. */
export const holdsNoMore = (setting: Setting): boolean => setting.format === "gif" && setting.colours === 256;

export const lossyOf = (format: OutputFormat): LossyFormat | null =>
  format === "pdf" ? "jpeg" : format === "tiff" || format === "bmp" ? null : format;

/** Whether the brief leaves pixels free, and the format something to choose. */
export function choosesPixels({ brief, photo, frame, geometry }: FitTask, format: OutputFormat): boolean {
  if (!lossyOf(format) || brief.fileSize.max === null || !brief.stated.has("fileSize")) return false;
  return resized({ brief, photo, frame }, geometry, 0.9) !== geometry;
}

/**
 * About the pixels that will be kept, before anything is encoded: those of the view where all of them are hopeless
 * under the ceiling.
 */
export function aboutGeometry(viewing: Viewing, full: Geometry, format: OutputFormat): Geometry {
  const { brief } = viewing;
  const lossy = lossyOf(format);
  const { max } = brief.fileSize;
  if (!lossy || max === null || !brief.stated.has("fileSize")) return full;
  return max / pixelsOf(full) < LIKELY[lossy] * HOPELESS ? viewGeometry(viewing, full) : full;
}

/**
 * Pixels from which a usual search goes on where no file lies in the range: what gives way then is decided
 * elsewhere.
 */
export interface Begun {
  found: null;
  geometry: Geometry;
  encodes: number;
}

export const fitAsSeen = (task: FitTask, format: OutputFormat, goal: Goal): Promise<AsSeen | Begun> =>
  new Choosing(task, format, goal).run();

class Choosing {
  private encodes = 0;
  private readonly target: number;
  private readonly lossy: LossyFormat;

  constructor(
    private readonly task: FitTask,
    private readonly format: OutputFormat,
    private readonly goal: Goal,
  ) {
    const { min, max, aim } = goal;
    this.target = aim === "middle" ? Math.round(((min ?? 0) + max!) / 2) : max!;
    this.lossy = lossyOf(format)!;
  }

  async run(): Promise<AsSeen | Begun> {
    const { geometry: full, view } = this.task;
    // All that GIF can hold may be far from clean: whether it fits decides.
    const least = this.lossy === "gif" ? LEAST_GIF : LIKELY[this.lossy];
    const likely = this.target / pixelsOf(full) >= least;
    if (likely) {
      const whole = await this.cleanAt(full);
      if (whole) return whole;
    }
    const views: Views = {
      ...this.task,
      lossy: this.lossy,
      target: this.target,
      view: await this.pictureAt(view),
      lines: new Map(),
    };
    const { difference, cleanFrom } = await foretell(views);
    if (difference <= CLEAN * MAYBE) {
      const clean = await this.cleanUpTo(likely && view === full ? null : full, cleanFrom, views);
      if (clean) return clean;
    }
    return this.below(views, this.about(cleanFrom));
  }

  /** As many pixels as stay clean; `clean`: about the bytes that those of the view take. */
  private async cleanUpTo(full: Geometry | null, clean: number, views: Views): Promise<AsSeen | null> {
    const { task, target } = this;
    if (!full) return null;
    const most = pixelsOf(full);
    const fixed = target - payloadOf(target, views.view.overhead, this.lossy);
    const growth = (bytes: number) => ((target - fixed) / Math.max(1, bytes - fixed)) ** (1 / GROWTH);
    let share = growth(clean) * (pixelsOf(task.view) / most);
    let best: AsSeen | null = null;
    for (let n = 0; n < BETWEEN; n += 1) {
      const geometry: Geometry = share >= STEP ? full : resized(task, full, Math.sqrt(share));
      if (pixelsOf(geometry) <= pixelsOf(best?.geometry ?? task.view)) break;
      const found = await this.cleanAt(geometry);
      if (found) best = { ...found, cleanFrom: geometry === full ? null : this.about(clean) };
      if (found && (geometry === full || found.found.bytes > target * ROOMY)) break;
      share = found ? (pixelsOf(geometry) / most) * growth(found.found.bytes) : Math.min(share, 1) * 0.7;
    }
    if (best) return best;
    const found = await this.cleanAt(task.view);
    return found && { ...found, cleanFrom: task.view === full ? null : this.about(clean) };
  }

  /** About the bytes at which all pixels are clean. */
  private about(clean: number): number | null {
    if (clean === Infinity) return null;
    const { geometry, view } = this.task;
    return Math.round(clean * (pixelsOf(geometry) / pixelsOf(view)) ** GROWTH);
  }

  /** The file that the usual search finds at these pixels, if it lies in the range and is clean at 100 %. */
  private async cleanAt(geometry: Geometry): Promise<AsSeen | null> {
    const { task, format, goal } = this;
    const picture = await task.picture(geometry, format);
    if (await this.surelySeen(picture)) return null;
    const result = await search({ picture, format, goal, brief: task.brief, free: true, last: false });
    this.encodes += result.encodes;
    if (result.outcome !== "met") return null;
    const { found, told } = result;
    const difference = (await surelyClean(picture, found.setting))
      ? null
      : await picture.difference(found.setting);
    if (difference !== null && difference > CLEAN && !holdsNoMore(found.setting)) return null;
    return { found, geometry, difference, encodes: this.encodes, padTo: null, told, cleanFrom: null };
  }

  /** Whether the sample of a large picture says that no file of the target's bytes is clean, before one is made. */
  private async surelySeen(picture: Picture): Promise<boolean> {
    const { task, format, lossy, target } = this;
    const sample = await (format === "pdf" ? asPages(picture) : picture).sample();
    if (!sample) return false;
    const [family] = familiesOf(lossy, task.brief, picture.pixels, picture.flat);
    const line = new Line(family, sample);
    const payload = (payloadOf(target, picture.overhead, lossy) * sample.pixels) / picture.pixels;
    await line.towards(payload);
    return line.differenceFor(payload) > SURELY_SEEN;
  }

  /** At the view size and below: what differs least there. */
  private async below(views: Views, cleanFrom: number | null): Promise<AsSeen | Begun> {
    const { task, format, goal } = this;
    const { view } = task;
    const share = (await bestShare(views))?.share ?? usualShare(views);
    const geometry = share === 1 ? view : resized(task, view, share);
    const picture = await this.pictureAt(geometry);
    const settled = await settle({ ...views, picture, share, goal });
    this.encodes += settled.encodes;
    const padTo = settled.found ? null : this.padded(settled.under);
    const found = settled.found ?? (padTo === null ? null : settled.under);
    if (!found) return { found: null, geometry, encodes: this.encodes };
    const difference = await picture.difference(found.setting);
    const setting = format === "pdf" ? { ...found.setting, format: "pdf" as const } : found.setting;
    return {
      found: { ...found, setting } as Found,
      geometry,
      difference,
      encodes: this.encodes,
      padTo,
      told: [],
      cleanFrom: difference <= CLEAN && pixelsOf(view) === pixelsOf(task.geometry) ? null : cleanFrom,
    };
  }

  /** The floor, where a file lies so little under it that other pixels would only harm. */
  private padded(under: Found | null): number | null {
    const { min } = this.goal;
    const may = under && min !== null && this.task.brief.padding === "allow";
    return may && under.bytes >= min * HARDLY_UNDER ? min : null;
  }

  private async pictureAt(geometry: Geometry): Promise<Picture> {
    const picture = await this.task.picture(geometry, this.format);
    return this.format === "pdf" ? asPages(picture) : picture;
  }
}
