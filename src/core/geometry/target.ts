/**
 * What a brief leaves for the output of one photo: bounds for both sides, a shape, and the clauses that
 * have to give way. Demands come before wishes, then the order of brief version 1: exact pixels, ranges,
 * sizes, box, shape, scale, paper, resolution.
 */
import { type ClauseKey, PIXEL_CLAUSES, type PixelClause, type ResolvedBrief } from "../brief";
import type { Size } from "../photo";
import { formatPpi, formatSize } from "../units";

/** In whole pixels, inclusive. */
export interface Bounds {
  min: number;
  max: number;
}

export interface Lost {
  clause: ClauseKey;
  /** One plain sentence. */
  why: string;
}

export interface Target {
  width: Bounds;
  height: Bounds;
  /** Width over height; null where the shape is free. */
  ratio: number | null;
  lost: Lost[];
  /** Inches, turned with the picture; null where no paper is asked. A side that is not asked is null. */
  paper: { width: number | null; height: number | null } | null;
}

const FREE: Bounds = { min: 1, max: Infinity };

/** Whether two whole sides have a shape to within half a pixel of one of them. */
export function hasShape(width: number, height: number, ratio: number): boolean {
  return Math.abs(width - height * ratio) <= 0.5 + 1e-9 || Math.abs(height - width / ratio) <= 0.5 + 1e-9;
}

/** Whether bounds hold a pair of sides of this shape. */
function holdsShape(width: Bounds, height: Bounds, ratio: number): boolean {
  const low = Math.max(width.min, (height.min - 0.5) * ratio);
  const high = Math.min(width.max, (height.max + 0.5) * ratio);
  if (high - low >= 1) return true;
  for (let w = Math.max(1, Math.ceil(low - 1)); w <= Math.min(high + 1, low + 4); w += 1) {
    if (w < width.min || w > width.max) continue;
    for (const h of [Math.floor(w / ratio), Math.ceil(w / ratio)])
      if (h >= Math.max(1, height.min) && h <= height.max && hasShape(w, h, ratio)) return true;
  }
  return false;
}

/** `skip` names clauses to leave out: wishes that yield to a file size. */
export function targetFor(
  brief: ResolvedBrief,
  photo: Size,
  skip: ReadonlySet<ClauseKey> = new Set(),
): Target {
  return new Aiming(brief, photo, skip).run();
}

class Aiming {
  private readonly target: Target = {
    width: { ...FREE },
    height: { ...FREE },
    ratio: null,
    lost: [],
    paper: null,
  };
  private readonly upright: boolean;

  constructor(
    private readonly brief: ResolvedBrief,
    private readonly photo: Size,
    private readonly skip: ReadonlySet<ClauseKey>,
  ) {
    this.upright = this.isUpright();
    this.target.paper = this.paper();
  }

  run(): Target {
    for (const wished of [false, true]) this.round(wished);
    return this.target;
  }

  /** Which way up the output stands, as far as the brief says; else as the photo. */
  private isUpright(): boolean {
    const { pixels, sizes, shape, paper } = this.brief;
    if (pixels.width?.exact != null && pixels.height?.exact != null)
      return pixels.height.exact > pixels.width.exact;
    if (sizes && !this.skip.has("sizes")) return this.size().height > this.size().width;
    if (shape !== null && shape !== 1) return shape < 1;
    // A portrait stands as its paper is stated, however its photo lies.
    if (this.brief.head) return (paper?.height ?? Infinity) >= (paper?.width ?? 0);
    return this.photo.height > this.photo.width;
  }

  private taken(clause: ClauseKey, wished: boolean): boolean {
    return this.brief.wishes.has(clause) === wished && !this.skip.has(clause);
  }

  private round(wished: boolean): void {
    const { brief, target } = this;
    for (const exact of [true, false]) {
      for (const key of PIXEL_CLAUSES) {
        const range = brief.pixels[key];
        if (range && (range.exact !== null) === exact && this.taken(key, wished))
          this.side(key, range.exact ?? range.min, range.exact ?? range.max);
      }
    }
    if (brief.sizes && this.taken("sizes", wished)) {
      const { width, height } = this.size();
      this.narrow(
        "sizes",
        { min: width, max: width },
        { min: height, max: height },
        `${formatSize(width, height)} px`,
      );
    }
    if (brief.box && this.taken("box", wished)) {
      const [long, short] = [
        Math.max(brief.box.width, brief.box.height),
        Math.min(brief.box.width, brief.box.height),
      ];
      this.narrow(
        "box",
        { min: 1, max: this.upright ? short : long },
        { min: 1, max: this.upright ? long : short },
        `a box of ${formatSize(brief.box.width, brief.box.height)} px`,
      );
    }
    if (brief.shape !== null && this.taken("shape", wished)) this.form("shape", brief.shape);
    if (brief.scale !== null && this.taken("scale", wished)) {
      const { width, height } = naturalSize(this.photo, target.ratio, brief);
      const [w, h] = [width, height].map((px) => Math.max(1, Math.round(px * brief.scale!)));
      this.narrow("scale", { min: w, max: w }, { min: h, max: h }, `${formatSize(w, h)} px`);
    }
    if (target.paper && this.taken("paper", wished)) {
      const { width, height } = target.paper;
      // On a page the picture lies as it is, with paper around it, unless it has to be as dense as asked on
      // all of it.
      const onPage = this.brief.formats?.every((format) => format === "pdf") && !brief.resolution;
      if (width !== null && height !== null && !onPage) this.form("paper", width / height);
      if (brief.resolution && this.taken("resolution", brief.wishes.has("resolution"))) this.density();
    }
  }

  /** Of several sizes the one that the photo has already, else the first. */
  private size(): Size {
    const { sizes } = this.brief;
    return sizes!.find((s) => s.width === this.photo.width && s.height === this.photo.height) ?? sizes![0];
  }

  private side(key: PixelClause, min: number | null, max: number | null): void {
    const low = min ?? 1;
    const high = max ?? Infinity;
    const words =
      min === max
        ? `${low} px`
        : min === null
          ? `at most ${high} px`
          : max === null
            ? `at least ${low} px`
            : `${low} to ${high} px`;
    const bounds = { min: low, max: high };
    if (key === "width") this.narrow(key, bounds, FREE, words);
    else if (key === "height") this.narrow(key, FREE, bounds, words);
    else {
      // The long side's ceiling and the short side's floor hold for both sides.
      const other = key === "longSide" ? { min: 1, max: high } : { min: low, max: Infinity };
      const onWidth = (key === "longSide") !== this.upright;
      this.narrow(key, onWidth ? bounds : other, onWidth ? other : bounds, words);
    }
  }

  /** Takes narrower bounds, unless nothing would be left: then the clause gives way. */
  private narrow(clause: ClauseKey, width: Bounds, height: Bounds, words: string): boolean {
    const { target } = this;
    const w = { min: Math.max(target.width.min, width.min), max: Math.min(target.width.max, width.max) };
    const h = { min: Math.max(target.height.min, height.min), max: Math.min(target.height.max, height.max) };
    const empty =
      w.min > w.max || h.min > h.max || (target.ratio !== null && !holdsShape(w, h, target.ratio));
    if (empty) return this.lose(clause, `${words} cannot hold beside what comes before it`);
    target.width = w;
    target.height = h;
    return true;
  }

  private form(clause: ClauseKey, ratio: number): boolean {
    const { target } = this;
    const clash =
      target.ratio !== null
        ? Math.abs(target.ratio / ratio - 1) > 0.002
        : !holdsShape(target.width, target.height, ratio);
    if (clash) return this.lose(clause, "the pixels have another shape");
    target.ratio ??= ratio;
    return true;
  }

  private lose(clause: ClauseKey, why: string): false {
    this.target.lost.push({ clause, why });
    return false;
  }

  private paper(): Target["paper"] {
    const { paper, pixels } = this.brief;
    if (!paper || this.skip.has("paper")) return null;
    const { width, height } = paper;
    const exact = PIXEL_CLAUSES.some((key) => pixels[key]?.exact != null && !this.skip.has(key));
    // A square stands neither way up.
    const square = this.photo.width === this.photo.height;
    const turned =
      !square &&
      width !== null &&
      height !== null &&
      !exact &&
      width !== height &&
      height > width !== this.upright;
    return turned ? { width: height, height: width } : { width, height };
  }

  /** Paper and resolution together ask for pixels. */
  private density(): void {
    const { resolution } = this.brief;
    const { paper } = this.target;
    const low = resolution!.exact ?? resolution!.min;
    const high = resolution!.exact ?? resolution!.max;
    const side = (inches: number | null): Bounds =>
      inches === null
        ? FREE
        : {
            min: low === null ? 1 : Math.max(1, Math.round(inches * low)),
            max: high === null ? Infinity : Math.max(1, Math.round(inches * high)),
          };
    const [w, h] = [side(paper!.width), side(paper!.height)];
    // Both sides are rounded on their own, so the shape may be off by half a pixel each.
    const { ratio } = this.target;
    if (resolution!.exact !== null && paper!.width !== null && paper!.height !== null)
      this.target.ratio = null;
    if (!this.narrow("resolution", w, h, low === high ? formatPpi(low!) : "the resolution"))
      this.target.ratio = ratio;
  }
}

/**
 * The size at which no pixel is made or lost: the photo's own, or that of its largest part (or its padded
 * whole) of the shape.
 */
export function naturalSize(photo: Size, ratio: number | null, brief: ResolvedBrief): Size {
  if (ratio === null) return photo;
  const wider = photo.width / photo.height > ratio;
  if (brief.frame === "stretch")
    return wider
      ? { width: photo.width, height: photo.width / ratio }
      : { width: photo.height * ratio, height: photo.height };
  const cuts = brief.frame === "fill";
  return wider === cuts
    ? { width: photo.height * ratio, height: photo.height }
    : { width: photo.width, height: photo.width / ratio };
}
